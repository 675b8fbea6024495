// Package programme holds the document a coach plans with: blocks of weeks of
// sessions of items, each item with a dose and a reason, and the arithmetic
// every part of Dunnock agrees on: volume, contacts, minutes, the words of a
// dose. It decides nothing: package plan makes and changes programmes, package
// rulebook judges them.
//
// Places are named by position (b1.w2.s1.i3), never by a database id.
package programme

import (
	"fmt"
	"strconv"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/unit"
)

// Format names the layout of a Programme on disk.
const Format = "dunnock-programme/1"

// Slots of a session in the order they are done.
const (
	SlotSwings   = "swings"
	SlotThrow    = "throw"
	SlotJump     = "jump"
	SlotMain     = "main-lift"
	SlotSecond   = "second-lift"
	SlotPush     = "upper-push"
	SlotPull     = "upper-pull"
	SlotFinisher = "finisher"
	SlotSpecial  = "special"
	SlotTrunk    = "trunk"
	SlotRange    = "range"
)

// SlotOrder lists the slots in the order of a session.
var SlotOrder = []string{SlotSwings, SlotThrow, SlotJump, SlotMain, SlotSecond, SlotPush, SlotPull, SlotFinisher, SlotSpecial, SlotTrunk, SlotRange}

// Reason says why something stands where it stands.
type Reason struct {
	Finding string `json:"finding"`
	Rule    string `json:"rule"`
	Text    string `json:"text"`
	Source  string `json:"source"`
}

// Programme is one golfer's plan.
type Programme struct {
	Format          string        `json:"format"`
	Athlete         string        `json:"athlete"`
	AsOf            civil.Date    `json:"asOf"`
	StartDate       civil.Date    `json:"startDate"`
	School          string        `json:"school"`
	SchoolName      string        `json:"schoolName"`
	LibraryVersion  string        `json:"libraryVersion"`
	RulebookVersion string        `json:"rulebookVersion"`
	Level           athlete.Level `json:"level"`
	Tier            athlete.Tier  `json:"tier"`
	Band            string        `json:"band"`
	Summary         string        `json:"summary"`
	Notes           []string      `json:"notes"` // what was assumed and what was left out
	WarmUp          []WarmUpItem  `json:"warmUp"`
	Blocks          []Block       `json:"blocks"`
}

// Block is about four weeks with one emphasis.
type Block struct {
	Place    string `json:"place"`
	Emphasis string `json:"emphasis"`
	Weeks    []Week `json:"weeks"`
}

// Kinds of week.
const (
	Rising = "rising"
	Easier = "easier"
)

// Week is seven days from Start.
type Week struct {
	Place    string     `json:"place"`
	Number   int        `json:"number"`
	Kind     string     `json:"kind"`
	Start    civil.Date `json:"start"`
	Sessions []Session  `json:"sessions"`
	Home     []HomeDay  `json:"home"`
	Retest   *Retest    `json:"retest,omitempty"`
	Totals   Totals     `json:"totals"`
}

// Retest closes a block.
type Retest struct {
	Date  civil.Date `json:"date"`
	Tests []string   `json:"tests"`
	Text  string     `json:"text"`
}

// HomeDay is a short dose of range work away from the gym.
type HomeDay struct {
	Place string     `json:"place"`
	Date  civil.Date `json:"date"`
	Items []Item     `json:"items"`
}

// Session is one visit to the gym.
type Session struct {
	Place   string     `json:"place"`
	Date    civil.Date `json:"date"`
	Letter  string     `json:"letter"` // A, B or C
	Title   string     `json:"title"`
	Budget  int        `json:"budgetMinutes"`
	Minutes float64    `json:"minutes"`
	Items   []Item     `json:"items"`
}

// Item is one exercise in a session.
type Item struct {
	Place    string       `json:"place"`
	Slot     string       `json:"slot"`
	Exercise string       `json:"exercise"`
	Name     string       `json:"name"`
	Zone     library.Zone `json:"zone"`
	Dose     Dose         `json:"dose"`
	DoseText string       `json:"doseText"`
	LoadText string       `json:"loadText"`
	Minutes  float64      `json:"minutes"`
	Cues     []string     `json:"cues"`
	Reason   Reason       `json:"reason"`
	Edited   bool         `json:"edited,omitempty"` // changed by hand
	Note     string       `json:"note,omitempty"`   // the coach's reason for the change
}

