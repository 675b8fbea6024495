package store

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/words"
)

// GolferScreens is what an import brings for one golfer: ID names one who is
// there, otherwise New is made.
type GolferScreens struct {
	ID      string
	New     *athlete.File
	Screens []athlete.Screen
	Days    []DayValue
	// AlsoWritten are names in the file that somebody said mean this golfer.
	AlsoWritten []string
}

// ErrStopped is returned when an import was cancelled. Nothing was saved.
var ErrStopped = errors.New("stopped")

// importBatch is how many trials are written with one statement.
const importBatch = 2000

// WriteImport writes golfers and screens, marked as the import's, and returns how
// many trials were new. It is a part of a unit of work that has taken the golfers
// and looked at what they hold.
func (p *Practice) WriteImport(ctx context.Context, importID string, golfers []GolferScreens, written func(golfers int)) (int, error) {
	n := 0
	var pending []trialRow
	tx := p.db(ctx)
	for i, g := range golfers {
		id := g.ID
		if g.New != nil {
			row := athleteRow{Revision: 1, ImportID: &importID}
			row.from(g.New)
			if err := tx.Create(&row).Error; err != nil {
				return 0, translate(err)
			}
			id = row.ID
		}
		if err := alsoWritten(tx, id, g.AlsoWritten); err != nil {
			return 0, translate(err)
		}
		rows, err := importScreens(tx, id, g.Screens, &importID, g.New != nil)
		if err != nil {
			return 0, translate(err)
		}
		n += len(rows)
		if err := writeDays(tx, id, g.Days, &importID); err != nil {
			return 0, translate(err)
		}
		// Trials of many golfers are written together.
		if pending = append(pending, rows...); len(pending) >= importBatch {
			if err := writeTrials(tx, pending); err != nil {
				return 0, translate(err)
			}
			pending = pending[:0]
		}
		written(i + 1)
	}
	return n, translate(writeTrials(tx, pending))
}

// alsoWritten remembers names by which a golfer goes in files.
func alsoWritten(tx *gorm.DB, id string, names []string) error {
	if len(names) == 0 {
		return nil
	}
	var row athleteRow
	if err := tx.Select("id", "name", "situation", "revision").Where("id = ?", id).Take(&row).Error; err != nil {
		return err
	}
	n := len(row.Situation.AlsoWritten)
	for _, name := range names {
		if n := len(row.Situation.AlsoWritten); n < athlete.MaxAlsoWritten && name != row.Name && !slices.Contains(row.Situation.AlsoWritten, name) && words.Name(name, athlete.MaxName) == "" {
			row.Situation.AlsoWritten = append(row.Situation.AlsoWritten, name)
		}
	}
	if len(row.Situation.AlsoWritten) == n {
		return nil
	}
	row.Revision++
	return tx.Model(&athleteRow{}).Where("id = ?", id).Select("situation", "revision").Updates(&row).Error
}

// UndoImport takes back what an import saved, together with its state: every
// trial nobody changed since, then the screens and golfers it made that hold
// nothing else. It returns how many trials went; undoing twice is no error.
func (p *Practice) UndoImport(ctx context.Context, importID, note string) (removed int, err error) {
	_, err = p.Together(ctx, func(p *Practice) error {
		removed = 0
		if err := p.HoldGolfers(ctx); err != nil {
			return err
		}
		tx := p.db(ctx)
		var row importRow
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Select("id", "state").Where("id = ?", importID).Take(&row).Error; err != nil {
			return err
		}
		switch row.State {
		case Undone:
			return nil
		case Saved:
		default:
			return ErrConflict
		}
		const touched = "id IN (SELECT athlete_id FROM screens WHERE import_id = ? OR id IN (SELECT screen_id FROM trials WHERE import_id = ?)) OR import_id = ?"
		var golfers []athleteRow
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Select("id").Where(touched, importID, importID, importID).Order("id").Find(&golfers).Error; err != nil {
			return err
		}
		var screens []string
		if err := tx.Model(&trialRow{}).Where("import_id = ?", importID).Distinct().Pluck("screen_id", &screens).Error; err != nil {
			return err
		}
		res := tx.Where("import_id = ?", importID).Delete(&trialRow{})
		if res.Error != nil {
			return res.Error
		}
		removed = int(res.RowsAffected)
		if res = tx.Where("import_id = ?", importID).Delete(&dayValueRow{}); res.Error != nil {
			return res.Error
		}
		removed += int(res.RowsAffected)
		for some := range slices.Chunk(screens, maxParameters) {
			if err := tx.Model(&screenRow{}).Where("id IN ?", some).Update("revision", gorm.Expr("revision + 1")).Error; err != nil {
				return err
			}
		}
		const bare = "NOT EXISTS (SELECT 1 FROM trials WHERE trials.screen_id = screens.id) AND before = '' AND last_lesson IS NULL AND club_change = '' AND intent = '' AND tester = '' AND place = '' AND floor = ''"
		if err := tx.Where("import_id = ?", importID).Where(bare).Delete(&screenRow{}).Error; err != nil {
			return err
		}
		own, err := ownParts(ctx, tx)
		if err != nil {
			return err
		}
		if err := tx.Where("import_id = ? AND revision = 1", importID).Where(own).Delete(&athleteRow{}).Error; err != nil {
			return err
		}
		return tx.Model(&importRow{}).Where("id = ?", importID).Updates(map[string]any{"state": Undone, "note": fmt.Sprintf(note, removed)}).Error
	})
	return removed, err
}

// ownParts is a condition that holds for a golfer of whom nothing is kept in any
// table that hangs on golfers, tables of later versions included.
func ownParts(ctx context.Context, tx *gorm.DB) (string, error) {
	var tables []string
	err := tx.WithContext(system(ctx)).
		Raw("SELECT table_name FROM information_schema.columns WHERE table_schema = 'public' AND column_name = 'athlete_id'").
		Scan(&tables).
		Error
	parts := []string{
		"NOT EXISTS (SELECT 1 FROM screen_days d WHERE d.practice_id = athletes.practice_id AND jsonb_exists(d.athletes, athletes.id::text))",
		"NOT EXISTS (SELECT 1 FROM classes d WHERE d.practice_id = athletes.practice_id AND jsonb_exists(d.athletes, athletes.id::text))",
	}
	for _, t := range tables {
		parts = append(parts, fmt.Sprintf("NOT EXISTS (SELECT 1 FROM %q x WHERE x.athlete_id = athletes.id)", t))
	}
	return strings.Join(parts, " AND "), err
}
