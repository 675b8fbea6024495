// Package quality makes the Read: each test beside its target, the other side
// and the golfer's own last screen, gathered into qualities, and the qualities
// ordered by how much each holds club speed back under a school. Every result
// is a sentence that names its numbers. What was not measured stays unmeasured:
// it is never filled in as average.
//
// The arithmetic is set out and worked by hand in docs/methods.md.
package quality

import (
	"slices"
	"sync"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/norm"
	"dunnock/internal/core/reliability"
	"dunnock/internal/core/strength"
	"dunnock/internal/core/unit"
)

// Quality ids that have tests in the battery.
const (
	Mobility        = "mobility"
	Grip            = "grip"
	MaximalStrength = "maximal-strength"
	VerticalPower   = "vertical-power"
	HorizontalPower = "horizontal-power"
	RotationalPower = "rotational-power"
	Separation      = "separation"
	Control         = "control"
	StretchUse      = "stretch-use"
	GroundForce     = "ground-force"
)

// IDs returns the qualities that have tests, in id order: the order of ties.
func IDs() []string {
	return []string{Control, Grip, GroundForce, HorizontalPower, MaximalStrength, Mobility, RotationalPower, Separation, StretchUse, VerticalPower}
}

// Name returns a quality as it is read in a sentence.
func Name(id string) string { return names[id] }

var names = map[string]string{
	Mobility: "mobility", Grip: "grip", MaximalStrength: "maximal strength",
	VerticalPower: "vertical power", HorizontalPower: "horizontal power", RotationalPower: "rotational power",
	Separation: "separation", Control: "control", StretchUse: "stretch use", GroundForce: "ground force",
}

// MinCoverage is the share of a quality's tests, by weight, that must be
// measured before it is ranked.
const MinCoverage = 0.6

// StaleDays is how long before the newest screen a test may have been done and
// still count in the read (our default: twelve weeks).
const StaleDays = 84

// Read is what one golfer's screens say under one school.
type Read struct {
	AsOf       civil.Date              `json:"asOf"`
	ScreenDate civil.Date              `json:"screenDate"` // newest screen, or ""
	School     string                  `json:"school"`
	SchoolName string                  `json:"schoolName"`
	Headline   string                  `json:"headline"`
	Clearance  athlete.ClearanceStatus `json:"clearance"`
	Band       string                  `json:"band"`
	Level      athlete.Level           `json:"level"`
	Tier       athlete.Tier            `json:"tier"`
	Stage      int                     `json:"stage,omitempty"` // of the school, from 0
	Leaders    []string                `json:"leaders"`         // qualities that lead: none, one, or two that stand level
	Qualities  []Standing              `json:"qualities"`       // those that lead first, then by need, then the ones not ranked
	Tests      []TestRead              `json:"tests"`           // the whole battery, in the order of the day
	Ranges     []RangeFinding          `json:"ranges"`          // joints clearly short and not accepted
	Near       []RangeFinding          `json:"-"`               // joints neither clearly short nor past their target, the nearest to short first
	Speed      Speed                   `json:"speed"`
	Strength   *Strength               `json:"strength,omitempty"`
	Maturity   *Maturity               `json:"maturity,omitempty"`
	Accuracy   []Accuracy              `json:"accuracy"` // of the newest set of shots, beside speed
	Pain       []string                `json:"pain"`
	Next       []NextTest              `json:"next"` // what to test next, most telling first
	Notes      []string                `json:"notes"`
}

// Status says how far a quality could be read.
type Status string

// A quality is ranked, has too few of its tests, has results no target fits,
// or was not measured.
const (
	Ranked      Status = "ranked"
	UnderTested Status = "under-tested"
	NoTarget    Status = "no-target"
	NotMeasured Status = "not-measured"
)

