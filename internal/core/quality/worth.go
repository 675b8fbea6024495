package quality

import (
	"cmp"
	_ "embed"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"sync"

	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"

	"dunnock/internal/core/measure"
	"dunnock/internal/core/unit"
)

// Worth is what closing a leader's gap could be worth at the very most, if golfers who
// differ in a test differed in nothing else: an upper bound, not a promise.
type Worth struct {
	Low  float64 `json:"low"` // club speed, m/s; never below 0
	High float64 `json:"high"`
	// CarryLow and CarryHigh are the same in metres of carry, by the rule of thumb.
	CarryLow  float64 `json:"carryLow"`
	CarryHigh float64 `json:"carryHigh"`
	// From is squad or published; Golfers is how many it rests on.
	From     string `json:"from"`
	Golfers  int    `json:"golfers"`
	Sentence string `json:"sentence"`
	// Basis says what the band comes from, in the arithmetic's words.
	Basis  string `json:"basis"`
	Source string `json:"source"`
}

// worthTable is what is published, and the rule of thumb for carry.
type worthTable struct {
	SpeedSpread float64    `json:"speedSpread"` // SD of club speed between golfers, m/s (ours)
	CarryLow    float64    `json:"carryLow"`    // yards a mile per hour (common practice)
	CarryHigh   float64    `json:"carryHigh"`
	Relations   []relation `json:"relations"`
}

// relation is a published correlation of a quality with club speed.
type relation struct {
	Quality string  `json:"quality"`
	R       float64 `json:"r"`
	Golfers int     `json:"golfers"`
	Text    string  `json:"text"`
	Source  string  `json:"source"`

	low, high float64 // of r, 95%, by Fisher's z
	basis     string  // what is the same for everybody of the arithmetic
}

//go:embed worth.json
var worthJSON []byte

var worths = sync.OnceValue(func() (t worthTable) {
	if err := json.Unmarshal(worthJSON, &t); err != nil {
		panic("quality: worth.json: " + err.Error())
	}
	for i := range t.Relations {
		x := &t.Relations[i]
		z, half := math.Atanh(x.R), 1.96/math.Sqrt(float64(x.Golfers-3))
		x.low, x.high = math.Tanh(z-half), math.Tanh(z+half)
		x.basis = fmt.Sprintf(" spreads short × r × %s m/s, the spread of club speed between golfers (ours). Published: %s (interval %s to %s).", unit.Text(t.SpeedSpread, 1), x.Text, unit.Text(x.low, 2), unit.Text(x.high, 2))
	}
	return t
})

// leastGolfers is how many golfers a squad's own slope needs, and withinDays how far
// apart their two results may be: twelve weeks.
const (
	leastGolfers = 20
	withinDays   = 84
)

// A line is a squad's club speed over one of its tests: the slope in m/s a unit of the
// test and its 95% interval.
type line struct {
	slope, low, high float64
	golfers          int
}

// pair is one golfer's test and club speed.
type pair struct{ x, speed float64 }

// lineOf fits a line by least squares with the t interval of its slope; false with
// fewer than three pairs, or where x does not differ.
func lineOf(pairs []pair) (line, bool) {
	n := len(pairs)
	if n < 3 {
		return line{}, false
	}
	x, y := make([]float64, n), make([]float64, n)
	for i, p := range pairs {
		x[i], y[i] = p.x, p.speed
	}
	mean, variance := stat.MeanVariance(x, nil)
	if !(variance > 1e-12*math.Max(1, mean*mean)) {
		return line{}, false
	}
	a, b := stat.LinearRegression(x, y, nil, false)
	sse := 0.0
	for i := range x {
		e := y[i] - a - b*x[i]
		sse += e * e
	}
	se := math.Sqrt(sse/float64(n-2)) / math.Sqrt(variance*float64(n-1))
	t := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: float64(n - 2)}.Quantile(0.975)
	return line{b, b - t*se, b + t*se, n}, true
}

