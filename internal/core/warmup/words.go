package warmup

import (
	"fmt"
	"math"
	"strings"
)

var sideWords = map[string]string{
	"playing": "your own side", "other": "other side", "lead": "lead side", "trail": "trail side",
	"toward": "toward the target", "away": "away from the target", "each": "a side",
}

// Dose says what is done of an item, in words; what it is for stands beside it.
func (it *Item) Dose() string {
	var parts []string
	add := func(format string, args ...any) { parts = append(parts, fmt.Sprintf(format, args...)) }
	switch {
	case it.Swings > 0:
		add("%d, %s", it.Swings, sideWords[it.Side])
		if it.IntentPercent > 0 {
			add("%d%%", it.IntentPercent)
		}
		if it.Implement != "" {
			more := ""
			if p := it.ImplementPercent; p != nil && !ofBag(it.ImplementID) && math.Abs(*p) >= 2 {
				more = fmt.Sprintf(" (%+.0f%%)", *p)
			}
			add("%s%s", it.Implement, more)
		}
	case it.HoldSeconds > 0:
		add("%d × %d s %s", it.Repetitions, it.HoldSeconds, sideWords[it.Side])
	case it.Repetitions > 0:
		n := fmt.Sprintf("%d %s", it.Repetitions, sideWords[it.Side])
		if it.Side == "lead" || it.Side == "trail" || it.Side == "toward" || it.Side == "away" {
			n = fmt.Sprintf("%d, %s only", it.Repetitions, sideWords[it.Side])
		}
		parts = append(parts, strings.TrimSpace(n))
	}
	return strings.Join(parts, ", ")
}
