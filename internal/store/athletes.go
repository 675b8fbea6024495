package store

import (
	"context"
	"slices"

	"golang.org/x/sync/errgroup"
	"gorm.io/gorm"

	"dunnock/internal/core/athlete"
)

// Athlete is one golfer's facts with the revision they have. Facts.Screens is
// filled by File only.
type Athlete struct {
	ID       string
	Revision int
	Facts    athlete.File
}

// CreateAthlete stores a new golfer and returns the id.
func (p *Practice) CreateAthlete(ctx context.Context, f *athlete.File) (string, error) {
	row := athleteRow{Revision: 1}
	row.from(f)
	err := p.tx(ctx, func(tx *gorm.DB) error {
		if err := tx.Create(&row).Error; err != nil {
			return err
		}
		return replaceParts(tx, row.ID, f)
	})
	return row.ID, err
}

// UpdateAthlete replaces a golfer's facts, screens left alone, if they still
// have the given revision; ErrConflict otherwise.
func (p *Practice) UpdateAthlete(ctx context.Context, id string, revision int, f *athlete.File) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		row := athleteRow{}
		row.from(f)
		row.Revision = revision + 1
		res := tx.Model(&athleteRow{}).Where("id = ? AND revision = ?", id, revision).
			Select("*").Omit("ID", "PracticeID").Updates(&row)
		if res.Error != nil {
			return res.Error
		}
		if res.RowsAffected == 0 {
			return missingOrChanged[athleteRow](tx, id)
		}
		return replaceParts(tx, id, f)
	})
}

// missingOrChanged tells a row that is gone from one that was changed.
func missingOrChanged[T any](tx *gorm.DB, id string) error {
	var n int64
	var row T
	if err := tx.Model(&row).Where("id = ?", id).Count(&n).Error; err != nil {
		return err
	}
	if n == 0 {
		return ErrNotFound
	}
	return ErrConflict
}

func replaceParts(tx *gorm.DB, id string, f *athlete.File) error {
	if err := tx.Where("athlete_id = ?", id).Delete(&limitRow{}).Error; err != nil {
		return err
	}
	if err := tx.Where("athlete_id = ?", id).Delete(&competitionRow{}).Error; err != nil {
		return err
	}
	for i, l := range f.Limits {
		row := limitRow{AthleteID: id, Position: i, Region: l.Region, Side: l.Side, Kind: string(l.Kind), CapKg: l.CapKg, Until: datePtr(l.Until), SetBy: l.SetBy, Note: l.Note}
		if err := tx.Create(&row).Error; err != nil {
			return err
		}
	}
	for _, c := range f.Competitions {
		row := competitionRow{AthleteID: id, Date: date(c.Date), Name: c.Name, Peak: c.Peak}
		if err := tx.Create(&row).Error; err != nil {
			return err
		}
	}
	return nil
}

// DeleteAthlete erases a golfer with everything that hangs on them, issued
// programmes included.
func (p *Practice) DeleteAthlete(ctx context.Context, id string) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		if err := tx.WithContext(system(ctx)).Exec("SET LOCAL dunnock.erasing = 'on'").Error; err != nil {
			return err
		}
		res := tx.Where("id = ?", id).Delete(&athleteRow{})
		if res.Error == nil && res.RowsAffected == 0 {
			return ErrNotFound
		}
		return res.Error
	})
}

// Athlete returns one golfer without screens.
func (p *Practice) Athlete(ctx context.Context, id string) (*Athlete, error) {
	a, _, err := p.athlete(ctx, id, false)
	return a, err
}