// Standing is one quality's place.
type Standing struct {
	ID        string  `json:"id"`
	Name      string  `json:"name"`
	Status    Status  `json:"status"`
	Rank      int     `json:"rank"` // from 1; 0 when not ranked
	Level     Level   `json:"level"`
	Verdict   Verdict `json:"verdict,omitempty"` // of what was measured, against its targets
	Gap       float64 `json:"gap"`               // spreads below target
	Error     float64 `json:"error"`             // of the gap, in spreads
	Relevance float64 `json:"relevance"`         // the school's
	Need      float64 `json:"need"`              // gap × relevance
	Coverage  float64 `json:"coverage"`          // 0 to 1, measured weight over battery weight
	// Against says in a few words where it lies against its target; Sentence names
	// what lies clearly below, or why it is not ranked; Why is the arithmetic.
	Against  string `json:"against,omitempty"`
	Sentence string `json:"sentence"`
	Why      string `json:"why"`
	// Worth is what closing the gap of a leader could be worth at the most; nil where
	// nothing can be said.
	Worth *Worth `json:"worth,omitempty"`
	// Raised says that the school builds it without its being short, Outsider that it is
	// what lies farthest below and the school lets something else lead.
	Raised   bool `json:"raised,omitempty"`
	Outsider bool `json:"outsider,omitempty"`

	younger float64  // gap against targets a year younger, near the growth spurt
	short   []string // its tests that are clearly short, in words
	most    *part    // the test that makes most of the gap
}

// Level is how much of the work a quality gets.
type Level string

// The levels. A quality leads, is built, is kept, or is spared: it has more than
// it needs.
const (
	Lead  Level = "lead"
	Build Level = "build"
	Keep  Level = "keep"
	Spare Level = "spare"
)

// Verdict says whether a shortfall counts.
type Verdict string

// A shortfall d against a fixed target is clear from 1.96 typical errors (the
// practice's confidence), unclear from one, and within the error below that; a
// target is met from d = 0 down.
const (
	ClearlyShort Verdict = "clear"
	Unclear      Verdict = "unclear"
	WithinError  Verdict = "within-error"
	TargetMet    Verdict = "met"
)

// TestRead is one test's result beside everything it is compared with.
type TestRead struct {
	Test       string      `json:"test"`
	Name       string      `json:"name"`
	Group      string      `json:"group"`
	Unit       unit.Unit   `json:"unit"` // unit of every number here; "×" for lift over body mass
	Decimals   int         `json:"decimals"`
	Quality    string      `json:"quality,omitempty"`
	Status     TestStatus  `json:"status"`
	Date       civil.Date  `json:"date"` // screen the result is from
	Variant    string      `json:"variant,omitempty"`
	Sides      []SideRead  `json:"sides"`
	Gap        *float64    `json:"gap,omitempty"` // of the worse side
	Difference *Difference `json:"difference,omitempty"`
	Sentence   string      `json:"sentence"`
	Source     string      `json:"source"` // of target and test error
	// ErrorFrom says which test error is used: our default, or this squad's
	// repeats.
	ErrorFrom string `json:"errorFrom"`
	// Detectable is the minimal detectable change at the chosen confidence, in
	// Unit, at the size of this result.
	Detectable *float64 `json:"detectable,omitempty"`
}

// TestStatus says what became of a test.
type TestStatus string

// A test was measured, stopped, skipped, measured on one side only, is too old
// to count, or was never done.
const (
	Measured   TestStatus = "measured"
	WasStopped TestStatus = "stopped"
	WasSkipped TestStatus = "skipped"
	OneSide    TestStatus = "one-side"
	Stale      TestStatus = "stale"
	Untested   TestStatus = "not-measured"
)

