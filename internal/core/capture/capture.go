// Package capture turns the samples live plates send into trials: it waits for
// someone to stand still, notices the jump or the swing, and cuts out what
// belongs to it. It reads no clock and knows no connection; samples come in, a
// state and, when one is complete, a trial come out.
package capture

import (
	"errors"
	"fmt"
	"math"

	"dunnock/internal/core/signal"
)

// State is what the capture waits for.
type State string

// The states, in order.
const (
	Empty     State = "empty"     // nobody on the plates
	Waiting   State = "waiting"   // somebody is, but not still
	Armed     State = "armed"     // still: the next trial is taken
	Recording State = "recording" // noticed; the end is waited for
	Complete  State = "complete"
)

// Lengths of a trial in s, and what counts as standing still.
const (
	keepBefore  = 3.0 // before take-off or impact
	jumpAfter   = 1.6
	swingAfter  = 1.4
	stillS      = 0.6
	stillShare  = 0.03 // of the load
	leastLoadN  = 200.0
	flightShare = 0.2
	maxHeldS    = 12
)

// maxChannels bounds what a capture holds: with maxHeldS, some 30 MB at 10,000 Hz.
const maxChannels = 32

// Health counts what was wrong with the stream.
type Health struct {
	Kept, Duplicates, Late, Missing int
	Impossible                      int // not a number, or a force no plate has
}

// Capture collects one trial after the other.
type Capture struct {
	rate   float64
	swing  bool
	names  []string
	up     []int // channels of vertical force
	impact int   // channel, -1 for none
	rows   [][]float64
	first  int64 // sequence number of rows[0]
	next   int64
	begun  bool
	state  State
	at     int // trigger, as a row
	weight float64
	health Health
	holes  int
	total  []float64 // vertical force of rows
}

// New returns a capture of jumps, or of swings, from channels named as in a
// file. Swings need an impact channel.
func New(rateHz float64, names []string, swing bool) (*Capture, error) {
	c := &Capture{rate: rateHz, swing: swing, names: names, impact: -1, state: Empty}
	if !(rateHz >= 50 && rateHz <= 20_000) {
		return nil, errors.New("capture: the plates name no sampling rate")
	}
	for i, n := range names {
		switch {
		case len(n) > 2 && (n[:2] == "Fz"):
			c.up = append(c.up, i)
		case n == "impact":
			c.impact = i
		}
	}
	if len(names) > maxChannels {
		return nil, fmt.Errorf("capture: the plates send %d channels: at most %d are recorded", len(names), maxChannels)
	}
	if len(c.up) == 0 {
		return nil, errors.New("capture: the plates send no vertical force")
	}
	if swing && c.impact < 0 {
		return nil, errors.New(
			"capture: swings are noticed by their impact, and the plates send no impact channel. Record with the plates' own program and bring the file in",
		)
	}
	return c, nil
}

// Add takes one sample, whose values it copies. Samples that were there already
// are counted and left out, late ones put where they belong, missing ones leave a
// hole that the reading of the trial fills or refuses.
func (c *Capture) Add(seq int64, values []float64) State {
	for _, v := range values {
		if math.IsNaN(v) || math.Abs(v) > 1e5 {
			c.health.Impossible++
			return c.state
		}
	}
	switch {
	case !c.begun:
		c.begun, c.first, c.next = true, seq, seq
	case seq == c.next-1:
		c.health.Duplicates++
		return c.state
	case c.next-seq > int64(c.rate): // the plates began anew: what follows is a trial of its own
		c.restart(seq)
	case seq < c.next:
		c.late(seq, values)
		return c.state
	case seq-c.next > int64(c.rate): // the plates began anew
		c.restart(seq)
	}
	for ; c.next < seq; c.next++ {
		c.holes++
		c.push(nil)
	}
	c.push(values)
	c.next++
	c.health.Kept++
	c.watch()
	return c.state
}

