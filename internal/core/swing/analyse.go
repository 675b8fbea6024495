// Package swing reads the ground force of a golf swing: its events, the lateral,
// rotational and vertical efforts and when they come before impact, where the
// load stands, how much there is and how it builds up. What the numbers mean for
// training stands in findings.go, several swings together in band.go.
package swing

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
const Version = "swing/1"

// Axes the turning moment is taken about.
const (
	AboutCombined = "combined" // the centre of pressure of both feet together
	AboutMidFoot  = "midfoot"  // the point midway between the feet at address
)

// Settings are the choices of an analysis. The zero value takes the defaults.
type Settings struct {
	CutoffHz float64 `json:"cutoffHz"` // 40 when 0; negative means no filter
	About    string  `json:"about"`    // AboutCombined when empty
	MassKg   float64 `json:"massKg"`   // used where nobody stands still; 0 unknown
	// RateWindowS is the window of the largest rate of force development, 0.02
	// when 0.
	RateWindowS float64 `json:"rateWindowS"`
	// Events placed by hand on the recording's clock. They win over markers and
	// estimates.
	AddressS    *float64 `json:"addressS"`
	TakeawayS   *float64 `json:"takeawayS"`
	TopS        *float64 `json:"topS"`
	TransitionS *float64 `json:"transitionS"`
	ImpactS     *float64 `json:"impactS"`
	FinishS     *float64 `json:"finishS"`
}

// Defaults; common practice.
const (
	DefaultCutoffHz    = 40
	DefaultRateWindowS = 0.02
	usualDownswingS    = 0.27 // top to impact where nothing tells the top
	longDownswingS     = 0.32 // peaks are sought from here on where top is an estimate
	humpShare          = 0.05 // prominence of a hump, of body weight
)

// Flags of a swing beside those of package force.
const (
	TopEstimated  force.Flag = "topEstimated"
	NoRotational  force.Flag = "noRotational"
	NoFreeMoments force.Flag = "freeMomentsMissing"
	NoHorizontal  force.Flag = "noHorizontalForces"
	OnePlate      force.Flag = "onePlate"
	PeakAtEdge    force.Flag = "peakAtEdge"
	EndsEarly     force.Flag = "endsBeforeFinish"
)

// ErrNoImpact asks for the moment everything is timed by.
var ErrNoImpact = errors.New("swing: where is impact? Place it on the plot, or name a marker column")

// Analyser analyses swings one after another in the same memory: the Curves and
// the Filtered recording of a result hold until the next call. The zero value is
// ready. It is not for several goroutines at once.
type Analyser struct {
	bank signal.Bank
	slab []float64
}

// Analyse reads one swing; see Analyser for many.
func Analyse(r *force.Recording, s Settings) (*Result, error) {
	var a Analyser
	return a.Analyse(r, s)
}

// Analyse reads a swing from a recording, which it leaves as it is.
func (an *Analyser) Analyse(r *force.Recording, s Settings) (*Result, error) {
	a := &analysis{r: r, s: s, n: r.Len(), dt: 1 / r.RateHz}
	switch a.s.About {
	case "":
		a.s.About = AboutCombined
	case AboutCombined, AboutMidFoot:
	default:
		return nil, fmt.Errorf("swing: the moment is taken about %s or %s, not %q", AboutCombined, AboutMidFoot, s.About)
	}
	if a.s.RateWindowS == 0 {
		a.s.RateWindowS = DefaultRateWindowS
	}
	if !(a.s.RateWindowS > 0) || a.s.RateWindowS > 0.2 {
		return nil, fmt.Errorf("swing: the window of the rate of force development is between 0 and 0.2 s")
	}
	if float64(a.n) < 0.5*r.RateHz || a.n < 50 {
		return nil, errors.New("swing: a recording of at least half a second is needed")
	}
	a.out = &Result{
		Kind:          "swing",
		SampleRateHz:  r.RateHz,
		About:         a.s.About,
		MaxRfdWindowS: a.s.RateWindowS,
		Version:       Version,
		Flags:         append([]force.Flag{}, r.Flags...),
		Notes:         append([]string{}, r.Notes...),
	}
	if err := a.impactAndTop(); err != nil {
		return nil, err
	}
	if err := a.prepare(an); err != nil {
		return nil, err
	}
	if err := a.weigh(); err != nil {
		return nil, err
	}
	a.efforts()
	if err := a.events(); err != nil {
		return nil, err
	}
	a.sameWeight()
	a.peaks()
	a.shape()
	a.where()
	a.after()
	return a.out, nil
}

