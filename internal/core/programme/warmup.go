package programme

// WarmUpItem is a line of the one fixed warm-up that documents of before hold. Nothing
// writes it any more: a session's warm-up is made when it is shown.
type WarmUpItem struct {
	Name string `json:"name"`
	Dose string `json:"dose"`
	Cue  string `json:"cue"`
}
