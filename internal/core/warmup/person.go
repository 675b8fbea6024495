package warmup

import (
	"cmp"
	"slices"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/implement"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/speed"
)

// PersonOf is what a warm-up depends on of a golfer's file and its read; otherShare is
// the wanted share of swings from the other side, in %.
func PersonOf(f *athlete.File, read *quality.Read, otherShare int) *Person {
	band := f.Athlete.Band(f.AsOf)
	p := &Person{
		Child: band == athlete.BandChild, Junior: f.Athlete.Junior(f.AsOf), Senior: band == athlete.BandSenior,
		Novice: f.Athlete.Level().Tier() == athlete.Novice, Limits: f.LimitsOn(f.AsOf), OtherSide: otherShare > 0,
		Own: implement.Usual, Implements: f.Implements,
	}
	if f.LongOff() {
		p.Novice = true
	}
	if f.Athlete.DriverMassG > 0 {
		p.Own.MassG = f.Athlete.DriverMassG
	}
	for _, i := range f.Implements {
		if i.Kind == implement.Driver {
			p.Own = i
		}
	}
	p.Implements = slices.DeleteFunc(slices.Clone(f.Implements), func(i implement.Implement) bool { return i.ID == p.Own.ID })
	if c := f.ClearanceOn(f.AsOf); c.State == athlete.RedFlag {
		p.RedFlag = c.Text
	}
	if c := f.NewestColdStart(); c != nil {
		p.ColdStart, _ = speed.ColdStartOf(c.Mps) // checked with the file
	}
	for _, t := range read.Tests {
		if t.Test == "height" && t.Status == quality.Measured && len(t.Sides) == 1 && t.Sides[0].Result != nil {
			p.HeightM = *t.Sides[0].Result / 100
		}
	}
	ranges := slices.Clone(read.Ranges)
	slices.SortStableFunc(ranges, func(a, b quality.RangeFinding) int { return cmp.Compare(b.Gap, a.Gap) })
	for _, r := range ranges {
		p.Restricted = append(p.Restricted, Restricted{Test: r.Test, Side: r.Side, For: r.For})
	}
	return p
}
