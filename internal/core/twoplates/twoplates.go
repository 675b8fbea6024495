// Package twoplates is a forward model of a golfer on two force plates: it makes
// recordings of jumps and swings whose truth is known. The stand-in plates
// stream them and the tests of the analyses must find the truth in them. It is
// no model of how people move: its shapes are smooth and are chosen so that
// every number has a closed form or can be found to any precision.
package twoplates

import (
	"math"

	"dunnock/internal/core/force"
)

// Noise is what stands between the golfer and the file.
type Noise struct {
	// SDN is white noise on every force channel in N; moments get a tenth of it
	// in N·m.
	SDN float64
	// OffsetN stands on both vertical channels from the start, DriftNps is how
	// fast it grows.
	OffsetN, DriftNps float64
	// HumN is the amplitude of mains hum on the vertical channels, at HumHz (50
	// when 0).
	HumN, HumHz float64
	// Normal returns standard normal numbers. Nil means none.
	Normal func() float64
}

func (n Noise) add(r *force.Recording) {
	normal := n.Normal
	if normal == nil {
		normal = func() float64 { return 0 }
	}
	hz := n.HumHz
	if hz == 0 {
		hz = 50
	}
	for k, f := range r.Feet() {
		for i := range f.UpN {
			t := float64(i) / r.RateHz
			f.UpN[i] += n.OffsetN + n.DriftNps*t + n.HumN*math.Sin(2*math.Pi*hz*t+float64(k)) + n.SDN*normal()
			if f.ToTargetN == nil {
				continue
			}
			f.ToTargetN[i] += n.SDN * normal()
			f.ToBallN[i] += n.SDN * normal()
			moment := n.SDN / 10
			f.FreeMomentNm[i] += moment * normal()
			arm := max(f.UpN[i], 20)
			f.CoPToTargetM[i] += moment / arm * normal()
			f.CoPToBallM[i] += moment / arm * normal()
		}
	}
}

// Jump is a jump to be made. The net force from the start of the movement is a
// half sine down (DipN over DipS), a half sine up over PushS whose size follows
// from the height, and a straight fall to nothing over EndS.
type Jump struct {
	MassKg, HeightM, RateHz float64
	DipN, DipS              float64 // DipN 0: a squat jump from a held crouch
	PushS, EndS             float64
	QuietS, AfterS          float64 // stance before and after
	LandS                   float64 // how long the landing takes
	LeadShare               float64 // of every force
	// FalseStart adds a dip that is broken off before the jump; StepOff a long
	// time off the plates after it.
	FalseStart, StepOff bool
	ShiftS              float64 // moves the movement between samples
}

// Usual is a countermovement jump of 80 kg and 35 cm.
func Usual() Jump {
	return Jump{MassKg: 80, HeightM: 0.35, RateHz: 1000, DipN: 450, DipS: 0.40, PushS: 0.42, EndS: 0.04, QuietS: 1.5, AfterS: 1.2, LandS: 0.35, LeadShare: 0.5}
}

// JumpTruth is what the model knows of its jump. Times are on the recording's
// clock.
type JumpTruth struct {
	MassKg, HeightM, TakeoffVelocityMps                         float64
	OnsetS, BrakingStartS, PropulsionStartS, TakeoffS, LandingS float64
	DepthM, PeakForceN, PeakPowerW, MeanPropulsivePowerW        float64
	BrakingRfdNps, RsiModified, LeadSharePct, TimeToTakeoffS    float64
	// BrakingNs is also what unweighting took, the other way round.
	BrakingNs, PropulsiveNs, ForceAtLowestN, LandingPeakN, FlightTimeS float64
}

// push returns the size of the push that gives the take-off velocity.
func (j Jump) push(v float64) float64 {
	return (j.MassKg*v + 2*j.DipN*j.DipS/math.Pi + j.MassKg*force.G*j.EndS/2) * math.Pi / (2 * j.PushS)
}

