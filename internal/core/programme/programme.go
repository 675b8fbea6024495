// Package programme holds the document a coach plans with, as it is stored:
// blocks of weeks of sessions of items, each item with a dose and a reason.
//
// Every block, week, session, home day and item has an id that is unique in the
// document and stays when something is moved or the document is changed into a
// next version; what is logged later hangs on it. Places (b1.w2.s1.i3) are for
// display only and belong to the judged view, package derive, as everything does
// that can be worked out: names, minutes, totals, words. Documents of an older
// format are read by package upgrade. Package plan makes and changes documents,
// package rulebook judges them; nothing is decided here.
package programme

import (
	"maps"
	"slices"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/unit"
)

// Format names the layout of a Programme on disk.
const Format = "dunnock-programme/2"

// Reason says why something stands where it stands.
type Reason struct {
	Finding string `json:"finding"`
	Rule    string `json:"rule"`
	Text    string `json:"text"`
	Source  string `json:"source"`
}

// Head is what a programme says of itself as a whole.
type Head struct {
	Format          string        `json:"format"`
	Athlete         string        `json:"athlete"`
	AsOf            civil.Date    `json:"asOf"`
	StartDate       civil.Date    `json:"startDate"`
	School          string        `json:"school"`
	LibraryVersion  string        `json:"libraryVersion"`
	RulebookVersion string        `json:"rulebookVersion"`
	Level           athlete.Level `json:"level"`
	Tier            athlete.Tier  `json:"tier"`
	Band            string        `json:"band"`
	Summary         string        `json:"summary"`
	Notes           []string      `json:"notes"`            // what was assumed and what was left out
	WarmUp          []WarmUpItem  `json:"warmUp,omitempty"` // of documents of before
	// Asked is what a week was asked for when the programme was made, and
	// Unanswered what of the read nothing in it answers; documents of before have
	// neither.
	Asked      []Asked      `json:"asked,omitempty"`
	Unanswered []Unanswered `json:"unanswered,omitempty"`
	// Before is what is known of the programme before this one; nil: there is none.
	Before *Before `json:"before,omitempty"`
	// Weaker is, by test, the side that gets more work because it is really weaker.
	Weaker map[string]string `json:"weaker,omitempty"`
	// Working are the working maxima that what was done has set, by exercise; of others the
	// tests decide.
	Working map[string]Weight `json:"working,omitempty"`
}

// Weight is the working maximum of an exercise: the single its loads are worked out from.
type Weight struct {
	Kg   float64    `json:"kg"`
	On   civil.Date `json:"on"` // of the session that set it
	Rule string     `json:"rule"`
	// Was is what it was before, 0 where nothing was known.
	Was float64 `json:"was,omitempty"`
}

// Asked is one quality's weekly dose, in a unit of package budget.
type Asked struct {
	Quality   string  `json:"quality"`
	Level     string  `json:"level"`     // lead, build, keep or spare
	NeedShare float64 `json:"needShare"` // of the needs of what leads or is built
	Unit      string  `json:"unit"`
	Low       float64 `json:"low"`
	High      float64 `json:"high"`
	Days      int     `json:"days"` // on at least so many
	// Beside is a second unit that is asked for with it.
	Beside     string  `json:"beside,omitempty"`
	BesideLow  float64 `json:"besideLow,omitempty"`
	BesideHigh float64 `json:"besideHigh,omitempty"`
	Drills     int     `json:"drills,omitempty"` // different ones
	// Raised says that the school builds it without its being short.
	Raised bool `json:"raised,omitempty"`
	// SharePercent is a leader's least share of the minutes.
	SharePercent float64      `json:"sharePercent,omitempty"`
	Joints       []AskedJoint `json:"joints,omitempty"`
	// Held is the rule, limit or missing minutes that keep it from being given.
	Held string `json:"held,omitempty"`
}

// AskedJoint is one side of a joint, in minutes a week.
type AskedJoint struct {
	Test string  `json:"test"`
	Side string  `json:"side"`
	Low  float64 `json:"low"`
	High float64 `json:"high"`
	Days int     `json:"days"`
	For  string  `json:"for"`
}