// athlete asks for everything about a golfer at once, with screens, newest
// first, where they are wanted.
func (p *Practice) athlete(ctx context.Context, id string, screens bool) (*Athlete, []Screen, error) {
	var row athleteRow
	var limits []limitRow
	var comps []competitionRow
	var visits []screenRow
	var trials []trialRow
	g, ctx := errgroup.WithContext(ctx)
	ask := func(do func(db *gorm.DB) error) { g.Go(func() error { return translate(do(p.db(ctx))) }) }
	ask(func(db *gorm.DB) error { return db.Where("id = ?", id).Take(&row).Error })
	ask(func(db *gorm.DB) error { return db.Where("athlete_id = ?", id).Order("position").Find(&limits).Error })
	ask(func(db *gorm.DB) error { return db.Where("athlete_id = ?", id).Order("date, name").Find(&comps).Error })
	if screens {
		ask(func(db *gorm.DB) error { return db.Where("athlete_id = ?", id).Order("date DESC").Find(&visits).Error })
		ask(func(db *gorm.DB) error {
			return db.Where("screen_id IN (SELECT id FROM screens WHERE athlete_id = ?)", id).Find(&trials).Error
		})
	}
	if err := g.Wait(); err != nil {
		return nil, nil, err
	}
	a := &Athlete{ID: row.ID, Revision: row.Revision, Facts: row.file()}
	for _, l := range limits {
		a.Facts.Limits = append(a.Facts.Limits, athlete.Limit{Region: l.Region, Side: l.Side, Kind: athlete.LimitKind(l.Kind), CapKg: l.CapKg, Until: day(l.Until), SetBy: l.SetBy, Note: l.Note})
	}
	for _, c := range comps {
		a.Facts.Competitions = append(a.Facts.Competitions, athlete.Competition{Date: day(&c.Date), Name: c.Name, Peak: c.Peak})
	}
	return a, together(visits, trials), nil
}

// HasAthlete returns ErrNotFound when there is no such golfer.
func (p *Practice) HasAthlete(ctx context.Context, id string) error {
	var row athleteRow
	return translate(p.db(ctx).Select("id").Where("id = ?", id).Take(&row).Error)
}

// File returns one golfer with every screen, oldest first.
func (p *Practice) File(ctx context.Context, id string) (*Athlete, error) {
	a, screens, err := p.athlete(ctx, id, true)
	if err != nil {
		return nil, err
	}
	for _, s := range slices.Backward(screens) {
		a.Facts.Screens = append(a.Facts.Screens, s.Screen)
	}
	return a, nil
}

// SquadEntry is one golfer with what the season lane shows.
type SquadEntry struct {
	Athlete
	Screens    []athlete.Screen // dates only
	Programmes []Programme      // without documents
}

// Squad returns every golfer of the practice by name, in four queries however
// many there are. Only what the board shows is filled: name, age, side and
// clearance.
func (p *Practice) Squad(ctx context.Context) ([]SquadEntry, error) {
	var rows []athleteRow
	columns := []string{"id", "revision", "name", "birth_date", "playing_side", "school", "answered_on", "answers_yes", "cleared_role", "cleared_on", "injured_on", "guardian", "consent_on"}
	if err := p.db(ctx).Select(columns).Order("name, id").Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]SquadEntry, len(rows))
	at := make(map[string]*SquadEntry, len(rows))
	for i := range rows {
		out[i].Athlete = Athlete{ID: rows[i].ID, Revision: rows[i].Revision, Facts: rows[i].file()}
		at[rows[i].ID] = &out[i]
	}
	var comps []competitionRow
	if err := p.db(ctx).Order("date, name").Find(&comps).Error; err != nil {
		return nil, err
	}
	for _, c := range comps {
		if e := at[c.AthleteID]; e != nil {
			e.Facts.Competitions = append(e.Facts.Competitions, athlete.Competition{Date: day(&c.Date), Name: c.Name, Peak: c.Peak})
		}
	}
	var screens []screenRow
	if err := p.db(ctx).Order("date DESC").Find(&screens).Error; err != nil {
		return nil, err
	}
	for _, s := range screens {
		if e := at[s.AthleteID]; e != nil {
			e.Screens = append(e.Screens, athlete.Screen{Date: day(&s.Date)})
		}
	}
	var progs []programmeRow
	if err := p.db(ctx).Order("start_date, version").Find(&progs).Error; err != nil {
		return nil, err
	}
	for i := range progs {
		if e := at[progs[i].AthleteID]; e != nil {
			e.Programmes = append(e.Programmes, progs[i].programme())
		}
	}
	return out, nil
}
