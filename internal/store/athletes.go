package store

import (
	"context"
	"slices"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"dunnock/internal/core/athlete"
)

// Athlete is one golfer's facts with the revision they have. Facts.Screens is
// filled by File only.
type Athlete struct {
	ID           string
	Revision     int
	FactsVersion int64 // filled by Files
	Facts        athlete.File
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
		if err := lockGolfer(tx, id); err != nil {
			return err
		}
		row := athleteRow{}
		row.from(f)
		row.Revision = revision + 1
		res := tx.Model(&athleteRow{}).Where("id = ? AND revision = ?", id, revision).
			Select("*").Omit("ID", "PracticeID", "ImportID", "ArchivedOn", "FactsVersion").Updates(&row)
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
		row := limitRow{
			AthleteID: id,
			Position:  i,
			Region:    l.Region,
			Side:      l.Side,
			Kind:      string(l.Kind),
			CapKg:     l.CapKg,
			Until:     datePtr(l.Until),
			SetBy:     l.SetBy,
			Note:      l.Note,
		}
		if err := tx.Create(&row).Error; err != nil {
			return err
		}
	}
	for _, c := range f.Competitions {
		row := competitionRow{AthleteID: id, Date: date(c.Date), LastDay: datePtr(c.Last), Name: c.Name, Peak: c.Peak, Main: c.Main}
		if err := tx.Create(&row).Error; err != nil {
			return err
		}
	}
	return nil
}

// Athlete returns one golfer without screens.
func (p *Practice) Athlete(ctx context.Context, id string) (*Athlete, error) {
	a, _, err := p.athlete(ctx, id, false)
	return a, err
}

// athlete returns everything about a golfer as it was at one moment, with
// screens, newest first, where they are wanted.
func (p *Practice) athlete(ctx context.Context, id string, screens bool) (*Athlete, []Screen, error) {
	var row athleteRow
	var limits []limitRow
	var comps []competitionRow
	var visits []screenRow
	var trials []trialRow
	err := p.Snapshot(ctx, func(p *Practice) error {
		limits, comps, visits, trials = nil, nil, nil, nil
		if err := p.db(ctx).Where("id = ?", id).Take(&row).Error; err != nil {
			return err
		}
		if err := p.db(ctx).Where("athlete_id = ?", id).Order("position").Find(&limits).Error; err != nil {
			return err
		}
		if err := p.db(ctx).Where("athlete_id = ?", id).Order("date, name").Find(&comps).Error; err != nil || !screens {
			return err
		}
		if err := p.db(ctx).Where("athlete_id = ?", id).Order("date DESC").Find(&visits).Error; err != nil {
			return err
		}
		return p.db(ctx).Where("screen_id IN (SELECT id FROM screens WHERE athlete_id = ?)", id).Find(&trials).Error
	})
	if err != nil {
		return nil, nil, translate(err)
	}
	a := &Athlete{ID: row.ID, Revision: row.Revision, Facts: row.file()}
	for _, l := range limits {
		a.Facts.Limits = append(
			a.Facts.Limits,
			athlete.Limit{Region: l.Region, Side: l.Side, Kind: athlete.LimitKind(l.Kind), CapKg: l.CapKg, Until: day(l.Until), SetBy: l.SetBy, Note: l.Note},
		)
	}
	for _, c := range comps {
		a.Facts.Competitions = append(a.Facts.Competitions, c.fact())
	}
	return a, together(visits, trials), nil
}

// HasAthlete returns ErrNotFound when there is no such golfer.
func (p *Practice) HasAthlete(ctx context.Context, id string) error {
	var row athleteRow
	return translate(p.db(ctx).Select("id").Where("id = ?", id).Take(&row).Error)
}

// EverHurt reports whether any trial of a golfer met pain from a number up, or
// tingling.
func (p *Practice) EverHurt(ctx context.Context, id string, from int) (bool, error) {
	var n int64
	err := p.db(ctx).Model(&trialRow{}).
		Where("screen_id IN (SELECT id FROM screens WHERE athlete_id = ?) AND (pain >= ? OR tingling)", id, from).
		Limit(1).
		Count(&n).
		Error
	return n > 0, err
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
	return a, p.coldStarts(ctx, map[string]*athlete.File{id: &a.Facts})
}

// FactsVersions returns, by golfer and in order of name, a number that rises with
// every change of their facts, screens and trials.
func (p *Practice) FactsVersions(ctx context.Context) (ids []string, versions []int64, err error) {
	var rows []athleteRow
	if err := p.db(ctx).Select("id", "facts_version").Order("name, id").Find(&rows).Error; err != nil {
		return nil, nil, err
	}
	for _, r := range rows {
		ids, versions = append(ids, r.ID), append(versions, r.FactsVersion)
	}
	return ids, versions, nil
}

