package plan

import (
	"errors"
	"fmt"
	"slices"

	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
)

// Bounds of a plan that comes from outside.
const (
	mostBlocks = 20
	mostInWeek = 14 // a week
	mostItems  = 40 // a session
	mostText   = 2000
	mostFaults = 8 // that are told at once
)

// Admit says what is wrong with a plan that was written or changed outside: it is what may
// be stored, shown and edited, not what is wise; that the rules judge. Every fault names its
// place (b1.w2.s1.i3); not more than a handful are told at once.
func (b *Basis) Admit(doc *programme.Programme) error {
	a := &admission{exercises: b.by.Exercises}
	if err := doc.Check(); err != nil {
		a.fault("the plan", "%v", err)
	}
	if len(doc.Blocks) == 0 || len(doc.Blocks) > mostBlocks {
		a.fault("the plan", "it has %d blocks: 1 to %d", len(doc.Blocks), mostBlocks)
		return errors.Join(a.faults...)
	}
	for _, s := range append([]string{doc.Summary, doc.Athlete}, doc.Notes...) {
		a.text("the plan", s)
	}
	for bi := range doc.Blocks {
		a.block(fmt.Sprintf("b%d", bi+1), &doc.Blocks[bi])
	}
	return errors.Join(a.faults...)
}

type admission struct {
	exercises *library.Catalogue
	faults    []error
	told      int
}

func (a *admission) fault(place, format string, args ...any) {
	a.told++
	switch {
	case a.told == mostFaults+1:
		a.faults = append(a.faults, errors.New("and more"))
	case a.told <= mostFaults:
		a.faults = append(a.faults, fmt.Errorf("%s: %s", place, fmt.Sprintf(format, args...)))
	}
}

func (a *admission) text(place, s string) {
	if len(s) > mostText {
		a.fault(place, "a text of %d characters is too long: %d are the most", len(s), mostText)
	}
}

func (a *admission) block(place string, b *programme.Block) {
	if !slices.Contains([]programme.Phase{programme.Preparation, programme.InSeason, programme.Tapering}, b.Phase) {
		a.fault(place, "there is no phase %q", b.Phase)
	}
	if len(b.Weeks) == 0 || len(b.Weeks) > mostWeeks {
		a.fault(place, "it has %d weeks: 1 to %d", len(b.Weeks), mostWeeks)
		return
	}
	a.text(place, b.Emphasis)
	for wi := range b.Weeks {
		w := &b.Weeks[wi]
		at := fmt.Sprintf("%s.w%d", place, wi+1)
		switch {
		case w.Number != wi+1:
			a.fault(at, "its number is %d", w.Number)
		case !slices.Contains([]programme.WeekKind{programme.Rising, programme.Easier, programme.Taper, programme.Played}, w.Kind):
			a.fault(at, "there is no kind of week %q", w.Kind)
		case w.Start.IsZero():
			a.fault(at, "it has no first day")
		case wi > 0 && w.Start.Sub(b.Weeks[wi-1].Start) != 7:
			a.fault(at, "it starts on %s, %s a week before does not lead to it", w.Start.Words(), b.Weeks[wi-1].Start.Words())
		case len(w.Sessions) > mostInWeek || len(w.Home) > 7:
			a.fault(at, "it has %d sessions and %d home days: at most %d and 7", len(w.Sessions), len(w.Home), mostInWeek)
		default:
			a.week(at, w)
		}
	}
}

func (a *admission) week(place string, w *programme.Week) {
	a.text(place, w.Note)
	for si := range w.Sessions {
		s := &w.Sessions[si]
		at := fmt.Sprintf("%s.s%d", place, si+1)
		if s.Date.Before(w.Start) || !s.Date.Before(w.Start.Add(7)) {
			a.fault(at, "%s lies outside its week", s.Date.Words())
		}
		if !slices.Contains(programme.Letters, s.Letter) {
			a.fault(at, "there is no kind of day %q", s.Letter)
		}
		if s.Budget < 1 || s.Budget > 300 {
			a.fault(at, "%d minutes are outside 1 to 300", s.Budget)
		}
		a.text(at, s.Title)
		a.text(at, s.Note)
		a.items(at, s.Items)
	}
	for hi := range w.Home {
		a.items(fmt.Sprintf("%s.h%d", place, hi+1), w.Home[hi].Items)
	}
}

func (a *admission) items(place string, items []programme.Item) {
	if len(items) > mostItems {
		a.fault(place, "it has %d items: at most %d", len(items), mostItems)
		return
	}
	for i := range items {
		it := &items[i]
		at := fmt.Sprintf("%s.i%d", place, i+1)
		e, ok := a.exercises.Find(it.Exercise)
		switch {
		case !ok:
			a.fault(at, "there is no exercise %q", it.Exercise)
			continue
		case !slices.Contains(library.SlotOrder, it.Slot):
			a.fault(at, "there is no slot %q", it.Slot)
		case it.Dose.Unit != e.DoseUnit:
			a.fault(at, "%s is counted in %s, not %q", e.Name, e.DoseUnit, it.Dose.Unit)
		case it.Dose.Sides != e.Sides:
			a.fault(at, "%s is done with sides %q, not %q", e.Name, e.Sides, it.Dose.Sides)
		case it.Dose.Volume() <= 0:
			a.fault(at, "it is a dose of nothing")
		case it.Dose.WeakerSets < 0 || it.Dose.WeakerMore < 0 || it.Dose.WeakerSets > 12 || it.Dose.WeakerMore > 180 || it.Dose.MaxKg < 0 || it.Dose.AboutKg < 0:
			a.fault(at, "a part of its dose is out of its range")
		}
		if err := wholeDose(&it.Dose).check(); err != nil {
			a.fault(at, "%v", err)
		}
		a.text(at, it.Note)
		a.text(at, it.Reason.Text)
	}
}

// wholeDose is everything a dose holds as a change of one, for its bounds; what it has not
// is left out.
func wholeDose(d *programme.Dose) *DosePatch {
	given := func(n *int) *int {
		if *n == 0 {
			return nil
		}
		return n
	}
	p := &DosePatch{
		Sets: &d.Sets, Reserve: d.Reserve, LoadKg: d.LoadKg, BallKg: &d.BallKg, OtherSideShare: &d.OtherSideShare,
		ImplementPercent: &d.ImplementPercent, RestSeconds: &d.RestSeconds, BetweenSeconds: &d.BetweenSeconds, BalanceSeconds: &d.BalanceSeconds, ChokeCm: &d.ChokeCm,
		Reps: given(&d.Reps), Seconds: given(&d.Seconds), IntentPercent: given(&d.IntentPercent), Times: given(&d.Times), Clubs: given(&d.Clubs),
	}
	return p
}