// Unanswered is a finding that nothing in a programme answers.
type Unanswered struct {
	Finding string `json:"finding"`
	Why     string `json:"why"`
}

// Programme is one golfer's plan.
type Programme struct {
	Head
	Blocks []Block `json:"blocks"`
}

// Phase is what a block is for in the golfer's year.
type Phase string

// Phases there are while no season is planned.
const (
	Preparation Phase = "preparation"
	InSeason    Phase = "in-season" // between competitions that follow each other closely
	Tapering    Phase = "taper"     // all of it leads up to an event
)

// Block is some weeks with one emphasis.
type Block struct {
	ID       ID     `json:"id"`
	Phase    Phase  `json:"phase"`
	Emphasis string `json:"emphasis"`
	// StrengthBase is, in season, how many repetitions of strength a week outside it
	// would hold.
	StrengthBase int    `json:"strengthBase,omitempty"`
	Weeks        []Week `json:"weeks"`
}

// WeekKind says whether a week's work rises or falls.
type WeekKind string

// Kinds of week.
const (
	Rising WeekKind = "rising"
	Easier WeekKind = "easier"
	Taper  WeekKind = "taper"  // some or all of its days lead up to an event, or follow it
	Played WeekKind = "played" // an event is played through
)

// Week is seven days from Start.
type Week struct {
	ID     ID         `json:"id"`
	Number int        `json:"number"` // from 1, within the block
	Kind   WeekKind   `json:"kind"`
	Start  civil.Date `json:"start"`
	// Due is, in a taper, on how many days before the event it could train: play, its
	// eve and days away left out.
	Due int `json:"due,omitempty"`
	// Step is which rising week of the course it holds, from 1, where a lost week moved it;
	// 0: as its kind says.
	Step     int       `json:"step,omitempty"`
	Locked   bool      `json:"locked,omitempty"` // stays, with all that is in it
	Note     string    `json:"note,omitempty"`
	Sessions []Session `json:"sessions"`
	Home     []HomeDay `json:"home"`
	Retest   *Retest   `json:"retest,omitempty"`
}

// Retest closes a block.
type Retest struct {
	Date  civil.Date `json:"date"`
	Tests []string   `json:"tests"`
	Text  string     `json:"text"`
}

// HomeDay is a short dose of range work away from the gym.
type HomeDay struct {
	ID    ID         `json:"id"`
	Date  civil.Date `json:"date"`
	Items []Item     `json:"items"`
}

// Letter names a kind of day: sessions of one letter hold the same lines.
type Letter string

// The kinds of day, in the order of a week.
const (
	DayA Letter = "A"
	DayB Letter = "B"
	DayC Letter = "C"
	DayD Letter = "D"
	DayL Letter = "L" // range and posture
	DayS Letter = "S" // swings and steps
)

// Letters are the kinds of day there are. Do not change it.
var Letters = []Letter{DayA, DayB, DayC, DayD, DayL, DayS}

// Session is one visit to the gym.
type Session struct {
	ID     ID         `json:"id"`
	Date   civil.Date `json:"date"`
	Letter Letter     `json:"letter"`
	Title  string     `json:"title"`
	Budget int        `json:"budgetMinutes"`
	// Base is, in a taper, the volume it would have as a session of a rising week.
	Base   int    `json:"base,omitempty"`
	Locked bool   `json:"locked,omitempty"` // stays, with all that is in it
	Note   string `json:"note,omitempty"`
	Items  []Item `json:"items"`
}

// Item is one exercise in a session.
type Item struct {
	ID       ID           `json:"id"`
	Slot     library.Slot `json:"slot"`
	Exercise string       `json:"exercise"`
	Dose     Dose         `json:"dose"`
	Reason   Reason       `json:"reason"`
	// Paired says that it is done in turns with the lift before it, heavy and light.
	Paired bool `json:"paired,omitempty"`
	// Superset says that it is done in turns with the item before it, set by set, with no
	// rest between the two.
	Superset bool   `json:"superset,omitempty"`
	Edited   bool   `json:"edited,omitempty"` // changed by hand
	Locked   bool   `json:"locked,omitempty"` // stays as it is when the plan is drafted again
	Note     string `json:"note,omitempty"`   // the coach's reason for the change
}

