package store

import (
	"context"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/rotation"
)

// ScreenDay is a squad's day at the stations.
type ScreenDay struct {
	ID       string
	Date     civil.Date
	Name     string
	Start    string // local time, 15:04
	Stations []rotation.TestStation
	Athletes []string // ids; a plan names them by index
	Plan     *rotation.Plan
}

type screenDayRow struct {
	ID         string `gorm:"default:gen_random_uuid()"`
	PracticeID string
	Date       time.Time
	Name       string
	Start      string
	Stations   []rotation.TestStation `gorm:"serializer:json"`
	Athletes   []string               `gorm:"serializer:json"`
	Plan       *rotation.Plan         `gorm:"serializer:json"`
	CreatedAt  time.Time
}

func (screenDayRow) TableName() string { return "screen_days" }

func (r *screenDayRow) day() ScreenDay {
	return ScreenDay{ID: r.ID, Date: day(&r.Date), Name: r.Name, Start: r.Start, Stations: r.Stations, Athletes: r.Athletes, Plan: r.Plan}
}

// CreateScreenDay stores a day and returns its id.
func (p *Practice) CreateScreenDay(ctx context.Context, d *ScreenDay) (string, error) {
	row := screenDayRow{Date: date(d.Date), Name: d.Name, Start: d.Start, Stations: d.Stations, Athletes: d.Athletes, Plan: d.Plan}
	err := p.tx(ctx, func(tx *gorm.DB) error {
		// Nobody is erased while they are put on the list, and nobody else's golfer is.
		var there []athleteRow
		if err := tx.Clauses(clause.Locking{Strength: "KEY SHARE"}).Select("id").Where("id IN ?", uuids(d.Athletes)).Find(&there).Error; err != nil {
			return err
		}
		if len(there) != len(d.Athletes) {
			return ErrNotFound
		}
		return tx.Create(&row).Error
	})
	return row.ID, err
}

// ScreenDays returns the practice's days, newest first.
func (p *Practice) ScreenDays(ctx context.Context) ([]ScreenDay, error) {
	var rows []screenDayRow
	if err := p.db(ctx).Order("date DESC, created_at DESC").Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]ScreenDay, len(rows))
	for i := range rows {
		out[i] = rows[i].day()
	}
	return out, nil
}

// ScreenDay returns one day.
func (p *Practice) ScreenDay(ctx context.Context, id string) (*ScreenDay, error) {
	var row screenDayRow
	if err := p.db(ctx).Where("id = ?", id).Take(&row).Error; err != nil {
		return nil, translate(err)
	}
	d := row.day()
	return &d, nil
}

// DeleteScreenDay removes a day; the screens done on it stay.
func (p *Practice) DeleteScreenDay(ctx context.Context, id string) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		res := tx.Where("id = ?", id).Delete(&screenDayRow{})
		if res.Error == nil && res.RowsAffected == 0 {
			return ErrNotFound
		}
		return res.Error
	})
}

// ScreensOn returns the screens of golfers on one day, by golfer.
func (p *Practice) ScreensOn(ctx context.Context, on civil.Date, athletes []string) (map[string]Screen, error) {
	var rows []screenRow
	if err := p.db(ctx).Where("date = ? AND athlete_id IN ?", date(on), uuids(athletes)).Find(&rows).Error; err != nil {
		return nil, err
	}
	full, err := p.withTrials(ctx, rows, nil)
	if err != nil {
		return nil, err
	}
	out := make(map[string]Screen, len(full))
	for _, s := range full {
		out[s.AthleteID] = s
	}
	return out, nil
}