// Dose is how much.
type Dose struct {
	Sets    int          `json:"sets"`
	Reps    int          `json:"reps,omitempty"`    // a set; each side for one-sided work
	Seconds int          `json:"seconds,omitempty"` // a set, for holds
	Unit    library.Unit `json:"unit"`
	Sides   string       `json:"sides"`          // as the exercise's
	Side    string       `json:"side,omitempty"` // the one side that is worked, where it is one
	Reserve *int         `json:"reserve,omitempty"`
	LoadKg  *float64     `json:"loadKg,omitempty"`
	MaxKg   float64      `json:"maxKg,omitempty"` // a limit's load cap, where no load is set
	BallKg  float64      `json:"ballKg,omitempty"`
	// IntentPercent is how hard a swing is made, of full.
	IntentPercent    int       `json:"intentPercent,omitempty"`
	OtherSideShare   int       `json:"otherSideShare,omitempty"`   // % of the swings
	ImplementPercent int       `json:"implementPercent,omitempty"` // of driver mass, signed
	ImplementG       int       `json:"implementG,omitempty"`
	RestSeconds      int       `json:"restSeconds"`
	WarmUpSets       []WarmSet `json:"warmUpSets,omitempty"`
}

// WarmSet is a lighter set before a lift. LoadKg is 0 where no load is known.
type WarmSet struct {
	LoadKg float64 `json:"loadKg,omitempty"`
	Reps   int     `json:"reps"`
}

// Totals is what a week adds up to.
type Totals struct {
	Minutes  float64        `json:"minutes"`
	Swings   int            `json:"swings"`
	Throws   int            `json:"throws"`
	Contacts int            `json:"contacts"`
	Sets     map[string]int `json:"setsByZone"`
}

// WarmUpItem is one line of the fixed warm-up.
type WarmUpItem struct {
	Name string `json:"name"`
	Dose string `json:"dose"`
	Cue  string `json:"cue"`
}

// WarmUpMinutes is how long the fixed warm-up takes.
const WarmUpMinutes = 6

// SafeWarmUp returns the one warm-up of this version: no floor, no kit, no
// jumps, ending quick and light (our own, common practice).
func SafeWarmUp() []WarmUpItem {
	return []WarmUpItem{
		{"March on the spot, big arms", "60 s", "Breathe through the nose"},
		{"Shoulder circles and neck turns", "5 each way", "Slow, no forcing"},
		{"Hip hinge, hands on thighs", "8", "Flat back"},
		{"Half squat with reach", "8", "Heels down"},
		{"Step-back lunge with a turn", "4 a side", "Hold on to something if needed"},
		{"Chest turn, pelvis still", "6 each way", "Grow tall as you turn"},
		{"Rehearsal swings without a club", "4 a side, growing", "Half, three-quarter, full; end light and quick"},
	}
}

// SideFactor is 2 when the dose is done on each of two sides.
func (d Dose) SideFactor() int {
	if d.Side == "" && (d.Sides == library.OneSided || d.Sides == library.Directional) {
		return 2
	}
	return 1
}

// SetVolume is the volume of one set: seconds for holds, else repetitions,
// contacts or swings, both sides counted.
func (d Dose) SetVolume() int {
	n := d.Reps
	if d.Unit == library.Seconds {
		n = d.Seconds
	}
	return n * d.SideFactor()
}

// Volume is the volume of the whole dose.
func (d Dose) Volume() int { return d.Sets * d.SetVolume() }

// OtherSwings is how many of the swings are made from the other side.
func (d Dose) OtherSwings() int {
	return int(unit.Round(float64(d.Sets*d.Reps)*float64(d.OtherSideShare)/100, 0))
}

// work returns the seconds spent moving.
func (d Dose) work(secondsPerRep float64) float64 {
	if d.Unit == library.Seconds {
		return float64(d.Volume())
	}
	return float64(d.Volume()) * secondsPerRep
}

