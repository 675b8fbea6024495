// Package derive works out the view of a programme that is judged and shown: the
// places, names, cues, minutes, totals and words that follow from a document and
// the catalogue it is read with. Nothing of it is stored. The same document and
// catalogue give the same view; the document is left as it is.
//
// Every minute on a screen, a card or a rule comes from here.
package derive

import (
	"fmt"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/school"
	"dunnock/internal/core/unit"
)

// Programme is the view of a document. Its lists are never null in JSON.
type Programme struct {
	programme.Head
	SchoolName string  `json:"schoolName"`
	Blocks     []Block `json:"blocks"`
}

// Block is a block with its place.
type Block struct {
	ID       programme.ID    `json:"id"`
	Place    string          `json:"place"`
	Phase    programme.Phase `json:"phase"`
	Emphasis string          `json:"emphasis"`
	// StrengthBase is, in season, the repetitions of strength of a week outside it.
	StrengthBase int    `json:"strengthBase,omitempty"`
	Weeks        []Week `json:"weeks"`
}

// Week is a week with what it adds up to.
type Week struct {
	ID     programme.ID       `json:"id"`
	Place  string             `json:"place"`
	Number int                `json:"number"`
	Kind   programme.WeekKind `json:"kind"`
	// KindWords is the kind as it is read beside the week's number.
	KindWords string            `json:"kindWords"`
	Due       int               `json:"due,omitempty"` // sessions a taper's days allow
	Start     civil.Date        `json:"start"`
	Locked    bool              `json:"locked,omitempty"`
	Note      string            `json:"note,omitempty"`
	Sessions  []Session         `json:"sessions"`
	Home      []HomeDay         `json:"home"`
	Retest    *programme.Retest `json:"retest,omitempty"`
	Totals    Totals            `json:"totals"`
}

// HomeDay is a home day with its place.
type HomeDay struct {
	ID    programme.ID `json:"id"`
	Place string       `json:"place"`
	Date  civil.Date   `json:"date"`
	Items []Item       `json:"items"`
}

// Session is a session with how long it takes.
type Session struct {
	ID      programme.ID     `json:"id"`
	Place   string           `json:"place"`
	Date    civil.Date       `json:"date"`
	Letter  programme.Letter `json:"letter"`
	Title   string           `json:"title"`
	Budget  int              `json:"budgetMinutes"`
	Base    int              `json:"base,omitempty"` // its volume in a rising week, in a taper
	Locked  bool             `json:"locked,omitempty"`
	Note    string           `json:"note,omitempty"`
	Minutes float64          `json:"minutes"`
	Items   []Item           `json:"items"`
}

// Item is an item with what its exercise says and what its dose means. An
// exercise the catalogue does not know goes by its id.
type Item struct {
	ID       programme.ID   `json:"id"`
	Place    string         `json:"place"`
	Slot     library.Slot   `json:"slot"`
	Exercise string         `json:"exercise"`
	Name     string         `json:"name"`
	Zone     library.Zone   `json:"zone"`
	Dose     programme.Dose `json:"dose"`
	DoseText string         `json:"doseText"`
	LoadText string         `json:"loadText"`
	Typed    string         `json:"typed"` // the dose as it is typed
	Minutes  float64        `json:"minutes"`
	// FastSwings and Landings are what its swings and repetitions count in SWINGS and in
	// CONTACTS.
	FastSwings int `json:"-"`
	Landings   int `json:"-"`
	// Serves weighs the qualities it serves; Level is that of the one it serves most:
	// lead, build, keep or spare.
	Serves   map[string]float64 `json:"serves"`
	Level    string             `json:"level"`
	Cues     []string           `json:"cues"`
	Reason   programme.Reason   `json:"reason"`
	Paired   bool               `json:"paired,omitempty"`   // done in turns with the lift before it
	Superset bool               `json:"superset,omitempty"` // done in turns with the item before it, no rest between
	Edited   bool               `json:"edited,omitempty"`
	Locked   bool               `json:"locked,omitempty"`
	Note     string             `json:"note,omitempty"`
}

// Totals is what a week adds up to.
type Totals struct {
	Minutes  float64        `json:"minutes"`
	Swings   int            `json:"swings"`
	Throws   int            `json:"throws"`
	Contacts int            `json:"contacts"`
	Sets     map[string]int `json:"setsByZone"`
}

