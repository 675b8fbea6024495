package store

import (
	"context"
	"encoding/json"
	"errors"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/implement"
	"dunnock/internal/core/speed/diary"
)

// Series is swings of one golfer measured one after the other.
type Series = diary.Series

// MaxSwings bounds one series.
const MaxSwings = 400

// ErrFull is returned when a series holds as many swings as it may.
var ErrFull = errors.New("store: the series is full")

type seriesRow struct {
	ID         string `gorm:"default:gen_random_uuid()"`
	PracticeID string
	AthleteID  string
	Revision   int `gorm:"default:1"`
	Date       time.Time
	Kind       string
	Before     string
	Raised     bool
	Note       string
	Swings     []diary.Swing `gorm:"serializer:json"`
	TrialID    *string
	Arm        string
	Pair       int
	Felt       *int
	CreatedAt  time.Time
	CreatedBy  string
}

func (seriesRow) TableName() string { return "speed_series" }

func (r *seriesRow) get() Series {
	s := Series{
		ID: r.ID, AthleteID: r.AthleteID, Revision: r.Revision, Date: day(&r.Date), Kind: r.Kind, Before: r.Before, Raised: r.Raised, Note: r.Note,
		Swings: append([]diary.Swing{}, r.Swings...), CreatedAt: r.CreatedAt, CreatedBy: r.CreatedBy,
	}
	if r.TrialID != nil && r.Felt != nil {
		s.InTrial = &diary.InTrial{Trial: *r.TrialID, Arm: r.Arm, Pair: r.Pair, Felt: *r.Felt}
	}
	return s
}

// CreateSeries stores an empty series and returns its id. A browser may give the id
// itself: the same one twice is the same series.
func (p *Practice) CreateSeries(ctx context.Context, s Series) (string, error) {
	row := seriesRow{ID: s.ID, AthleteID: s.AthleteID, Date: date(s.Date), Kind: s.Kind, Before: s.Before, Raised: s.Raised, Note: s.Note, Swings: append([]diary.Swing{}, s.Swings...), CreatedAt: s.CreatedAt.UTC(), CreatedBy: s.CreatedBy}
	if t := s.InTrial; t != nil {
		row.TrialID, row.Arm, row.Pair, row.Felt = &t.Trial, t.Arm, t.Pair, &t.Felt
	}
	err := p.tx(ctx, func(tx *gorm.DB) error {
		if err := lockGolfer(tx, s.AthleteID); err != nil {
			return err
		}
		if s.ID != "" {
			var there seriesRow
			err := tx.Where("id = ?", s.ID).Take(&there).Error
			if err == nil && there.AthleteID == s.AthleteID {
				return nil
			}
			if err == nil {
				return ErrExists
			}
			if !errors.Is(err, gorm.ErrRecordNotFound) {
				return err
			}
		}
		return tx.Create(&row).Error
	})
	return row.ID, translate(err)
}

// AllSeries returns a golfer's series, newest first.
func (p *Practice) AllSeries(ctx context.Context, athleteID string) ([]Series, error) {
	var rows []seriesRow
	if err := p.db(ctx).Where("athlete_id = ?", athleteID).Order("date DESC, created_at DESC").Find(&rows).Error; err != nil {
		return nil, translate(err)
	}
	out := make([]Series, len(rows))
	for i := range rows {
		out[i] = rows[i].get()
	}
	return out, nil
}

// Series returns one.
func (p *Practice) Series(ctx context.Context, id string) (*Series, error) {
	var row seriesRow
	if err := p.db(ctx).Where("id = ?", id).Take(&row).Error; err != nil {
		return nil, translate(err)
	}
	s := row.get()
	return &s, nil
}

// ChangeSeries changes a series under a lock: what several browsers send at once is
// done one after the other. Only the swings, note, before, raised and kind are written.
func (p *Practice) ChangeSeries(ctx context.Context, id string, change func(*Series) error) (*Series, error) {
	var out Series
	err := p.tx(ctx, func(tx *gorm.DB) error {
		var row seriesRow
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("id = ?", id).Take(&row).Error; err != nil {
			return err
		}
		out = row.get()
		if err := change(&out); err != nil {
			return err
		}
		if len(out.Swings) > MaxSwings {
			return ErrFull
		}
		out.Revision++
		next := seriesRow{Revision: out.Revision, Kind: out.Kind, Before: out.Before, Raised: out.Raised, Note: out.Note, Swings: out.Swings}
		return tx.Model(&seriesRow{}).Where("id = ?", id).Select("Revision", "Kind", "Before", "Raised", "Note", "Swings").Updates(&next).Error
	})
	if err != nil {
		return nil, translate(err)
	}
	return &out, nil
}