// DataVersion is a number that rises with every change of the practice's data.
func (p *Practice) DataVersion(ctx context.Context) (int64, error) {
	var row practiceRow
	err := p.above(ctx).Select("data_version").Where("id = ?", p.id).Take(&row).Error
	return row.DataVersion, translate(err)
}

// above is for the practice's own row, which stands above its tables.
func (p *Practice) above(ctx context.Context) *gorm.DB {
	db := p.s.db
	if p.work != nil {
		db = p.work.tx
	}
	return db.WithContext(system(ctx))
}

// SquadEntry is one golfer with what the season lane shows.
type SquadEntry struct {
	Athlete
	Screens    []athlete.Screen // dates only
	Programmes []Programme      // without documents
	Photo      string           // names what is in the golfer's picture; "" for none
}

// Heads returns golfers by id with what a list shows: name, age, side and
// clearance. Golfers who are gone are left out.
func (p *Practice) Heads(ctx context.Context, ids []string) (map[string]Athlete, error) {
	var rows []athleteRow
	if err := p.db(ctx).Select(headColumns).Where("id IN ?", uuids(ids)).Find(&rows).Error; err != nil {
		return nil, translate(err)
	}
	out := make(map[string]Athlete, len(rows))
	for i := range rows {
		out[rows[i].ID] = Athlete{ID: rows[i].ID, Revision: rows[i].Revision, Facts: rows[i].file()}
	}
	return out, nil
}

var headColumns = []string{
	"id",
	"revision",
	"name",
	"birth_date",
	"playing_side",
	"school",
	"answered_on",
	"answers_yes",
	"cleared_role",
	"cleared_on",
	"injured_on",
	"guardian",
	"consent_on",
	"archived_on",
	"situation",
}

// uuids leaves out what is no id: the place of a golfer who was erased.
func uuids(ids []string) []string {
	out := make([]string, 0, len(ids))
	for _, id := range ids {
		if uuid.Validate(id) == nil {
			out = append(out, id)
		}
	}
	return out
}

// Names returns the heads of all golfers in order of name.
func (p *Practice) Names(ctx context.Context) ([]Athlete, error) {
	var rows []athleteRow
	if err := p.db(ctx).Select(headColumns).Order("name, id").Find(&rows).Error; err != nil {
		return nil, translate(err)
	}
	out := make([]Athlete, len(rows))
	for i := range rows {
		out[i] = Athlete{ID: rows[i].ID, Revision: rows[i].Revision, Facts: rows[i].file()}
	}
	return out, nil
}

// Squad returns the golfers of the practice by name, those put away or the others,
// in four queries however many there are. Only what the board shows is filled: name,
// age, side, groups, notes and clearance.
func (p *Practice) Squad(ctx context.Context, archived bool) (out []SquadEntry, err error) {
	err = p.Snapshot(ctx, func(p *Practice) error {
		out, err = p.squad(ctx, archived)
		return err
	})
	return out, err
}

func (p *Practice) squad(ctx context.Context, archived bool) ([]SquadEntry, error) {
	var rows []athleteRow
	if err := p.db(ctx).Select(headColumns).Where("(archived_on IS NOT NULL) = ?", archived).Order("name, id").Find(&rows).Error; err != nil {
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
			e.Facts.Competitions = append(e.Facts.Competitions, c.fact())
		}
	}
	var screens []screenRow
	if err := p.db(ctx).Select("athlete_id", "date").Where(hasTrials).Order("date DESC").Find(&screens).Error; err != nil {
		return nil, err
	}
	for _, s := range screens {
		if e := at[s.AthleteID]; e != nil {
			e.Screens = append(e.Screens, athlete.Screen{Date: day(&s.Date)})
		}
	}
	var progs []programmeRow
	if err := p.db(ctx).Where("status <> ?", Withdrawn).Order("start_date, version").Find(&progs).Error; err != nil {
		return nil, err
	}
	for i := range progs {
		if e := at[progs[i].AthleteID]; e != nil {
			e.Programmes = append(e.Programmes, progs[i].programme())
		}
	}
	var photos []photoRow
	if err := p.db(ctx).Select("athlete_id", "version").Find(&photos).Error; err != nil {
		return nil, err
	}
	for _, x := range photos {
		if e := at[x.AthleteID]; e != nil {
			e.Photo = x.Version
		}
	}
	return out, nil
}
