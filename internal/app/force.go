package app

import (
	"context"
	"io"
	"math"
	"slices"
	"strconv"
	"strings"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/force"
	"dunnock/internal/core/jump"
	"dunnock/internal/core/swing"
	"dunnock/internal/forcefile"
)

// Sentence makes an error of the core a sentence a coach reads.
func Sentence(err error) string {
	s := err.Error()
	for _, p := range []string{"force: ", "jump: ", "swing: ", "signal: ", "capture: "} {
		s = strings.TrimPrefix(s, p)
	}
	if s == "" {
		return s
	}
	s = strings.ToUpper(s[:1]) + s[1:]
	if !strings.ContainsAny(s[len(s)-1:], ".?!") {
		s += "."
	}
	return s
}

func forceWords(err error) error {
	if err == nil {
		return nil
	}
	return invalid("file", "%s", Sentence(err))
}

// ForcePage is everything a golfer's recordings say together.
type ForcePage struct {
	Recordings []*RecordingView
	// Compared sets the best countermovement jump of the newest day with both
	// against the best squat jump.
	Compared     *jump.Compared
	ComparedOn   civil.Date
	Windows      []force.Window
	Limits       map[string][2]float64
	SwingMean    *force.Baseline // of the newest day's swings
	SwingOn      civil.Date
	SwingBefore  *force.Baseline // of all days before
	Findings     []force.Finding // of the newest swings' means and the newest best jump
	FindingsFrom string
}

