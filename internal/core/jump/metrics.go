package jump

import (
	"fmt"
	"math"
	"slices"

	"dunnock/internal/core/force"
	"dunnock/internal/core/signal"
)

// metrics reads phases and numbers of the jump whose flight is u.
func (a *analysis) metrics(u run, onset int) {
	o := a.out
	off := u.from
	a.motion(onset, min(u.to, a.n-1))
	t := func(at float64) *float64 { return ptr(a.r.Time(at)) }
	o.OnsetS, o.TakeoffS = t(float64(onset)), t(float64(off))

	peak := onset
	for i := onset; i <= off; i++ {
		if a.up[i] > a.up[peak] {
			peak = i
		}
	}
	dip := 0.0
	for i := onset; i <= peak; i++ {
		dip = max(dip, (a.bw-a.up[i])/a.bw)
	}
	o.DipShareOfWeight = ptr(dip)
	switch {
	case o.Kind == Auto && dip > MaxDip:
		o.Kind = Countermovement
	case o.Kind == Auto:
		o.Kind = Squat
	case o.Kind == Squat && dip > MaxDip:
		a.flag(HiddenCountermovement, fmt.Sprintf("No squat jump: force dips by %.0f%% of body weight before the push.", 100*dip))
	}

	push := float64(onset)
	if o.Kind == Countermovement || dip > MaxDip {
		low := onset
		for i := onset; i <= off; i++ {
			if a.v[i] < a.v[low] {
				low = i
			}
		}
		turn := low
		for turn < off && a.v[turn+1] < 0 {
			turn++
		}
		push = float64(turn)
		if turn < off && a.v[turn+1] > a.v[turn] {
			push += min(1, max(0, -a.v[turn]/(a.v[turn+1]-a.v[turn])))
		}
		// Velocity is lowest where force crosses body weight.
		brake := float64(low)
		if k := low; k > 0 && k < off && a.up[k] != a.up[k-1] && (a.up[k]-a.bw)*(a.up[k-1]-a.bw) < 0 {
			brake = float64(k-1) + (a.bw-a.up[k-1])/(a.up[k]-a.up[k-1])
		} else if (a.up[k]-a.bw)*(a.up[k+1]-a.bw) < 0 {
			brake = float64(k) + (a.bw-a.up[k])/(a.up[k+1]-a.up[k])
		}
		o.BrakingStartS = t(brake)
		o.UnweightingImpulseNs = ptr(impulse(a.up, a.bw, float64(onset), brake, a.dt))
		o.BrakingImpulseNs = ptr(impulse(a.up, a.bw, brake, push, a.dt))
		at := between(a.up, push)
		o.ForceAtLowestN = ptr(at)
		if push-brake > 1 {
			o.BrakingRfdNps = ptr((at - a.bw) / ((push - brake) * a.dt))
		}
		o.CountermovementDepthM = ptr(between(a.x, push))
		a.limbs(brake, push, float64(off))
	} else {
		a.limbs(push, push, float64(off))
	}
	o.PropulsionStartS = t(push)
	o.PropulsiveImpulseNs = ptr(impulse(a.up, a.bw, push, float64(off), a.dt))

	v := a.v[off]
	o.TakeoffVelocityMps, o.JumpHeightM = ptr(v), ptr(HeightFromSpeed(v))
	o.TimeToTakeoffS = ptr(float64(off-onset) * a.dt)
	o.RsiModified = ptr(*o.JumpHeightM / *o.TimeToTakeoffS)
	a.power(push, off)

	top := 0.0
	for i := int(math.Ceil(push)); i <= off; i++ {
		top = max(top, a.up[i])
	}
	o.PeakPropulsiveForceN = ptr(top)
	a.flightAndLanding(u)
	a.doubts(u)
}

// motion integrates net force from onset on: velocity and position of the
// centre of mass, both 0 at the onset.
func (a *analysis) motion(from, to int) {
	for i := from + 1; i <= to; i++ {
		a.v[i] = a.v[i-1] + ((a.up[i-1]+a.up[i])/2-a.bw)*a.dt/a.mass
		a.x[i] = a.x[i-1] + (a.v[i-1]+a.v[i])/2*a.dt
	}
}

