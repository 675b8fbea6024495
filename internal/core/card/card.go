// Package card says what a session asks of a golfer in the golfer's own words: left
// and right in place of lead and trail, what it is good for in place of why it was
// chosen. It words what derive made of a programme, and its warm-up; it decides nothing.
package card

import (
	"regexp"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/warmup"
)

// Item is one exercise of a card.
type Item struct {
	ID   programme.ID `json:"id"`
	Name string       `json:"name"`
	Dose string       `json:"dose"` // with its load
	For  string       `json:"for"`  // what it is good for; "" where nothing tells
	Why  string       `json:"why"`  // For with what was found of this golfer
}

// goods are what qualities are called when somebody is told what training is good for.
var goods = map[string]string{
	quality.Mobility:        "how far you turn and reach",
	quality.Grip:            "your grip",
	quality.MaximalStrength: "strength",
	quality.VerticalPower:   "your jump",
	quality.HorizontalPower: "your push",
	quality.RotationalPower: "your turn",
	quality.Control:         "balance",
	quality.StretchUse:      "bounce",
	quality.Separation:      "turning the chest against the hips",
	quality.GroundForce:     "pushing off the ground",
}

// slots are what some parts of a session are good for, whatever else they serve.
var slots = map[library.Slot]string{
	library.SlotSwings: "club speed",
	library.SlotTrunk:  "your trunk",
}

// Words are those of one golfer.
type Words struct {
	swaps []swap
}

type swap struct {
	what *regexp.Regexp
	by   string
}

var spoken = map[string]*Words{
	athlete.RightSided: words("left", "right"),
	athlete.LeftSided:  words("right", "left"),
}

// Of returns the words for who plays from a side. A right-sided golfer's lead side, and the
// target, are on the left.
func Of(playingSide string) *Words {
	if w, ok := spoken[playingSide]; ok {
		return w
	}
	return &Words{}
}

func words(lead, trail string) *Words {
	upper := func(s string) string { return strings.ToUpper(s[:1]) + s[1:] }
	w := &Words{}
	for _, x := range [][2]string{
		{`\btoward the target\b`, "to your " + lead}, {`\bToward the target\b`, "To your " + lead},
		{`\baway from the target\b`, "to your " + trail}, {`\bAway from the target\b`, "To your " + trail},
		{`\blead\b`, lead}, {`\bLead\b`, upper(lead)}, {`\btrail\b`, trail}, {`\bTrail\b`, upper(trail)},
		{`\bplaying (\d+), other (\d+)`, "$1 as you play, $2 the other way"},
		{`, other side\b`, ", the other way round"},
		{`, then by reserve\b`, ", then by feel"},
		{`\bleave (\d+) in reserve\b`, "stop with $1 left"},
	} {
		w.swaps = append(w.swaps, swap{regexp.MustCompile(x[0]), x[1]})
	}
	return w
}

// Own puts a coach's sentence into the golfer's words.
func (w *Words) Own(text string) string {
	for _, s := range w.swaps {
		text = s.what.ReplaceAllString(text, s.by)
	}
	return text
}

// Item words one exercise.
func (w *Words) Item(it *derive.Item) Item {
	dose := it.DoseText
	if it.LoadText != "" {
		dose += ", " + it.LoadText
	}
	out := Item{ID: it.ID, Name: w.Own(it.Name), Dose: w.Own(dose)}
	out.For = slots[it.Slot]
	best := 0.0
	for q, weight := range it.Serves {
		if slots[it.Slot] != "" {
			break
		}
		// Of two that weigh the same the one that stands first: the card is the same each time.
		if goods[q] != "" && (weight > best || weight == best && goods[q] < out.For) {
			best, out.For = weight, goods[q]
		}
	}
	if out.For != "" {
		out.For = "for " + out.For
	}
	out.Why = out.For
	if found := measured(it.Reason.Finding); found != "" {
		out.Why = strings.TrimPrefix(out.Why+": "+w.Own(lower(found)), ": ")
	}
	return out
}

// WarmUp words the items of a warm-up; those given stay as they are.
func (w *Words) WarmUp(items []warmup.Item) []warmup.Item {
	out := slices.Clone(items)
	for i := range out {
		it := &out[i]
		it.Name, it.Cue, it.DoseText = w.Own(it.Name), w.Own(it.Cue), w.Own(it.Dose())
	}
	return out
}

// measured is the first sentence of a finding that tells of a result, without its stop.
func measured(finding string) string {
	first, _, _ := strings.Cut(finding, ". ")
	if !strings.ContainsAny(first, "0123456789") {
		return ""
	}
	return strings.TrimSuffix(first, ".")
}

// lower begins a sentence small, but for a word that is one of capitals.
func lower(s string) string {
	if len(s) < 2 || s[1] >= 'A' && s[1] <= 'Z' {
		return s
	}
	return strings.ToLower(s[:1]) + s[1:]
}
