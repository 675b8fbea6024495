// Package athlete holds the facts about one golfer that everything else is
// computed from: who, which side they play, what a doctor allows, what they can
// train with and when, and the screens. A File is all of it at once and is the
// only input of the read and of the programme: same File, same answer.
package athlete

import (
	"fmt"
	"slices"
	"time"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/implement"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/season"
	"dunnock/internal/core/unit"
)

// Format names the layout of a File on disk; FormatBefore is the one before it,
// which had no Situation, no kit per place and no discs, and is still read.
const (
	Format       = "dunnock-athlete/2"
	FormatBefore = "dunnock-athlete/1"
)

// File is one golfer's export.
type File struct {
	Format       string          `json:"format"`
	AsOf         civil.Date      `json:"asOf"`      // the day the file speaks of; the only "today" there is
	StartDate    civil.Date      `json:"startDate"` // first day of the programme
	Units        unit.Preference `json:"units"`
	Athlete      Profile         `json:"athlete"`
	Clearance    Clearance       `json:"clearance"`
	Consent      *Consent        `json:"consent,omitempty"` // guardian's consent for under-18s
	Limits       []Limit         `json:"limits"`
	Training     Training        `json:"training"`
	Competitions []Competition   `json:"competitions"`
	Situation
	School          string `json:"school"`
	OtherSideShare  *int   `json:"otherSideShare,omitempty"` // share of swings from the other side in %, instead of the school's
	LibraryVersion  string `json:"libraryVersion,omitempty"`
	RulebookVersion string `json:"rulebookVersion,omitempty"`
	// Battery holds what the practice changed about the tests: own tests, targets
	// and measured test errors that the screens are read with.
	Battery *measure.Changes `json:"battery,omitempty"`
	Screens []Screen         `json:"screens"`
	// ArchivedOn is since when the golfer is put away; zero: in the squad.
	ArchivedOn civil.Date `json:"archivedOn,omitzero"`
	// Photo is a small JPEG without metadata. Only an export holds it.
	Photo []byte `json:"photo,omitempty"`
}

// Tests returns the battery the file's screens are read with.
func (f *File) Tests() *measure.Battery {
	if f.Battery == nil {
		return measure.Shipped()
	}
	return f.Battery.Apply()
}

// The sides a golfer may play from.
const (
	RightSided = "right"
	LeftSided  = "left"
)

// Sex is asked for reference and maturity purposes only and may be left out.
const (
	Male   = "male"
	Female = "female"
)

// Profile is who the golfer is.
type Profile struct {
	Name           string     `json:"name"`
	BirthDate      civil.Date `json:"birthDate"`
	Sex            string     `json:"sex,omitempty"` // male, female or left out
	PlayingSide    string     `json:"playingSide"`   // right or left: not the writing hand
	WritingHand    string     `json:"writingHand,omitempty"`
	TrainingMonths int        `json:"trainingMonths"` // of regular strength training
	Advanced       bool       `json:"advanced,omitempty"`
	GoalSpeed      float64    `json:"goalSpeed,omitempty"` // club speed wanted, m/s; 0: none
	GoalText       string     `json:"goalText,omitempty"`
	DriverMassG    float64    `json:"driverMassG,omitempty"` // 0: not weighed
	// AlsoWritten are names files give this golfer, as somebody said once: "Brae, T".
	AlsoWritten []string `json:"alsoWritten,omitempty"`
	Groups      []string `json:"groups,omitempty"` // of the squad
	Notes       string   `json:"notes,omitempty"`  // what the coach wants to remember
}

// Training is when and with what the golfer can train.
type Training struct {
	Days         []string `json:"days"`     // mon … sun
	Sessions     int      `json:"sessions"` // wished a week, 1 to 4; 0: all given days up to four
	Minutes      int      `json:"minutes"`  // a session; 0: not said
	Kit          []string `json:"kit"`
	BarKg        float64  `json:"barKg,omitempty"`        // mass of the empty trap bar
	PlateStepKg  float64  `json:"plateStepKg,omitempty"`  // smallest step of the loaded bar, both sides together
	DumbbellStep float64  `json:"dumbbellStep,omitempty"` // kg
	// KitAt is the kit at other places than the gym, which is Kit: by home or range.
	KitAt map[string][]string `json:"kitAt,omitempty"`
	// Plates are the discs there are a pair of, in kg; where they are known they
	// say the smallest step.
	Plates []float64 `json:"plates,omitempty"`
	// StartsAt is when sessions begin, HH:MM on the practice's clock, and Where they are, in
	// a few words: for the calendar. Both may be "".
	StartsAt string `json:"startsAt,omitempty"`
	Where    string `json:"where,omitempty"`
}

