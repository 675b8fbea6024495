package store

import (
	"context"
	"encoding/json"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/class"
)

// GroupClass is one session for several golfers. A golfer who was erased leaves their place
// empty.
type GroupClass struct {
	ID       string
	Revision int
	Date     civil.Date
	Name     string
	Start    string // local time, 15:04; "": not said
	Athletes []string
	Class    *class.Class
	BeganAt  time.Time // its clock runs since; zero: it does not
}

type classRow struct {
	ID         string `gorm:"default:gen_random_uuid()"`
	PracticeID string
	Revision   int `gorm:"default:1"`
	Date       time.Time
	Name       string
	Start      string
	Athletes   []string `gorm:"serializer:json"`
	Doc        string
	BeganAt    *time.Time
	CreatedAt  time.Time
}

func (classRow) TableName() string { return "classes" }

func (r *classRow) get() (GroupClass, error) {
	out := GroupClass{ID: r.ID, Revision: r.Revision, Date: day(&r.Date), Name: r.Name, Start: r.Start, Athletes: list(r.Athletes)}
	if r.BeganAt != nil {
		out.BeganAt = *r.BeganAt
	}
	return out, json.Unmarshal([]byte(r.Doc), &out.Class)
}

// CreateClass stores a class under the id it is given, and refuses golfers of others.
func (p *Practice) CreateClass(ctx context.Context, c *GroupClass) error {
	doc, err := json.Marshal(c.Class)
	if err != nil {
		return err
	}
	row := classRow{ID: c.ID, Date: date(c.Date), Name: c.Name, Start: c.Start, Athletes: c.Athletes, Doc: string(doc)}
	return translate(p.tx(ctx, func(tx *gorm.DB) error {
		var there []athleteRow
		if err := tx.Clauses(clause.Locking{Strength: "KEY SHARE"}).Select("id").Where("id IN ?", uuids(c.Athletes)).Find(&there).Error; err != nil {
			return err
		}
		if len(there) != len(c.Athletes) {
			return ErrNotFound
		}
		return tx.Create(&row).Error
	}))
}

// Class returns one.
func (p *Practice) Class(ctx context.Context, id string) (*GroupClass, error) {
	var row classRow
	if err := p.db(ctx).Where("id = ?", id).Take(&row).Error; err != nil {
		return nil, translate(err)
	}
	c, err := row.get()
	return &c, err
}

// SetClassClock says since when a class's clock runs; zero stops it.
func (p *Practice) SetClassClock(ctx context.Context, id string, at time.Time) error {
	return translate(p.tx(ctx, func(tx *gorm.DB) error {
		row := classRow{}
		if !at.IsZero() {
			at = at.UTC()
			row.BeganAt = &at
		}
		res := tx.Model(&classRow{}).Where("id = ?", id).Select("BeganAt").Updates(&row)
		if res.Error == nil && res.RowsAffected == 0 {
			return ErrNotFound
		}
		return res.Error
	}))
}

// Classes returns the practice's classes of a stretch of days, both ends included, newest
// first.
func (p *Practice) Classes(ctx context.Context, from, to civil.Date) ([]GroupClass, error) {
	return p.classes(p.db(ctx).Where("date BETWEEN ? AND ?", date(from), date(to)))
}

// ClassesOf returns the classes a golfer takes part in, newest first.
func (p *Practice) ClassesOf(ctx context.Context, athleteID string) ([]GroupClass, error) {
	return p.classes(p.db(ctx).Where("jsonb_exists(athletes, ?)", athleteID))
}

func (p *Practice) classes(q *gorm.DB) ([]GroupClass, error) {
	var rows []classRow
	if err := q.Order("date DESC, created_at DESC").Find(&rows).Error; err != nil {
		return nil, translate(err)
	}
	out := make([]GroupClass, len(rows))
	for i := range rows {
		var err error
		if out[i], err = rows[i].get(); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// DeleteClass removes a class nothing was logged of; ErrConflict where something was.
func (p *Practice) DeleteClass(ctx context.Context, id string) error {
	return translate(p.tx(ctx, func(tx *gorm.DB) error {
		var logged int64
		if err := tx.Model(&logRow{}).Where("class_id = ?", id).Count(&logged).Error; err != nil {
			return err
		}
		if logged > 0 {
			return ErrConflict
		}
		res := tx.Where("id = ?", id).Delete(&classRow{})
		if res.Error == nil && res.RowsAffected == 0 {
			return ErrNotFound
		}
		return res.Error
	}))
}

// leaveClasses takes a golfer out of the classes there are.
func leaveClasses(tx *gorm.DB, id string) error {
	var rows []classRow
	if err := tx.Where("jsonb_exists(athletes, ?)", id).Find(&rows).Error; err != nil {
		return err
	}
	for _, r := range rows {
		c, err := r.get()
		if err != nil {
			return err
		}
		c.Class.Leave(id)
		doc, err := json.Marshal(c.Class)
		if err != nil {
			return err
		}
		kept := []string{}
		for _, a := range r.Athletes {
			if a != id {
				kept = append(kept, a)
			}
		}
		if err := tx.Model(&classRow{}).Where("id = ?", r.ID).Select("Athletes", "Doc").Updates(&classRow{Athletes: kept, Doc: string(doc)}).Error; err != nil {
			return err
		}
	}
	return nil
}