type analysis struct {
	r   *force.Recording
	s   Settings
	n   int
	dt  float64
	out *Result
	f   *force.Recording // zeroed and filtered

	bw, mass                               float64
	quiet                                  signal.Level
	address, takeaway, top, impact, finish int // samples
	from                                   int // where peaks are sought from: top, or earlier where it is an estimate
	spare                                  []float64
}

func (a *analysis) samples(s float64) int { return int(math.Round(s * a.r.RateHz)) }

func (a *analysis) flag(f force.Flag, words string) {
	if !slices.Contains(a.out.Flags, f) {
		a.out.Flags = append(a.out.Flags, f)
		a.out.Notes = append(a.out.Notes, words)
	}
}

// impactAndTop checks the moments that are given.
func (a *analysis) impactAndTop() error {
	at := a.s.ImpactS
	if at == nil {
		at = a.r.ImpactS
	}
	if at == nil {
		return ErrNoImpact
	}
	end := a.r.Time(float64(a.n - 1))
	if !(*at >= a.r.StartS && *at <= end) {
		return fmt.Errorf("swing: impact at %g s is outside the recording, which goes from %g to %g s", *at, a.r.StartS, end)
	}
	a.impact = int(math.Round(a.r.Sample(*at)))
	if a.impact < a.samples(0.2) {
		return fmt.Errorf("swing: impact at %g s leaves no room for a downswing before it", *at)
	}
	if top := a.givenTop(); top != nil {
		if !(*top >= a.r.StartS && *top < *at) {
			return fmt.Errorf("swing: top at %g s does not lie between the start and impact at %g s", *top, *at)
		}
		if *at-*top < 0.05 {
			return fmt.Errorf("swing: top at %g s is less than 0.05 s before impact", *top)
		}
	}
	a.out.ImpactS = *at
	return nil
}

func (a *analysis) givenTop() *float64 {
	if a.s.TopS != nil {
		return a.s.TopS
	}
	return a.r.TopS
}

// weigh finds body weight in the quietest stance before the downswing.
func (a *analysis) weigh() error {
	c := a.out.Curves.VerticalN
	a.both(c, func(f *force.Foot) []float64 { return f.UpN })
	mean := signal.LevelOf(c, 0, a.n).Mean
	if mean < -100 {
		return errors.New("swing: the vertical force is negative: the file holds the force on the plate. Say so where the file is mapped")
	}
	high := 0.0
	for i := 0; i < a.n; i += 5 {
		high = max(high, c[i])
	}
	if high < 150 {
		return errors.New("swing: nobody stands on the plates. Is the force in N?")
	}
	var ok bool
	for _, s := range []float64{1, 0.75, 0.5} {
		if a.quiet, ok = signal.Quietest(c, 0, max(0, a.impact-a.samples(0.35)), a.samples(s), 0.25*high, high); ok && a.quiet.SD < 0.06*a.quiet.Mean {
			break
		}
		ok = false
	}
	a.bw = a.quiet.Mean
	if !ok {
		a.flag(force.ShortQuiet, "Nobody stands still for half a second before the swing: body weight is less sure.")
		a.quiet = signal.LevelOf(c, 0, min(a.n, a.samples(0.25)))
		a.bw = mean
		if a.s.MassKg > 0 {
			a.bw = a.s.MassKg * force.G
		}
	}
	if a.bw < 150 || a.bw > 2500 {
		return fmt.Errorf("swing: a body weight of %.0f N is no golfer's. Is the force in N and not in kgf?", a.bw)
	}
	if a.quiet.SD > 0.02*a.bw {
		a.flag(force.NoisyQuiet, fmt.Sprintf("The stance before the swing is not quiet: it varies by %.0f N.", a.quiet.SD))
	}
	a.mass = a.bw / force.G
	a.out.BodyWeightN, a.out.BodyMassKg, a.out.QuietSDN = a.bw, a.mass, a.quiet.SD
	return nil
}

