package swing

import (
	"errors"
	"fmt"
	"math"

	"dunnock/internal/core/force"
	"dunnock/internal/core/signal"
)

// events places what is not given: address and takeaway by stillness, top by the
// turn coming to rest, transition by the lateral force changing sides, finish by
// stillness again.
func (a *analysis) events() error {
	o := a.out
	if top := a.givenTop(); top != nil {
		o.TopS = *top
		a.top = int(math.Round(a.r.Sample(*top)))
	} else {
		a.top = a.estimateTop()
		o.TopS, o.TopEstimated = a.r.Time(float64(a.top)), true
		a.flag(TopEstimated, "Top is an estimate: place it by hand for exact timing.")
	}
	if a.from = a.top; o.TopEstimated {
		a.from = max(1, min(a.top, a.impact-a.samples(longDownswingS)))
	}
	a.takeaway = a.findTakeaway()
	o.TakeawayS = a.r.Time(float64(a.takeaway))
	o.AddressS = a.r.Time(math.Max(0, float64(a.takeaway)-0.1*a.r.RateHz))
	a.finish = a.findFinish()
	o.FinishS = a.r.Time(float64(a.finish))
	o.DownswingS = o.ImpactS - o.TopS
	for _, e := range []struct {
		by *float64
		to *float64
		at *int
	}{{a.s.TakeawayS, &o.TakeawayS, &a.takeaway}, {a.s.AddressS, &o.AddressS, nil}, {a.s.FinishS, &o.FinishS, &a.finish}} {
		if e.by == nil {
			continue
		}
		*e.to = *e.by
		if e.at != nil {
			*e.at = int(math.Round(a.r.Sample(*e.by)))
		}
	}
	a.address = int(math.Round(a.r.Sample(o.AddressS)))
	end := a.r.Time(float64(a.n - 1))
	switch {
	case !(o.AddressS >= a.r.StartS) || !(o.FinishS <= end+a.dt/2):
		return fmt.Errorf("swing: events lie within the recording, from %g to %g s", a.r.StartS, end)
	case !(o.AddressS <= o.TakeawayS && o.TakeawayS < o.TopS && o.ImpactS <= o.FinishS):
		return errors.New("swing: events follow each other: address, takeaway, top, impact, finish")
	}
	return nil
}

// estimateTop takes the moment the angular impulse of the backswing has been
// taken back: the body then turns neither way. It is kept between 0.15 and 0.45 s
// before impact.
func (a *analysis) estimateTop() int {
	usual := max(1, a.impact-a.samples(usualDownswingS))
	turn := a.out.Curves.TurnNm
	if turn == nil {
		return usual
	}
	from := max(0, a.impact-a.samples(1.5))
	still := signal.LevelOf(turn, a.quiet.From, a.quiet.To).Mean
	sum, low := 0.0, 0.0
	for i := from; i < a.impact-a.samples(0.15); i++ {
		sum += (turn[i] - still) * a.dt
		if sum < low {
			low = sum
		}
		if i > a.impact-a.samples(0.45) && low < -0.5 && sum >= 0 {
			return max(1, i)
		}
	}
	return usual
}

// findTakeaway goes back from top to the last fifth of a second in which nothing
// stirs: neither the lateral force nor the turn nor the feet's share of the load.
func (a *analysis) findTakeaway() int {
	c := &a.out.Curves
	type still struct {
		y    []float64
		mean float64
		band float64
	}
	var watched [3]still
	k := 0
	for _, w := range []still{{c.LateralN, 0, 6}, {c.TurnNm, 0, 2}, {c.LeadShare, 0, 0.012}, {c.VerticalN, 0, 12}} {
		if w.y == nil || k == 3 {
			continue
		}
		l := signal.LevelOf(w.y, a.quiet.From, a.quiet.To)
		w.mean, w.band = l.Mean, max(5*l.SD, w.band)
		watched[k] = w
		k++
	}
	need, held := a.samples(0.2), 0
	for i := a.top - 1; i >= 0; i-- {
		calm := true
		for _, w := range watched[:k] {
			if math.Abs(w.y[i]-w.mean) > w.band {
				calm = false
				break
			}
		}
		if !calm {
			held = 0
		} else if held++; held >= need {
			return min(a.top-1, i+need)
		}
	}
	return max(0, a.top-a.samples(0.8))
}

// sameWeight holds the stance after the swing against the one before: the same
// person weighs the same, unless the plates' zero moved.
func (a *analysis) sameWeight() {
	up := a.out.Curves.VerticalN
	after, ok := signal.Quietest(up, a.impact+a.samples(0.3), a.n, a.samples(0.5), 0.7*a.bw, 1.3*a.bw)
	if ok && after.SD < 0.02*a.bw && math.Abs(after.Mean-a.bw) > 0.015*a.bw {
		a.flag(
			force.Drift,
			fmt.Sprintf(
				"The stance after the swing weighs %.0f N %s than the one before: the plates' zero drifts, forces are less sure.",
				math.Abs(after.Mean-a.bw),
				map[bool]string{true: "more", false: "less"}[after.Mean > a.bw],
			),
		)
	}
}

// findFinish is the first quarter of a second after impact near body weight, or
// the end.
func (a *analysis) findFinish() int {
	need, held := a.samples(0.25), 0
	for i := a.impact + a.samples(0.1); i < a.n; i++ {
		if math.Abs(a.out.Curves.VerticalN[i]-a.bw) > max(0.05*a.bw, 5*a.quiet.SD) {
			held = 0
		} else if held++; held >= need {
			return i - need + 1
		}
	}
	if a.n-a.impact < a.samples(0.3) {
		a.flag(EndsEarly, "The recording ends soon after impact: braking is not read.")
	}
	return a.n - 1
}
