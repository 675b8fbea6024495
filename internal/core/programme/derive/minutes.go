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
	}
	return sum
}

// paired reports whether items i and i+1 of a session share their rests: a push
// that meets a pull.
func paired(s *programme.Session, i int) bool {
	return i+1 < len(s.Items) && s.Items[i].Slot == library.SlotPush && s.Items[i+1].Slot == library.SlotPull
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

// work is the seconds spent moving.
func work(d programme.Dose, perRep float64) float64 {
	if d.Unit == library.Seconds {
		return float64(d.Volume())
	}
	return float64(d.Volume()) * perRep
}

func rest(d programme.Dose) float64 {
	if d.Sets < 2 {
		return 0
	}
	return float64((d.Sets - 1) * d.RestSeconds)
}
