// Package rotation plans a screen day for a squad: in which order the golfers
// go through the stations so that nobody is at two places, the tests that tire
// come last, and the day is short.
//
// A station is one place where one or more tests are done in a row, so that a
// golfer walks once for all of them. Finding the shortest such day is a hard
// problem; the plan is found by trying many orders and keeping the best, and is
// always given beside a lower bound that no plan can beat.
package rotation

import (
	"errors"
	"fmt"
	"slices"
)

// Station is one place.
type Station struct {
	Name    string `json:"name"`
	Minutes int    `json:"minutes"` // one golfer takes, whole minutes, at least 1
	Tiring  int    `json:"tiring"`  // 0 fresh … 3: a golfer does stations in rising order
	Places  int    `json:"places"`  // golfers it takes at a time, at least 1
}

// Slot is one golfer at one station.
type Slot struct {
	Golfer  int `json:"golfer"`  // index
	Station int `json:"station"` // index
	Place   int `json:"place"`   // from 0
	Start   int `json:"start"`   // minutes from the start of the day
	End     int `json:"end"`
}

// Plan is a running order.
type Plan struct {
	Slots   []Slot `json:"slots"` // by start, then golfer
	Minutes int    `json:"minutes"`
	// LowerBound is a number of minutes no plan can beat; Why says what sets it.
	LowerBound int    `json:"lowerBound"`
	Why        string `json:"why"`
	Walks      int    `json:"walks"`   // changes of station, all golfers together
	Waiting    int    `json:"waiting"` // golfer-minutes between a golfer's first start and last end not spent testing
}

// Bounds of what is planned.
const (
	MaxGolfers  = 60
	MaxStations = 16
)

// ErrInput is returned for stations or golfers that cannot be planned.
var ErrInput = errors.New("rotation: cannot be planned")

// Make plans a day. skips[g] lists the stations golfer g leaves out, for
// instance those that cost effort when the golfer is not cleared. The same input
// gives the same plan.
func Make(golfers int, stations []Station, skips map[int][]int) (*Plan, error) {
	switch {
	case golfers < 1 || golfers > MaxGolfers:
		return nil, fmt.Errorf("%w: 1 to %d golfers, not %d", ErrInput, MaxGolfers, golfers)
	case len(stations) < 1 || len(stations) > MaxStations:
		return nil, fmt.Errorf("%w: 1 to %d stations, not %d", ErrInput, MaxStations, len(stations))
	}
	for _, s := range stations {
		if s.Minutes < 1 || s.Minutes > 240 || s.Places < 1 || s.Places > MaxGolfers || s.Tiring < 0 || s.Tiring > 3 {
			return nil, fmt.Errorf("%w: station %q needs 1 to 240 minutes and at least one place", ErrInput, s.Name)
		}
	}
	for g, list := range skips {
		for _, s := range list {
			if g < 0 || g >= golfers || s < 0 || s >= len(stations) {
				return nil, fmt.Errorf("%w: golfer %d cannot skip station %d", ErrInput, g, s)
			}
		}
	}
	d := &day{stations: stations, need: make([][]int, golfers)}
	for g := range d.need {
		for s := range stations {
			if !slices.Contains(skips[g], s) {
				d.need[g] = append(d.need[g], s)
			}
		}
	}
	bound, why := d.lowerBound()
	best := d.search(bound)
	best.LowerBound, best.Why = bound, why
	return best, nil
}

type day struct {
	stations []Station
	need     [][]int // stations of each golfer
}