// Places at which kit may be, beside the gym.
const (
	AtHome  = "home"
	AtRange = "range"
)

// StepKg is the smallest step of a loaded bar, in kg: twice the smallest disc, or
// what was said, or the given default.
func (t Training) StepKg(otherwise float64) float64 {
	switch {
	case len(t.Plates) > 0:
		return 2 * slices.Min(t.Plates)
	case t.PlateStepKg > 0:
		return t.PlateStepKg
	}
	return otherwise
}

// Competition is a dated event.
type Competition struct {
	Date civil.Date `json:"date"` // its first day
	// Last is the last day of one of several days; zero: it is one day long.
	Last civil.Date `json:"last,omitzero"`
	Name string     `json:"name"`
	Peak bool       `json:"peak"`           // peak for it; otherwise play through
	Main bool       `json:"main,omitempty"` // the one of the year that matters most
}

// End is its last day.
func (c Competition) End() civil.Date {
	if c.Last.After(c.Date) {
		return c.Last
	}
	return c.Date
}

// DaysOfPlay are competitions day by day: each of one of several days behind its first is
// played through.
func DaysOfPlay(list []Competition) []Competition {
	out := make([]Competition, 0, len(list))
	for _, c := range list {
		out = append(out, Competition{Date: c.Date, Name: c.Name, Peak: c.Peak, Main: c.Main})
		for n, day := 2, c.Date.Add(1); !day.After(c.End()); n, day = n+1, day.Add(1) {
			out = append(out, Competition{Date: day, Name: fmt.Sprintf("%s, day %d", c.Name, n)})
		}
	}
	return out
}

// Situation is what else bears on the plan: all of it may be left out.
type Situation struct {
	// OffWeeks is for how many weeks regular training has ended, as of AsOf, and
	// OffWhy why: "", holiday, work, illness or injury.
	OffWeeks int    `json:"offWeeks,omitempty"`
	OffWhy   string `json:"offWhy,omitempty"`
	// Away are days on which nothing can be trained.
	Away []Away `json:"away,omitempty"`
	// Playing are stretches with so many rounds a week.
	Playing []Playing `json:"playing,omitempty"`
	// Marks are days that are shown and move nothing: a class, a lesson, a change of clubs,
	// conditioning, travel.
	Marks []Mark `json:"marks,omitempty"`
	// Locks are blocks of the season the coach set: so many weeks from a Monday.
	Locks []BlockLock `json:"locks,omitempty"`
	// Kept is the season as the coach took it on: what moves later is laid around it.
	Kept *season.Season `json:"kept,omitempty"`
	// SeasonEnd is the last day that is planned for; zero: what the events say.
	SeasonEnd civil.Date `json:"seasonEnd,omitzero"`
	// AcceptedJoints are taken as they are: kept, not chased.
	AcceptedJoints []AcceptedJoint `json:"acceptedJoints,omitempty"`
	// Pinches are hips that pinch in front or end hard: they are not pushed.
	Pinches []Pinch `json:"pinches,omitempty"`
	// OverheadDegrees is how far an arm goes up without pain, 0 when it was not
	// looked at; the shoulder test says it too.
	OverheadDegrees float64 `json:"overheadDegrees,omitempty"`
	// EndedLimits are limits from pain that the coach ended, with the reason.
	EndedLimits []EndedLimit `json:"endedLimits,omitempty"`
	// ForceFindings are what the newest force recordings found outside of its window.
	ForceFindings []ForceFinding `json:"forceFindings,omitempty"`
	// ColdStart are the newest first swings of a day with no warm-up.
	ColdStart *ColdStart `json:"coldStart,omitempty"`
	// Implements are what the golfer owns to swing beside the driver.
	Implements []implement.Implement `json:"implements,omitempty"`
}

// Mark is a day that is shown in the season and moves nothing.
type Mark struct {
	Date    civil.Date `json:"date"`
	Kind    string     `json:"kind"` // of MarkKinds
	Text    string     `json:"text,omitempty"`
	Minutes int        `json:"minutes,omitempty"` // of conditioning, a class or a lesson
}

