package programme

import (
	"slices"

	"dunnock/internal/core/athlete"
)

// WarmUpItem is one line of the fixed warm-up.
type WarmUpItem struct {
	Name string `json:"name"`
	Dose string `json:"dose"`
	Cue  string `json:"cue"`
}

// warmUpLine is a line of the fixed warm-up with the regions it works.
type warmUpLine struct {
	WarmUpItem
	works []string
}

var warmUp = []warmUpLine{
	{WarmUpItem{"March on the spot, big arms", "60 s", "Breathe through the nose"}, []string{"hip", "knee", "ankle-foot", "shoulder"}},
	{WarmUpItem{"Easy arm swings and deep breaths, seated or standing", "60 s", "Warm without hurry"}, nil},
	{WarmUpItem{"Shoulder circles and neck turns", "5 each way", "Slow, no forcing"}, []string{"shoulder", "neck"}},
	{WarmUpItem{"Hip hinge, hands on thighs", "8", "Flat back"}, []string{"hip", "lumbar-spine"}},
	{WarmUpItem{"Half squat with reach", "8", "Heels down"}, []string{"knee", "hip", "ankle-foot", "shoulder"}},
	{WarmUpItem{"Step-back lunge with a turn", "4 a side", "Hold on to something if needed"}, []string{"knee", "hip", "ankle-foot", "thoracic-spine"}},
	{WarmUpItem{"Chest turn, pelvis still", "6 each way", "Grow tall as you turn"}, []string{"thoracic-spine"}},
	{WarmUpItem{"Rehearsal swings without a club", "4 a side, growing", "Half, three-quarter, full; end light and quick"}, []string{"thoracic-spine", "lumbar-spine", "shoulder", "hip"}},
}

// SafeWarmUp returns the one warm-up of this version, without what a limit on a
// region forbids: no floor, no kit, no jumps, ending quick and light (our own,
// common practice). Whoever cannot march begins with the arms.
func SafeWarmUp(limits []athlete.Limit) []WarmUpItem {
	spared := func(l warmUpLine) bool {
		return slices.ContainsFunc(limits, func(x athlete.Limit) bool {
			return x.Kind == athlete.NoneOfPattern && slices.Contains(l.works, x.Region)
		})
	}
	out := []WarmUpItem{}
	for i, l := range warmUp {
		marches := !spared(warmUp[0])
		if spared(l) || i == 1 && marches {
			continue
		}
		out = append(out, l.WarmUpItem)
	}
	return out
}
