package demo

import (
	"context"
	"fmt"

	"dunnock/internal/app"
	"dunnock/internal/core/implement"
	"dunnock/internal/core/speed"
	"dunnock/internal/core/speed/diary"
	"dunnock/internal/device"
)

// sticks are what the demo's practice owns to swing.
var sticks = []implement.Implement{
	{ID: "light-stick", Name: "Light stick", Kind: implement.Speed, MassG: 250, LengthM: 1.1, BalanceM: 0.71},
	{ID: "heavy-stick", Name: "Heavy stick", Kind: implement.Speed, MassG: 365, LengthM: 1.1, BalanceM: 0.82},
}

// swinger is whose swings the demo has.
const swinger = "Marit Hellyer"

// loadSwings gives a golfer two days of fast swings and a cold start, as the stand-in
// radar makes them.
func loadSwings(ctx context.Context, a *app.App, who *app.Actor) error {
	if err := a.ChangeImplements(ctx, who, app.ImplementChanges{Save: sticks}); err != nil {
		return err
	}
	rows, err := a.Squad(ctx, who, false)
	if err != nil {
		return err
	}
	for _, g := range rows {
		if g.Name != swinger {
			continue
		}
		page, err := a.Speed(ctx, who, g.ID)
		if err != nil {
			return err
		}
		for n, daysAgo := range []int{26, 12} {
			s := app.NewSeries{Kind: diary.TrainingKind, Date: a.Today(who.Zone).Add(-daysAgo)}
			warm := device.RadarPlan{CeilingMps: 38.6 + 0.5*float64(n), DeficitMps: -1, NoBall: n == 0, Seed: uint64(daysAgo)}
			add := func(set, count int, with, side string, percent float64) {
				p := warm
				p.ImplementPercent, p.OtherSide, p.Seed = percent, side == speed.Other, p.Seed*100+uint64(set)
				s.Swings = append(s.Swings, swings(p, count, set, with, side)...)
			}
			add(1, 6, page.Own.ID, speed.Playing, 0)
			add(2, 6, "light-stick", speed.Playing, 100*(250-page.Own.MassG)/page.Own.MassG)
			add(3, 6, page.Own.ID, speed.Playing, 0)
			add(4, 6, "heavy-stick", speed.Playing, 100*(365-page.Own.MassG)/page.Own.MassG)
			add(5, 6, page.Own.ID, speed.Other, 0)
			if _, err := a.StartSeries(ctx, who, g.ID, s); err != nil {
				return fmt.Errorf("demo swings: %w", err)
			}
		}
		cold := device.RadarPlan{CeilingMps: 39.1, DeficitMps: 3.4, TauSwings: 3, Seed: 8}
		s := app.NewSeries{Kind: diary.ColdStartKind, Date: a.Today(who.Zone).Add(-4), Before: "desk", Swings: swings(cold, 12, 1, page.Own.ID, speed.Playing)}
		if _, err := a.StartSeries(ctx, who, g.ID, s); err != nil {
			return fmt.Errorf("demo cold start: %w", err)
		}
	}
	return nil
}

// swings are so many of a stand-in's golfer as a series holds them.
func swings(p device.RadarPlan, count, set int, with, side string) []diary.Swing {
	var out []diary.Swing
	for i, r := range device.RadarSwings(p, count) {
		x := diary.Swing{ID: fmt.Sprintf("demo-%d-%d", set, i+1), Swing: speed.Swing{
			Key: speed.Key{Implement: with, Side: side, Intent: speed.Full}, Set: set, AtS: 600*float64(set) + *r.T, ClubMps: *r.V,
		}}
		if b := r.Ball; b != nil && with != "light-stick" && with != "heavy-stick" {
			x.BallMps, x.CarryM, x.Launch, x.SpinRpm = b.Mps, b.CarryM, b.LaunchDeg, b.SpinRpm
			if b.Strike != nil {
				x.Strike = &speed.Strike{ToeMm: b.Strike.ToeMm, HighMm: b.Strike.HighMm, DirectionDeg: b.Strike.DirectionDeg}
			}
		}
		out = append(out, x)
	}
	return out
}