// MarkKinds are the kinds of mark. Do not change it.
var MarkKinds = []string{"class", "lesson", "club change", "conditioning", "travel"}

// BlockLock is a block of so many weeks from a Monday that stays whatever moves.
type BlockLock struct {
	Start civil.Date `json:"start"`
	Weeks int        `json:"weeks"`
}

// The reasons regular training ended for.
const (
	OffHoliday = "holiday"
	OffWork    = "work"
	OffIllness = "illness"
	OffInjury  = "injury"
)

// Away is a stretch of days, both ends included.
type Away struct {
	From civil.Date `json:"from"`
	To   civil.Date `json:"to"`
	Why  string     `json:"why,omitempty"`
	// Trains says that the golfer can train where they are: no day is lost.
	Trains bool `json:"trains,omitempty"`
}

// Playing is a stretch of days, both ends included, with so many rounds a week.
type Playing struct {
	From   civil.Date `json:"from"`
	To     civil.Date `json:"to"`
	Rounds int        `json:"rounds"` // 1 to 7
}

// On reports whether a day lies in it.
func (a Away) On(day civil.Date) bool { return !day.Before(a.From) && !day.After(a.To) }

// Lost reports whether nothing is trained on a day.
func (a Away) Lost(day civil.Date) bool { return !a.Trains && a.On(day) }

// AcceptedJoint is a joint the coach takes as it is. Joint is a region, which
// stands for every range test of it, or one range test by id; Side is lead,
// trail, both, or "" for both.
type AcceptedJoint struct {
	Joint string `json:"joint"`
	Side  string `json:"side,omitempty"`
	Why   string `json:"why"`
}

// Covers reports whether it speaks of a side of a test.
func (a AcceptedJoint) Covers(t *measure.Test, side measure.Side) bool {
	if a.Joint != t.ID && a.Joint != t.Region {
		return false
	}
	return a.Side == "" || a.Side == "both" || t.Kind != measure.Limbs || a.Side == string(side)
}

// Pinch is a hip that pinches in front or ends hard.
type Pinch struct {
	Joint string `json:"joint"` // hip
	Side  string `json:"side,omitempty"`
}

// EndedLimit is a limit from pain that the coach ended.
type EndedLimit struct {
	Region string     `json:"region"`
	Side   string     `json:"side,omitempty"`
	On     civil.Date `json:"on"`
	Why    string     `json:"why"`
}

// ForceFinding is a number of a force recording outside of its window.
type ForceFinding struct {
	Key        string     `json:"key"` // of the window
	On         civil.Date `json:"on"`  // recorded
	Sentence   string     `json:"sentence"`
	Low        bool       `json:"low,omitempty"`        // below the window; otherwise above it
	Weaker     string     `json:"weaker,omitempty"`     // lead or trail: the foot that pushes or lands less
	Instructor bool       `json:"instructor,omitempty"` // what the swing itself decides
}

// ColdStart are the first swings of a day, driver at full intent, with no warm-up.
type ColdStart struct {
	On     civil.Date `json:"on"`
	Mps    []float64  `json:"mps"`              // club speeds that count, in order
	Before string     `json:"before,omitempty"` // what came before: desk, work shift, travel
	// Raised says that raise and joints came first: the variant of juniors and of 60 and
	// over.
	Raised bool `json:"raised,omitempty"`
}

// coldStartTest is the screen's own series of first drives.
const coldStartTest = "cold-start"

// NewestColdStart returns the newest first swings of a day, of a series or typed into a
// screen; nil where there are none.
func (f *File) NewestColdStart() *ColdStart {
	newest := f.ColdStart
	for i := range f.Screens {
		s := &f.Screens[i]
		if newest != nil && !s.Date.After(newest.On) {
			continue
		}
		var trials []measure.Trial
		for _, t := range s.Trials {
			if t.Test == coldStartTest && t.Status == measure.Done && t.Value >= 10 && t.Value <= 75 {
				trials = append(trials, t)
			}
		}
		if len(trials) == 0 {
			continue
		}
		slices.SortFunc(trials, func(a, b measure.Trial) int { return a.Number - b.Number })
		newest = &ColdStart{On: s.Date, Before: s.Before}
		for _, t := range trials {
			newest.Mps = append(newest.Mps, t.Value)
		}
	}
	return newest
}