// Make returns the recording and its truth.
func (j Jump) Make(n Noise) (*force.Recording, JumpTruth) {
	v := math.Sqrt(2 * force.G * j.HeightM)
	a2 := j.push(v)
	w := j.MassKg * force.G
	dip := j.DipS
	if j.DipN == 0 {
		dip = 0
	}
	moved := dip + j.PushS + j.EndS
	flight := 2 * v / force.G
	land := j.MassKg * v * math.Pi / (2 * j.LandS)
	lead := 0.0
	if j.FalseStart {
		lead = 1.1 // a broken start of 0.5 s and stillness after it
	}
	start := j.QuietS + lead + j.ShiftS
	net := func(u float64) float64 { // force less weight, u from the start of the movement
		switch {
		case u < -lead+0.5 && u > -lead && j.FalseStart:
			return -0.3 * w * math.Sin(2*math.Pi*(u+lead)/0.5)
		case u < 0:
			return 0
		case u < dip:
			return -j.DipN * math.Sin(math.Pi*u/dip)
		case u < dip+j.PushS:
			return a2 * math.Sin(math.Pi*(u-dip)/j.PushS)
		case u < moved:
			return -w * (u - dip - j.PushS) / j.EndS
		case u < moved+flight:
			return -w
		case u < moved+flight+j.LandS:
			return land * math.Sin(math.Pi*(u-moved-flight)/j.LandS)
		}
		if after := u - moved - flight - j.LandS - j.AfterS; j.StepOff && after > 0 && after < 0.9 {
			return -w
		}
		return 0
	}
	total := start + moved + flight + j.LandS + j.AfterS
	if j.StepOff {
		total += 1.6
	}
	count := int(total * j.RateHz)
	r := &force.Recording{RateHz: j.RateHz, Lead: &force.Foot{UpN: make([]float64, count)}, Trail: &force.Foot{UpN: make([]float64, count)}}
	for i := range count {
		f := w + net(float64(i)/j.RateHz-start)
		r.Lead.UpN[i], r.Trail.UpN[i] = j.LeadShare*f, (1-j.LeadShare)*f
	}
	n.add(r)
	return r, j.truth(v, a2, dip, moved, flight, start, net)
}

// truth integrates the clean force at a tenth of a millisecond for what has no
// short closed form.
func (j Jump) truth(v, a2, dip, moved, flight, start float64, net func(float64) float64) JumpTruth {
	w := j.MassKg * force.G
	t := JumpTruth{
		MassKg:             j.MassKg,
		HeightM:            j.HeightM,
		TakeoffVelocityMps: v,
		OnsetS:             start,
		BrakingStartS:      start + dip,
		TakeoffS:           start + moved,
		LandingS:           start + moved + flight,
		LeadSharePct:       100 * j.LeadShare,
		TimeToTakeoffS:     moved,
	}
	t.RsiModified = t.HeightM / moved
	lowest := -2 * j.DipN * j.DipS / (math.Pi * j.MassKg) // velocity at the end of the dip
	zero := dip + j.PushS/math.Pi*math.Acos(1+lowest*math.Pi*j.MassKg/(a2*j.PushS))
	if dip == 0 {
		zero = 0
	}
	t.PropulsionStartS = start + zero
	t.BrakingNs, t.PropulsiveNs, t.FlightTimeS = 2*j.DipN*j.DipS/math.Pi, j.MassKg*v, flight
	t.ForceAtLowestN, t.LandingPeakN = w+net(zero), w+j.MassKg*v*math.Pi/(2*j.LandS)
	if dip > 0 {
		t.BrakingRfdNps = net(zero) / (zero - dip)
	}
	const dt = 1e-4
	speed, place, work, pushed := 0.0, 0.0, 0.0, 0.0
	for u := dt / 2; u < moved; u += dt {
		a := net(u) / j.MassKg
		speed += a * dt
		place += (speed - a*dt/2) * dt
		f := w + net(u)
		if u < zero {
			t.DepthM = place
		} else {
			work += f * (speed - a*dt/2) * dt
			pushed += dt
		}
		t.PeakPowerW = max(t.PeakPowerW, f*speed)
		t.PeakForceN = max(t.PeakForceN, f)
	}
	t.MeanPropulsivePowerW = work / pushed
	return t
}

// Peak is a bump of a signal: its size, how long before impact it stands, and
// how wide it is on its two sides, as standard deviations in s.
type Peak struct{ Size, BeforeS, RiseS, FallS float64 }

func (p Peak) at(t float64) float64 {
	d := t + p.BeforeS
	s := p.RiseS
	if d > 0 {
		s = p.FallS
	}
	return p.Size * math.Exp(-d*d/(2*s*s))
}

func sum(ps []Peak, t float64) float64 {
	v := 0.0
	for _, p := range ps {
		v += p.at(t)
	}
	return v
}

// Swing is a swing to be made. Lateral and foreAft are in N, Vertical in N above
// body weight, Turn in N·m about the combined centre of pressure. Times of peaks
// count back from impact.
type Swing struct {
	MassKg, RateHz                   float64
	ImpactS, TopBeforeS, TakeawayS   float64 // TakeawayS before impact
	LengthS                          float64
	Lateral, ForeAft, Vertical, Turn []Peak
	// Lead shares of the vertical force.
	ShareAddress, ShareTop, ShareImpact float64
	StanceM                             float64 // between the feet
	EmptyS                              float64 // unloaded plates before the golfer steps on
}

