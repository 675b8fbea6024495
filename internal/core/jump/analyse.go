package jump

import (
	"errors"
	"fmt"
	"math"
	"slices"

	"dunnock/internal/core/force"
	"dunnock/internal/core/signal"
)

// Version names the rules of this analysis. It is stored with every result and
// changes when a result could.
const Version = "jump/1"

// Kind is how a jump begins.
type Kind string

// The kinds. Auto takes a dip of more than MaxDip for a countermovement.
const (
	Auto            Kind = ""
	Countermovement Kind = "countermovement"
	Squat           Kind = "squat"
)

// MaxDip is the share of body weight the force may fall below it in a squat
// jump; common practice.
const MaxDip = 0.10

// Onset rules: back to the last crossing of body weight, which is ours, or the
// published step back of 30 ms (Owen et al. 2014).
const (
	OnsetCrossing = "crossing"
	OnsetBack30   = "back30ms"
)

// Settings are the choices of an analysis. The zero value takes the defaults.
type Settings struct {
	// CutoffHz is the final cut-off of the low-pass filter, 50 when 0. Negative
	// means no filter.
	CutoffHz float64 `json:"cutoffHz"`
	Onset    string  `json:"onset"`
	Kind     Kind    `json:"kind"`
	// MassKg is the golfer's mass where it is known, used when the stance is too
	// short to weigh by, otherwise a check. 0 when unknown.
	MassKg float64 `json:"massKg"`
	// Events placed by hand on the recording's clock; they win over what is found.
	OnsetS   *float64 `json:"onsetS"`
	TakeoffS *float64 `json:"takeoffS"`
	LandingS *float64 `json:"landingS"`
}

// DefaultCutoffHz is the filter of jumps; common practice.
const DefaultCutoffHz = 50

// Flags of a jump beside those of package force.
const (
	NoFlight              force.Flag = "noFlight"
	StepOff               force.Flag = "stepOff"
	DoubleContact         force.Flag = "doubleContact"
	SeveralJumps          force.Flag = "severalJumps"
	HiddenCountermovement force.Flag = "hiddenCountermovement"
	FalseStart            force.Flag = "falseStart"
	HeightsDisagree       force.Flag = "heightsDisagree"
	NoLanding             force.Flag = "noLanding"
	MassDiffers           force.Flag = "massDiffers"
)

// Limb is what one foot did. Impulses are of its whole force, in N·s.
type Limb struct {
	PropulsiveImpulseNs float64 `json:"propulsiveImpulseNs"`
	BrakingImpulseNs    float64 `json:"brakingImpulseNs"`
	PeakForceN          float64 `json:"peakForceN"`
	PropulsiveSharePct  float64 `json:"propulsiveSharePct"`
	LandingPeakN        float64 `json:"landingPeakN"`
}