// Consent is a guardian's consent.
type Consent struct {
	Guardian string     `json:"guardian"`
	On       civil.Date `json:"on"`
}

// Screen is one visit's tests.
type Screen struct {
	Date civil.Date `json:"date"`
	Circumstances
	Trials []measure.Trial `json:"trials"`
}

// Circumstances are what a screen was done under: like is compared with like.
type Circumstances struct {
	Before     string     `json:"before,omitempty"`     // what came before it that day: desk, work shift, travel, training
	LastLesson civil.Date `json:"lastLesson,omitzero"`  // of swing instruction
	ClubChange string     `json:"clubChange,omitempty"` // since the last screen
	Intent     string     `json:"intent,omitempty"`     // of the speed tests: full, held back, or not said
	Tester     string     `json:"tester,omitempty"`
	Place      string     `json:"place,omitempty"`
	Floor      string     `json:"floor,omitempty"`
	Set        string     `json:"set,omitempty"` // battery by name; "" is the usual one
}

// Intents of the speed tests.
const (
	FullIntent = "full"
	HeldBack   = "held-back"
)

// Age bands of the targets and rules.
const (
	BandChild  = "under-13"
	BandJunior = "13-17"
	BandAdult  = "18-39"
	BandMiddle = "40-59"
	BandSenior = "60+"
)

// Band returns the age band on a day.
func (p Profile) Band(on civil.Date) string {
	switch age := p.BirthDate.YearsOn(on); {
	case age < 13:
		return BandChild
	case age < 18:
		return BandJunior
	case age < 40:
		return BandAdult
	case age < 60:
		return BandMiddle
	default:
		return BandSenior
	}
}

// Junior reports whether the golfer is under 18 on a day.
func (p Profile) Junior(on civil.Date) bool { return p.BirthDate.YearsOn(on) < 18 }

// Man reports whether the golfer is a male of 18 or over, for whom some tests
// have a variant of their own.
func (p Profile) Man(on civil.Date) bool { return p.Sex == Male && !p.Junior(on) }

// ReferenceVariant returns how a test is done for this golfer when its result
// is to meet the target.
func (p Profile) ReferenceVariant(on civil.Date) func(*measure.Test) string {
	man := p.Man(on)
	return func(t *measure.Test) string { return t.ReferenceVariant(man) }
}

// RightHanded reports whether a limb is the right one: a right-sided golfer's
// lead limb is the left.
func (p Profile) RightHanded(s measure.Side) bool {
	return (s == measure.Side(measure.Lead)) == (p.PlayingSide == LeftSided)
}

// Level grows with regular strength training: 1 under six months, 2 up to two
// years, 3 up to five, 4 beyond that and confirmed by the coach.
type Level int

// Tier is the column of the dose tables a level uses.
type Tier string

// The three tiers.
const (
	Novice       Tier = "novice"
	Intermediate Tier = "intermediate"
	AdvancedTier Tier = "advanced"
)

// Tiers are the tiers, the least trained first. Do not change it.
var Tiers = []Tier{Novice, Intermediate, AdvancedTier}

// Level returns the golfer's level.
func (p Profile) Level() Level {
	switch m := p.TrainingMonths; {
	case m < 6:
		return 1
	case m < 24:
		return 2
	case m < 60 || !p.Advanced:
		return 3
	default:
		return 4
	}
}

// Tier returns the tier of a level; levels 2 and 3 share the intermediate one.
func (l Level) Tier() Tier {
	switch {
	case l <= 1:
		return Novice
	case l >= 4:
		return AdvancedTier
	default:
		return Intermediate
	}
}

// Weekdays in the order of the week, as they are written in a File.
var Weekdays = []string{"mon", "tue", "wed", "thu", "fri", "sat", "sun"}

// Weekday returns the day of the week a File's short name stands for.
func Weekday(s string) (time.Weekday, bool) {
	i := slices.Index(Weekdays, s)
	return time.Weekday((i + 1) % 7), i >= 0
}

// SortedScreens returns the screens up to AsOf, newest first.
func (f *File) SortedScreens() []*Screen {
	var out []*Screen
	for i := range f.Screens {
		if !f.Screens[i].Date.After(f.AsOf) {
			out = append(out, &f.Screens[i])
		}
	}
	slices.SortStableFunc(out, func(a, b *Screen) int { return b.Date.Sub(a.Date) })
	return out
}
