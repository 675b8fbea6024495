package swing

import (
	"cmp"
	"math"
	"slices"

	"dunnock/internal/core/signal"
)

// peak finds the largest value of sign·y between two samples and where it
// stands, from the samples around it.
func (a *analysis) peak(y []float64, sign float64, from, to int) (value, place float64) {
	if sign == 1 {
		return a.summit(y, from, to)
	}
	for i := from; i <= to; i++ {
		a.spare[i] = sign * y[i]
	}
	return a.summit(a.spare, from, to)
}

// summit is peak on a signal as it is.
func (a *analysis) summit(y []float64, from, to int) (value, place float64) {
	best, low := from, y[from]
	high := low
	for i, v := range y[from : to+1] {
		if v > high {
			best, high = from+i, v
		}
		if v < low {
			low = v
		}
	}
	if best == from || best == to {
		return y[best], float64(best)
	}
	// The window goes down the flanks by a quarter of the height, so that broad
	// peaks are found from many samples and sharp ones are not flattened.
	limit := y[best] - 0.25*(y[best]-low)
	left, right := best, best
	for left > from && y[left-1] >= limit {
		left--
	}
	for right < to && y[right+1] >= limit {
		right++
	}
	half := min((right-left)/2, a.samples(0.05))
	middle := min(max((left+right)/2, best-half), best+half)
	if half < 3 || middle-half < from || middle+half > to {
		middle, half = best, min(best-from, to-best, half)
	}
	place, value = signal.Summit(y[from:to+1], middle-from, max(half, 1))
	return value, place + float64(from)
}

func (a *analysis) effort(value, place float64) Effort {
	before := a.out.ImpactS - a.r.Time(place)
	return Effort{
		Peak:              value,
		PeakPerBodyWeight: value / a.bw,
		PeakPerKg:         value / a.mass,
		TimeBeforeImpactS: before,
		DownswingPct:      100 * (a.out.DownswingS - before) / a.out.DownswingS,
	}
}

// peaks reads when and how large.
func (a *analysis) peaks() {
	o, c := a.out, &a.out.Curves
	type named struct {
		name string
		Effort
	}
	var found []named
	note := func(name string, value, place float64) *Effort {
		e := a.effort(value, place)
		found = append(found, named{name, e})
		if place <= float64(a.from) || place >= float64(a.impact) {
			a.flag(PeakAtEdge, "The largest "+name+" value stands at top or impact itself: its real peak may lie beyond.")
		}
		return &e
	}
	if c.LateralN != nil {
		value, place := a.peak(c.LateralN, 1, a.from, a.impact)
		o.Lateral = note("lateral", value, place)
		value, away := a.peak(c.LateralN, -1, min(a.takeaway, int(place)), int(place))
		e := a.effort(value, away)
		o.LateralAway = &e
		o.TransitionS = a.r.Time(a.transition(int(place)))
	} else {
		o.TransitionS = o.TopS
	}
	if a.s.TransitionS != nil {
		o.TransitionS = *a.s.TransitionS
	}
	if c.ForeAftN != nil {
		value, place := a.peak(c.ForeAftN, 1, a.from, a.impact)
		f := &ForeAft{ToBall: a.effort(value, place)}
		value, place = a.peak(c.ForeAftN, -1, a.from, a.impact)
		f.FromBall = a.effort(value, place)
		if f.Effort = f.ToBall; f.FromBall.Peak > f.ToBall.Peak {
			f.Effort = a.effort(-value, place)
		}
		o.ForeAft = f
	}
	if c.TurnNm != nil {
		value, place := a.peak(c.TurnNm, 1, a.from, a.impact)
		o.Rotational = note("rotational", value, place)
	}
	value, place := a.peak(c.VerticalN, 1, a.from, a.impact)
	o.Vertical = *note("vertical", value, place)
	slices.SortStableFunc(found, func(x, y named) int { return cmp.Compare(x.DownswingPct, y.DownswingPct) })
	for i, f := range found {
		o.Order = append(o.Order, f.name)
		if i > 0 {
			o.Gaps = append(o.Gaps, Gap{found[i-1].name, f.name, found[i-1].TimeBeforeImpactS - f.TimeBeforeImpactS})
		}
	}
}

// transition is where the lateral force last turns toward the target before its
// peak.
func (a *analysis) transition(peak int) float64 {
	y := a.out.Curves.LateralN
	for i := peak; i > max(a.takeaway, 1); i-- {
		if y[i] > 0 && y[i-1] <= 0 {
			return float64(i-1) + -y[i-1]/(y[i]-y[i-1])
		}
	}
	return float64(a.top)
}

