package warmup

import (
	"fmt"
	"slices"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/implement"
)

// ramps walks the intents of every side and round.
func (j *judge) ramps(wrong func(it *Item, last int) bool) {
	type run struct {
		side  string
		round int
	}
	last := map[run]int{}
	j.each(func(it *Item) bool {
		if it.IntentPercent == 0 {
			return true // no intents: games
		}
		k := run{it.Side, it.Round}
		was := last[k]
		if was == 0 && it.IntentPercent > firstIntent || was > 0 && it.IntentPercent > was+mostRise {
			if !wrong(it, was) {
				return false
			}
		}
		last[k] = it.IntentPercent
		return true
	})
}

func (j *judge) ramp() (text, item string) {
	j.ramps(func(it *Item, last int) bool {
		text, item = fmt.Sprintf("%s at %d%% come after %d%%: at most %d more at a time.", it.Name, it.IntentPercent, last, mostRise), it.ID
		if last == 0 {
			text = fmt.Sprintf("%s begin at %d%%: %d%% at most.", it.Name, it.IntentPercent, firstIntent)
		}
		return false
	})
	return text, item
}

func (j *judge) fixRamp() string {
	// In each run the swings go in rising order, and one that is too high for the last
	// is held back.
	for range len(j.w.Items) {
		done := true
		j.ramps(func(it *Item, last int) bool {
			most := firstIntent
			if last > 0 {
				most = last + mostRise
			}
			for _, step := range []int{100, 85, 70, 50} {
				if step <= most {
					it.IntentPercent = step
					if it.Step != "drill" && (it.Implement != "" || it.ImplementID != "") {
						it.Name, it.Step = stepNames[step], stepNames[step]
					}
					break
				}
			}
			done = false
			return false
		})
		if done {
			break
		}
	}
	return "Hold back the swings that jump ahead."
}

// heavy reports whether an item is swung with something heavier that is no club, or with
// two clubs.
func (j *judge) heavy(it *Item) bool {
	if it.ImplementPercent == nil {
		return false
	}
	use := implement.UseOf(*it.ImplementPercent)
	if use == implement.TwoClubs {
		return true
	}
	if use != implement.Heavy && use != implement.WarmUp && use != implement.Strength {
		return false
	}
	for _, i := range j.p.Implements {
		if i.ID == it.ImplementID {
			return !i.Club()
		}
	}
	return !slices.Contains([]string{wedge, midIron, wood}, it.ImplementID)
}

func (j *judge) lastLight() (text, item string) {
	all, heavy, sofar := 0, 0, 0
	j.each(func(it *Item) bool { all += it.Swings; return true })
	var last *Item
	j.each(func(it *Item) bool {
		sofar += it.Swings
		if !it.Wait {
			last = it
		}
		if !j.heavy(it) {
			return true
		}
		heavy += it.Swings
		percent := *it.ImplementPercent
		switch use := implement.UseOf(percent); {
		case j.p.Junior:
			text = "Juniors swing nothing heavy."
		case slices.ContainsFunc(j.limits, func(l athlete.Limit) bool { return slices.Contains(heavyRegions, l.Region) }):
			text = "A limit of wrist, elbow, shoulder or back keeps heavy implements away."
		case j.p.Senior && percent > heavySenior:
			text = fmt.Sprintf("%s is %.0f%% heavier than the driver: from 60 on %.0f%% at most.", it.Implement, percent, heavySenior)
		case use == implement.TwoClubs && it.IntentPercent > firstIntent:
			text = "Two clubs are swung half, at 50%."
		case use == implement.Strength:
			text = fmt.Sprintf("%s is %.0f%% heavier than the driver: %.0f%% at most.", it.Implement, percent, implement.MostWarmUp)
		case it.IntentPercent > 75:
			text = fmt.Sprintf("%s is swung slowly: half and three-quarter.", it.Implement)
		case it.Round > 1 || 3*sofar > 2*all:
			text = fmt.Sprintf("%s stands too late: heavy belongs to the first round and the first two thirds of the swings.", it.Implement)
		case heavy > mostHeavy:
			text = fmt.Sprintf("%d heavy swings: %d at most.", heavy, mostHeavy)
		}
		item = it.ID
		return text == ""
	})
	if text != "" || last == nil {
		return text, item
	}
	item = last.ID
	switch {
	case last.Side != "playing":
		return "The last swings are from the other side: end with your own.", item
	case last.ImplementPercent == nil || j.r.Clubs == IronsOnly || last.Step == "":
		return "", ""
	case j.r.Purpose == Training:
		if implement.UseOf(*last.ImplementPercent) != implement.Light && last.ImplementID != j.p.Own.ID {
			return "The last swings are light and fast, or with the own driver.", item
		}
	case last.ImplementID != j.p.Own.ID:
		return "The last swings are with the own driver.", item
	}
	return "", ""
}

func (j *judge) fixLastLight() string {
	own := 0.0
	for i := range j.w.Items {
		it := &j.w.Items[i]
		if it.Swings == 0 || !j.heavy(it) {
			continue
		}
		w := &judge{p: j.p, w: &WarmUp{Items: append(slices.Clone(j.w.Items[:i+1]), j.w.Items[i+1:]...), Request: j.w.Request}, r: j.r, limits: j.limits}
		if _, at := w.lastLight(); at == it.ID {
			it.Implement, it.ImplementID, it.ImplementPercent = j.p.Own.Name, j.p.Own.ID, &own
		}
	}
	at := -1
	for i := range j.w.Items {
		if j.w.Items[i].Swings > 0 && !j.w.Items[i].Wait {
			at = i
		}
	}
	if text, _ := j.lastLight(); text != "" && at >= 0 {
		// The fastest of the own side goes last, with the own driver.
		best := -1
		for i := range j.w.Items {
			if it := &j.w.Items[i]; it.Swings > 0 && !it.Wait && it.Side == "playing" && (best < 0 || it.IntentPercent >= j.w.Items[best].IntentPercent) {
				best = i
			}
		}
		if best >= 0 {
			it := j.w.Items[best]
			if it.ImplementPercent != nil {
				it.Implement, it.ImplementID, it.ImplementPercent = j.p.Own.Name, j.p.Own.ID, &own
			}
			it.Round = j.w.Items[at].Round
			j.w.Items = slices.Insert(slices.Delete(j.w.Items, best, best+1), at, it)
		}
	}
	return "Put the own driver where the heavy one may not be, and last."
}

// mostFast is how many fast swings there may be before play.
func (j *judge) mostFast() int {
	if j.p.careful() {
		return fastCareful
	}
	return fastBefore
}

func (j *judge) fatigue() (text, item string) {
	if j.r.Purpose != Tee && j.r.Purpose != Range {
		return "", ""
	}
	n := 0
	j.each(func(it *Item) bool {
		if it.Fast() && !it.Wait {
			n += it.Swings
			item = it.ID
		}
		return true
	})
	if n <= j.mostFast() {
		return "", ""
	}
	return fmt.Sprintf("%d fast swings before play: %d at most.", n, j.mostFast()), item
}

func (j *judge) fixFatigue() string {
	over := -j.mostFast()
	j.each(func(it *Item) bool {
		if it.Fast() && !it.Wait {
			over += it.Swings
		}
		return true
	})
	for i := range j.w.Items {
		it := &j.w.Items[i]
		if over > 0 && it.Fast() && !it.Wait {
			n := min(over, it.Swings-1)
			it.Swings -= n
			over -= n
		}
	}
	return "Leave fast swings out."
}