// lowerBound is the largest of: the longest way of one golfer; and for each
// station, the earliest anyone can reach it, all its work on its places, and the
// least that is left after it. Because tiring stations come last, what comes
// before and after a station is known.
func (d *day) lowerBound() (int, string) {
	bound, why := 0, "nothing to do"
	for _, need := range d.need {
		sum := 0
		for _, s := range need {
			sum += d.stations[s].Minutes
		}
		if sum > bound {
			bound, why = sum, "one golfer's own tests, one after the other"
		}
	}
	for s, st := range d.stations {
		visits, head, tail := 0, 1<<30, 1<<30
		for _, need := range d.need {
			if !slices.Contains(need, s) {
				continue
			}
			visits++
			h, t := 0, 0
			for _, o := range need {
				switch x := d.stations[o]; {
				case x.Tiring < st.Tiring:
					h += x.Minutes
				case x.Tiring > st.Tiring:
					t += x.Minutes
				}
			}
			head, tail = min(head, h), min(tail, t)
		}
		if visits == 0 {
			continue
		}
		rounds := (visits + st.Places - 1) / st.Places
		if b := head + rounds*st.Minutes + tail; b > bound {
			bound, why = b, fmt.Sprintf("%s: %d golfers on %s, with what must come before and after", st.Name, visits, places(st.Places))
		}
	}
	return bound, why
}

func places(n int) string {
	if n == 1 {
		return "one place"
	}
	return fmt.Sprintf("%d places", n)
}

// tries is how many orders are tried; a squad of twelve on eight stations takes
// some 200 ms.
const tries = 4000

// order is what the search turns: a bias for each golfer at each station, and
// the minute before which a golfer does not come.
type order struct {
	bias  []float64
	comes []int
}

func (o order) clone() order { return order{slices.Clone(o.bias), slices.Clone(o.comes)} }

func (d *day) search(bound int) *Plan {
	r := steady(len(d.need)*100 + len(d.stations))
	own := make([]int, len(d.need)) // minutes of each golfer
	for g, need := range d.need {
		for _, s := range need {
			own[g] += d.stations[s].Minutes
		}
	}
	bestOrder := order{make([]float64, len(d.need)*len(d.stations)), make([]int, len(d.need))}
	best := d.build(bestOrder)
	for i := 0; i < tries && !(best.Minutes == bound && best.Waiting == 0); i++ {
		try := bestOrder.clone()
		// Now and then from scratch, mostly a small change of the best so far.
		n := 1 + r.below(3)
		if i%20 == 0 {
			n = len(try.bias)
		}
		for range n {
			try.bias[r.below(len(try.bias))] = 40 * r.unit()
		}
		if i%2 == 0 {
			g := r.below(len(try.comes))
			try.comes[g] = r.below(max(1, best.Minutes-own[g]+1))
			if r.below(3) == 0 {
				try.comes[g] = 0
			}
		}
		if p := d.build(try); p.Minutes < best.Minutes || p.Minutes == best.Minutes && p.Waiting < best.Waiting {
			best, bestOrder = p, try
		}
	}
	return best
}

// steady is a small generator of numbers that look random and are the same every
// time (SplitMix64, Steele et al. 2014): a plan must not depend on chance.
type steady uint64

func (s *steady) next() uint64 {
	*s += 0x9E3779B97F4A7C15
	z := uint64(*s)
	z = (z ^ z>>30) * 0xBF58476D1CE4E5B9
	z = (z ^ z>>27) * 0x94D049BB133111EB
	return z ^ z>>31
}

func (s *steady) below(n int) int { return int(s.next() % uint64(n)) }

func (s *steady) unit() float64 { return float64(s.next()>>11) / (1 << 53) }

