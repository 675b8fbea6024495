// Package testkit makes golfers for tests: the two that are worked by hand in
// docs/methods.md, and random ones for property tests.
package testkit

import (
	"math/rand/v2"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/unit"
)

// Day is the day the golfers of this package are read on.
var Day = civil.MustParse("2026-11-24")

// Trials makes done trials of one test and side, numbered from 1, in the
// reference variant of the golfer.
func Trials(p athlete.Profile, test string, side measure.Side, values ...float64) []measure.Trial {
	t, ok := measure.Shipped().Find(test)
	if !ok {
		panic("testkit: no test " + test)
	}
	var out []measure.Trial
	for i, v := range values {
		out = append(out, measure.Trial{Test: test, Side: side, Number: i + 1, Status: measure.Done, Value: v, Variant: p.ReferenceVariant(Day)(t)})
	}
	return out
}

// Lift makes one set of the trap-bar lift.
func Lift(loadKg float64, reps int, reserve float64) measure.Trial {
	return measure.Trial{Test: "trap-bar-lift", Number: 1, Status: measure.Done, Value: loadKg, Lift: &measure.Lift{LoadKg: loadKg, Reps: reps, Reserve: reserve}}
}

func file(p athlete.Profile, kit []string) *athlete.File {
	return &athlete.File{
		Format: athlete.Format, AsOf: Day, StartDate: civil.MustParse("2026-11-30"), Units: unit.Default, Athlete: p,
		Clearance: athlete.Clearance{AnsweredOn: Day, Yes: []string{}}, Limits: []athlete.Limit{}, Competitions: []athlete.Competition{},
		Training: athlete.Training{Days: []string{"mon", "wed", "fri"}, Sessions: 3, Minutes: 60, Kit: kit, BarKg: 25, PlateStepKg: 2.5, DumbbellStep: 2},
	}
}

// FullKit is every piece of kit there is.
func FullKit() []string { return library.Shipped().Kit() }

// Strong returns the first hand-worked golfer: a strong, stiff man of 35 who
// has trained for three years.
func Strong() *athlete.File {
	p := athlete.Profile{
		Name:           "Worked A",
		BirthDate:      civil.MustParse("1991-03-10"),
		Sex:            athlete.Male,
		PlayingSide:    athlete.RightSided,
		TrainingMonths: 36,
		GoalSpeed:      49.2,
		DriverMassG:    310,
	}
	f := file(p, FullKit())
	s := athlete.Screen{Date: Day}
	add := func(test string, side measure.Side, v ...float64) {
		s.Trials = append(s.Trials, Trials(p, test, side, v...)...)
	}
	add("mass", "", 90)
	add("height", "", 184)
	add("thoracic-rotation", "toward", 38, 40)
	add("thoracic-rotation", "away", 44, 46)
	add("hip-ir", "lead", 20, 22)
	add("hip-ir", "trail", 31, 33)
	add("ankle-lunge", "lead", 8, 8.5)
	add("ankle-lunge", "trail", 9, 9.4)
	add("grip", "lead", 58, 60, 59)
	add("grip", "trail", 61, 62, 63)
	add("cmj", "", 33.1, 34, 33.5)
	add("chest-throw", "", 5.4, 5.5, 5.6)
	add("rotary-throw", "toward", 8.2, 8.5, 8.4)
	add("rotary-throw", "away", 7.0, 7.2, 7.1)
	add("driver-speed", "", 46.0, 46.4, 46.9, 46.6, 46.2)
	add("cruise-speed", "", 44.8, 45.2, 45.0, 45.1, 44.9)
	s.Trials = append(s.Trials, Lift(150, 5, 2))
	add("push-up", "", 28)
	f.Screens = []athlete.Screen{s}
	return f
}

// Weak returns the second hand-worked golfer: a mobile woman of 21 who has
// hardly trained.
func Weak() *athlete.File {
	p := athlete.Profile{
		Name:           "Worked B",
		BirthDate:      civil.MustParse("2005-06-01"),
		Sex:            athlete.Female,
		PlayingSide:    athlete.LeftSided,
		TrainingMonths: 2,
		GoalSpeed:      42.5,
		DriverMassG:    300,
	}
	f := file(p, FullKit())
	f.Training.Days, f.Training.Sessions, f.Training.Minutes, f.Training.BarKg = []string{"tue", "sat"}, 2, 45, 15
	s := athlete.Screen{Date: Day}
	add := func(test string, side measure.Side, v ...float64) {
		s.Trials = append(s.Trials, Trials(p, test, side, v...)...)
	}
	add("mass", "", 60)
	add("thoracic-rotation", "toward", 62, 64)
	add("thoracic-rotation", "away", 60, 60)
	add("hip-ir", "lead", 44, 46)
	add("hip-ir", "trail", 43, 43)
	add("ankle-lunge", "lead", 12)
	add("ankle-lunge", "trail", 12.5)
	add("grip", "lead", 24, 25, 23)
	add("grip", "trail", 22, 22, 22)
	add("cmj", "", 24, 25, 24.6)
	add("chest-throw", "", 3.2, 3.3, 3.25)
	add("rotary-throw", "toward", 5.6, 5.8, 5.7)
	add("rotary-throw", "away", 5.5, 5.6, 5.4)
	add("driver-speed", "", 38.1, 38.4, 38.0)
	s.Trials = append(s.Trials, Lift(40, 6, 3))
	add("push-up", "", 6)
	f.Screens = []athlete.Screen{s}
	return f
}