// UsualSwing is a swing of 80 kg whose peaks follow each other lateral,
// rotational, vertical.
func UsualSwing() Swing { return SwingOf(80, 150, 55, 520, 0.140, 0.105, 0.070, 0.035) }

// SwingOf makes a swing of a mass with given peaks: the lateral and vertical one
// in N, the turning one in N·m, how long before impact they stand, and how wide
// they are, as a standard deviation in s.
func SwingOf(massKg, lateral, turn, vertical, lateralS, turnS, verticalS, width float64) Swing {
	w := massKg * force.G
	return Swing{
		MassKg: massKg, RateHz: 1000, ImpactS: 2.6, TopBeforeS: 0.28, TakeawayS: 1.05, LengthS: 4,
		Lateral:      []Peak{{-0.45 * lateral, 0.62, 0.10, 0.10}, {lateral, lateralS, width, width * 1.15}, {-0.5 * lateral, -0.12, 0.05, 0.08}},
		Turn:         []Peak{{-0.5 * turn, 0.80, 0.09, 0.12}, {turn, turnS, width * 1.1, width}, {-0.6 * turn, -0.10, 0.05, 0.09}},
		Vertical:     []Peak{{0.08 * w, 0.70, 0.10, 0.10}, {-0.18 * w, 0.34, 0.05, 0.04}, {vertical, verticalS, width, width}, {-0.30 * w, -0.10, 0.04, 0.07}},
		ForeAft:      []Peak{{-25, 0.30, 0.10, 0.10}, {40, 0.09, 0.04, 0.05}},
		ShareAddress: 0.5, ShareTop: 0.28, ShareImpact: 0.80, StanceM: 0.46,
	}
}

// SwingTruth is what the model knows of its swing.
type SwingTruth struct {
	MassKg, ImpactS, TopS, TakeawayS                                          float64
	LateralN, LateralBeforeS, TurnNm, TurnBeforeS, VerticalN, VerticalBeforeS float64
	AwayN, AwayBeforeS                                                        float64
	ForeAftN, MaxRfdNps, MaxRfdBeforeS, UnweightingN, AboveWeightS, BrakingN  float64
	LateralNs, TurnNms, VerticalNs                                            float64 // top to impact, the vertical one above body weight
	ShareVerticalPeak                                                         float64
	LeadPathM, TrailPathM                                                     float64 // along the foot
	Order                                                                     []string
	ShareAddress, ShareTop, ShareImpact                                       float64
}

// Make returns the recording and its truth.
func (s Swing) Make(n Noise) (*force.Recording, SwingTruth) {
	count := int((s.EmptyS + s.LengthS) * s.RateHz)
	slab := make([]float64, 12*count)
	take := func() []float64 { p := slab[:count:count]; slab = slab[count:]; return p }
	foot := func() *force.Foot {
		return &force.Foot{ToTargetN: take(), ToBallN: take(), UpN: take(), CoPToTargetM: take(), CoPToBallM: take(), FreeMomentNm: take()}
	}
	impact := s.EmptyS + s.ImpactS
	r := &force.Recording{RateHz: s.RateHz, Lead: foot(), Trail: foot(), ImpactS: &impact}
	for i := range count {
		at := float64(i) / s.RateHz
		if at < s.EmptyS {
			continue
		}
		s.sample(r, i, at-impact)
	}
	n.add(r)
	return r, s.truth(impact)
}

// sample writes one sample, t from impact.
func (s Swing) sample(r *force.Recording, i int, t float64) {
	w := s.MassKg * force.G
	up, share := w+sum(s.Vertical, t), s.share(t)
	lateral, fore, turn := sum(s.Lateral, t), sum(s.ForeAft, t), sum(s.Turn, t)
	l, q := r.Lead, r.Trail
	l.UpN[i], q.UpN[i] = share*up, (1-share)*up
	l.ToTargetN[i], q.ToTargetN[i] = 0.5*lateral, 0.5*lateral
	sway := math.Exp(-(t+0.3)*(t+0.3)/0.18) * 0.02
	l.CoPToTargetM[i], q.CoPToTargetM[i] = s.StanceM/2+sway/2, -s.StanceM/2+sway
	l.CoPToBallM[i], q.CoPToBallM[i] = 0.03-2*sway, 0.02+sway
	l.FreeMomentNm[i], q.FreeMomentNm[i] = 0.12*turn, 0.18*turn
	// The couple of the feet's fore–aft forces brings the rest of the moment about
	// the combined centre of pressure.
	cx := share*l.CoPToTargetM[i] + (1-share)*q.CoPToTargetM[i]
	cy := share*l.CoPToBallM[i] + (1-share)*q.CoPToBallM[i]
	l.ToBallN[i], q.ToBallN[i] = fore/2, fore/2
	have := 0.30 * turn
	for _, f := range []*force.Foot{l, q} {
		have += force.Turn(f.CoPToTargetM[i]-cx, f.CoPToBallM[i]-cy, f.ToTargetN[i], f.ToBallN[i])
	}
	couple := (turn - have) / (l.CoPToTargetM[i] - q.CoPToTargetM[i])
	l.ToBallN[i] -= couple
	q.ToBallN[i] += couple
}

