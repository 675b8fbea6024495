package warmup

// Template is a named request to begin from.
type Template struct {
	ID      string  `json:"id"`
	Name    string  `json:"name"`
	Request Request `json:"request"`
}

// Templates are the requests that are offered by name.
func Templates() []Template {
	return []Template{
		{"ten-to-tee", "Ten minutes to the tee", Request{Purpose: Tee, Minutes: 10, Place: TeeBox}},
		{"car-park", "Car park, four minutes", Request{Purpose: Tee, Minutes: 4, Place: CarPark}},
		{"range-no-floor", "Range, no floor", Request{Purpose: Range, Minutes: 15, Place: OnRange, Balls: true}},
		{"junior-group", "Junior group", Request{Purpose: Range, Minutes: 15, Place: OnRange, Group: 8}},
		{"gym-before-power", "Gym before power", Request{Purpose: Training, Minutes: 10, Place: Gym, Floor: true, FastFollows: true}},
		{"seated", "Seated start (low back history)", Request{Purpose: Tee, Minutes: 12, Place: TeeBox, Seated: true}},
		{"after", "After the round", Request{Purpose: After, Minutes: 8, Place: CarPark}},
		{"drills", "Full-body range session with implement drills", Request{Purpose: Range, Minutes: 30, Place: OnRange, Drills: true}},
	}
}