// power is force times velocity over the propulsion, and the work done on the
// centre of mass from onset to take-off.
func (a *analysis) power(push float64, off int) {
	first := int(math.Ceil(push))
	peak := 0.0
	sum := a.up[first] * a.v[first] / 2 * (float64(first) - push) // from velocity 0
	for i := first; i <= off; i++ {
		p := a.up[i] * a.v[i]
		peak = max(peak, p)
		if i < off {
			sum += (p + a.up[i+1]*a.v[i+1]) / 2
		}
	}
	o := a.out
	o.PeakPowerW, o.PeakPowerWPerKg = ptr(peak), ptr(peak/a.mass)
	if float64(off) > push {
		o.MeanPropulsivePowerW = ptr(sum / (float64(off) - push))
	}
	work := 0.0
	for i := off - 1; i >= 0 && (a.v[i] != 0 || a.v[i+1] != 0); i-- {
		work += ((a.up[i]-a.bw)*a.v[i] + (a.up[i+1]-a.bw)*a.v[i+1]) / 2 * a.dt
	}
	o.WorkOnCentreOfMassJ = ptr(work)
}

// limbs shares the push between the feet.
func (a *analysis) limbs(brake, push, off float64) {
	if a.feet[0] == nil {
		return
	}
	var l [2]Limb
	for i, y := range a.feet {
		l[i].PropulsiveImpulseNs = impulse(y, 0, push, off, a.dt)
		l[i].BrakingImpulseNs = impulse(y, 0, brake, push, a.dt)
		for k := int(math.Ceil(push)); k <= int(off); k++ {
			l[i].PeakForceN = max(l[i].PeakForceN, y[k])
		}
	}
	sum := l[0].PropulsiveImpulseNs + l[1].PropulsiveImpulseNs
	for i := range l {
		l[i].PropulsiveSharePct = 100 * l[i].PropulsiveImpulseNs / sum
	}
	a.out.Lead, a.out.Trail = &l[0], &l[1]
	a.out.SideDifferencePct = difference(l[0].PropulsiveImpulseNs, l[1].PropulsiveImpulseNs)
}

// difference is 100·(lead − trail) over the larger of the two.
func difference(lead, trail float64) *float64 {
	if larger := max(lead, trail); larger > 0 {
		return ptr(100 * (lead - trail) / larger)
	}
	return nil
}

func (a *analysis) flightAndLanding(u run) {
	o := a.out
	if !u.landed {
		a.flag(NoLanding, "The recording ends before the landing.")
		return
	}
	o.LandingS = ptr(a.r.Time(float64(u.to)))
	flight := a.length(u)
	h := G * flight * flight / 8
	o.FlightTimeS, o.FlightHeightM, o.HeightDifferenceM = ptr(flight), ptr(h), ptr(h-*o.JumpHeightM)
	if d := math.Abs(h - *o.JumpHeightM); d > max(0.04, 0.15**o.JumpHeightM) {
		a.flag(HeightsDisagree, fmt.Sprintf("Height by flight time and by take-off speed differ by %.0f cm: the landing was crouched, or body weight is off.", 100*d))
	}
	end := min(a.n, u.to+a.samples(0.5))
	peak := func(y []float64) float64 {
		top := 0.0
		for _, v := range y[u.to:end] {
			top = max(top, v)
		}
		return top
	}
	top := peak(a.up)
	o.LandingPeakN, o.LandingPeakPerWeight = ptr(top), ptr(top/a.bw)
	if o.Lead != nil {
		o.Lead.LandingPeakN, o.Trail.LandingPeakN = peak(a.feet[0]), peak(a.feet[1])
		o.LandingDifferencePct = difference(o.Lead.LandingPeakN, o.Trail.LandingPeakN)
	}
	for i := range a.runs {
		if next := a.runs[i]; next.from >= u.to && float64(next.from-u.to)*a.dt < 0.6 && next.landed {
			a.flag(DoubleContact, "The feet left the plate again right after the landing.")
		}
	}
}

// doubts looks for a zero that moved.
func (a *analysis) doubts(u run) {
	// The unloaded plate in the first and second half of the flight.
	mid := (u.level.From + u.level.To) / 2
	first, second := signal.LevelOf(a.raw, u.level.From, mid), signal.LevelOf(a.raw, mid, u.level.To)
	halves := math.Abs(second.Mean - first.Mean)
	noise := 5 * u.level.SD / math.Sqrt(max(1, float64(mid-u.level.From)))
	moved := halves > max(3, noise) && u.level.SD < 12
	if moved && !slices.Contains(a.out.Flags, force.Drift) {
		a.flag(force.Drift, "The plate's zero moved during the recording: one offset is not enough, numbers are less sure.")
	}
}
