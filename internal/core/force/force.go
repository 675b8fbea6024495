// Package force holds recordings of ground force in the golfer's own frame: what
// every importer delivers and every analysis reads.
//
// The frame is named by meaning. toTarget points toward the target, toBall from
// heels to toes, up against gravity. Forces are those of the ground on the
// golfer: standing still, up is body weight. A moment about the vertical is
// positive when it turns the body toward the target. toTarget, toBall, up is a
// left-handed triple for golfers who play from the right side and a right-handed
// one for those who play from the left, so no moment is ever taken as a plain
// cross product: Turn is the one place that holds the sign.
//
// Files and devices are decoded elsewhere; here stand the frame, the check of
// time and gaps, and the zero of a plate. Jumps and swings have their own
// packages.
package force

import (
	"fmt"
	"math"
)

// G is standard gravity in m/s², exact by definition.
const G = 9.80665

// Side is the side a golfer plays from.
type Side string

// The two sides.
const (
	RightSided Side = "right"
	LeftSided  Side = "left"
)

// Foot is what was measured under one foot, or under both on one plate. A nil
// channel was not measured; the others have one length.
type Foot struct {
	ToTargetN, ToBallN, UpN []float64
	// CoPToTargetM and CoPToBallM are the centre of pressure in m in a floor frame
	// common to both feet. What they hold while the foot is in the air means
	// nothing.
	CoPToTargetM, CoPToBallM []float64
	// FreeMomentNm is the moment about the vertical through the foot's own centre
	// of pressure in N·m.
	FreeMomentNm []float64
}

// channels lists what a foot may have, in one order.
func (f *Foot) channels() [6]*[]float64 {
	return [6]*[]float64{&f.ToTargetN, &f.ToBallN, &f.UpN, &f.CoPToTargetM, &f.CoPToBallM, &f.FreeMomentNm}
}

// ChannelNames names the channels of a foot in the order of Each.
var ChannelNames = [6]string{"toTarget", "toBall", "up", "copToTarget", "copToBall", "freeMoment"}

// ChannelUnits are the units of ChannelNames.
var ChannelUnits = [6]string{"N", "N", "N", "m", "m", "N·m"}

// Recording is a trial as it was recorded, evenly sampled.
type Recording struct {
	RateHz float64
	StartS float64 // time of the first sample on the file's own clock
	// Lead and Trail are set together; Whole alone when one plate carried both.
	Lead, Trail, Whole *Foot
	ImpactS            *float64 // from a marker or trigger channel
	TopS               *float64
	Notes              []string // what was assumed or mended on the way in, in words
	// Flags says the same in a form programs read.
	Flags []Flag
}

// Flag is a doubt about a recording or a result.
type Flag string

// Doubts about a recording.
const (
	GapsFilled     Flag = "gapsFilled"     // up to MaxGap samples in a row were interpolated
	ChannelRefused Flag = "channelRefused" // a channel was left out: a gap too long
	Resampled      Flag = "resampled"      // times were uneven
	FeetAssumed    Flag = "feetAssumed"    // which plate stood under the lead foot is not said
	OnPlate        Flag = "forceOnPlate"   // the file held the force on the plate: turned round
	NoZero         Flag = "noUnloadedStretch"
	Drift          Flag = "drift"
	HumTaken       Flag = "humTakenOff" // mains hum was found in the stance and taken off
	ShortQuiet     Flag = "shortQuietStance"
	NoisyQuiet     Flag = "noisyQuietStance"
)

// Len is the number of samples.
func (r *Recording) Len() int {
	if f := r.first(); f != nil {
		return len(f.UpN)
	}
	return 0
}

// Time returns the time of sample i, which may lie between two, on the file's
// clock in s.
func (r *Recording) Time(i float64) float64 { return r.StartS + i/r.RateHz }

// Sample returns the place of a time, which may lie between two samples.
func (r *Recording) Sample(t float64) float64 { return (t - r.StartS) * r.RateHz }

func (r *Recording) first() *Foot {
	if r.Whole != nil {
		return r.Whole
	}
	return r.Lead
}

// Feet returns the plates of the recording with their names, lead first.
func (r *Recording) Feet() []NamedFoot {
	if r.Whole != nil {
		return []NamedFoot{{"total", r.Whole}}
	}
	return []NamedFoot{{"lead", r.Lead}, {"trail", r.Trail}}
}

// NamedFoot is a foot and what it is called: lead, trail or total.
type NamedFoot struct {
	Name string
	*Foot
}

// Channel is one measured signal of a foot.
type Channel struct {
	Foot, Name, Unit string
	Values           []float64
}

// Channels lists everything that was measured.
func (r *Recording) Channels() []Channel {
	var out []Channel
	for _, f := range r.Feet() {
		for k, c := range f.channels() {
			if *c != nil {
				out = append(out, Channel{f.Name, ChannelNames[k], ChannelUnits[k], *c})
			}
		}
	}
	return out
}

// Turn is the moment that a horizontal force on the golfer has about a vertical
// axis, positive when it turns the body toward the target. The arm is measured
// from the axis to the point the force acts at, in m; the result is in N·m. It
// holds for both sides a golfer plays from.
func Turn(armToTargetM, armToBallM, toTargetN, toBallN float64) float64 {
	return armToBallM*toTargetN - armToTargetM*toBallN
}

// MaxGap is the longest gap in samples that is interpolated.
const MaxGap = 3

// GapError is a gap too long to be filled.
type GapError struct {
	Sample  int // first missing sample
	Samples int
}