func (d Dose) rest() float64 {
	if d.Sets < 2 {
		return 0
	}
	return float64((d.Sets - 1) * d.RestSeconds)
}

// Words writes the dose as it stands on a card.
func (d Dose) Words() string {
	var b strings.Builder
	switch {
	case d.Unit == library.Seconds:
		fmt.Fprintf(&b, "%d × %d s", d.Sets, d.Seconds)
	case d.Unit == library.Swings:
		total := d.Sets * d.Reps
		fmt.Fprintf(&b, "%d × %d swings", d.Sets, d.Reps)
		if d.OtherSideShare > 0 {
			fmt.Fprintf(&b, ", playing %d, other %d", total-d.OtherSwings(), d.OtherSwings())
		}
	default:
		fmt.Fprintf(&b, "%d × %d", d.Sets, d.Reps)
	}
	switch {
	case d.Side == "toward":
		b.WriteString(", toward the target")
	case d.Side == "away":
		b.WriteString(", away from the target")
	case d.Side != "":
		b.WriteString(", " + d.Side + " side")
	case d.Sides == library.OneSided:
		b.WriteString(" each side")
	case d.Sides == library.Directional:
		b.WriteString(" each way")
	}
	return b.String()
}

// LoadWords writes what is lifted, thrown or swung.
func (d Dose) LoadWords() string {
	var parts []string
	if d.LoadKg != nil {
		parts = append(parts, unit.Compact(*d.LoadKg, 2)+" kg")
	}
	if d.LoadKg == nil && d.MaxKg > 0 {
		parts = append(parts, "at most "+unit.Compact(d.MaxKg, 1)+" kg")
	}
	if d.BallKg > 0 {
		parts = append(parts, unit.Compact(d.BallKg, 1)+" kg ball")
	}
	if d.ImplementG > 0 {
		parts = append(parts, fmt.Sprintf("%d g club", d.ImplementG))
	} else if d.ImplementPercent != 0 {
		parts = append(parts, fmt.Sprintf("club %+d%% of driver", d.ImplementPercent))
	}
	if d.IntentPercent > 0 {
		parts = append(parts, fmt.Sprintf("%d%% intent", d.IntentPercent))
	}
	if d.Reserve != nil {
		parts = append(parts, fmt.Sprintf("leave %d in reserve", *d.Reserve))
	}
	return strings.Join(parts, ", ")
}

// paired reports whether items i and i+1 of a session share their rests: a push
// that meets a pull.
func (s *Session) paired(i int) bool {
	return i+1 < len(s.Items) && s.Items[i].Slot == SlotPush && s.Items[i+1].Slot == SlotPull
}

// Refresh renumbers every place and recomputes every minute, total and word
// from the doses, and from how long a repetition takes by the catalogue. It is
// called after every change.
func (p *Programme) Refresh(exercises *library.Catalogue) {
	for bi := range p.Blocks {
		b := &p.Blocks[bi]
		b.Place = fmt.Sprintf("b%d", bi+1)
		for wi := range b.Weeks {
			w := &b.Weeks[wi]
			w.Place = fmt.Sprintf("%s.w%d", b.Place, wi+1)
			w.Totals = Totals{Sets: map[string]int{}}
			// Lists are never null in what is written.
			if w.Sessions == nil {
				w.Sessions = []Session{}
			}
			if w.Home == nil {
				w.Home = []HomeDay{}
			}
			for si := range w.Sessions {
				s := &w.Sessions[si]
				s.Place = fmt.Sprintf("%s.s%d", w.Place, si+1)
				s.refresh(&w.Totals, exercises)
			}
			for hi := range w.Home {
				h := &w.Home[hi]
				h.Place = fmt.Sprintf("%s.h%d", w.Place, hi+1)
				for ii := range h.Items {
					h.Items[ii].refresh(fmt.Sprintf("%s.i%d", h.Place, ii+1), exercises)
				}
			}
			w.Totals.Minutes = unit.Round(w.Totals.Minutes, 1)
		}
	}
}

func (it *Item) seconds(exercises *library.Catalogue) float64 {
	secs := 4.0
	if e, ok := exercises.Find(it.Exercise); ok {
		secs = e.SecondsPerRep
	}
	return it.Dose.work(secs) + it.Dose.rest() + 60 + 60*float64(len(it.Dose.WarmUpSets))
}