// share goes smoothly from address over top to impact.
func (s Swing) share(t float64) float64 {
	smooth := func(from, to, u float64) float64 {
		u = min(1, max(0, u))
		return from + (to-from)*u*u*(3-2*u)
	}
	if t < -s.TopBeforeS {
		return smooth(s.ShareAddress, s.ShareTop, (t+s.TakeawayS)/(s.TakeawayS-s.TopBeforeS))
	}
	return smooth(s.ShareTop, s.ShareImpact, (t+s.TopBeforeS)/s.TopBeforeS)
}

func (s Swing) truth(impact float64) SwingTruth {
	w := s.MassKg * force.G
	t := SwingTruth{
		MassKg:       s.MassKg,
		ImpactS:      impact,
		TopS:         impact - s.TopBeforeS,
		TakeawayS:    impact - s.TakeawayS,
		ShareAddress: s.ShareAddress,
		ShareTop:     s.ShareTop,
		ShareImpact:  s.ShareImpact,
	}
	largest := func(f func(float64) float64, from, to float64) (size, before float64) {
		size = math.Inf(-1)
		for _, step := range []float64{1e-3, 1e-5} { // coarse, then fine about what it found
			for u := from; u <= to; u += step {
				if v := f(u); v > size {
					size, before = v, -u
				}
			}
			from, to = max(from, -before-1e-3), min(to, -before+1e-3)
		}
		return size, before
	}
	t.LateralN, t.LateralBeforeS = largest(func(u float64) float64 { return sum(s.Lateral, u) }, -s.TopBeforeS, 0)
	t.TurnNm, t.TurnBeforeS = largest(func(u float64) float64 { return sum(s.Turn, u) }, -s.TopBeforeS, 0)
	t.VerticalN, t.VerticalBeforeS = largest(func(u float64) float64 { return w + sum(s.Vertical, u) }, -s.TopBeforeS, 0)
	t.AwayN, t.AwayBeforeS = largest(func(u float64) float64 { return -sum(s.Lateral, u) }, -s.TakeawayS, -t.LateralBeforeS)
	s.builds(&t)
	t.Order = []string{"lateral", "rotational", "vertical"}
	at := map[string]float64{"lateral": t.LateralBeforeS, "rotational": t.TurnBeforeS, "vertical": t.VerticalBeforeS}
	for i := range t.Order {
		for j := i; j > 0 && at[t.Order[j]] > at[t.Order[j-1]]; j-- {
			t.Order[j], t.Order[j-1] = t.Order[j-1], t.Order[j]
		}
	}
	return t
}

// builds adds what the clean swing comes to between its events, on a grid of a
// tenth of a millisecond.
func (s Swing) builds(t *SwingTruth) {
	const dt, window = 1e-4, 0.02
	w := s.MassKg * force.G
	up := func(u float64) float64 { return w + sum(s.Vertical, u) }
	for u := -s.TopBeforeS; u < 0; u += dt {
		t.LateralNs += sum(s.Lateral, u+dt/2) * dt
		t.TurnNms += sum(s.Turn, u+dt/2) * dt
		t.VerticalNs += (up(u+dt/2) - w) * dt
		if up(u) > w {
			t.AboveWeightS += dt
		}
		t.ForeAftN = max(t.ForeAftN, sum(s.ForeAft, u))
	}
	low := -t.VerticalBeforeS
	for u := max(-s.TakeawayS, low-0.6); u < -t.VerticalBeforeS; u += dt {
		if up(u) < up(low) {
			low = u
		}
	}
	t.UnweightingN = max(0, w-up(low))
	for u := low; u+window <= 0; u += dt {
		if r := (up(u+window) - up(u)) / window; r > t.MaxRfdNps {
			t.MaxRfdNps, t.MaxRfdBeforeS = r, -(u + window/2)
		}
	}
	for u := 0.0; u < 0.3; u += dt {
		t.BrakingN = max(t.BrakingN, -sum(s.Lateral, u))
	}
	t.ShareVerticalPeak = s.share(-t.VerticalBeforeS)
	// The sway of the model's path: 0.02 at its largest, from nothing at rest.
	t.LeadPathM, t.TrailPathM = 0.04, 0.02
}
