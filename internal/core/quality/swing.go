package quality

import (
	"fmt"
	"math"
	"slices"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/reliability"
	"dunnock/internal/core/speed"
	"dunnock/internal/core/strength"
	"dunnock/internal/core/unit"
)

// What we assume of the club where nobody measured it: head mass and the range
// of the radius of the path near impact.
const (
	headKg                       = 0.2
	radiusM, shortestM, longestM = 1.8, 1.7, 1.9
	newtonPerPoundForce          = 4.4482216152605
	standardGravity              = 9.80665
)

func (c *computer) pull(r *Read) {
	if r.Speed.Driver == nil {
		return
	}
	v := *r.Speed.Driver
	p := &Pull{
		Newton: unit.Round(strength.OutwardPull(headKg, v, radiusM), 0),
		Low:    unit.Round(strength.OutwardPull(headKg, v, longestM), 0),
		High:   unit.Round(strength.OutwardPull(headKg, v, shortestM), 0),
	}
	p.Sentence = fmt.Sprintf(
		"At this speed the club head alone pulls outward with about %s N (%s lbf; %s to %s N), computed with a head of %s kg on a radius of %s to %s m, both assumed.",
		unit.Text(
			p.Newton,
			0,
		),
		unit.Text(p.Newton/newtonPerPoundForce, 0),
		unit.Text(p.Low, 0),
		unit.Text(p.High, 0),
		unit.Text(headKg, 2),
		unit.Text(shortestM, 1),
		unit.Text(longestM, 1),
	)
	if g := r.find("grip"); g != nil && g.Status == Measured {
		weak := math.Inf(1)
		for _, s := range g.Sides {
			weak = math.Min(weak, *s.Result)
		}
		p.Sentence += fmt.Sprintf(" Beside it: the weaker hand squeezes %s kg (%s N).", unit.Text(weak, 1), unit.Text(weak*standardGravity, 0))
	} else {
		p.Sentence += " Grip was not measured."
	}
	switch row, up := r.usable("row"), r.usable("pull-up"); {
	case row != nil:
		p.Sentence += fmt.Sprintf(" Pull: a predicted single row of %s kg.", unit.Text(*row, 1))
	case up != nil:
		p.Sentence += fmt.Sprintf(" Pull: %s strict pull-ups.", unit.Text(*up, 0))
	default:
		p.Sentence += " Pull strength was not measured."
	}
	r.Speed.Pull = p
}

func (c *computer) ladder(r *Read) {
	t, _ := c.b.Find("implement-ladder")
	s, _ := c.newest(t)
	if s == nil {
		return
	}
	res, ok := s.result(t, measure.Side(measure.Playing))
	if !ok || res.Line == nil {
		r.Speed.Ladder = "Implement ladder: three masses are needed before a line can be drawn."
		return
	}
	per := res.Line.Slope * 0.05
	r.Speed.Ladder = fmt.Sprintf(
		"Implement ladder of %s: over %d masses, each 50 g more costs %s (straight line, our reading).",
		s.Date.Words(),
		res.Line.Masses,
		c.quantity(t, -per),
	)
}

func (c *computer) stretchInSwing(r *Read) {
	still := r.usable("no-backswing")
	if still == nil || r.Speed.Driver == nil {
		return
	}
	t, _ := c.b.Find("no-backswing")
	r.Speed.Stretch = fmt.Sprintf(
		"Without a backswing %s, with it %s: the wind-up and stretch give %s%% of the speed.",
		c.quantity(t, *still),
		c.quantity(t, *r.Speed.Driver),
		unit.Text(100*(1 - *still / *r.Speed.Driver), 0),
	)
}

// coldStart says what the first swings of a day lack.
func (c *computer) coldStart(r *Read) {
	cold := c.f.NewestColdStart()
	if cold == nil {
		return
	}
	if fit, err := speed.ColdStartOf(cold.Mps); err == nil {
		r.Speed.Cold = ColdStartSentence(cold, fit, c.f.Units)
	}
}

// wideBand is how wide the interval of a deficit may be, as a share of it, before its
// cost in carry is said in tens.
const wideBand = 0.5

// ColdStartSentence says what the cold first tee costs: speed and carry of the first
// swing, and how many bring them back; the reason where the swings bear no curve.
func ColdStartSentence(of *athlete.ColdStart, c *speed.ColdStart, u unit.Preference) string {
	mps := func(v float64) string { return u.Quantity(v, unit.MetrePerSecond, 1) }
	when := "Cold first tee, " + of.On.Words()
	if of.Before != "" {
		when += " after " + of.Before
	}
	if of.Raised {
		when += ", raised and loosened first"
	}
	lost := c.LostMps()
	if lost <= 0.05 || c.Class == speed.Noise || c.Class == speed.TooShort || c.Class == speed.Falling {
		return fmt.Sprintf("%s: first %s, last %s. %s", when, mps(c.EarlyMps), mps(c.LateMps), c.Reason())
	}
	carry := speed.ByRule(lost)
	to := 1.0
	if i := c.Lost(); i != nil && i.High-i.Low > wideBand*2*lost {
		to = 10
	}
	low, high := carry.Yards()
	yards := fmt.Sprintf("%.0f to %.0f yd of carry by the rule of thumb", to*math.Round(low/to), to*math.Round(high/to))
	if c.Fit == nil {
		return fmt.Sprintf("%s: the first swings lack %s, %s. %s", when, mps(lost), yards, c.Reason())
	}
	return fmt.Sprintf("%s: the first swing lacks %s of %s, %s; %d swings bring 99%% back.", when, mps(lost), mps(c.Fit.CeilingMps), yards, int(math.Ceil(c.Fit.SwingsTo99)))
}

// accuracyTests are the tests that speak of where the ball goes.
var accuracyTests = []string{"ball-speed", "carry", "strike-offset", "start-direction", "curve", "offline", "iron-carry"}

func (c *computer) accuracy(r *Read) {
	for _, id := range accuracyTests {
		t, _ := c.b.Find(id)
		s, _ := c.newest(t)
		if s == nil {
			continue
		}
		trials := s.of(id, "")
		shots := make([]float64, 0, len(trials))
		if slices.ContainsFunc(trials, func(t measure.Trial) bool { return t.Status == measure.Stopped }) {
			continue
		}
		for _, tr := range trials {
			if tr.Status == measure.Done {
				shots = append(shots, tr.Value)
			}
		}
		sp, err := reliability.SpreadOf(shots)
		if err != nil {
			continue
		}
		q := func(v float64) string { return c.f.Units.Quantity(v, t.Unit, t.Decimals+1) }
		a := Accuracy{Test: id, Name: t.Name, Unit: t.Unit, Date: s.Date, Spread: *sp}
		a.Sentence = fmt.Sprintf(
			"%s, %d shots: mean %s, spread (SD) %s, somewhere between %s and %s.",
			t.Name,
			sp.Shots,
			q(sp.Mean),
			q(sp.SD),
			q(sp.SDCI.Low),
			q(sp.SDCI.High),
		)
		if sp.Shots < 8 {
			a.Sentence += " Few shots: the interval is wide."
		}
		r.Accuracy = append(r.Accuracy, a)
	}
}
