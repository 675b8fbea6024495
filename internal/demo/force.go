package demo

import (
	"bytes"
	"context"
	"fmt"
	"math/rand/v2"
	"strings"

	"dunnock/internal/app"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/force"
	"dunnock/internal/device"
	"dunnock/internal/forcefile"
)

// trials are the recordings of one golfer on one day: what the stand-in plates
// made, as files.
type trials struct {
	golfer  string
	daysAgo int
	kind    string // jump, squat or swing
	count   int
	c3d     bool
	plan    device.PlatesPlan
}

func recordings() []trials {
	swing := device.PlatesPlan{
		Kind:        "swing",
		MassKg:      95.8,
		NoiseN:      3,
		LateralBW:   0.118,
		TurnNmPerKg: 0.66,
		VerticalBW:  1.52,
		LateralS:    0.145,
		TurnS:       0.11,
		VerticalS:   0.06,
	}
	later := swing
	later.LateralBW, later.VerticalBW, later.VerticalS = 0.133, 1.6, 0.07
	return []trials{
		{"Torquil Brae", 61, "swing", 4, false, swing},
		{"Torquil Brae", 5, "swing", 5, true, later},
		{"Torquil Brae", 5, "jump", 3, false, device.PlatesPlan{Kind: "jump", MassKg: 95.8, HeightM: 0.37, LeadShare: 0.56, NoiseN: 3}},
		{"Torquil Brae", 5, "squat", 2, false, device.PlatesPlan{Kind: "squat", MassKg: 95.8, HeightM: 0.345, LeadShare: 0.55, NoiseN: 3}},
		{"Marit Hellyer", 5, "jump", 2, false, device.PlatesPlan{Kind: "jump", MassKg: 63, HeightM: 0.26, LeadShare: 0.51, NoiseN: 3}},
	}
}

// loadForce gives the demo's golfers recordings of ground force. Each trial
// differs a little from the last, as people's do.
func loadForce(ctx context.Context, a *app.App, who *app.Actor) error {
	rows, err := a.Squad(ctx, who, false)
	if err != nil {
		return err
	}
	rng := rand.New(rand.NewPCG(20, 26))
	for _, t := range recordings() {
		for _, g := range rows {
			if g.Name != t.golfer {
				continue
			}
			day := a.Today(zone).Add(-t.daysAgo)
			for i := range t.count {
				if err := t.add(ctx, a, who, g.ID, day, i, rng); err != nil {
					return fmt.Errorf("load the recordings of %s: %w", g.Name, err)
				}
			}
		}
	}
	return nil
}

// add makes one trial's file and brings it in. Jumps stay out of the screen,
// whose own are typed; swings go in.
func (t trials) add(ctx context.Context, a *app.App, who *app.Actor, id string, day civil.Date, i int, rng *rand.Rand) error {
	p := t.plan
	vary := func(v *float64, by float64) { *v *= 1 + by*rng.NormFloat64() }
	for _, v := range []*float64{&p.LateralBW, &p.TurnNmPerKg, &p.VerticalBW, &p.LateralS, &p.TurnS, &p.VerticalS, &p.HeightM} {
		vary(v, 0.025)
	}
	r, _, truth := p.Trial(rng)
	n := app.NewRecording{Kind: t.kind, Date: day, Side: force.RightSided, Fill: t.kind == "swing"}
	if t.kind == "swing" {
		n.Club = "driver"
		n.Settings.Swing.TopS = &truth.TopS
	}
	var b bytes.Buffer
	write, ext := func() error { return forcefile.WriteCSV(&b, r) }, "csv"
	if t.c3d {
		write, ext = func() error { return forcefile.WriteC3D(&b, r, force.RightSided) }, "c3d"
	}
	if err := write(); err != nil {
		return err
	}
	n.Name = fmt.Sprintf("%s %s %d.%s", strings.ToLower(strings.Fields(t.golfer)[0]), t.kind, i+1, ext)
	_, err := a.AddRecording(ctx, who, id, n, &b)
	return err
}