// Force returns a golfer's force page.
func (a *App) Force(ctx context.Context, who *Actor, athleteID string) (*ForcePage, error) {
	p := a.store.For(who.PracticeID)
	got, err := p.Athlete(ctx, athleteID)
	if err != nil {
		return nil, words(err, "golfer")
	}
	views, err := a.views(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	limits, err := p.ForceWindows(ctx)
	if err != nil {
		return nil, err
	}
	f := &ForcePage{Recordings: views, Limits: limits, Windows: force.Own(append(swing.Windows(), jump.Windows()...), limits)}
	values := map[string]float64{}
	var from []string
	var now, before []*swing.Result
	for _, v := range views {
		v.say()
		if v.Swing == nil || v.Side != string(got.Facts.Athlete.PlayingSide) {
			continue
		}
		if f.SwingOn.IsZero() {
			f.SwingOn = v.Date
		}
		if v.Date == f.SwingOn {
			now = append(now, v.Swing)
		} else {
			before = append(before, v.Swing)
		}
	}
	if f.SwingMean, f.SwingBefore = swing.Baseline(now), swing.Baseline(before); f.SwingMean != nil {
		for k, v := range f.SwingMean.Mean {
			values[k] = v
		}
		from = append(from, plural(f.SwingMean.Trials, "swing")+" of "+f.SwingOn.Short())
	}
	var jumps []jump.Dated
	for _, v := range views {
		if v.Jump != nil {
			jumps = append(jumps, jump.Dated{On: v.Date, Result: v.Jump})
		}
	}
	if best, ok := jump.Best(jumps); ok {
		for k, v := range best.Result.Values() {
			values[k] = v
		}
		from = append(from, "the best jump of "+best.On.Short())
	}
	f.Findings, f.FindingsFrom = force.Find(f.Windows, values), strings.Join(from, " and ")
	if c, on, ok := jump.CompareNewest(jumps); ok {
		f.Compared, f.ComparedOn = &c, on
	}
	return f, nil
}

func plural(n int, what string) string {
	if n == 1 {
		return "1 " + what
	}
	return strconv.Itoa(n) + " " + what + "s"
}

// SaveForceWindows sets the practice's own limits by key; those not named are the
// shipped ones.
func (a *App) SaveForceWindows(ctx context.Context, who *Actor, limits map[string][2]float64) error {
	known := append(swing.Windows(), jump.Windows()...)
	for k, l := range limits {
		i := slices.IndexFunc(known, func(w force.Window) bool { return w.Key == k })
		if i < 0 {
			return invalid("windows", "There is no window %q.", k)
		}
		if !(l[0] < l[1]) || math.Abs(l[0]) > 1e4 || math.Abs(l[1]) > 1e4 {
			return invalid("windows", "%s: the lower limit is below the upper one.", known[i].Name)
		}
	}
	return a.store.For(who.PracticeID).SaveForceWindows(ctx, limits)
}

// Traces are the signals of one recording, for drawing and export.
type Traces struct {
	View     *RecordingView
	RateHz   float64
	StartS   float64
	Channels []force.Channel
	rec      *force.Recording
}

// Traces analyses a stored file again and returns what it was read from: the
// efforts or the motion, and every foot's channels.
func (a *App) Traces(ctx context.Context, who *Actor, id string) (*Traces, error) {
	v, err := a.Recording(ctx, who, id)
	if err != nil {
		return nil, err
	}
	rec, err := a.reread(ctx, who, v)
	if err != nil {
		return nil, err
	}
	if err := v.analyse(rec); err != nil {
		return nil, forceWords(err)
	}
	t := &Traces{View: v, RateHz: rec.RateHz, StartS: rec.StartS, rec: rec}
	add := func(name, unit string, y []float64) {
		if y != nil {
			t.Channels = append(t.Channels, force.Channel{Foot: "both", Name: name, Unit: unit, Values: y})
		}
	}
	if v.Swing != nil {
		c := v.Swing.Curves
		add("lateral", "N", c.LateralN)
		add("rotational", "N·m", c.TurnNm)
		add("vertical", "N", c.VerticalN)
		add("foreAft", "N", c.ForeAftN)
		add("leadShare", "ratio", c.LeadShare)
		add("copToTarget", "m", c.CoPToTargetM)
		add("copToBall", "m", c.CoPToBallM)
		t.Channels = append(t.Channels, v.Swing.Filtered.Channels()...)
		return t, nil
	}
	c := v.Jump.Curves
	add("vertical", "N", c.UpN)
	add("velocity", "m/s", c.VelocityMps)
	add("position", "m", c.PositionM)
	for _, f := range rec.Feet() {
		if f.Name != "total" {
			t.Channels = append(t.Channels, force.Channel{Foot: f.Name, Name: "up", Unit: "N", Values: f.UpN})
		}
	}
	return t, nil
}

// WriteCSV writes the recording as a tidy table, with the efforts or the motion
// as further columns.
func (t *Traces) WriteCSV(w io.Writer) error {
	rec := t.rec
	if t.View.Swing != nil {
		rec = t.View.Swing.Filtered
		impact := t.View.Swing.ImpactS
		rec.ImpactS = &impact
	}
	var extra []force.Channel
	for _, c := range t.Channels {
		if c.Foot == "both" {
			extra = append(extra, c)
		}
	}
	return forcefile.WriteCSV(w, rec, extra...)
}

// maxOverlay bounds how many swings one set may hold.
const maxOverlay = 60

// CompareSwings lays sets of a golfer's swings over each other. The second may be
// empty.
func (a *App) CompareSwings(ctx context.Context, who *Actor, athleteID string, first, second []string) (*swing.Comparison, error) {
	if len(first) == 0 || len(first)+len(second) > 2*maxOverlay {
		return nil, invalid("first", "Choose between 1 and %d swings for each set.", maxOverlay)
	}
	out := &swing.Comparison{Points: swing.Points}
	var sets [2][3][][]float64
	for k, ids := range [][]string{first, second} {
		days := []string{}
		for _, id := range ids {
			t, err := a.Traces(ctx, who, id)
			if err != nil {
				return nil, err
			}
			if t.View.AthleteID != athleteID || t.View.Swing == nil {
				return nil, invalid("first", "%s is no swing of this golfer.", t.View.Name)
			}
			n := t.View.Swing.Normalise()
			for e, y := range [][]float64{n.Lateral, n.Rotational, n.Vertical} {
				sets[k][e] = append(sets[k][e], y)
			}
			if d := t.View.Date.Short(); !slices.Contains(days, d) {
				days = append(days, d)
			}
		}
		text := plural(len(ids), "swing") + " of " + strings.Join(days, ", ")
		if k == 0 {
			out.First = text
		} else if len(ids) > 0 {
			out.Second = text
		}
	}
	for e, name := range []string{"lateral", "rotational", "vertical"} {
		x := swing.EffortOverlay{Name: name, Unit: "BW", First: swing.BandOf(sets[0][e]), Second: swing.BandOf(sets[1][e])}
		if name == "rotational" {
			x.Unit = "N·m/kg"
		}
		x.Overlay = swing.Lay(x.First, x.Second)
		out.Efforts = append(out.Efforts, x)
	}
	return out, nil
}