// SideRead is one side of a test.
type SideRead struct {
	Side     measure.Side `json:"side"`
	Result   *float64     `json:"result,omitempty"` // by the test's rule
	Compared *float64     `json:"compared,omitempty"`
	Valid    int          `json:"valid"`
	CV       float64      `json:"cv"` // %
	Target   *float64     `json:"target,omitempty"`
	Spread   *float64     `json:"spread,omitempty"`
	// Shortfall is how far the result lies below the target, in the unit of the
	// comparison; of two sides, both are taken for better by 0.56 typical errors,
	// since the worse of two is low by chance. Gap is the same in spreads.
	Shortfall  *float64 `json:"shortfall,omitempty"`
	Verdict    Verdict  `json:"verdict,omitempty"`
	Gap        *float64 `json:"gap,omitempty"`
	Position   *float64 `json:"position,omitempty"` // result in spreads from target, negative below
	ErrorShare *float64 `json:"errorSpreads,omitempty"`
	Error      float64  `json:"typicalError"`
	Percentile *float64 `json:"percentile,omitempty"`
	Reference  string   `json:"reference,omitempty"`
	Outlier    int      `json:"outlier,omitempty"` // trial number far from the others
	Change     *Change  `json:"change,omitempty"`
	FallOff    *float64 `json:"fallOff,omitempty"` // % from the first trial to the last
	// References is where the result stands in published tables, or why it does
	// not. Squad is its percentile among this practice's golfers, never given to
	// a junior. History is the golfer's own results done the same way, oldest
	// first, this one last; of a side not done on that screen, those before
	// it.
	References []norm.Standing `json:"references,omitempty"`
	Squad      *float64        `json:"squad,omitempty"`
	History    []Point         `json:"history,omitempty"`

	short, younger float64 // target − result, toward better; the same a year younger
}

// Point is one result of the past.
type Point struct {
	Date  civil.Date `json:"date"`
	Value float64    `json:"value"`
}

// Difference is one side against the other.
type Difference struct {
	Percent  *float64            `json:"percent,omitempty"` // 100·(better − worse)/better
	Weaker   measure.Side        `json:"weaker,omitempty"`
	Absolute float64             `json:"absolute"` // first side − second side
	Verdict  reliability.Verdict `json:"verdict"`
	Sentence string              `json:"sentence"`
}

// Change is now against an earlier screen done the same way.
type Change struct {
	From     civil.Date          `json:"from"`
	Before   float64             `json:"before"`
	By       float64             `json:"by"`
	Verdict  reliability.Verdict `json:"verdict"`
	Sentence string              `json:"sentence"`
}

// RangeFinding is one side of a joint clearly short of its target.
type RangeFinding struct {
	Test     string       `json:"test"`
	Side     measure.Side `json:"side"`
	Region   string       `json:"region"`
	Gap      float64      `json:"gap"`
	Sentence string       `json:"sentence"`
	// For is what work on it is for: "lead hip turns in, 21.5° to 35°".
	For string `json:"for"`
}

// Speed is the outcome: it is never ranked as a cause.
type Speed struct {
	Driver         *float64    `json:"driver,omitempty"` // best, m/s: the golfer's ceiling
	Cruise         *float64    `json:"cruise,omitempty"` // mean, m/s
	ShareOfCeiling *float64    `json:"shareOfCeiling,omitempty"`
	Reserve        *float64    `json:"reserve,omitempty"` // 1 − share
	OtherSide      *Difference `json:"otherSide,omitempty"`
	GoalSentence   string      `json:"goalSentence"`
	ShareSentence  string      `json:"shareSentence"`
	// Pull is how hard the club head pulls outward at the golfer's fastest swing.
	Pull *Pull `json:"pull,omitempty"`
	// Ladder is the line through an implement ladder.
	Ladder  string `json:"ladder,omitempty"`
	Stretch string `json:"stretch,omitempty"` // strike without a backswing against the full swing
	Cold    string `json:"cold,omitempty"`    // the first drives of a day against a warm one
}

// Pull is the outward pull of the club head near impact, m·v²/R, beside what the
// golfer can hold.
type Pull struct {
	Newton   float64 `json:"newton"`
	Low      float64 `json:"low"` // at the longest radius of ours
	High     float64 `json:"high"`
	Sentence string  `json:"sentence"`
}

