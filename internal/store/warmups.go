package store

import (
	"context"
	"encoding/json"
	"time"

	"gorm.io/gorm"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/speed/diary"
	"dunnock/internal/core/warmup"
)

// WarmUp is one a coach keeps: what was asked for, and the items as they stand.
type WarmUp struct {
	ID        string
	AthleteID string // "": the practice's
	Revision  int
	Name      string
	Request   warmup.Request
	Items     []warmup.Item
	CreatedAt time.Time
}

// warmUpDoc is what is kept of a warm-up.
type warmUpDoc struct {
	Request warmup.Request `json:"request"`
	Items   []warmup.Item  `json:"items"`
}

type warmUpRow struct {
	ID         string `gorm:"default:gen_random_uuid()"`
	PracticeID string
	AthleteID  *string
	Revision   int `gorm:"default:1"`
	Name       string
	Doc        string
	CreatedAt  time.Time
}

func (warmUpRow) TableName() string { return "warmups" }

func (r *warmUpRow) get() (WarmUp, error) {
	var d warmUpDoc
	err := json.Unmarshal([]byte(r.Doc), &d)
	w := WarmUp{ID: r.ID, Revision: r.Revision, Name: r.Name, Request: d.Request, Items: append([]warmup.Item{}, d.Items...), CreatedAt: r.CreatedAt}
	if r.AthleteID != nil {
		w.AthleteID = *r.AthleteID
	}
	return w, err
}

// SaveWarmUp stores a warm-up: a new one without an id, or over the one with the id if
// it still has the revision, else ErrConflict.
func (p *Practice) SaveWarmUp(ctx context.Context, w WarmUp) (*WarmUp, error) {
	b, err := json.Marshal(warmUpDoc{w.Request, w.Items})
	if err != nil {
		return nil, err
	}
	row := warmUpRow{ID: w.ID, Name: w.Name, Doc: string(b), CreatedAt: w.CreatedAt.UTC()}
	if w.AthleteID != "" {
		row.AthleteID = &w.AthleteID
	}
	err = p.tx(ctx, func(tx *gorm.DB) error {
		if w.AthleteID != "" {
			if err := lockGolfer(tx, w.AthleteID); err != nil {
				return err
			}
		}
		if w.ID == "" {
			return tx.Create(&row).Error
		}
		res := tx.Model(&warmUpRow{}).Where("id = ? AND revision = ?", w.ID, w.Revision).Select("Name", "Doc", "Revision").
			Updates(&warmUpRow{Name: row.Name, Doc: row.Doc, Revision: w.Revision + 1})
		if res.Error == nil && res.RowsAffected == 0 {
			var there warmUpRow
			if err := tx.Select("id").Where("id = ?", w.ID).Take(&there).Error; err != nil {
				return err
			}
			return ErrConflict
		}
		return res.Error
	})
	if err != nil {
		return nil, translate(err)
	}
	return p.WarmUp(ctx, row.ID)
}

// WarmUp returns one.
func (p *Practice) WarmUp(ctx context.Context, id string) (*WarmUp, error) {
	var row warmUpRow
	if err := p.db(ctx).Where("id = ?", id).Take(&row).Error; err != nil {
		return nil, translate(err)
	}
	w, err := row.get()
	return &w, err
}

// WarmUps returns those of a golfer and of the practice, oldest first.
func (p *Practice) WarmUps(ctx context.Context, athleteID string) ([]WarmUp, error) {
	var rows []warmUpRow
	if err := p.db(ctx).Where("athlete_id = ? OR athlete_id IS NULL", athleteID).Order("created_at").Find(&rows).Error; err != nil {
		return nil, translate(err)
	}
	out := make([]WarmUp, len(rows))
	for i := range rows {
		var err error
		if out[i], err = rows[i].get(); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// DeleteWarmUp removes one.
func (p *Practice) DeleteWarmUp(ctx context.Context, id string) error {
	return translate(p.tx(ctx, func(tx *gorm.DB) error {
		res := tx.Where("id = ?", id).Delete(&warmUpRow{})
		if res.Error == nil && res.RowsAffected == 0 {
			return ErrNotFound
		}
		return res.Error
	}))
}

// Swung says how many series and kept warm-ups a golfer has, and the day of the newest
// cold start; the zero day where there is none.
func (p *Practice) Swung(ctx context.Context, athleteID string) (series, warmUps int, coldOn civil.Date, err error) {
	var rows []seriesRow
	if err := p.db(ctx).Select("date", "kind").Where("athlete_id = ?", athleteID).Order("date DESC").Find(&rows).Error; err != nil {
		return 0, 0, coldOn, translate(err)
	}
	for i := range rows {
		if rows[i].Kind == diary.ColdStartKind && coldOn.IsZero() {
			coldOn = day(&rows[i].Date)
		}
	}
	var n int64
	err = p.db(ctx).Model(&warmUpRow{}).Where("athlete_id = ?", athleteID).Count(&n).Error
	return len(rows), int(n), coldOn, translate(err)
}
