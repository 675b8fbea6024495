package derive

import (
	"fmt"
	"strings"

	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/unit"
)

// DoseWords writes a dose as it stands on a card.
func DoseWords(d programme.Dose) string {
	var b strings.Builder
	switch {
	case d.Unit == library.Seconds && d.Times > 1:
		fmt.Fprintf(&b, "%d × %d of %d s", d.Sets, d.Times, d.Seconds)
	case d.Unit == library.Seconds:
		fmt.Fprintf(&b, "%d × %d s", d.Sets, d.Seconds)
	case d.Unit == library.Swings:
		total := d.Sets * d.Reps
		fmt.Fprintf(&b, "%d × %d swings", d.Sets, d.Reps)
		switch {
		case d.OtherSideShare >= 100:
			b.WriteString(", other side")
		case d.OtherSideShare > 0:
			fmt.Fprintf(&b, ", playing %d, other %d", total-d.OtherSwings(), d.OtherSwings())
		}
	default:
		fmt.Fprintf(&b, "%d × %d", d.Sets, d.Reps)
	}
	switch {
	case d.Side == "toward":
		b.WriteString(", toward the target")
	case d.Side == "away":
		b.WriteString(", away from the target")
	case d.Side != "":
		b.WriteString(", " + d.Side + " side")
	case d.Sides == library.OneSided:
		b.WriteString(" each side")
	case d.Sides == library.Directional:
		b.WriteString(" each way")
	}
	if d.InTurn && d.SideFactor() == 2 {
		b.WriteString(", in turn")
	}
	switch side := map[string]string{"toward": "toward the target", "away": "away from the target"}[d.Weaker]; {
	case d.Weaker == "":
	case side == "":
		fmt.Fprintf(&b, ", %s side %s more", d.Weaker, moreWords(d))
	default:
		fmt.Fprintf(&b, ", %s %s more", side, moreWords(d))
	}
	return b.String()
}

// moreWords is what the weaker side gets more.
func moreWords(d programme.Dose) string {
	switch {
	case d.WeakerSets == 1:
		return "one set"
	case d.WeakerSets > 1:
		return fmt.Sprintf("%d sets", d.WeakerSets)
	case d.Unit == library.Seconds:
		return fmt.Sprintf("%d s", d.WeakerMore)
	}
	return fmt.Sprintf("%d", d.WeakerMore)
}

// LoadWords writes what is lifted, thrown or swung.
func LoadWords(d programme.Dose) string {
	var parts []string
	if d.LoadKg != nil {
		load := unit.Compact(*d.LoadKg, 2) + " kg"
		if d.AHand {
			load += " a hand"
		}
		parts = append(parts, load)
	}
	if d.LoadKg == nil && d.AboutKg > 0 {
		start := "about " + unit.Compact(d.AboutKg, 1) + " kg"
		if d.AHand {
			start += " a hand"
		}
		if d.Reserve != nil {
			start += ", then by reserve"
		}
		parts = append(parts, start)
	}
	if d.LoadKg == nil && d.MaxKg > 0 {
		parts = append(parts, "at most "+unit.Compact(d.MaxKg, 1)+" kg")
	}
	if d.BallKg > 0 {
		parts = append(parts, unit.Compact(d.BallKg, 1)+" kg ball")
	}
	if d.ImplementG > 0 {
		parts = append(parts, fmt.Sprintf("%d g club", d.ImplementG))
	} else if d.ImplementPercent != 0 {
		parts = append(parts, fmt.Sprintf("club %+d%% of driver", d.ImplementPercent))
	}
	if d.IntentPercent > 0 {
		parts = append(parts, fmt.Sprintf("%d%% intent", d.IntentPercent))
	}
	if d.Reserve != nil {
		parts = append(parts, fmt.Sprintf("leave %d in reserve", *d.Reserve))
	}
	if d.ChokeCm > 0 || d.LeverNm > 0 || d.Clubs > 1 {
		parts = append(parts, leverWords(d))
	}
	if d.BetweenSeconds > 0 {
		parts = append(parts, fmt.Sprintf("%d s between", d.BetweenSeconds))
	}
	if d.BalanceSeconds > 0 {
		parts = append(parts, fmt.Sprintf("stand in balance %d s or it does not count", d.BalanceSeconds))
	}
	if d.Form != "" {
		parts = append(parts, d.Form)
	}
	return strings.Join(parts, ", ")
}

// leverWords is how a club is held out.
func leverWords(d programme.Dose) string {
	w := "full length"
	if d.ChokeCm > 0 {
		w = fmt.Sprintf("choked down %d cm", d.ChokeCm)
	}
	if d.Clubs > 1 {
		w = fmt.Sprintf("%d clubs, %s", d.Clubs, w)
	}
	if d.LeverNm > 0 {
		w += ", " + unit.Text(d.LeverNm, 1) + " N·m on the wrist"
	}
	return w
}

// TypedWords is a dose as a coach types it: read again it changes nothing (package plan,
// ParseDose).
func TypedWords(d programme.Dose) string {
	var b strings.Builder
	switch {
	case d.Unit == library.Seconds && d.Times > 1:
		fmt.Fprintf(&b, "%dx%dx%ds", d.Sets, d.Times, d.Seconds)
	case d.Unit == library.Seconds:
		fmt.Fprintf(&b, "%dx%ds", d.Sets, d.Seconds)
	default:
		fmt.Fprintf(&b, "%dx%d", d.Sets, d.Reps)
	}
	if d.Sides == library.OneSided || d.Sides == library.Directional {
		b.WriteString("/side")
	}
	if d.Reserve != nil {
		fmt.Fprintf(&b, " @%d", *d.Reserve)
	}
	switch {
	case d.BallKg > 0:
		b.WriteString(" " + unit.Compact(d.BallKg, 2) + "kg")
	case d.LoadKg != nil:
		b.WriteString(" " + unit.Compact(*d.LoadKg, 2) + "kg")
	}
	if d.Unit == library.Swings && d.IntentPercent > 0 {
		fmt.Fprintf(&b, " %d%%", d.IntentPercent)
	}
	return b.String()
}