func (it *Item) refresh(place string, exercises *library.Catalogue) {
	it.Place = place
	it.DoseText, it.LoadText = it.Dose.Words(), it.Dose.LoadWords()
	it.Minutes = unit.Round(it.seconds(exercises)/60, 1)
}

// Seconds is how long the session takes by its doses: the warm-up, the work,
// the rests (shared within a pair), a minute an item and a minute a warm-up set.
func (s *Session) Seconds(exercises *library.Catalogue) float64 {
	seconds := WarmUpMinutes * 60.0
	for i := range s.Items {
		it := &s.Items[i]
		seconds += it.seconds(exercises)
		if s.paired(i) {
			// The rests of a pair are shared: the shorter one is not waited for.
			seconds -= min(it.Dose.rest(), s.Items[i+1].Dose.rest())
		}
	}
	return seconds
}

func (s *Session) refresh(t *Totals, exercises *library.Catalogue) {
	for i := range s.Items {
		it := &s.Items[i]
		it.refresh(s.Place+".i"+strconv.Itoa(i+1), exercises)
		t.Sets[string(it.Zone)] += it.Dose.Sets
		switch it.Slot {
		case SlotSwings:
			t.Swings += it.Dose.Volume()
		case SlotThrow:
			t.Throws += it.Dose.Volume()
		}
		if it.Dose.Unit == library.Contacts {
			t.Contacts += it.Dose.Volume()
		}
	}
	s.Minutes = unit.Round(s.Seconds(exercises)/60, 1)
	t.Minutes += s.Minutes
}

// Contacts is the number of landings in a session.
func (s *Session) Contacts() int {
	n := 0
	for _, it := range s.Items {
		if it.Dose.Unit == library.Contacts {
			n += it.Dose.Volume()
		}
	}
	return n
}

// Count adds up the volume of the items in a slot.
func (s *Session) Count(slot string) int {
	n := 0
	for _, it := range s.Items {
		if it.Slot == slot {
			n += it.Dose.Volume()
		}
	}
	return n
}

// HardContacts is the number of landings from which a session counts as a hard
// lower-body day.
const HardContacts = 40

// HardLower reports whether the session is a hard lower-body day: it has a Z4
// lower-body lift or at least HardContacts landings.
func (s *Session) HardLower() bool {
	for _, it := range s.Items {
		if (it.Slot == SlotMain || it.Slot == SlotSecond) && it.Zone == library.Z4 {
			return true
		}
	}
	return s.Contacts() >= HardContacts
}

// FastDay reports whether the only hard content is Z1 and Z2 work.
func (s *Session) FastDay() bool {
	if s.HardLower() {
		return false
	}
	fast := false
	for _, it := range s.Items {
		fast = fast || it.Zone == library.Z1 || it.Zone == library.Z2
	}
	return fast
}

// Find returns the item at a place, the session it stands in (nil for a home
// day) and its index there.
func (p *Programme) Find(place string) (it *Item, s *Session, index int) {
	for bi := range p.Blocks {
		for wi := range p.Blocks[bi].Weeks {
			w := &p.Blocks[bi].Weeks[wi]
			for si := range w.Sessions {
				for ii := range w.Sessions[si].Items {
					if w.Sessions[si].Items[ii].Place == place {
						return &w.Sessions[si].Items[ii], &w.Sessions[si], ii
					}
				}
			}
			for hi := range w.Home {
				for ii := range w.Home[hi].Items {
					if w.Home[hi].Items[ii].Place == place {
						return &w.Home[hi].Items[ii], nil, ii
					}
				}
			}
		}
	}
	return nil, nil, -1
}

// Session returns the session at a place and its week.
func (p *Programme) Session(place string) (*Session, *Week) {
	for bi := range p.Blocks {
		for wi := range p.Blocks[bi].Weeks {
			w := &p.Blocks[bi].Weeks[wi]
			for si := range w.Sessions {
				if w.Sessions[si].Place == place {
					return &w.Sessions[si], w
				}
			}
		}
	}
	return nil, nil
}