// DeleteSeries removes a series.
func (p *Practice) DeleteSeries(ctx context.Context, id string) error {
	return translate(p.tx(ctx, func(tx *gorm.DB) error {
		res := tx.Where("id = ?", id).Delete(&seriesRow{})
		if res.Error == nil && res.RowsAffected == 0 {
			return ErrNotFound
		}
		return res.Error
	}))
}

// coldStarts sets the newest cold start of each golfer; of one without, what the
// golfer's facts say stays.
func (p *Practice) coldStarts(ctx context.Context, files map[string]*athlete.File) error {
	ids := make([]string, 0, len(files))
	for id := range files {
		ids = append(ids, id)
	}
	var rows []seriesRow
	err := p.db(ctx).Where("athlete_id IN ? AND kind = ?", ids, diary.ColdStartKind).Order("date DESC, created_at DESC").Find(&rows).Error
	if err != nil {
		return translate(err)
	}
	set := map[string]bool{}
	for i := range rows {
		f := files[rows[i].AthleteID]
		if f == nil || set[rows[i].AthleteID] {
			continue
		}
		s := rows[i].get()
		if c := s.ColdStart(); c != nil {
			f.ColdStart, set[rows[i].AthleteID] = c, true
		}
	}
	return nil
}

type implementsRow struct {
	PracticeID string
	List       string
}

func (implementsRow) TableName() string { return "practice_implements" }

// Implements returns what the practice owns to swing; none is no error.
func (p *Practice) Implements(ctx context.Context) ([]implement.Implement, error) {
	var rows []implementsRow
	out := []implement.Implement{}
	if err := p.db(ctx).Limit(1).Find(&rows).Error; err != nil || len(rows) == 0 {
		return out, translate(err)
	}
	return out, json.Unmarshal([]byte(rows[0].List), &out)
}

// ChangeImplements changes what the practice owns to swing, one change after another:
// change is given the list as it is and returns it as it is to be; its error is returned
// and changes nothing.
func (p *Practice) ChangeImplements(ctx context.Context, change func([]implement.Implement) ([]implement.Implement, error)) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		if err := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&implementsRow{List: "[]"}).Error; err != nil {
			return err
		}
		var row implementsRow
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Take(&row).Error; err != nil {
			return err
		}
		var list []implement.Implement
		if err := json.Unmarshal([]byte(row.List), &list); err != nil {
			return err
		}
		list, err := change(list)
		if err != nil {
			return err
		}
		b, err := json.Marshal(list)
		if err != nil {
			return err
		}
		return tx.Model(&implementsRow{}).Where("practice_id = ?", row.PracticeID).Update("list", string(b)).Error
	})
}

type trialOfWarmUpsRow struct {
	ID         string `gorm:"default:gen_random_uuid()"`
	PracticeID string
	AthleteID  string
	A, B       string
	Way        string
	Seed       int64
	CreatedAt  time.Time
}

func (trialOfWarmUpsRow) TableName() string { return "warmup_trials" }

// CreateTrial stores a trial of two warm-ups and returns its id.
func (p *Practice) CreateTrial(ctx context.Context, t diary.Trial) (string, error) {
	row := trialOfWarmUpsRow{AthleteID: t.AthleteID, A: t.A, B: t.B, Way: t.Way, Seed: int64(t.Seed >> 1), CreatedAt: t.CreatedAt.UTC()}
	err := p.tx(ctx, func(tx *gorm.DB) error {
		if err := lockGolfer(tx, t.AthleteID); err != nil {
			return err
		}
		return tx.Create(&row).Error
	})
	return row.ID, translate(err)
}

// Trials returns a golfer's trials of warm-ups, oldest first.
func (p *Practice) Trials(ctx context.Context, athleteID string) ([]diary.Trial, error) {
	var rows []trialOfWarmUpsRow
	if err := p.db(ctx).Where("athlete_id = ?", athleteID).Order("created_at").Find(&rows).Error; err != nil {
		return nil, translate(err)
	}
	out := make([]diary.Trial, len(rows))
	for i, r := range rows {
		out[i] = diary.Trial{ID: r.ID, AthleteID: r.AthleteID, A: r.A, B: r.B, Way: r.Way, Seed: uint64(r.Seed), CreatedAt: r.CreatedAt}
	}
	return out, nil
}

// DeleteTrial removes a trial with its series.
func (p *Practice) DeleteTrial(ctx context.Context, id string) error {
	return translate(p.tx(ctx, func(tx *gorm.DB) error {
		res := tx.Where("id = ?", id).Delete(&trialOfWarmUpsRow{})
		if res.Error == nil && res.RowsAffected == 0 {
			return ErrNotFound
		}
		return res.Error
	}))
}