func (e *GapError) Error() string {
	return fmt.Sprintf("force: %d samples are missing from sample %d on; at most %d in a row are filled", e.Samples, e.Sample+1, MaxGap)
}

// FillGaps replaces runs of up to MaxGap NaNs by a straight line, the nearest
// value at the ends, in place. It returns how many samples it filled.
func FillGaps(x []float64) (filled int, err error) {
	for i := 0; i < len(x); i++ {
		if !math.IsNaN(x[i]) {
			continue
		}
		j := i
		for j < len(x) && math.IsNaN(x[j]) {
			j++
		}
		if j-i > MaxGap || j-i == len(x) {
			return filled, &GapError{Sample: i, Samples: j - i}
		}
		for k := i; k < j; k++ {
			switch {
			case i == 0:
				x[k] = x[j]
			case j == len(x):
				x[k] = x[i-1]
			default:
				x[k] = x[i-1] + (x[j]-x[i-1])*float64(k-i+1)/float64(j-i+1)
			}
		}
		filled += j - i
		i = j
	}
	return filled, nil
}

// TimeError says which sample's time does not follow the one before.
type TimeError struct {
	Sample int
	Text   string
}

func (e *TimeError) Error() string { return "force: " + e.Text }

// Clock is what a time column says.
type Clock struct {
	RateHz float64
	StartS float64
	Uneven bool
	// Missing lists samples the clock skips, as places in the even grid.
	Missing []Gap
}

// Gap is a run of missing samples.
type Gap struct{ Sample, Samples int }

// CheckTime reads a time column in s: it rises from sample to sample and skips
// no more than MaxGap of them.
func CheckTime(t []float64) (Clock, error) {
	if len(t) < 3 {
		return Clock{}, &TimeError{Sample: 0, Text: "fewer than three samples"}
	}
	for i := range t {
		if math.IsNaN(t[i]) || math.IsInf(t[i], 0) {
			return Clock{}, &TimeError{Sample: i, Text: "the time is missing"}
		}
		if i > 0 && t[i] == t[i-1] {
			return Clock{}, &TimeError{Sample: i, Text: fmt.Sprintf("the time %g s is repeated", t[i])}
		}
		if i > 0 && t[i] < t[i-1] {
			return Clock{}, &TimeError{Sample: i, Text: fmt.Sprintf("the time goes back from %g to %g s", t[i-1], t[i])}
		}
	}
	dt := median(t)
	c := Clock{StartS: t[0]}
	places := 0
	for i := 1; i < len(t); i++ {
		steps := max(1, int(math.Round((t[i]-t[i-1])/dt)))
		if steps > MaxGap+1 {
			return Clock{}, &TimeError{Sample: i, Text: fmt.Sprintf("%d samples are missing before %g s; at most %d in a row are filled", steps-1, t[i], MaxGap)}
		}
		if steps > 1 {
			c.Missing = append(c.Missing, Gap{places + 1, steps - 1})
		}
		places += steps
	}
	span := t[len(t)-1] - t[0]
	c.RateHz = float64(places) / span
	// A clock written in whole milliseconds says 1.00 for 0.9998: the nearest
	// whole rate is meant where the span allows it.
	if r := math.Round(c.RateHz); r > 0 && math.Abs(c.RateHz-r)*span < 0.6 {
		c.RateHz = r
	}
	at := 0
	g := 0
	for i := range t {
		if i > 0 {
			at++
			for g < len(c.Missing) && c.Missing[g].Sample == at {
				at += c.Missing[g].Samples
				g++
			}
		}
		if math.Abs(t[i]-t[0]-float64(at)/c.RateHz) > 0.75/c.RateHz {
			c.Uneven = true
			break
		}
	}
	return c, nil
}

// median returns the middle step of a rising column, of a thousand spread over
// it where it is long.
func median(t []float64) float64 {
	n := len(t) - 1
	stride := max(1, n/1000)
	steps := make([]float64, 0, n/stride+1)
	for i := 0; i < n; i += stride {
		steps = append(steps, t[i+1]-t[i])
	}
	// Insertion into order is short for a thousand.
	for i := 1; i < len(steps); i++ {
		for j := i; j > 0 && steps[j] < steps[j-1]; j-- {
			steps[j], steps[j-1] = steps[j-1], steps[j]
		}
	}
	return steps[len(steps)/2]
}

// Place is where a row of the file stands on the even grid.
func (c Clock) Place(row int) int {
	for _, g := range c.Missing {
		if g.Sample <= row {
			row += g.Samples
		}
	}
	return row
}

// Spread puts the values of a column whose clock skips samples or runs unevenly
// onto an even grid: skipped samples as NaN, uneven ones by a straight line
// between their neighbours.
func (c Clock) Spread(t, x []float64) []float64 {
	if !c.Uneven && len(c.Missing) == 0 {
		return x
	}
	if !c.Uneven {
		out := make([]float64, 0, len(x)+MaxGap*len(c.Missing))
		g := 0
		for _, v := range x {
			for g < len(c.Missing) && c.Missing[g].Sample == len(out) {
				for range c.Missing[g].Samples {
					out = append(out, math.NaN())
				}
				g++
			}
			out = append(out, v)
		}
		return out
	}
	n := int((t[len(t)-1]-t[0])*c.RateHz+1e-6) + 1
	out := make([]float64, n)
	k := 0
	for i := range out {
		at := t[0] + float64(i)/c.RateHz
		for k+2 < len(t) && t[k+1] < at {
			k++
		}
		out[i] = x[k] + (x[k+1]-x[k])*min(1, max(0, (at-t[k])/(t[k+1]-t[k])))
	}
	return out
}
