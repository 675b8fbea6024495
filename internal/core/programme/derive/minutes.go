package derive

import (
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
)

// WarmUpMinutes is how long the fixed warm-up takes.
const WarmUpMinutes = 6

// Seconds of getting ready: an item's place and kit, and a warm-up set.
const (
	setUpSeconds   = 60.0
	warmSetSeconds = 60.0
)

// Seconds is how long the session takes by its doses: the warm-up, the work,
// the rests (shared within a pair), a minute an item and a minute a warm-up set.
// How long a repetition takes is the exercise's.
func Seconds(s *programme.Session, exercises *library.Catalogue) float64 {
	sum := WarmUpMinutes * 60.0
	for i := range s.Items {
		sum += seconds(&s.Items[i], exercises)
		if paired(s, i) {
			sum -= SharedSeconds(&s.Items[i].Dose, &s.Items[i+1].Dose)
		}
		if InTurns(s.Items, i) {
			sum += TurnsSeconds(&s.Items[i-1].Dose, &s.Items[i].Dose)
		}
		if InSuperset(s.Items, i) {
			sum += supersetSeconds(&s.Items[i-1].Dose, &s.Items[i].Dose)
		}
	}
	return sum
}

// paired reports whether items i and i+1 of a session share their rests: a push
// that meets a pull.
func paired(s *programme.Session, i int) bool {
	return i+1 < len(s.Items) && s.Items[i].Slot == library.SlotPush && s.Items[i+1].Slot == library.SlotPull && !InSuperset(s.Items, i+1)
}

func seconds(it *programme.Item, exercises *library.Catalogue) float64 {
	perRep := 4.0
	if e, ok := exercises.Find(it.Exercise); ok {
		perRep = e.SecondsPerRep
	}
	return DoseSeconds(&it.Dose, perRep)
}

// DoseSeconds is how long a dose takes: the work, the rests, its warm-up sets and
// the minute of getting ready.
func DoseSeconds(d *programme.Dose, perRep float64) float64 {
	return work(*d, perRep) + rest(*d) + setUpSeconds + warmSetSeconds*float64(len(d.WarmUpSets))
}

// SharedSeconds is what a push that meets a pull saves: the shorter of their rests
// is not waited for.
func SharedSeconds(push, pull *programme.Dose) float64 { return min(rest(*push), rest(*pull)) }

// Rests of a heavy and light pair, in seconds: after the heavy set and after the light one.
const HeavyRestSeconds, LightRestSeconds = 180, 90

// InTurns reports whether an item of a list is done in turns with the lift before it.
func InTurns(items []programme.Item, i int) bool {
	return i > 0 && items[i].Paired && (items[i-1].Slot == library.SlotMain || items[i-1].Slot == library.SlotPush)
}

// TurnsSeconds is what doing a lift and its light partner in turns adds to doing one
// after the other; it may be less than nothing.
func TurnsSeconds(lift, light *programme.Dose) float64 {
	turns := min(lift.Sets, light.Sets)
	sum := turns*HeavyRestSeconds + (turns-1)*LightRestSeconds
	sum += (lift.Sets-turns)*lift.RestSeconds + (light.Sets-turns)*light.RestSeconds
	return float64(sum) - rest(*lift) - rest(*light)
}

// InSuperset reports whether an item of a list is done in turns with the one before it,
// with no rest between the two. A heavy and light pair is none.
func InSuperset(items []programme.Item, i int) bool {
	return i > 0 && items[i].Superset && !InTurns(items, i)
}

// supersetSeconds is what doing two items set by set adds to doing one after the other: it
// is less than nothing, as only the longer of their rests is waited for, after both.
func supersetSeconds(a, b *programme.Dose) float64 {
	turns := min(a.Sets, b.Sets)
	sum := max(turns-1, 0) * max(a.RestSeconds, b.RestSeconds)
	sum += (a.Sets-turns)*a.RestSeconds + (b.Sets-turns)*b.RestSeconds
	return float64(sum) - rest(*a) - rest(*b)
}

// swingSeconds is a swing itself and the step up to it; what the library says of an
// exercise holds the rest between swings too.
const swingSeconds = 3.0

// work is the seconds spent moving, and between repetitions.
func work(d programme.Dose, perRep float64) float64 {
	switch {
	case d.Unit == library.Seconds:
		return float64(d.Volume() + d.Between())
	case d.Unit == library.Swings:
		return float64(d.Volume()) * SwingSeconds(&d, perRep)
	}
	return float64(d.Volume())*perRep + float64(d.Between())
}

// SwingSeconds is how long a swing of a dose takes until the next: what is usual, or
// what its dose says is rested and held.
func SwingSeconds(d *programme.Dose, usual float64) float64 {
	if d.BetweenSeconds == 0 {
		return usual + float64(d.BalanceSeconds)
	}
	return swingSeconds + float64(d.BetweenSeconds+d.BalanceSeconds)
}

func rest(d programme.Dose) float64 {
	return float64(max(d.Sets+d.WeakerSets-1, 0) * d.RestSeconds)
}
