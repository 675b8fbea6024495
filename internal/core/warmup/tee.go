package warmup

import (
	"fmt"
	"time"
)

// clock reads a time of day.
func clock(hhmm string) (time.Time, error) {
	t, err := time.Parse("15:04", hhmm)
	if err != nil {
		return t, fmt.Errorf("a tee time is hours and minutes, 09:00, not %q", hhmm)
	}
	return t, nil
}

// waitFast is a fast swing that follows a three-quarter one.
const waitFast = 95

// tee sets when a warm-up starts: on the tee five minutes early, less the walk and the
// minutes. Long waits there get something to stay warm.
func (b *builder) tee() {
	w, r := b.out, &b.r
	if r.Tee != "" && r.Purpose != After {
		if at, err := clock(r.Tee); err == nil {
			on := at.Add(-earlyOnTee * time.Minute)
			w.OnTeeAt = on.Format("15:04")
			w.StartAt = on.Add(-time.Duration(r.Walk+r.Minutes) * time.Minute).Format("15:04")
		}
	}
	if r.Purpose != Tee || r.Wait <= waitAgain {
		return
	}
	swings := []Item{}
	var last *Item
	for i := range w.Items {
		if it := &w.Items[i]; it.Swings > 0 && it.Side == "playing" {
			last = it
		}
	}
	if last == nil {
		b.note("A wait of %d minutes: keep moving.", r.Wait)
		return
	}
	again := func(n, intent int, name string) {
		it := *last
		it.ID, it.Swings, it.IntentPercent, it.Name, it.Step, it.Wait, it.Round, it.Cue = "", n, min(intent, last.IntentPercent), name, stepNames[min(intent, 100)], true, mostRounds+1, cues[100]
		if it.Ball = false; last.Name != stepNames[last.IntentPercent] && last.Name != bagNames[last.IntentPercent] {
			it.Name = last.Name // as far as the ceiling and the hands allow
		}
		it.Seconds = n * swingSeconds(it.IntentPercent, false)
		swings = append(swings, it)
	}
	if r.Wait > waitLong {
		if all := b.raiseLine(); all != nil {
			all.Wait, all.Seconds = true, leastRaise
			w.Items = append(w.Items, *all)
		}
	}
	again(2, 50, "Waiting: half swings")
	again(2, 70, "Waiting: three-quarter swings")
	again(2, waitFast, "Waiting: full swings, fast")
	w.Items = append(w.Items, swings...)
	w.name()
	for i := range w.Items {
		if w.Items[i].Wait {
			w.Items[i].ID = fmt.Sprintf("wait%d", i+1)
		}
	}
	b.note("A wait of %d minutes: warm again just before it ends (Bishop 2003, from memory).", r.Wait)
}

// raiseLine is the raise of the warm-up, to do again.
func (b *builder) raiseLine() *Item {
	for _, it := range b.out.Items {
		if it.Phase == Raise {
			it.ID = ""
			return &it
		}
	}
	return nil
}

// Minutes left until a tee time at a time of day, less the walk and five minutes on the
// tee; negative when it is too late. Both are HH:MM of one day.
func Left(now, tee string, walk int) (int, error) {
	n, err := clock(now)
	if err != nil {
		return 0, err
	}
	t, err := clock(tee)
	if err != nil {
		return 0, err
	}
	return int(t.Sub(n).Minutes()) - earlyOnTee - walk, nil
}
