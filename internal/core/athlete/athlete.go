// Package athlete holds the facts about one golfer that everything else is
// computed from: who, which side they play, what a doctor allows, what they can
// train with and when, and the screens. A File is all of it at once and is the
// only input of the read and of the programme: same File, same answer.
package athlete

import (
	"slices"
	"time"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/unit"
)

// Format names the layout of a File on disk.
const Format = "dunnock-athlete/1"

// File is one golfer's export.
type File struct {
	Format          string          `json:"format"`
	AsOf            civil.Date      `json:"asOf"`      // the day the file speaks of; the only "today" there is
	StartDate       civil.Date      `json:"startDate"` // first day of the programme
	Units           unit.Preference `json:"units"`
	Athlete         Profile         `json:"athlete"`
	Clearance       Clearance       `json:"clearance"`
	Consent         *Consent        `json:"consent,omitempty"` // guardian's consent for under-18s
	Limits          []Limit         `json:"limits"`
	Training        Training        `json:"training"`
	Competitions    []Competition   `json:"competitions"`
	School          string          `json:"school"`
	OtherSideShare  *int            `json:"otherSideShare,omitempty"` // share of swings from the other side in %, instead of the school's
	LibraryVersion  string          `json:"libraryVersion,omitempty"`
	RulebookVersion string          `json:"rulebookVersion,omitempty"`
	// Battery holds what the practice changed about the tests: own tests, targets
	// and measured test errors that the screens are read with.
	Battery *measure.Changes `json:"battery,omitempty"`
	Screens []Screen         `json:"screens"`
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
}

// Training is when and with what the golfer can train.
type Training struct {
	Days         []string `json:"days"`     // mon … sun
	Sessions     int      `json:"sessions"` // wanted a week, 2 or 3
	Minutes      int      `json:"minutes"`  // a session; 0: not said
	Kit          []string `json:"kit"`
	BarKg        float64  `json:"barKg,omitempty"`        // mass of the empty trap bar
	PlateStepKg  float64  `json:"plateStepKg,omitempty"`  // smallest step of the loaded bar, both sides together
	DumbbellStep float64  `json:"dumbbellStep,omitempty"` // kg
}

// Competition is a dated event.
type Competition struct {
	Date civil.Date `json:"date"`
	Name string     `json:"name"`
	Peak bool       `json:"peak"` // peak for it; otherwise play through
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
