package app

import (
	"context"
	"io"
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/force"
	"dunnock/internal/core/jump"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/swing"
	"dunnock/internal/forcefile"
	"dunnock/internal/store"
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
	f := &ForcePage{Recordings: views, Limits: limits, Windows: windows(limits)}
	for _, v := range views {
		v.say()
	}
	k := recordedOf(views, got.Facts.Athlete.PlayingSide)
	f.SwingMean, f.SwingBefore, f.SwingOn = k.mean, k.before, k.swingOn
	f.Findings, f.FindingsFrom = force.Find(f.Windows, k.values), strings.Join(k.from, " and ")
	jumps := k.jumps
	if c, on, ok := jump.CompareNewest(jumps); ok {
		f.Compared, f.ComparedOn = &c, on
	}
	return f, nil
}

// windows are the shipped ones with a practice's own limits.
func windows(limits map[string][2]float64) []force.Window {
	return force.Own(append(swing.Windows(), jump.Windows()...), limits)
}

// recorded is what a golfer's recordings come to: the means of the newest day's swings
// from the golfer's side, those of all days before, and the newest day's best jump.
type recorded struct {
	mean, before *force.Baseline
	swingOn      civil.Date
	jumps        []jump.Dated
	best         *jump.Dated
	values       map[string]float64 // by key of a window
	from         []string
}

func recordedOf(views []*RecordingView, playingSide string) *recorded {
	k := &recorded{values: map[string]float64{}}
	var now, before []*swing.Result
	for _, v := range views {
		switch {
		case v.Jump != nil:
			k.jumps = append(k.jumps, jump.Dated{On: v.Date, Result: v.Jump})
		case v.Swing != nil && v.Side == playingSide:
			if k.swingOn.IsZero() {
				k.swingOn = v.Date
			}
			if v.Date == k.swingOn {
				now = append(now, v.Swing)
			} else {
				before = append(before, v.Swing)
			}
		}
	}
	if k.mean, k.before = swing.Baseline(now), swing.Baseline(before); k.mean != nil {
		maps.Copy(k.values, k.mean.Mean)
		k.from = append(k.from, plural(k.mean.Trials, "swing")+" of "+k.swingOn.Words())
	}
	if best, ok := jump.Best(k.jumps); ok {
		k.best = &best
		maps.Copy(k.values, best.Result.Values())
		k.from = append(k.from, "the best jump of "+best.On.Words())
	}
	return k
}

// findings are what lies outside of a window, as the golfer's file says it.
func (k *recorded) findings(windows []force.Window) []athlete.ForceFinding {
	var out []athlete.ForceFinding
	for _, f := range force.Find(windows, k.values) {
		if f.Recheck != "" {
			continue // the finding it comes with is answered first
		}
		x := athlete.ForceFinding{Key: f.Key, On: k.swingOn, Sentence: f.Sentence, Low: f.Value < f.Low, Instructor: f.Instructor}
		if k.best != nil {
			if _, ofJump := k.best.Result.Values()[f.Key]; ofJump {
				x.On = k.best.On
			}
			switch f.Key {
			case "side-difference":
				x.Weaker = weakerFoot(*k.best.Result.SideDifferencePct)
			case "landing-difference":
				x.Weaker = weakerFoot(*k.best.Result.LandingDifferencePct)
			}
		}
		out = append(out, x)
	}
	return out
}

// weakerFoot is the foot that does less; a difference is positive when lead does more.
func weakerFoot(differencePct float64) string {
	if differencePct > 0 {
		return string(measure.Trail)
	}
	return string(measure.Lead)
}

// addForce puts what a golfer's recordings found in place of what the file says of
// them; a golfer without recordings keeps what the file says.
func (a *App) addForce(ctx context.Context, p *store.Practice, athleteID string, f *athlete.File) error {
	n, err := p.RecordingCount(ctx, athleteID)
	if err != nil || n == 0 {
		return err
	}
	rows, err := p.Recordings(ctx, athleteID)
	if err != nil {
		return err
	}
	limits, err := p.ForceWindows(ctx)
	if err != nil {
		return err
	}
	views, err := viewsOf(rows)
	if err != nil {
		return err
	}
	f.ForceFindings = recordedOf(views, f.Athlete.PlayingSide).findings(windows(limits))
	return nil
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
			if d := t.View.Date.Words(); !slices.Contains(days, d) {
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