// View returns the view of a document by the exercises and schools it is read
// with.
func View(p *programme.Programme, exercises *library.Catalogue, schools *school.Schools) *Programme {
	v := &Programme{Head: p.Head, SchoolName: p.School, Blocks: make([]Block, len(p.Blocks))}
	v.Notes = append([]string{}, p.Notes...)
	if s, err := schools.Find(p.School); err == nil {
		v.SchoolName = s.Name
	}
	for bi := range p.Blocks {
		b := &p.Blocks[bi]
		out := Block{ID: b.ID, Place: fmt.Sprintf("b%d", bi+1), Phase: b.Phase, Emphasis: b.Emphasis, StrengthBase: b.StrengthBase, Weeks: make([]Week, len(b.Weeks))}
		for wi := range b.Weeks {
			out.Weeks[wi] = week(&b.Weeks[wi], fmt.Sprintf("%s.w%d", out.Place, wi+1), exercises, p.Asked, fastFrom(p.Tier))
		}
		v.Blocks[bi] = out
	}
	return v
}

func week(w *programme.Week, place string, exercises *library.Catalogue, asked []programme.Asked, fast int) Week {
	out := Week{
		ID: w.ID, Place: place, Number: w.Number, Kind: w.Kind, KindWords: kindWords(w), Start: w.Start, Due: w.Due, Retest: w.Retest, Locked: w.Locked, Note: w.Note,
		Sessions: make([]Session, len(w.Sessions)), Home: make([]HomeDay, len(w.Home)), Totals: Totals{Sets: map[string]int{}},
	}
	for si := range w.Sessions {
		s := &w.Sessions[si]
		one := Session{
			ID: s.ID, Place: fmt.Sprintf("%s.s%d", place, si+1), Date: s.Date, Letter: s.Letter, Title: s.Title, Budget: s.Budget, Base: s.Base, Locked: s.Locked, Note: s.Note,
			Minutes: unit.Round(Seconds(s, exercises)/60, 1), Items: items(s.Items, fmt.Sprintf("%s.s%d", place, si+1), exercises, asked, fast),
		}
		out.Totals.add(&one)
		out.Sessions[si] = one
	}
	for hi := range w.Home {
		h := &w.Home[hi]
		out.Home[hi] = HomeDay{ID: h.ID, Place: fmt.Sprintf("%s.h%d", place, hi+1), Date: h.Date, Items: items(h.Items, fmt.Sprintf("%s.h%d", place, hi+1), exercises, asked, fast)}
	}
	out.Totals.Minutes = unit.Round(out.Totals.Minutes, 1)
	return out
}

func join(a, b string) string {
	if a == "" {
		return b
	}
	return a + ", " + b
}

func kindWords(w *programme.Week) string {
	word := map[programme.WeekKind]string{programme.Taper: "taper", programme.Played: "played through", programme.Easier: "easier"}[w.Kind]
	if word == "" {
		word = string(w.Kind)
	}
	if w.Retest != nil {
		word += ", retest"
	}
	return word
}

func items(list []programme.Item, place string, exercises *library.Catalogue, asked []programme.Asked, fast int) []Item {
	out := make([]Item, len(list))
	for i := range list {
		it := &list[i]
		one := Item{
			ID: it.ID, Place: fmt.Sprintf("%s.i%d", place, i+1), Slot: it.Slot, Exercise: it.Exercise, Name: it.Exercise, Zone: library.M, Dose: it.Dose,
			DoseText: DoseWords(it.Dose), LoadText: LoadWords(it.Dose), Typed: TypedWords(it.Dose), Minutes: unit.Round(seconds(it, exercises)/60, 1),
			Serves: map[string]float64{}, Level: "keep", Cues: []string{}, Reason: it.Reason, Edited: it.Edited, Locked: it.Locked, Note: it.Note,
		}
		if e, ok := exercises.Find(it.Exercise); ok {
			one.Name, one.Zone, one.Cues, one.Serves = e.Name, e.Zone, e.Cues, e.Serves
			one.Level = levelOf(e, asked)
			one.FastSwings = e.FastSwings(it.Dose.Volume(), it.Dose.Reps, it.Dose.IntentPercent, fast)
			one.Landings = e.Landings(it.Dose.Volume())
		}
		if InTurns(list, i) {
			one.Paired = true
			one.LoadText = join(one.LoadText, fmt.Sprintf("in turns with the lift: rest %d s after the lift, %d s after this", HeavyRestSeconds, LightRestSeconds))
		}
		if InSuperset(list, i) {
			one.Superset = true
			one.LoadText = join(one.LoadText, "in turns with the one before, no rest between")
		}
		out[i] = one
	}
	return out
}

// A swing is fast from 90% intent on, a novice's from 70% on.
const fastIntent, noviceFastIntent = 90, 70

func fastFrom(tier athlete.Tier) int {
	if tier == athlete.Novice {
		return noviceFastIntent
	}
	return fastIntent
}

// levelOf is the level of the quality an exercise serves most, the first by id of
// those it serves alike; "keep" where nothing was asked.
func levelOf(e *library.Exercise, asked []programme.Asked) string {
	level, most, of := "keep", 0.0, ""
	for i := range asked {
		q := asked[i].Quality
		if w := e.Serves[q]; w > most || w == most && w > 0 && q < of {
			level, most, of = asked[i].Level, w, q
		}
	}
	return level
}