func (c *Capture) restart(seq int64) {
	c.rows, c.total = c.rows[:0], c.total[:0]
	c.first, c.next, c.state, c.holes = seq, seq, Empty, 0
}

// late fills a hole with a sample that came behind others.
func (c *Capture) late(seq int64, values []float64) {
	i := int(seq - c.first)
	if i < 0 || i >= len(c.rows) || c.rows[i] != nil {
		c.health.Duplicates++
		return
	}
	c.health.Late++
	c.rows[i] = append([]float64(nil), values...)
	c.total[i] = c.sum(values)
	c.holes--
}

func (c *Capture) sum(values []float64) float64 {
	s := 0.0
	for _, k := range c.up {
		s += values[k]
	}
	return s
}

func (c *Capture) push(values []float64) {
	if values == nil {
		last := 0.0
		if n := len(c.total); n > 0 {
			last = c.total[n-1]
		}
		c.rows, c.total = append(c.rows, nil), append(c.total, last)
	} else {
		c.rows, c.total = append(c.rows, append([]float64(nil), values...)), append(c.total, c.sum(values))
	}
	if limit := int(maxHeldS * c.rate); c.state != Recording && len(c.rows) > limit {
		cut := len(c.rows) - int((keepBefore+1)*c.rate)
		c.rows, c.total = append(c.rows[:0], c.rows[cut:]...), append(c.total[:0], c.total[cut:]...)
		c.first += int64(cut)
	}
}

// watch moves the state on.
func (c *Capture) watch() {
	n := len(c.total)
	up := c.total[n-1]
	switch c.state {
	case Recording:
		after := jumpAfter
		if c.swing {
			after = swingAfter
		}
		if n-c.at >= int(after*c.rate) {
			c.state = Complete
		}
	case Complete:
	case Armed:
		noticed := up < flightShare*c.weight
		if c.swing {
			noticed = c.rows[n-1] != nil && c.rows[n-1][c.impact] > 0.5
		}
		if noticed {
			c.state, c.at = Recording, n-1
		}
	default:
		if up < leastLoadN {
			c.state = Empty
			return
		}
		c.state = Waiting
		need := int(stillS * c.rate)
		if n%max(1, int(c.rate/50)) != 0 || n < need {
			return
		}
		if l := signal.LevelOf(c.total, n-need, n); l.Mean > leastLoadN && l.SD < stillShare*l.Mean {
			c.state, c.weight = Armed, l.Mean
		}
	}
}

// State is what is waited for now.
func (c *Capture) State() State { return c.state }

// Force is the vertical force now, in N, and Weight that of the stance it is
// armed on.
func (c *Capture) Force() float64 {
	if n := len(c.total); n > 0 {
		return c.total[n-1]
	}
	return 0
}

// Recent returns the vertical force of the last so many seconds.
func (c *Capture) Recent(s float64) []float64 {
	n := min(len(c.total), int(s*c.rate))
	return c.total[len(c.total)-n:]
}

// Health is what was wrong with the stream so far.
func (c *Capture) Health() Health {
	h := c.health
	h.Missing += c.holes
	return h
}

// Trial is a complete trial by channel; samples that never came are NaN.
type Trial struct {
	RateHz   float64
	Names    []string
	Channels [][]float64
}

// Take returns the complete trial and waits for the next one. The recording goes
// back to keepBefore before it was noticed.
func (c *Capture) Take() (Trial, bool) {
	if c.state != Complete {
		return Trial{}, false
	}
	from := max(0, c.at-int(keepBefore*c.rate))
	t := Trial{RateHz: c.rate, Names: c.names, Channels: make([][]float64, len(c.names))}
	for k := range t.Channels {
		t.Channels[k] = make([]float64, len(c.rows)-from)
		for i, row := range c.rows[from:] {
			if row == nil {
				t.Channels[k][i] = math.NaN()
				continue
			}
			t.Channels[k][i] = row[k]
		}
	}
	c.restart(c.next)
	return t, true
}
