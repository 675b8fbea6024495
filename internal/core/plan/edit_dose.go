package plan

import (
	"errors"

	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/unit"
)

// DosePatch changes the given parts of a dose and leaves the rest.
type DosePatch struct {
	Sets             *int     `json:"sets,omitempty"`
	Reps             *int     `json:"reps,omitempty"`
	Seconds          *int     `json:"seconds,omitempty"`
	Reserve          *int     `json:"reserve,omitempty"`
	LoadKg           *float64 `json:"loadKg,omitempty"` // 0 takes the load away
	BallKg           *float64 `json:"ballKg,omitempty"`
	IntentPercent    *int     `json:"intentPercent,omitempty"`
	OtherSideShare   *int     `json:"otherSideShare,omitempty"`
	ImplementPercent *int     `json:"implementPercent,omitempty"`
	RestSeconds      *int     `json:"restSeconds,omitempty"`
	Times            *int     `json:"times,omitempty"`
	BetweenSeconds   *int     `json:"betweenSeconds,omitempty"`
	BalanceSeconds   *int     `json:"balanceSeconds,omitempty"`
	ChokeCm          *int     `json:"chokeCm,omitempty"`
	Clubs            *int     `json:"clubs,omitempty"`
	InTurn           *bool    `json:"inTurn,omitempty"`
}

var doseLimits = map[string][2]float64{
	"sets": {1, 12}, "reps": {1, 30}, "seconds": {5, 180}, "reserve": {0, 10}, "loadKg": {0, 400}, "ballKg": {0, 12},
	"intentPercent": {30, 100}, "otherSideShare": {0, 100}, "implementPercent": {-60, 100}, "restSeconds": {0, 600},
	"times": {1, 30}, "betweenSeconds": {0, 120}, "balanceSeconds": {0, 10}, "chokeCm": {0, 45}, "clubs": {1, 3},
}

func checkRange[T int | float64](field string, v *T) error {
	if v == nil {
		return nil
	}
	l := doseLimits[field]
	if x := float64(*v); x < l[0] || x > l[1] {
		return refuse("dose."+field, "%s of %s is outside %s to %s", field, unit.Compact(x, 2), unit.Compact(l[0], 1), unit.Compact(l[1], 1))
	}
	return nil
}

// shift moves a part of a dose as far as the edited one moves from what it was:
// the wave of a line keeps its shape. The edited one itself gets the value given.
func shift[T int | float64](field string, dst *T, v *T, was T) {
	if v == nil {
		return
	}
	l := doseLimits[field]
	*dst = T(min(max(float64(*dst)+float64(*v)-float64(was), l[0]), l[1]))
}

// changeDose moves a dose as a patch moves the dose was.
func changeDose(d *programme.Dose, x DosePatch, was programme.Dose, driverG float64) {
	shift("sets", &d.Sets, x.Sets, was.Sets)
	if d.Unit == library.Seconds {
		shift("seconds", &d.Seconds, x.Seconds, was.Seconds)
	} else {
		shift("reps", &d.Reps, x.Reps, was.Reps)
	}
	if x.Reserve != nil {
		v := *x.Reserve
		if d.Reserve != nil && was.Reserve != nil {
			v = *d.Reserve
			shift("reserve", &v, x.Reserve, *was.Reserve)
		}
		d.Reserve = &v
	}
	if x.LoadKg != nil {
		v := *x.LoadKg
		switch {
		case v == 0:
			d.LoadKg = nil // taken away everywhere
		case d.LoadKg != nil && was.LoadKg != nil:
			v = *d.LoadKg
			shift("loadKg", &v, x.LoadKg, *was.LoadKg)
			fallthrough
		default:
			v = unit.Round(v, 2)
			d.LoadKg = &v
		}
	}
	shift("ballKg", &d.BallKg, x.BallKg, was.BallKg)
	shift("intentPercent", &d.IntentPercent, x.IntentPercent, was.IntentPercent)
	shift("otherSideShare", &d.OtherSideShare, x.OtherSideShare, was.OtherSideShare)
	shift("restSeconds", &d.RestSeconds, x.RestSeconds, was.RestSeconds)
	shift("implementPercent", &d.ImplementPercent, x.ImplementPercent, was.ImplementPercent)
	shift("times", &d.Times, x.Times, was.Times)
	shift("betweenSeconds", &d.BetweenSeconds, x.BetweenSeconds, was.BetweenSeconds)
	shift("balanceSeconds", &d.BalanceSeconds, x.BalanceSeconds, was.BalanceSeconds)
	shift("chokeCm", &d.ChokeCm, x.ChokeCm, was.ChokeCm)
	shift("clubs", &d.Clubs, x.Clubs, was.Clubs)
	if x.InTurn != nil {
		d.InTurn = *x.InTurn
	}
	if x.ImplementPercent != nil && d.ImplementG > 0 {
		d.ImplementG = int(unit.Round(driverG*(1+float64(d.ImplementPercent)/100), 0))
	}
}

func (d *DosePatch) check() error {
	return errors.Join(
		checkRange("sets", d.Sets), checkRange("reps", d.Reps), checkRange("seconds", d.Seconds), checkRange("reserve", d.Reserve),
		checkRange("loadKg", d.LoadKg), checkRange("ballKg", d.BallKg), checkRange("intentPercent", d.IntentPercent),
		checkRange("otherSideShare", d.OtherSideShare), checkRange("implementPercent", d.ImplementPercent), checkRange("restSeconds", d.RestSeconds),
		checkRange("times", d.Times), checkRange("betweenSeconds", d.BetweenSeconds), checkRange("balanceSeconds", d.BalanceSeconds),
		checkRange("chokeCm", d.ChokeCm), checkRange("clubs", d.Clubs))
}

// dose changes doses: by a patch, or as it was typed.
func (ed *editor) dose() (string, error) {
	e := ed.edit
	if e.Dose == nil && e.Text == "" {
		return "", refuse("dose", "say what to change of the dose")
	}
	words := ""
	for _, at := range e.all() {
		spots, err := ed.targets(at)
		if err != nil {
			return "", err
		}
		patch := e.Dose
		if e.Text != "" {
			if patch, err = ed.typed(e.Text, spots[0].Item); err != nil {
				return "", err
			}
		}
		if err := patch.check(); err != nil {
			return "", err
		}
		was := spots[0].Item.Dose
		for _, spot := range spots {
			it := spot.Item
			changeDose(&it.Dose, *patch, was, ed.file.Athlete.DriverMassG)
			if patch.ChokeCm != nil || patch.Clubs != nil {
				ed.moment(&it.Dose)
			}
			it.Edited = true
			if e.Note != "" {
				it.Note = e.Note
			}
		}
		if words == "" {
			words = ed.name(spots[0].Item.Exercise) + ": " + derive.DoseWords(spots[0].Item.Dose)
		}
	}
	return several(words, len(e.all()), "doses changed"), nil
}

// typed reads a dose as it was typed for an item.
func (ed *editor) typed(text string, it *programme.Item) (*DosePatch, error) {
	t, err := ParseDose(text)
	if err != nil {
		return nil, err
	}
	patch, err := t.For(it.Dose)
	if err != nil {
		return nil, refuse("text", "%s: %v", ed.name(it.Exercise), err)
	}
	return patch, nil
}
