package formats

import (
	"fmt"
	"io"
	"strings"

	"github.com/johnfercher/maroto/v2/pkg/consts/pagesize"
	"github.com/johnfercher/maroto/v2/pkg/props"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/warmup"
)

// phaseTitles are the phases as a card calls them.
var phaseTitles = map[warmup.Phase]string{
	warmup.Raise: "Raise", warmup.Joints: "Joints", warmup.Activate: "Activate", warmup.Separate: "Separate", warmup.Jump: "Jump",
	warmup.Ladder: "Swing ladder", warmup.Cool: "After",
}

// WriteWarmUp writes a warm-up as a card for the bag: A5, PDF.
func WriteWarmUp(w io.Writer, golfer string, on civil.Date, x *warmup.WarmUp) error {
	pg, err := newPage(pagesize.A5, 12, on, x.Title)
	if err != nil {
		return fmt.Errorf("warm-up: %w", err)
	}
	pg.put(golfer, bold(14), 0)
	pg.put(x.Title, plainText, 1)
	if x.StartAt != "" {
		pg.put(fmt.Sprintf("Start at %s, on the tee at %s", x.StartAt, x.OnTeeAt), bold(11.5), 2)
	}
	line := props.Text{Size: 9, VerticalPadding: 0.5}
	title := ""
	for i := range x.Items {
		it := &x.Items[i]
		now := phaseTitles[it.Phase]
		if it.Wait {
			now = "While you wait"
		}
		if now != title {
			title = now
			pg.put(title, bold(10.5), 2)
		}
		name := it.Name
		if it.For != "" {
			name += " (one more for " + it.For + ")"
		}
		pg.row(name, it.Dose(), fmt.Sprintf("%d s", it.Seconds), line)
	}
	for _, n := range x.Notes {
		pg.put("– "+n, line, 1)
	}
	if x.IfLate != nil && len(x.IfLate.Drops) > 0 {
		pg.put(fmt.Sprintf("%d minutes late: leave out %s.", x.IfLate.Minutes, strings.Join(x.IfLate.Drops, ", ")), line, 2)
	}
	pg.rule(4)
	return pg.write(w, "Stop if anything hurts. Not medical advice and no substitute for a licensed practitioner; local rules apply.")
}
