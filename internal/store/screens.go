package store

import (
	"context"
	"slices"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
)

// Screen is a stored screen.
type Screen struct {
	ID        string
	AthleteID string
	Revision  int
	athlete.Screen
}

// CreateScreen stores an empty screen. ErrExists when the golfer has one on
// that day.
func (p *Practice) CreateScreen(ctx context.Context, athleteID string, on civil.Date) (string, error) {
	if err := p.HasAthlete(ctx, athleteID); err != nil {
		return "", err
	}
	row := screenRow{AthleteID: athleteID, Revision: 1, Date: date(on)}
	err := p.tx(ctx, func(tx *gorm.DB) error { return createScreen(tx, &row) })
	return row.ID, err
}

func createScreen(tx *gorm.DB, row *screenRow) error { return tx.Create(row).Error }

// Screen returns one screen with its trials in sheet order.
func (p *Practice) Screen(ctx context.Context, id string) (*Screen, error) {
	var row screenRow
	if err := p.db(ctx).Where("id = ?", id).Take(&row).Error; err != nil {
		return nil, translate(err)
	}
	out, err := p.withTrials(ctx, []screenRow{row})
	if err != nil {
		return nil, err
	}
	return &out[0], nil
}

// Screens returns a golfer's screens with their trials, newest first.
func (p *Practice) Screens(ctx context.Context, athleteID string) ([]Screen, error) {
	var rows []screenRow
	if err := p.db(ctx).Where("athlete_id = ?", athleteID).Order("date DESC").Find(&rows).Error; err != nil {
		return nil, translate(err)
	}
	return p.withTrials(ctx, rows)
}

func (p *Practice) withTrials(ctx context.Context, rows []screenRow) ([]Screen, error) {
	out := make([]Screen, len(rows))
	ids := make([]string, len(rows))
	at := map[string]*Screen{}
	for i, r := range rows {
		ids[i] = r.ID
		out[i] = Screen{ID: r.ID, AthleteID: r.AthleteID, Revision: r.Revision, Screen: athlete.Screen{Date: day(&r.Date), Before: r.Before, Trials: []measure.Trial{}}}
		at[r.ID] = &out[i]
	}
	if len(rows) == 0 {
		return out, nil
	}
	var trials []trialRow
	if err := p.db(ctx).Where("screen_id IN ?", ids).Find(&trials).Error; err != nil {
		return nil, err
	}
	for i := range trials {
		s := at[trials[i].ScreenID]
		s.Trials = append(s.Trials, trials[i].trial())
	}
	for i := range out {
		sortTrials(out[i].Trials)
	}
	return out, nil
}

// sortTrials puts trials in the order of the sheet, so that an export is the
// same whatever order they were typed in.
func sortTrials(trials []measure.Trial) {
	rank := map[string]int{}
	for i := range measure.Battery() {
		rank[measure.Battery()[i].ID] = i
	}
	slices.SortFunc(trials, func(a, b measure.Trial) int {
		if d := rank[a.Test] - rank[b.Test]; d != 0 {
			return d
		}
		if a.Side != b.Side {
			t, _ := measure.Find(a.Test)
			return slices.Index(t.Kind.Sides(), a.Side) - slices.Index(t.Kind.Sides(), b.Side)
		}
		return a.Number - b.Number
	})
}

// SaveTrials writes trials and clears others, all or none, if the screen still
// has the given revision. before is left alone when nil.
func (p *Practice) SaveTrials(ctx context.Context, screenID string, revision int, before *string, write, clear []measure.Trial) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		change := map[string]any{"revision": revision + 1}
		if before != nil {
			change["before"] = *before
		}
		res := tx.Model(&screenRow{}).Where("id = ? AND revision = ?", screenID, revision).Updates(change)
		if res.Error != nil {
			return res.Error
		}
		if res.RowsAffected == 0 {
			return missingOrChanged[screenRow](tx, screenID)
		}
		return saveTrials(tx, screenID, write, clear)
	})
}

func saveTrials(tx *gorm.DB, screenID string, write, clear []measure.Trial) error {
	for _, t := range clear {
		if err := tx.Where("screen_id = ? AND test = ? AND side = ? AND number = ?", screenID, t.Test, string(t.Side), t.Number).Delete(&trialRow{}).Error; err != nil {
			return err
		}
	}
	if len(write) == 0 {
		return nil
	}
	rows := make([]trialRow, len(write))
	for i, t := range write {
		rows[i] = trialFrom(screenID, t)
	}
	return tx.Clauses(clause.OnConflict{UpdateAll: true}).CreateInBatches(&rows, 200).Error
}

// ImportScreens writes whole screens, making those that do not exist, all or
// none.
func (p *Practice) ImportScreens(ctx context.Context, athleteID string, screens []athlete.Screen) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		for _, s := range screens {
			var row screenRow
			err := translate(tx.Where("athlete_id = ? AND date = ?", athleteID, date(s.Date)).Take(&row).Error)
			switch err {
			case nil:
				if err := tx.Model(&screenRow{}).Where("id = ?", row.ID).Update("revision", row.Revision+1).Error; err != nil {
					return err
				}
			case ErrNotFound:
				row = screenRow{AthleteID: athleteID, Revision: 1, Date: date(s.Date), Before: s.Before}
				if err := createScreen(tx, &row); err != nil {
					return err
				}
			default:
				return err
			}
			if err := saveTrials(tx, row.ID, s.Trials, nil); err != nil {
				return err
			}
		}
		return nil
	})
}

// DeleteScreen removes a screen and its trials.
func (p *Practice) DeleteScreen(ctx context.Context, id string) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		res := tx.Where("id = ?", id).Delete(&screenRow{})
		if res.Error == nil && res.RowsAffected == 0 {
			return ErrNotFound
		}
		return res.Error
	})
}

// ScreenDates returns the days of a golfer's screens, newest first.
func (p *Practice) ScreenDates(ctx context.Context, athleteID string) ([]civil.Date, error) {
	var rows []screenRow
	if err := p.db(ctx).Select("date").Where("athlete_id = ?", athleteID).Order("date DESC").Find(&rows).Error; err != nil {
		return nil, translate(err)
	}
	out := make([]civil.Date, len(rows))
	for i := range rows {
		out[i] = day(&rows[i].Date)
	}
	return out, nil
}