// shape reads how it builds up.
func (a *analysis) shape() {
	o, up := a.out, a.out.Curves.VerticalN
	summit := int(a.r.Sample(o.ImpactS - o.Vertical.TimeBeforeImpactS))
	low := summit
	for i := max(a.takeaway, summit-a.samples(0.6), 0); i <= summit; i++ {
		if up[i] < up[low] {
			low = i
		}
	}
	o.UnweightingDepth = max(0, a.bw-up[low])
	o.UnweightingDepthPerBodyWeight = o.UnweightingDepth / a.bw
	w := max(1, a.samples(a.s.RateWindowS))
	from := min(low, max(0, a.impact-w-1))
	if rate, start, ok := signal.MaxRate(up[from:a.impact+1], w, a.dt); ok {
		o.MaxRfd = rate
		o.MaxRfdTimeBeforeImpactS = o.ImpactS - a.r.Time(float64(from+start)+float64(w)/2)
	}
	o.Humps = len(signal.Peaks(up[low:a.impact+1], humpShare*a.bw))
	for i := a.top; i <= a.impact; i++ {
		if up[i] > a.bw {
			o.TimeAboveBodyWeightS += a.dt
		}
	}
	c := &o.Curves
	integral := func(y []float64, level float64, from, to int) float64 {
		if y == nil {
			return 0
		}
		sum := 0.0
		for i := from; i < to; i++ {
			sum += (y[i]+y[i+1])/2 - level
		}
		return sum * a.dt
	}
	for _, s := range []struct {
		from, to string
		i, j     int
	}{{"takeaway", "top", a.takeaway, a.top}, {"top", "impact", a.top, a.impact}, {"impact", "finish", a.impact, a.finish}} {
		o.Impulses = append(o.Impulses, Impulse{
			From: s.from, To: s.to, DurationS: float64(s.j-s.i) * a.dt,
			LateralNs: integral(c.LateralN, 0, s.i, s.j), ForeAftNs: integral(c.ForeAftN, 0, s.i, s.j),
			VerticalNs: integral(up, a.bw, s.i, s.j), TurnNms: integral(c.TurnNm, 0, s.i, s.j),
		})
	}
}

// where reads how the feet share the load and how far pressure travels.
func (a *analysis) where() {
	o, c := a.out, &a.out.Curves
	if share := c.LeadShare; share != nil {
		mean := signal.LevelOf(share, a.quiet.From, a.quiet.To).Mean
		if a.s.AddressS != nil {
			mean = share[a.address]
		}
		at := func(place float64) *float64 {
			i := min(max(int(place), 0), a.n-2)
			v := share[i] + (share[i+1]-share[i])*(place-float64(i))
			return &v
		}
		o.LeadShareAtAddress = &mean
		o.LeadShareAtTop = at(a.r.Sample(o.TopS))
		o.LeadShareAtImpact = at(a.r.Sample(o.ImpactS))
		o.LeadShareAtVerticalPeak = at(a.r.Sample(o.ImpactS - o.Vertical.TimeBeforeImpactS))
	}
	for _, f := range a.f.Feet() {
		if f.Name == "total" {
			break
		}
		var out Foot
		value, place := a.peak(f.UpN, 1, a.top, a.impact)
		out.PeakUpN, out.PeakUpBeforeS = value, o.ImpactS-a.r.Time(place)
		if f.ToTargetN != nil {
			out.PeakToTargetN, _ = a.peak(f.ToTargetN, 1, a.top, a.impact)
		}
		out.VerticalImpulseNs = signal.Trapezoid(f.UpN[a.top:a.impact+1], a.dt)
		if f.CoPToTargetM != nil {
			out.PathToTargetM, out.PathToBallM = a.paths(f.CoPToTargetM, f.CoPToBallM, f.UpN)
		}
		if f.Name == "lead" {
			o.Lead = &out
		} else {
			o.Trail = &out
		}
	}
	if c.CoPToTargetM != nil {
		x, y := a.paths(c.CoPToTargetM, c.CoPToBallM, c.VerticalN)
		o.PathToTarget, o.PathToBall = &x, &y
	}
}

// paths is how far the centre of pressure goes along both axes between takeaway
// and finish, while there is a load.
func (a *analysis) paths(x, y, load []float64) (alongX, alongY float64) {
	least := 0.05 * a.bw
	lowX, highX, lowY, highY := math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)
	x, y = x[a.takeaway:a.finish+1], y[a.takeaway:a.finish+1]
	for i, v := range load[a.takeaway : a.finish+1] {
		if v <= least {
			continue
		}
		if v := x[i]; v < lowX {
			lowX = v
		}
		if v := x[i]; v > highX {
			highX = v
		}
		if v := y[i]; v < lowY {
			lowY = v
		}
		if v := y[i]; v > highY {
			highY = v
		}
	}
	return max(0, highX-lowX), max(0, highY-lowY)
}

// after reads the braking within 0.3 s of impact.
func (a *analysis) after() {
	to := min(a.n-1, a.impact+a.samples(0.3))
	if to-a.impact < a.samples(0.1) {
		return
	}
	c := &a.out.Curves
	b := &Braking{}
	if c.LateralN != nil {
		b.LateralAwayN, _ = a.peak(c.LateralN, -1, a.impact, to)
	}
	if c.TurnNm != nil {
		b.TurnBackNm, _ = a.peak(c.TurnNm, -1, a.impact, to)
	}
	low, place := a.peak(c.VerticalN, -1, a.impact, to)
	b.LowestUpN, b.LowestUpAfterS = -low, a.r.Time(place)-a.out.ImpactS
	if a.f.Lead != nil {
		b.LeadPeakUpN, _ = a.peak(a.f.Lead.UpN, 1, a.impact, to)
	}
	a.out.AfterImpact = b
}