// Dose is how much.
type Dose struct {
	Sets    int `json:"sets"`
	Reps    int `json:"reps,omitempty"`    // a set; each side for one-sided work
	Seconds int `json:"seconds,omitempty"` // a set, for holds; of each hold where there are Times
	// Times is how often a set holds for its seconds; 0 and 1 are once.
	Times int          `json:"times,omitempty"`
	Unit  library.Unit `json:"unit"`
	Sides string       `json:"sides"`          // as the exercise's
	Side  string       `json:"side,omitempty"` // the one side that is worked, where it is one
	// Weaker is the side that gets more: WeakerSets sets, or WeakerMore repetitions or
	// seconds a set.
	Weaker     string   `json:"weaker,omitempty"`
	WeakerSets int      `json:"weakerSets,omitempty"`
	WeakerMore int      `json:"weakerMore,omitempty"`
	Reserve    *int     `json:"reserve,omitempty"`
	LoadKg     *float64 `json:"loadKg,omitempty"`
	MaxKg      float64  `json:"maxKg,omitempty"` // a limit's load cap, where no load is set
	// AboutKg is where a load that no test sets begins, and is then found by what is
	// left in reserve; AHand says that it is one of two.
	AboutKg float64 `json:"aboutKg,omitempty"`
	AHand   bool    `json:"aHand,omitempty"`
	BallKg  float64 `json:"ballKg,omitempty"`
	// IntentPercent is how hard a swing is made, of full.
	IntentPercent    int `json:"intentPercent,omitempty"`
	OtherSideShare   int `json:"otherSideShare,omitempty"`   // % of the swings
	ImplementPercent int `json:"implementPercent,omitempty"` // of driver mass, signed
	ImplementG       int `json:"implementG,omitempty"`
	// BetweenSeconds are rested between repetitions, swings or holds of a set; InTurn
	// says that the hands change after each of them, not after the set.
	BetweenSeconds int  `json:"betweenSeconds,omitempty"`
	InTurn         bool `json:"inTurn,omitempty"`
	// BalanceSeconds is how long the finish of a swing is held: one without balance to
	// the end does not count.
	BalanceSeconds int `json:"balanceSeconds,omitempty"`
	// ChokeCm is how far down a club held out is gripped, Clubs how many are held
	// together (0 and 1: one), and LeverNm what that puts on the wrist, in N·m; 0 where
	// the golfer's club is not known well enough.
	ChokeCm int     `json:"chokeCm,omitempty"`
	Clubs   int     `json:"clubs,omitempty"`
	LeverNm float64 `json:"leverNm,omitempty"`
	// Form is how range work is done this week.
	Form        string    `json:"form,omitempty"`
	RestSeconds int       `json:"restSeconds"`
	WarmUpSets  []WarmSet `json:"warmUpSets,omitempty"`
}

// WarmSet is a lighter set before a lift. LoadKg is 0 where no load is known.
type WarmSet struct {
	LoadKg float64 `json:"loadKg,omitempty"`
	Reps   int     `json:"reps"`
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
		n = d.Seconds * max(1, d.Times)
	}
	return n*d.SideFactor() + d.WeakerMore
}

// Load is the volume of a dose in a slot as a week's work is counted: repetitions,
// swings, throws and contacts; range, drills and holds count nothing.
func (d Dose) Load(slot library.Slot) int {
	if slot == library.SlotRange || slot == library.SlotSpecial || d.Unit == library.Seconds {
		return 0
	}
	return d.Volume()
}

// Volume is the volume of the whole dose.
func (d Dose) Volume() int {
	n := d.Sets * d.SetVolume()
	if d.Sets > 0 {
		n += d.WeakerSets * max(d.Reps, d.Seconds*max(1, d.Times))
	}
	return n
}

// Between is how many seconds of a dose are rested between its repetitions or holds.
func (d Dose) Between() int {
	n := d.Reps
	if d.Unit == library.Seconds {
		n = max(1, d.Times)
	}
	n *= d.SideFactor()
	if !d.InTurn {
		n -= d.SideFactor() // the last of a side leads into the other side or the rest
	}
	return d.Sets * max(n, 0) * d.BetweenSeconds
}