// Result is what a jump came to. What could not be computed is nil. Times are on
// the recording's clock.
type Result struct {
	Kind         Kind    `json:"kind"`
	SampleRateHz float64 `json:"sampleRateHz"`
	BodyMassKg   float64 `json:"bodyMassKg"`
	BodyWeightN  float64 `json:"bodyWeightN"`
	// QuietSDN is the spread of the quiet stance, QuietFromS and QuietToS where
	// it was found.
	QuietSDN   float64 `json:"quietSdN"`
	QuietFromS float64 `json:"quietFromS"`
	QuietToS   float64 `json:"quietToS"`
	OnsetRule  string  `json:"onsetRule"`

	OnsetS           *float64 `json:"onsetS"`
	BrakingStartS    *float64 `json:"brakingStartS"` // lowest velocity
	PropulsionStartS *float64 `json:"propulsionStartS"`
	TakeoffS         *float64 `json:"takeoffS"`
	LandingS         *float64 `json:"landingS"`

	TakeoffVelocityMps    *float64     `json:"takeoffVelocityMps"`
	JumpHeightM           *float64     `json:"jumpHeightM"` // v²/2g
	FlightTimeS           *float64     `json:"flightTimeS"`
	FlightHeightM         *float64     `json:"flightHeightM"`     // g·t²/8
	HeightDifferenceM     *float64     `json:"heightDifferenceM"` // flight − velocity
	PeakPowerW            *float64     `json:"peakPowerW"`
	PeakPowerWPerKg       *float64     `json:"peakPowerWPerKg"`
	MeanPropulsivePowerW  *float64     `json:"meanPropulsivePowerW"`
	PeakPropulsiveForceN  *float64     `json:"peakPropulsiveForceN"`
	UnweightingImpulseNs  *float64     `json:"unweightingImpulseNs"` // net, negative
	BrakingImpulseNs      *float64     `json:"brakingImpulseNs"`     // net
	PropulsiveImpulseNs   *float64     `json:"propulsiveImpulseNs"`  // net
	BrakingRfdNps         *float64     `json:"brakingRfdNps"`
	ForceAtLowestN        *float64     `json:"forceAtLowestN"`
	TimeToTakeoffS        *float64     `json:"timeToTakeoffS"`
	RsiModified           *float64     `json:"rsiModified"` // m/s
	CountermovementDepthM *float64     `json:"countermovementDepthM"`
	DipShareOfWeight      *float64     `json:"dipShareOfWeight"`
	LandingPeakN          *float64     `json:"landingPeakN"`
	LandingPeakPerWeight  *float64     `json:"landingPeakPerBodyWeight"`
	SideDifferencePct     *float64     `json:"sideDifferencePct"` // of propulsive impulse, positive when lead pushes more
	LandingDifferencePct  *float64     `json:"landingDifferencePct"`
	Lead                  *Limb        `json:"lead"`
	Trail                 *Limb        `json:"trail"`
	WorkOnCentreOfMassJ   *float64     `json:"workOnCentreOfMassJ"` // onset to take-off
	ZeroOffsetN           *float64     `json:"zeroOffsetN"`
	UnloadedSDN           *float64     `json:"unloadedSdN"`
	FlightThresholdN      *float64     `json:"flightThresholdN"`
	CutoffHz              float64      `json:"cutoffHz"` // 0: not filtered
	Flags                 []force.Flag `json:"flags"`
	Notes                 []string     `json:"notes"`
	Version               string       `json:"version"`

	// Curves are the signals behind the numbers, one value per sample.
	Curves Curves `json:"-"`
}

// Curves are the total vertical force less the plate's zero, as filtered, and
// what it does to the centre of mass from onset to landing.
type Curves struct {
	UpN, VelocityMps, PositionM []float64
}

// ErrShort is returned for recordings too short to hold a jump.
var ErrShort = errors.New("jump: a recording of at least half a second is needed")

// ErrNoStance is returned when nobody stands on the plate.
var ErrNoStance = errors.New("jump: no stance was found: nobody stands still for half a second at a golfer's weight. Is the unit right, and the sign?")

// Analyser analyses jumps one after another in the same memory: the Curves of a
// result hold until the next call. The zero value is ready. It is not for several
// goroutines at once.
type Analyser struct {
	bank signal.Bank
	slab []float64
}

// Analyse reads one jump; see Analyser for many.
func Analyse(r *force.Recording, s Settings) (*Result, error) {
	var a Analyser
	return a.Analyse(r, s)
}

// Analyse reads a jump from a recording, which it leaves as it is. A trace
// without a flight is answered with NoFlight and no heights; an error means that
// nothing can be said.
func (an *Analyser) Analyse(r *force.Recording, s Settings) (*Result, error) {
	n := r.Len()
	if float64(n) < 0.5*r.RateHz || n < 50 {
		return nil, ErrShort
	}
	a := &analysis{an: an, r: r, s: s, dt: 1 / r.RateHz, n: n}
	if a.s.Onset == "" {
		a.s.Onset = OnsetCrossing
	}
	if a.s.Onset != OnsetCrossing && a.s.Onset != OnsetBack30 {
		return nil, fmt.Errorf("jump: the onset rule is %s or %s, not %q", OnsetCrossing, OnsetBack30, s.Onset)
	}
	a.out = &Result{
		SampleRateHz: r.RateHz,
		OnsetRule:    a.s.Onset,
		Kind:         s.Kind,
		Version:      Version,
		Flags:        append([]force.Flag{}, r.Flags...),
		Notes:        append([]string{}, r.Notes...),
	}
	return a.run()
}