// lineOf is the squad's line of a test, worked out when it is first asked for; false with
// too few golfers who have both within the time.
func (q *Squad) lineOf(key squadKey) (line, bool) {
	q.mu.Lock()
	defer q.mu.Unlock()
	if l, ok := q.lines[key]; ok {
		return l, l.golfers > 0
	}
	var pairs []pair
	for _, results := range q.golfers {
		var x, speed *newest
		for i := range results {
			switch n := &results[i]; {
			case n.key.test == driverSpeed && speed == nil:
				speed = n
			case n.key == key:
				x = n
			}
		}
		if x == nil || speed == nil || speed.junior {
			continue
		}
		if d := x.on.Sub(speed.on); d <= withinDays && d >= -withinDays {
			pairs = append(pairs, pair{x.value, speed.value})
		}
	}
	// In one order: the same squad gives the same sums to the last bit.
	slices.SortFunc(pairs, func(a, b pair) int { return 2*cmp.Compare(a.x, b.x) + cmp.Compare(a.speed, b.speed) })
	l, ok := lineOf(pairs)
	if !ok || len(pairs) < leastGolfers {
		l = line{}
	}
	if q.lines == nil {
		q.lines = map[squadKey]line{}
	}
	q.lines[key] = l
	return l, l.golfers > 0
}

const driverSpeed = "driver-speed"

// worthOf is what closing the gap of a leader could be worth; nil where nothing can be
// said.
func (c *computer) worthOf(s *Standing) *Worth {
	if s.most == nil {
		return nil
	}
	if w := c.inSquad(s.most); w != nil {
		return w
	}
	return c.published(s)
}

// inSquad is what the squad's own slope makes of the shortfall of the test that weighs
// most; nil without enough golfers. Juniors are set beside nobody.
func (c *computer) inSquad(p *part) *Worth {
	side := c.countedSide(p.def, p.test)
	if c.squad == nil || c.f.Athlete.Junior(c.on) || side == nil || side.Shortfall == nil {
		return nil
	}
	l, ok := c.squad.lineOf(squadKey{p.def.ID, c.variant(p.def, p.test.Variant), side.Side})
	if !ok {
		return nil
	}
	d, name := *side.Shortfall, p.test.Unit
	if p.def.Rule == measure.OneRM {
		d = d * c.mass // the target is a share of body mass, the squad's lifts are kg
	}
	if p.def.Less {
		d = -d
	}
	w := c.bandOf("squad", l.golfers, d*l.low, d*l.high)
	w.Source = "this practice's own golfers"
	w.Basis = fmt.Sprintf(
		"%d golfers here have %s and driver speed within twelve weeks: %s m/s for each %s more (95%% interval %s to %s), times the %s %s it is short.",
		l.golfers, p.test.Name, unit.Text(l.slope, 3), name, unit.Text(l.low, 3), unit.Text(l.high, 3), unit.Compact(math.Abs(d), 2), name,
	)
	return w
}

// published is what a published correlation makes of the quality's gap: r × the spread
// of club speed for each spread of the gap, with the interval of r by Fisher's z.
func (c *computer) published(s *Standing) *Worth {
	t := worths()
	for i := range t.Relations {
		if x := &t.Relations[i]; x.Quality == s.ID {
			w := c.bandOf("published", x.Golfers, s.Gap*x.low*t.SpeedSpread, s.Gap*x.high*t.SpeedSpread)
			w.Source, w.Basis = x.Source, unit.Text(s.Gap, 2)+x.basis
			return w
		}
	}
	return nil
}

// band makes a worth of two ends of club speed, in m/s, in either order.
func (c *computer) bandOf(from string, golfers int, a, b float64) *Worth {
	t := worths()
	low, high := math.Max(0, math.Min(a, b)), math.Max(0, math.Max(a, b))
	carry := func(speed, yards float64) float64 {
		mph, _ := unit.Convert(speed, unit.MetrePerSecond, unit.MilePerHour)
		metres, _ := unit.Convert(mph*yards, unit.Yard, unit.Metre)
		return unit.Round(metres, 0)
	}
	w := &Worth{Low: unit.Round(low, 2), High: unit.Round(high, 2), CarryLow: carry(low, t.CarryLow), CarryHigh: carry(high, t.CarryHigh), From: from, Golfers: golfers}
	if high == 0 {
		w.Sentence = "Golfers here who have more of it are no faster: nothing can be said of what it is worth."
		return w
	}
	text := append(c.words[:0], "Closing it could be worth "...)
	if low == 0 {
		text = append(c.f.Units.Append(append(text, "nothing to "...), high, unit.MetrePerSecond, 1), " of club speed, and at most "...)
	} else {
		text = append(c.f.Units.Append(text, low, unit.MetrePerSecond, 1), " to "...)
		text = append(c.f.Units.Append(text, high, unit.MetrePerSecond, 1), " of club speed and "...)
		text = append(unit.AppendText(text, w.CarryLow, 0), " to "...)
	}
	text = append(unit.AppendText(text, w.CarryHigh, 0), " m of carry: an upper bound, since golfers who differ in it differ in other things too."...)
	c.words, w.Sentence = text, string(text)
	return w
}