func (t *Totals) add(s *Session) {
	for i := range s.Items {
		it := &s.Items[i]
		t.Sets[string(it.Zone)] += it.Dose.Sets
		if it.Slot == library.SlotThrow {
			t.Throws += it.Dose.Volume()
		}
		t.Swings += it.FastSwings
		t.Contacts += it.Landings
	}
	t.Minutes += s.Minutes
}

// Contacts is the number of landings in a session.
func (s *Session) Contacts() int {
	n := 0
	for i := range s.Items {
		n += s.Items[i].Landings
	}
	return n
}

// FastSwings is the number of swings in a session that count as fast.
func (s *Session) FastSwings() int {
	n := 0
	for i := range s.Items {
		n += s.Items[i].FastSwings
	}
	return n
}

// Count adds up the volume of the items in a slot.
func (s *Session) Count(slot library.Slot) int {
	n := 0
	for i := range s.Items {
		if s.Items[i].Slot == slot {
			n += s.Items[i].Dose.Volume()
		}
	}
	return n
}

// HardLower reports whether the session is a hard lower-body day: it has a Z4
// lower-body lift or at least the given number of landings.
func (s *Session) HardLower(landings int) bool {
	for i := range s.Items {
		it := &s.Items[i]
		if (it.Slot == library.SlotMain || it.Slot == library.SlotSecond) && it.Zone == library.Z4 {
			return true
		}
	}
	return s.Contacts() >= landings
}

// FastDay reports whether the only hard content is Z1 and Z2 work, with fewer
// than the given number of landings.
func (s *Session) FastDay(landings int) bool {
	if s.HardLower(landings) {
		return false
	}
	for i := range s.Items {
		if z := s.Items[i].Zone; z == library.Z1 || z == library.Z2 {
			return true
		}
	}
	return false
}

// Part is what stands at a place.
type Part struct {
	ID    programme.ID
	Words string // the place, as a coach says it
}

// Places returns what stands at every place of the programme.
func (p *Programme) Places() map[string]Part {
	out := map[string]Part{}
	for bi := range p.Blocks {
		b := &p.Blocks[bi]
		in := ""
		if len(p.Blocks) > 1 {
			in = fmt.Sprintf("block %d, ", bi+1)
		}
		put := func(place string, id programme.ID, words string) { out[place] = Part{id, upper(in + words)} }
		put(b.Place, b.ID, "the whole block")
		for wi := range b.Weeks {
			w := &b.Weeks[wi]
			words := fmt.Sprintf("week %d", w.Number)
			put(w.Place, w.ID, words)
			for si := range w.Sessions {
				s := &w.Sessions[si]
				put(s.Place, s.ID, words+", day "+string(s.Letter))
				for ii := range s.Items {
					put(s.Items[ii].Place, s.Items[ii].ID, words+", day "+string(s.Letter)+", "+s.Items[ii].Name)
				}
			}
			for hi := range w.Home {
				h := &w.Home[hi]
				put(h.Place, h.ID, words+", at home on "+h.Date.Words())
				for ii := range h.Items {
					put(h.Items[ii].Place, h.Items[ii].ID, words+", at home, "+h.Items[ii].Name)
				}
			}
		}
	}
	return out
}

func upper(s string) string { return strings.ToUpper(s[:1]) + s[1:] }

// Find returns the item with an id and the session it stands in, nil for a home
// day; nil where there is none.
func (p *Programme) Find(id programme.ID) (*Item, *Session) {
	for bi := range p.Blocks {
		for wi := range p.Blocks[bi].Weeks {
			w := &p.Blocks[bi].Weeks[wi]
			for si := range w.Sessions {
				for ii := range w.Sessions[si].Items {
					if w.Sessions[si].Items[ii].ID == id {
						return &w.Sessions[si].Items[ii], &w.Sessions[si]
					}
				}
			}
			for hi := range w.Home {
				for ii := range w.Home[hi].Items {
					if w.Home[hi].Items[ii].ID == id {
						return &w.Home[hi].Items[ii], nil
					}
				}
			}
		}
	}
	return nil, nil
}

// Narrow leaves of a view the week or the session with an id, and reports whether there is
// one; where there is none the view stays.
func (p *Programme) Narrow(at programme.ID) bool {
	only := func(b Block, w Week) bool {
		b.Weeks = []Week{w}
		p.Blocks = []Block{b}
		return true
	}
	for _, b := range p.Blocks {
		for _, w := range b.Weeks {
			if w.ID == at {
				return only(b, w)
			}
			for _, s := range w.Sessions {
				if s.ID == at {
					w.Sessions, w.Home = []Session{s}, nil
					return only(b, w)
				}
			}
		}
	}
	return false
}