// both sets dst to what the feet sum up to.
func (a *analysis) both(dst []float64, of func(*force.Foot) []float64) {
	if a.f.Whole != nil {
		copy(dst, of(a.f.Whole))
		return
	}
	lead, trail := of(a.f.Lead)[:len(dst)], of(a.f.Trail)[:len(dst)]
	for i := range dst {
		dst[i] = lead[i] + trail[i]
	}
}

// efforts adds the feet up.
func (a *analysis) efforts() {
	c := &a.out.Curves
	feet := a.f.Feet()
	if c.LateralN == nil || c.ForeAftN == nil {
		a.flag(NoHorizontal, "Horizontal forces were not recorded for every foot: there is no lateral or fore–aft effort.")
	}
	if c.LateralN != nil {
		a.both(c.LateralN, func(f *force.Foot) []float64 { return f.ToTargetN })
	}
	if c.ForeAftN != nil {
		a.both(c.ForeAftN, func(f *force.Foot) []float64 { return f.ToBallN })
	}
	if c.LeadShare != nil {
		lead := a.f.Lead.UpN
		for i, up := range c.VerticalN {
			c.LeadShare[i] = lead[i] / max(up, 1)
		}
	} else {
		a.flag(OnePlate, "One plate carried both feet: there is no share of the feet and no path of each.")
	}
	switch {
	case c.CoPToTargetM == nil:
	case a.f.Whole != nil:
		copy(c.CoPToTargetM, a.f.Whole.CoPToTargetM)
		copy(c.CoPToBallM, a.f.Whole.CoPToBallM)
	default:
		l, t := a.f.Lead, a.f.Trail
		for i, w := range c.LeadShare {
			c.CoPToTargetM[i] = w*l.CoPToTargetM[i] + (1-w)*t.CoPToTargetM[i]
			c.CoPToBallM[i] = w*l.CoPToBallM[i] + (1-w)*t.CoPToBallM[i]
		}
	}
	a.turn(c, feet)
}

// turn is the moment about the vertical: the feet's free moments and the couple
// of their horizontal forces about the combined centre of pressure, or about the
// point midway between the feet at address.
func (a *analysis) turn(c *Curves, feet []force.NamedFoot) {
	free := a.has(func(f *force.Foot) []float64 { return f.FreeMomentNm })
	couple := c.CoPToTargetM != nil && c.LateralN != nil && c.ForeAftN != nil
	if !couple && !(free && a.f.Whole != nil && a.s.About == AboutCombined) {
		c.TurnNm = nil
		a.flag(NoRotational, "The rotational effort needs horizontal forces and the centre of pressure of each foot: it is not computed.")
		return
	}
	if !free {
		a.flag(NoFreeMoments, "Free moments were not recorded: the rotational effort is the couple of the feet alone and reads low.")
	}
	var midTarget, midBall float64
	if a.s.About == AboutMidFoot {
		for _, f := range feet {
			midTarget += signal.LevelOf(f.CoPToTargetM, a.quiet.From, a.quiet.To).Mean / float64(len(feet))
			midBall += signal.LevelOf(f.CoPToBallM, a.quiet.From, a.quiet.To).Mean / float64(len(feet))
		}
	}
	if free {
		a.both(c.TurnNm, func(f *force.Foot) []float64 { return f.FreeMomentNm })
	} else {
		clear(c.TurnNm)
	}
	if !couple {
		return
	}
	for _, f := range feet {
		x, y, fx, fy := f.CoPToTargetM, f.CoPToBallM, f.ToTargetN, f.ToBallN
		if a.s.About == AboutMidFoot {
			for i := range c.TurnNm {
				c.TurnNm[i] += force.Turn(x[i]-midTarget, y[i]-midBall, fx[i], fy[i])
			}
			continue
		}
		for i := range c.TurnNm {
			c.TurnNm[i] += force.Turn(x[i]-c.CoPToTargetM[i], y[i]-c.CoPToBallM[i], fx[i], fy[i])
		}
	}
}
