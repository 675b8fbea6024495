package store

import (
	"context"
	"errors"

	"dunnock/internal/core/measure"
)

// BatteryChanges is what a practice changed about the tests, with the revision
// it has; revision 0 when it changed nothing yet.
type BatteryChanges struct {
	Revision int
	measure.Changes
	Sets []measure.Set
}

type batteryRow struct {
	PracticeID string                      `gorm:"primaryKey"`
	Revision   int                         //
	Own        []measure.Test              `gorm:"serializer:json"`
	Targets    map[string][]measure.Target `gorm:"serializer:json"`
	Sets       []measure.Set               `gorm:"serializer:json"`
	Confidence int
}

func (batteryRow) TableName() string { return "battery_changes" }

// Battery returns what the practice changed.
func (p *Practice) Battery(ctx context.Context) (*BatteryChanges, error) {
	var row batteryRow
	err := translate(p.db(ctx).Take(&row).Error)
	if errors.Is(err, ErrNotFound) {
		row, err = batteryRow{Confidence: 95}, nil
	}
	if err != nil {
		return nil, err
	}
	windows, err := p.ForceWindows(ctx)
	if err != nil {
		return nil, err
	}
	c := &BatteryChanges{Revision: row.Revision, Changes: measure.Changes{Own: row.Own, Targets: row.Targets, Confidence: row.Confidence}, Sets: row.Sets}
	c.Changes.Edges(windows)
	return c, nil
}

// SaveBattery replaces what the practice changed, if it still has the given
// revision; ErrConflict otherwise.
func (p *Practice) SaveBattery(ctx context.Context, revision int, c *BatteryChanges) error {
	_, err := p.Together(ctx, func(p *Practice) error {
		// Who writes trials holds the battery too: no test goes while one is typed.
		if err := p.hold(ctx, lockBattery, false); err != nil {
			return err
		}
		tx := p.db(ctx)
		row := batteryRow{Revision: revision + 1, Own: c.Own, Targets: c.Targets, Sets: c.Sets, Confidence: c.Confidence}
		if row.Own == nil {
			row.Own = []measure.Test{}
		}
		row.Targets = map[string][]measure.Target{}
		for id, list := range c.Targets {
			// The edge of a window stands with the window.
			if t, ok := measure.Shipped().Find(id); !ok || t.Window == "" {
				row.Targets[id] = list
			}
		}
		if row.Sets == nil {
			row.Sets = []measure.Set{}
		}
		if revision == 0 {
			err := translate(tx.Create(&row).Error)
			if errors.Is(err, ErrExists) {
				return ErrConflict
			}
			return err
		}
		res := tx.Model(&batteryRow{}).Where("revision = ?", revision).Select("*").Omit("PracticeID").Updates(&row)
		if res.Error == nil && res.RowsAffected == 0 {
			return ErrConflict
		}
		return res.Error
	})
	return err
}

// UsesTest reports whether any trial of the practice is of the test.
func (p *Practice) UsesTest(ctx context.Context, test string) (bool, error) {
	var n int64
	err := p.db(ctx).Model(&trialRow{}).Where("test = ?", test).Limit(1).Count(&n).Error
	return n > 0, err
}