// OtherSwings is how many of the swings are made from the other side.
func (d Dose) OtherSwings() int {
	return int(unit.Round(float64(d.Sets*d.Reps)*float64(d.OtherSideShare)/100, 0))
}

// Spot is where an item stands. Session is nil on a home day.
type Spot struct {
	Block   *Block
	Week    *Week
	Session *Session
	Item    *Item
}

// Find returns where the item with an id stands.
func (p *Programme) Find(id ID) (Spot, bool) {
	for bi := range p.Blocks {
		b := &p.Blocks[bi]
		for wi := range b.Weeks {
			w := &b.Weeks[wi]
			for si := range w.Sessions {
				for ii := range w.Sessions[si].Items {
					if it := &w.Sessions[si].Items[ii]; it.ID == id {
						return Spot{b, w, &w.Sessions[si], it}, true
					}
				}
			}
			for hi := range w.Home {
				for ii := range w.Home[hi].Items {
					if it := &w.Home[hi].Items[ii]; it.ID == id {
						return Spot{b, w, nil, it}, true
					}
				}
			}
		}
	}
	return Spot{}, false
}

// Session returns the session with an id.
func (p *Programme) Session(id ID) (*Session, bool) {
	for bi := range p.Blocks {
		for wi := range p.Blocks[bi].Weeks {
			w := &p.Blocks[bi].Weeks[wi]
			for si := range w.Sessions {
				if w.Sessions[si].ID == id {
					return &w.Sessions[si], true
				}
			}
		}
	}
	return nil, false
}

// EachSession calls do for every session of the block, in the order of time.
func (b *Block) EachSession(do func(*Week, *Session)) {
	for wi := range b.Weeks {
		for si := range b.Weeks[wi].Sessions {
			do(&b.Weeks[wi], &b.Weeks[wi].Sessions[si])
		}
	}
}

// EachItem calls do for every item, those of home days too.
func (p *Programme) EachItem(do func(*Item)) {
	each := func(items []Item) {
		for i := range items {
			do(&items[i])
		}
	}
	for bi := range p.Blocks {
		for wi := range p.Blocks[bi].Weeks {
			w := &p.Blocks[bi].Weeks[wi]
			for si := range w.Sessions {
				each(w.Sessions[si].Items)
			}
			for hi := range w.Home {
				each(w.Home[hi].Items)
			}
		}
	}
}

// Clone returns a deep copy: what is done to it leaves the document as it is.
func (p *Programme) Clone() *Programme {
	out := *p
	out.Notes, out.WarmUp = slices.Clone(p.Notes), slices.Clone(p.WarmUp)
	out.Asked, out.Unanswered = slices.Clone(p.Asked), slices.Clone(p.Unanswered)
	out.Working = maps.Clone(p.Working)
	out.Blocks = slices.Clone(p.Blocks)
	for bi := range out.Blocks {
		b := &out.Blocks[bi]
		b.Weeks = slices.Clone(b.Weeks)
		for wi := range b.Weeks {
			b.Weeks[wi] = b.Weeks[wi].clone()
		}
	}
	return &out
}

func (w Week) clone() Week {
	w.Sessions, w.Home = slices.Clone(w.Sessions), slices.Clone(w.Home)
	for si := range w.Sessions {
		w.Sessions[si].Items = cloneItems(w.Sessions[si].Items)
	}
	for hi := range w.Home {
		w.Home[hi].Items = cloneItems(w.Home[hi].Items)
	}
	if w.Retest != nil {
		r := *w.Retest
		r.Tests = slices.Clone(r.Tests)
		w.Retest = &r
	}
	return w
}

func cloneItems(items []Item) []Item {
	out := slices.Clone(items)
	for i := range out {
		d := &out[i].Dose
		d.WarmUpSets = slices.Clone(d.WarmUpSets)
		if d.Reserve != nil {
			r := *d.Reserve
			d.Reserve = &r
		}
		if d.LoadKg != nil {
			kg := *d.LoadKg
			d.LoadKg = &kg
		}
	}
	return out
}