// Set gives every trial of a test in the newest screen, on one side or all (""), one
// value.
func Set(f *athlete.File, test string, side measure.Side, v float64) {
	for i := range f.Screens[0].Trials {
		if tr := &f.Screens[0].Trials[i]; tr.Test == test && (side == "" || tr.Side == side) {
			tr.Value = v
		}
	}
}

// Sound is the strong golfer with every result at or above its target.
func Sound() *athlete.File {
	f := Strong()
	Set(f, "thoracic-rotation", "", 51)
	Set(f, "hip-ir", "", 36)
	Set(f, "ankle-lunge", "", 10.5)
	Set(f, "cmj", "", 41)
	Set(f, "rotary-throw", "", 9.2)
	return f
}

// Random returns a golfer drawn from r: any age from 13, any kit, days,
// minutes, limits and screen.
func Random(r *rand.Rand) *athlete.File {
	pick := func(from ...string) string { return from[r.IntN(len(from))] }
	p := athlete.Profile{
		Name: "Random", BirthDate: Day.Add(-(13*366 + r.IntN(62*365))), Sex: pick("male", "female", ""), PlayingSide: pick("right", "left"),
		TrainingMonths: r.IntN(90), Advanced: r.IntN(2) == 0, GoalSpeed: 45, DriverMassG: float64(280 + r.IntN(50)),
	}
	f := file(p, nil)
	for _, k := range FullKit() {
		if r.IntN(3) > 0 {
			f.Training.Kit = append(f.Training.Kit, k)
		}
	}
	f.Training.Days = nil
	for _, d := range athlete.Weekdays {
		if r.IntN(2) == 0 {
			f.Training.Days = append(f.Training.Days, d)
		}
	}
	f.Training.Sessions = 2 + r.IntN(2)
	f.Training.Minutes = 20 + 5*r.IntN(15)
	f.School = pick("measured-gap", "strength-first", "layer-on-layer", "predictor-led", "lengthen-first", "swing-led-speed")
	f.StartDate = Day.Add(r.IntN(14))
	if p.Junior(f.AsOf) {
		f.Consent = &athlete.Consent{Guardian: "Guardian", On: Day}
	}
	for range r.IntN(3) {
		regions := measure.Regions()
		f.Limits = append(f.Limits, athlete.Limit{Region: regions[r.IntN(len(regions))], Kind: athlete.LimitKinds()[r.IntN(7)], CapKg: 60, SetBy: "doctor"})
	}
	if r.IntN(3) == 0 {
		f.Competitions = append(f.Competitions, athlete.Competition{Date: f.StartDate.Add(r.IntN(35)), Name: "Match", Peak: true})
	}
	if r.IntN(6) == 0 {
		return f // nothing measured
	}
	s := athlete.Screen{Date: Day}
	for i := range measure.Shipped().Tests() {
		t := &measure.Shipped().Tests()[i]
		if r.IntN(5) == 0 || t.Rule == measure.Derived {
			continue
		}
		for _, side := range t.Kind.Sides() {
			lo, hi := t.Plausible[0], t.Plausible[1]
			v := unit.Round(lo+(hi-lo)*(0.15+0.6*r.Float64()), t.Decimals)
			if t.Rule == measure.OneRM {
				l := Lift(float64(30+5*r.IntN(30)), 3+r.IntN(6), float64(r.IntN(4)))
				l.Test, l.Side = t.ID, side
				s.Trials = append(s.Trials, l)
				continue
			}
			for n := 1; n <= t.Trials; n++ {
				tr := measure.Trial{Test: t.ID, Side: side, Number: n, Status: measure.Done, Value: v, Variant: p.ReferenceVariant(Day)(t)}
				if t.Rule == measure.Ladder {
					tr.MassG = float64(200 + 50*(n%3))
				}
				if r.IntN(60) == 0 {
					tr.Status, tr.Value, tr.MassG, tr.Pain, tr.Region = measure.Stopped, 0, 0, 6, "knee"
				}
				s.Trials = append(s.Trials, tr)
			}
		}
	}
	f.Screens = []athlete.Screen{s}
	return f
}