type analysis struct {
	an  *Analyser
	r   *force.Recording
	s   Settings
	n   int
	dt  float64
	out *Result

	raw       []float64 // total vertical force as recorded
	feet      [2][]float64
	up        []float64 // less its zero, filtered
	v, x      []float64
	stance    signal.Level // of raw
	high, low float64      // the largest half-second mean, the smallest of 60 ms
	runs      []run
	bw, mass  float64
}

// run is a stretch in which the plates carried little.
type run struct {
	from, to  int // first sample below its threshold, first above again
	level     signal.Level
	threshold float64
	velocity  float64      // at its start, from the impulse before it
	stance    signal.Level // the quiet stance before it, found when still is true
	still     bool
	landed    bool // the recording goes on after it
}

// length of a run in s.
func (a *analysis) length(u run) float64 { return float64(u.to-u.from) * a.dt }

func (a *analysis) samples(s float64) int { return int(math.Round(s * a.r.RateHz)) }

func (a *analysis) flag(f force.Flag, words string) {
	if !slices.Contains(a.out.Flags, f) {
		a.out.Flags = append(a.out.Flags, f)
	}
	a.out.Notes = append(a.out.Notes, words)
}

func (a *analysis) run() (*Result, error) {
	if cap(a.an.slab) < 6*a.n {
		a.an.slab = make([]float64, 6*a.n)
	}
	slab := a.an.slab
	take := func() []float64 { p := slab[:a.n:a.n]; slab = slab[a.n:]; return p }
	a.raw, a.up, a.v, a.x = take(), take(), take(), take()
	clear(a.v)
	clear(a.x)
	if a.r.Whole != nil {
		copy(a.raw, a.r.Whole.UpN)
	} else {
		a.feet[0], a.feet[1] = take(), take()
		copy(a.feet[0], a.r.Lead.UpN)
		copy(a.feet[1], a.r.Trail.UpN)
		a.addFeet()
	}
	for i, v := range a.raw {
		if math.IsNaN(v) || math.IsInf(v, 0) {
			return nil, fmt.Errorf("jump: sample %d is no number", i+1)
		}
	}
	if err := a.weigh(); err != nil {
		return nil, err
	}
	a.takeHum()
	a.findRuns()
	best := a.flight()
	if err := a.settle(best); err != nil {
		return nil, err
	}
	a.out.Curves = Curves{UpN: a.up, VelocityMps: a.v, PositionM: a.x}
	if best < 0 {
		a.out.Notes = append(a.out.Notes, "No flight was found: there is no height.")
		a.out.Flags = append(a.out.Flags, NoFlight)
		return a.out, nil
	}
	u, onset, err := a.byHand(a.runs[best])
	if err != nil {
		return nil, err
	}
	a.metrics(u, onset)
	return a.out, nil
}

// addFeet sets the total to what the feet sum up to.
func (a *analysis) addFeet() {
	trail := a.feet[1][:a.n]
	for k, v := range a.feet[0][:a.n] {
		a.raw[k] = v + trail[k]
	}
}

func ptr(v float64) *float64 { return &v }

// between returns the value of y at a place between samples.
func between(y []float64, at float64) float64 {
	i := min(int(at), len(y)-2)
	return y[i] + (y[i+1]-y[i])*(at-float64(i))
}

// impulse integrates y − level between two places, which may lie between
// samples, in units of y·s.
func impulse(y []float64, level, from, to, dt float64) float64 {
	if to <= from {
		return 0
	}
	i, j := int(math.Ceil(from)), int(math.Floor(to))
	if i > j {
		return (between(y, from) + between(y, to) - 2*level) / 2 * (to - from) * dt
	}
	sum := (between(y, from) + y[i] - 2*level) / 2 * (float64(i) - from)
	for k := i; k < j; k++ {
		sum += (y[k]+y[k+1])/2 - level
	}
	sum += (y[j] + between(y, to) - 2*level) / 2 * (to - float64(j))
	return sum * dt
}