// Accuracy is how a set of shots scatters.
type Accuracy struct {
	Test     string             `json:"test"`
	Name     string             `json:"name"`
	Unit     unit.Unit          `json:"unit"`
	Date     civil.Date         `json:"date"`
	Spread   reliability.Spread `json:"spread"`
	Sentence string             `json:"sentence"`
}

// Strength is the predicted lift.
type Strength struct {
	OneRM    float64 `json:"oneRM"` // kg to two decimals, by the table
	Ratio    float64 `json:"ratio"` // over body mass; 0 when that is unknown
	Lowest   float64 `json:"lowest"`
	Highest  float64 `json:"highest"`
	Sentence string  `json:"sentence"`
	// Equations are the six published predictions of the same set; Valid says
	// whether the set has at most ten effective repetitions, the most any of them
	// is advised for.
	Equations []strength.Prediction `json:"equations"`
	Valid     bool                  `json:"valid"`
	GaveOut   string                `json:"gaveOut,omitempty"`
}

// Maturity is the estimate for juniors.
type Maturity struct {
	Mirwald   float64 `json:"mirwald"`
	Moore     float64 `json:"moore"`
	NearSpurt bool    `json:"nearSpurt"`
	Sentence  string  `json:"sentence"`
	// HeightOnly says that only Moore's equation by standing height could be used;
	// Changes is what the estimate changes in the plan.
	HeightOnly bool     `json:"heightOnly,omitempty"`
	Changes    []string `json:"changes"`
}

// NextTest is a missing test worth doing.
type NextTest struct {
	Test     string `json:"test"`
	Name     string `json:"name"` // as in a sentence
	Sentence string `json:"sentence"`
	// Chance is how likely this test alone is to change what stands on top, 0 to
	// 1, if results scatter the way we assume (docs/methods.md); 0 for tests that
	// are worth doing for another reason.
	Chance float64 `json:"chance"`

	order float64 // the first is done first
}

// Squad is the newest results of a practice's other golfers: what a result is
// placed in.
type Squad struct {
	values  map[squadKey][]float64
	golfers []Results

	mu    sync.Mutex
	lines map[squadKey]line // club speed over the test, of those asked for
}

type squadKey struct {
	test, variant string
	side          measure.Side
}

// Results are one golfer's newest results of every test and side: what they add
// to a squad.
type Results []newest

// ResultsOf returns a golfer's results as of the file's day.
func ResultsOf(f *athlete.File) Results { return newComputer(f, nil).newestResults() }

// SquadOf gathers the newest result of every golfer, test and side.
func SquadOf(files []*athlete.File) *Squad {
	golfers := make([]Results, len(files))
	each(len(files), func(i int) { golfers[i] = ResultsOf(files[i]) })
	return Gather(golfers)
}

// newest is what a golfer adds to the squad's results of a test and side.
type newest struct {
	key    squadKey
	value  float64
	on     civil.Date
	junior bool
}

// Gather makes a squad of its golfers' results.
func Gather(golfers []Results) *Squad {
	q := &Squad{values: make(map[squadKey][]float64, 128), golfers: golfers}
	for _, ns := range golfers {
		for _, n := range ns {
			v := q.values[n.key]
			if v == nil {
				v = make([]float64, 0, len(golfers))
			}
			q.values[n.key] = append(v, n.value)
		}
	}
	for _, v := range q.values {
		slices.Sort(v)
	}
	return q
}

// newestResults returns the golfer's newest result of every test and side.
func (c *computer) newestResults() Results {
	out := make(Results, 0, 2*len(c.b.Tests()))
	for i := range c.b.Tests() {
		t := &c.b.Tests()[i]
		s, _ := c.newest(t)
		if s == nil {
			continue
		}
		for _, side := range t.Kind.Sides() {
			if res, ok := s.result(t, side); ok && res.Valid > 0 {
				out = append(out, newest{squadKey{t.ID, c.variant(t, res.Variant), side}, res.Value, s.Date, c.f.Athlete.Junior(c.on)})
			}
		}
	}
	return out
}
