package store

import (
	"context"
	"fmt"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/measure"
)

// A Cell is one cell to be written, or cleared. Seen is the revision of the cell
// the editor saw, 0 for an empty one; nil writes whatever is there.
type Cell struct {
	measure.Trial
	Clear bool
	Seen  *int
}

// A ClashError says that somebody else wrote cells since the editor saw them.
// Nothing was saved.
type ClashError struct {
	Cells []Clash
}

// Clash is one such cell: its index in what was to be saved, and what stands
// there now, nil when it was cleared.
type Clash struct {
	Index int
	Now   *measure.Trial
	Rev   int // of the cell now; 0 when it was cleared
}

func (e *ClashError) Error() string {
	return fmt.Sprintf("%d cells were written by somebody else", len(e.Cells))
}

// SaveScreen writes and clears cells, all or none, and changes the circumstances
// through change, which may be nil. Two editors may save at once: only a cell
// that somebody else wrote differently since it was seen is a *ClashError.
//
// It returns the screen as it is then.
func (p *Practice) SaveScreen(ctx context.Context, screenID string, change func(*athlete.Circumstances), cells []Cell) (*Screen, error) {
	var out *Screen
	version, err := p.Together(ctx, func(p *Practice) error {
		tx := p.db(ctx)
		if _, err := p.LockScreen(ctx, screenID); err != nil {
			return err
		}
		var row screenRow
		if err := tx.Where("id = ?", screenID).Take(&row).Error; err != nil {
			return err
		}
		rev := row.Revision + 1
		update := map[string]any{"revision": rev}
		if change != nil {
			c := row.circumstances()
			change(&c)
			row.under(c)
			update["before"], update["last_lesson"], update["club_change"], update["intent"] = c.Before, datePtr(c.LastLesson), c.ClubChange, c.Intent
			update["tester"], update["place"], update["floor"], update["set"] = c.Tester, c.Place, c.Floor, c.Set
		}
		if err := tx.Model(&screenRow{}).Where("id = ?", screenID).Updates(update).Error; err != nil {
			return err
		}
		var rows []trialRow
		if err := tx.Where("screen_id = ?", screenID).Find(&rows).Error; err != nil {
			return err
		}
		now := make(map[string]*trialRow, len(rows))
		for i := range rows {
			now[rows[i].trial().Key()] = &rows[i]
		}
		var write []trialRow
		var clashes []Clash
		for i, c := range cells {
			there := now[c.Key()]
			if clash, is := c.clash(i, there); is {
				clashes = append(clashes, clash)
				continue
			}
			switch {
			case !c.Clear:
				write = append(write, trialFrom(screenID, rev, c.Trial))
			case there != nil:
				delete(now, c.Key())
				if err := tx.Where("screen_id = ? AND test = ? AND side = ? AND number = ?", screenID, c.Test, string(c.Side), c.Number).Delete(&trialRow{}).Error; err != nil {
					return err
				}
			}
		}
		if len(clashes) > 0 {
			return &ClashError{clashes}
		}
		for i := range write {
			t := write[i].trial()
			now[t.Key()] = &write[i]
		}
		row.Revision = rev
		out = row.screen()
		for k, t := range now {
			out.Trials = append(out.Trials, t.trial())
			out.Revs[k] = t.Rev
		}
		sortTrials(out.Trials)
		return writeTrials(tx, write)
	})
	if err != nil {
		return nil, err
	}
	out.DataVersion = version
	return out, nil
}

// clash tells whether somebody else wrote the cell differently since.
func (c *Cell) clash(index int, there *trialRow) (Clash, bool) {
	switch {
	case c.Seen == nil:
		return Clash{}, false
	case there == nil:
		return Clash{Index: index}, *c.Seen != 0 && !c.Clear
	case there.Rev == *c.Seen:
		return Clash{}, false
	}
	t := there.trial()
	return Clash{Index: index, Now: &t, Rev: there.Rev}, c.Clear || !t.SameAs(c.Trial)
}

func writeTrials(tx *gorm.DB, rows []trialRow) error {
	if len(rows) == 0 {
		return nil
	}
	return tx.Clauses(clause.OnConflict{UpdateAll: true}).CreateInBatches(&rows, 1000).Error
}
