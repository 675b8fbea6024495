package card_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"dunnock/internal/core/card"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/warmup"
)

// The lead side of a golfer who plays from the right is the left one, and the target is on it
// (handbook 01).
func TestSidesAreTheGolfersOwn(t *testing.T) {
	for coach, own := range map[string][2]string{ // of a right-sided golfer, of a left-sided one
		"Lead hip turns in 21.5°, 35° is wanted":                 {"Left hip turns in 21.5°, 35° is wanted", "Right hip turns in 21.5°, 35° is wanted"},
		"Swing with the lead foot lifted and planted":            {"Swing with the left foot lifted and planted", "Swing with the right foot lifted and planted"},
		"4 × 3 each way, away from the target one set more":      {"4 × 3 each way, to your right one set more", "4 × 3 each way, to your left one set more"},
		"The chest turns 33.5° toward the target, 50° is wanted": {"The chest turns 33.5° to your left, 50° is wanted", "The chest turns 33.5° to your right, 50° is wanted"},
		"trail hand first":                                             {"right hand first", "left hand first"},
		"4 × 5 swings, playing 10, other 10":                           {"4 × 5 swings, 10 as you play, 10 the other way", "4 × 5 swings, 10 as you play, 10 the other way"},
		"about 4 kg a hand, then by reserve, leave 4 in reserve":       {"about 4 kg a hand, then by feel, stop with 4 left", "about 4 kg a hand, then by feel, stop with 4 left"},
		"mobility leads, and a leader has a leading leg and a trailer": {"mobility leads, and a leader has a leading leg and a trailer", "mobility leads, and a leader has a leading leg and a trailer"},
	} {
		assert.Equal(t, own[0], card.Of("right").Own(coach))
		assert.Equal(t, own[1], card.Of("left").Own(coach))
		assert.Equal(t, coach, card.Of("").Own(coach), "whose side is not known is told nothing wrong")
	}
}

func TestAnItemSaysWhatItIsGoodFor(t *testing.T) {
	item := func(slot library.Slot, serves map[string]float64, finding string) card.Item {
		return card.Of("right").Item(&derive.Item{
			ID: "b1", Slot: slot, Name: "Hip turns", DoseText: "2 × 12 each side", LoadText: "slowly", Serves: serves, Reason: programme.Reason{Finding: finding},
		})
	}
	got := item(library.SlotRange, map[string]float64{quality.Mobility: 1, quality.Control: 0.3}, "Lead hip turns in 21.5°, 35° is wanted. Pain of 3 was noted.")
	assert.Equal(t, card.Item{
		ID: "b1", Name: "Hip turns", Dose: "2 × 12 each side, slowly", For: "for how far you turn and reach",
		Why: "for how far you turn and reach: left hip turns in 21.5°, 35° is wanted",
	}, got)
	got = item(library.SlotThrow, map[string]float64{quality.RotationalPower: 1}, "No test of it lies clearly below its target.")
	assert.Equal(t, "for your turn", got.Why, "what says nothing of the golfer stays with the coach")
	got = item(library.SlotTrunk, map[string]float64{quality.RotationalPower: 1}, "")
	assert.Equal(t, "for your trunk", got.Why)
	got = item(library.SlotJump, map[string]float64{quality.VerticalPower: 0.5, quality.HorizontalPower: 0.5}, "CMJ is 26.9 cm, 30 cm is wanted.")
	assert.Equal(t, "for your jump: CMJ is 26.9 cm, 30 cm is wanted", got.Why, "of two the same one each time")
	assert.Empty(t, item(library.SlotFinisher, nil, "").Why)
}

func TestAWarmUpIsInTheGolfersWords(t *testing.T) {
	items := []warmup.Item{
		{Name: "Step toward the target as the arms go back", Repetitions: 4, Side: "lead"},
		{Name: "Turns on one leg", Repetitions: 5, Side: "away"},
		{Name: "Swings", Swings: 3, Side: "other", IntentPercent: 80, Implement: "light stick"},
		{Name: "Wrists hinge, thumb leads", Repetitions: 5, Side: "each", Cue: "Loose in the trail hand"},
	}
	got := card.Of("right").WarmUp(items)
	said := ""
	for _, it := range got {
		said += it.Name + " (" + it.DoseText + ") " + it.Cue + ". "
	}
	assert.Equal(t, "Step to your left as the arms go back (4, left side only) . Turns on one leg (5, to your right only) . "+
		"Swings (3, the other way round, 80%, light stick) . Wrists hinge, thumb leads (5 a side) Loose in the right hand. ", said)
	assert.Equal(t, "Step toward the target as the arms go back", items[0].Name, "the coach's words stay the coach's")
}

// Every quality the library serves has a word a golfer knows.
func TestEveryQualityHasAWord(t *testing.T) {
	for _, e := range library.Shipped().All() {
		for q := range e.Serves {
			assert.NotEmpty(t, card.Of("right").Item(&derive.Item{Slot: library.SlotMain, Serves: map[string]float64{q: 1}}).For, q)
		}
	}
}