// build runs the day minute by minute: whenever a place is free it takes the
// waiting golfer with the most left to do, with a bias that the search turns.
func (d *day) build(o order) *Plan {
	nG, nS := len(d.need), len(d.stations)
	left := make([][]bool, nG)
	load := make([]int, nS)         // minutes still to be done at each station
	freeAt := slices.Clone(o.comes) // golfer is free from
	toDo := make([]int, nG)         // stations left
	minutes := make([]int, nG)      // minutes left
	for g, need := range d.need {
		left[g] = make([]bool, nS)
		for _, s := range need {
			left[g][s] = true
			toDo[g]++
			minutes[g] += d.stations[s].Minutes
			load[s] += d.stations[s].Minutes
		}
	}
	placeFree := make([][]int, nS)
	for s := range placeFree {
		placeFree[s] = make([]int, d.stations[s].Places)
	}
	p := &Plan{}
	remaining := 0
	for _, n := range toDo {
		remaining += n
	}
	for now := 0; remaining > 0; {
		g, s, place := -1, -1, -1
		bestScore := -1.0
		for i := range nG {
			if freeAt[i] > now || toDo[i] == 0 {
				continue
			}
			level := d.level(left[i])
			for j := range nS {
				if !left[i][j] || d.stations[j].Tiring != level {
					continue
				}
				k := firstFree(placeFree[j], now)
				if k < 0 {
					continue
				}
				score := float64(minutes[i]) + float64(load[j])/float64(d.stations[j].Places) + o.bias[i*nS+j]
				if score > bestScore {
					g, s, place, bestScore = i, j, k, score
				}
			}
		}
		if g < 0 {
			now = next(now, freeAt, toDo, placeFree)
			continue
		}
		st := d.stations[s]
		p.Slots = append(p.Slots, Slot{g, s, place, now, now + st.Minutes})
		freeAt[g], placeFree[s][place] = now+st.Minutes, now+st.Minutes
		left[g][s] = false
		toDo[g]--
		remaining--
		minutes[g] -= st.Minutes
		load[s] -= st.Minutes
		p.Minutes = max(p.Minutes, now+st.Minutes)
	}
	d.closeUp(p)
	d.count(p)
	return p
}

// closeUp moves every visit as late as what follows it allows, so that golfers
// come later instead of waiting in between. The end of the day stays.
func (d *day) closeUp(p *Plan) {
	nextOfGolfer := make([]int, len(d.need))
	nextAtPlace := map[[2]int]int{}
	order := make([]int, len(p.Slots))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return p.Slots[b].Start - p.Slots[a].Start })
	for _, i := range order {
		s := &p.Slots[i]
		place := [2]int{s.Station, s.Place}
		end := s.End
		if n := nextOfGolfer[s.Golfer]; n > 0 {
			end = n
			if m, ok := nextAtPlace[place]; ok {
				end = min(end, m)
			}
		}
		s.Start, s.End = end-(s.End-s.Start), end
		nextOfGolfer[s.Golfer], nextAtPlace[place] = s.Start, s.Start
	}
	first := p.Minutes
	for _, s := range p.Slots {
		first = min(first, s.Start)
	}
	for i := range p.Slots {
		p.Slots[i].Start -= first
		p.Slots[i].End -= first
	}
	p.Minutes -= first
	slices.SortStableFunc(p.Slots, func(a, b Slot) int {
		if a.Start != b.Start {
			return a.Start - b.Start
		}
		return a.Golfer - b.Golfer
	})
}

// level is the least tiring level a golfer still has to do.
func (d *day) level(left []bool) int {
	level := 4
	for s, yes := range left {
		if yes {
			level = min(level, d.stations[s].Tiring)
		}
	}
	return level
}

func firstFree(places []int, now int) int {
	for i, t := range places {
		if t <= now {
			return i
		}
	}
	return -1
}

// next is the earliest minute after now at which a golfer or a place comes free.
func next(now int, freeAt, toDo []int, placeFree [][]int) int {
	at := 1 << 30
	for g, t := range freeAt {
		if t > now && toDo[g] > 0 {
			at = min(at, t)
		}
	}
	for _, list := range placeFree {
		for _, t := range list {
			if t > now {
				at = min(at, t)
			}
		}
	}
	return at
}

func (d *day) count(p *Plan) {
	for g := range d.need {
		first, last, busy, n := -1, 0, 0, 0
		for _, s := range p.Slots {
			if s.Golfer != g {
				continue
			}
			if first < 0 {
				first = s.Start
			}
			last = max(last, s.End)
			busy += s.End - s.Start
			n++
		}
		if n > 0 {
			p.Walks += n - 1
			p.Waiting += last - first - busy
		}
	}
}

// TestStation is one station of a screen day with its tests in order.
type TestStation struct {
	Station
	Tests []string `json:"tests"`
}
