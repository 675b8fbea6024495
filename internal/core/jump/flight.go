package jump

import (
	"errors"
	"fmt"
	"math"

	"dunnock/internal/core/signal"
)

// findRuns finds the stretches with little load: within a quarter of the way from
// the lowest level to the stance, for a plate's zero may be far off; level, and at
// least 80 ms long. Their edges are where the force passes the
// unloaded plate's own level by five times its noise; take-off is followed on to that level.
func (a *analysis) findRuns() {
	if a.low > 0.4*a.stance.Mean {
		return // the plates were never empty
	}
	limit := a.low + 0.25*(a.stance.Mean-a.low)
	for i := 0; i < a.n; {
		if a.raw[i] >= limit {
			i++
			continue
		}
		j := i
		above := 0
		end := i
		for j < a.n && above < 5 {
			if a.raw[j] >= limit {
				above++
			} else {
				above, end = 0, j+1
			}
			j++
		}
		if u, ok := a.unloaded(i, end); ok {
			a.runs = append(a.runs, u)
		}
		i = max(end, i+1)
	}
}

func (a *analysis) unloaded(from, to int) (run, bool) {
	if float64(to-from)*a.dt < 0.08 {
		return run{}, false
	}
	trim := max((to-from)/5, min(a.samples(0.015), (to-from)/3))
	l := signal.LevelOf(a.raw, from+trim, to-trim)
	if l.Mean > a.low+0.15*(a.stance.Mean-a.low) || l.SD > max(12, 0.03*a.stance.Mean, 1.5*a.stance.SD) {
		return run{}, false
	}
	u := run{level: l, threshold: l.Mean + max(5*l.SD, 5), from: from + trim, to: to - trim}
	for u.from > 0 && a.raw[u.from-1] < u.threshold {
		u.from--
	}
	for u.to < a.n && a.raw[u.to] < u.threshold {
		u.to++
	}
	u.landed = u.to < a.n
	u.from = a.touchesZero(u)
	return u, true
}

// touchesZero follows the take-off from its threshold to where the force reaches
// the unloaded level, along the line through the last 10 ms before: with noise
// the threshold is passed a millisecond or two early.
func (a *analysis) touchesZero(u run) int {
	n := a.samples(0.01)
	if n < 3 || u.from < n {
		return u.from
	}
	var sy, sxy, sxx float64
	mid := float64(n-1) / 2
	for k := range n {
		x := float64(k) - mid
		y := a.raw[u.from-n+k]
		sy += y
		sxy += x * y
		sxx += x * x
	}
	slope, mean := sxy/sxx, sy/float64(n)
	place := float64(u.from-n) + mid + (u.level.Mean-mean)/slope
	if k := int(math.Round(place)); k > u.from && k <= u.from+a.samples(0.005) && k < u.to {
		return k
	}
	return u.from
}

// byHand puts events that were placed by hand in the place of those found, and
// finds the onset where it was not.
func (a *analysis) byHand(u run) (run, int, error) {
	place := func(t *float64, to *int) {
		if t != nil {
			*to = int(math.Round(a.r.Sample(*t)))
		}
	}
	place(a.s.TakeoffS, &u.from)
	place(a.s.LandingS, &u.to)
	u.landed = u.landed || a.s.LandingS != nil
	if u.from < 2 || u.from >= u.to || u.to > a.n-1 && u.landed {
		return u, 0, errors.New("jump: take-off and landing follow each other within the recording")
	}
	onset := 0
	if a.s.OnsetS == nil {
		onset = a.begin(u.from)
	} else if place(a.s.OnsetS, &onset); onset < 0 || onset >= u.from-1 {
		return u, 0, errors.New("jump: the onset lies in the recording, before take-off")
	}
	return u, onset, nil
}

// flight chooses the run that is the jump's flight: the fastest take-off whose
// speed agrees with the time in the air. −1 when there is none.
func (a *analysis) flight() int {
	best, stepped, jumps := -1, false, 0
	for i := range a.runs {
		u := &a.runs[i]
		start := 0
		if i > 0 {
			start = a.runs[i-1].to
		}
		u.stance, u.still = a.still(start, u.from)
		q := u.stance
		if !u.still {
			q = a.stance
			q.To = max(start, u.from-a.samples(1.5))
		}
		weight := q.Mean - u.level.Mean
		sum := 0.0
		for k := q.To; k < u.from; k++ {
			sum += a.raw[k] - u.level.Mean - weight
		}
		u.velocity = sum * a.dt * G / weight
		byTime := G * a.length(*u) / 2
		plausible := u.velocity > 0.4 && u.from > start+a.samples(0.2)
		if u.landed {
			plausible = plausible && math.Abs(byTime-u.velocity) < max(0.25*u.velocity, 0.25)
		}
		if !plausible {
			stepped = stepped || a.length(*u) > 0.3 && u.from > 0 && u.landed
			continue
		}
		jumps++
		if best < 0 || u.velocity > a.runs[best].velocity {
			best = i
		}
	}
	if stepped {
		a.flag(StepOff, "A stretch off the plate is no flight: the speed before it does not agree with its length.")
	}
	if jumps > 1 {
		a.flag(SeveralJumps, fmt.Sprintf("%d jumps stand in the recording; the highest is read.", jumps))
	}
	return best
}
