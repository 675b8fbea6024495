package store

import (
	"cmp"
	"context"
	"slices"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
)

// Screen is a stored screen. Revs holds the revision at which each cell was last
// written, by the trial's key.
type Screen struct {
	ID        string
	AthleteID string
	Revision  int
	Revs      map[string]int
	// DataVersion is the practice's after a save; 0 on a screen that was read.
	DataVersion int64
	athlete.Screen
}

// CreateScreen stores an empty screen. ErrExists when the golfer has one on
// that day.
func (p *Practice) CreateScreen(ctx context.Context, athleteID string, on civil.Date, c athlete.Circumstances) (string, error) {
	row := screenRow{AthleteID: athleteID, Revision: 1, Date: date(on)}
	row.under(c)
	err := p.tx(ctx, func(tx *gorm.DB) error {
		if err := lockGolfer(tx, athleteID); err != nil {
			return err
		}
		return createScreen(tx, &row)
	})
	return row.ID, err
}

func createScreen(tx *gorm.DB, row *screenRow) error { return tx.Create(row).Error }

// Screen returns one screen with its trials in sheet order.
func (p *Practice) Screen(ctx context.Context, id string) (s *Screen, err error) {
	err = p.Snapshot(ctx, func(p *Practice) error {
		var row screenRow
		if err := p.db(ctx).Where("id = ?", id).Take(&row).Error; err != nil {
			return err
		}
		out, err := p.withTrials(ctx, []screenRow{row}, nil)
		if err == nil {
			s = &out[0]
		}
		return err
	})
	return s, translate(err)
}

// ScreenOf returns whose a screen is and its day.
func (p *Practice) ScreenOf(ctx context.Context, id string) (athleteID string, on civil.Date, err error) {
	var row screenRow
	err = translate(p.db(ctx).Select("athlete_id", "date").Where("id = ?", id).Take(&row).Error)
	return row.AthleteID, day(&row.Date), err
}

// Screens returns a golfer's screens with their trials, newest first.
func (p *Practice) Screens(ctx context.Context, athleteID string) (out []Screen, err error) {
	err = p.Snapshot(ctx, func(p *Practice) error {
		var rows []screenRow
		if err := p.db(ctx).Where("athlete_id = ?", athleteID).Order("date DESC").Find(&rows).Error; err != nil {
			return err
		}
		out, err = p.withTrials(ctx, rows, nil)
		return err
	})
	return out, translate(err)
}

func (p *Practice) withTrials(ctx context.Context, rows []screenRow, tests []string) ([]Screen, error) {
	if len(rows) == 0 {
		return []Screen{}, nil
	}
	ids := make([]string, len(rows))
	for i := range rows {
		ids[i] = rows[i].ID
	}
	var trials []trialRow
	for some := range slices.Chunk(ids, maxParameters) {
		var more []trialRow
		q := p.db(ctx).Where("screen_id IN ?", some)
		if tests != nil {
			q = q.Where("test IN ?", tests)
		}
		if err := q.Find(&more).Error; err != nil {
			return nil, err
		}
		trials = append(trials, more...)
	}
	return together(rows, trials), nil
}

// maxParameters keeps a list of ids within what one statement may name.
const maxParameters = 20_000

// together puts trials into their screens, in sheet order.
func together(rows []screenRow, trials []trialRow) []Screen {
	out := make([]Screen, len(rows))
	at := make(map[string]*Screen, len(rows))
	for i := range rows {
		out[i] = *rows[i].screen()
		at[rows[i].ID] = &out[i]
	}
	for i := range trials {
		if s := at[trials[i].ScreenID]; s != nil {
			t := trials[i].trial()
			s.Trials = append(s.Trials, t)
			s.Revs[t.Key()] = trials[i].Rev
		}
	}
	for i := range out {
		sortTrials(out[i].Trials)
	}
	return out
}

var (
	sideRank = map[measure.Side]int{measure.Side(measure.Trail): 1, measure.Side(measure.Away): 1, measure.Side(measure.Other): 1}
	testRank = func() map[string]int {
		m := map[string]int{}
		for i := range measure.Shipped().Tests() {
			m[measure.Shipped().Tests()[i].ID] = i
		}
		return m
	}()
)

// sortTrials puts trials in the order of the sheet, a practice's own tests last,
// so that an export is the same whatever order they were typed in.
func sortTrials(trials []measure.Trial) {
	rank := func(test string) int {
		if r, ok := testRank[test]; ok {
			return r
		}
		return len(testRank)
	}
	slices.SortFunc(trials, func(a, b measure.Trial) int {
		return cmp.Or(rank(a.Test)-rank(b.Test), cmp.Compare(a.Test, b.Test), sideRank[a.Side]-sideRank[b.Side], a.Number-b.Number)
	})
}

// LockScreen takes the golfer a screen is of until the unit ends, and returns
// their id.
func (p *Practice) LockScreen(ctx context.Context, screenID string) (athleteID string, err error) {
	var row athleteRow
	err = p.db(ctx).Clauses(clause.Locking{Strength: "NO KEY UPDATE"}).Select("id").Where("id = (SELECT athlete_id FROM screens WHERE id = ?)", screenID).Take(&row).Error
	return row.ID, translate(err)
}

// LockGolfer takes a golfer until the unit ends.
func (p *Practice) LockGolfer(ctx context.Context, id string) error {
	return translate(lockGolfer(p.db(ctx), id))
}

// screen is the row without trials.
func (r *screenRow) screen() *Screen {
	return &Screen{
		ID:        r.ID,
		AthleteID: r.AthleteID,
		Revision:  r.Revision,
		Revs:      map[string]int{},
		Screen:    athlete.Screen{Date: day(&r.Date), Circumstances: r.circumstances(), Trials: []measure.Trial{}},
	}
}

// ImportScreens writes whole screens of one golfer, making those that do not
// exist, all or none.
func (p *Practice) ImportScreens(ctx context.Context, athleteID string, screens []athlete.Screen) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		rows, err := importScreens(tx, athleteID, screens, nil, false)
		if err != nil {
			return err
		}
		return writeTrials(tx, rows)
	})
}

// importScreens makes or finds the screens and returns the trials still to be
// written. importID marks what it makes; a fresh golfer has no screens yet.
func importScreens(tx *gorm.DB, athleteID string, screens []athlete.Screen, importID *string, fresh bool) ([]trialRow, error) {
	var write []trialRow
	for _, s := range screens {
		var row screenRow
		err := ErrNotFound
		if !fresh {
			err = translate(tx.Where("athlete_id = ? AND date = ?", athleteID, date(s.Date)).Take(&row).Error)
		}
		have := map[string]measure.Trial{}
		switch err {
		case nil:
			row.Revision++
			if err := tx.Model(&screenRow{}).Where("id = ?", row.ID).Update("revision", row.Revision).Error; err != nil {
				return nil, err
			}
			var rows []trialRow
			if err := tx.Where("screen_id = ?", row.ID).Find(&rows).Error; err != nil {
				return nil, err
			}
			for i := range rows {
				t := rows[i].trial()
				have[t.Key()] = t
			}
		case ErrNotFound:
			row = screenRow{AthleteID: athleteID, Revision: 1, Date: date(s.Date), ImportID: importID}
			row.under(s.Circumstances)
			if err := createScreen(tx, &row); err != nil {
				return nil, err
			}
		default:
			return nil, err
		}
		for _, t := range s.Trials {
			if old, ok := have[t.Key()]; ok && old.SameAs(t) {
				continue // there already: it stays whose it is
			}
			r := trialFrom(row.ID, row.Revision, t)
			r.ImportID = importID
			write = append(write, r)
		}
	}
	return write, nil
}

// DeleteScreen removes a screen and its trials.
func (p *Practice) DeleteScreen(ctx context.Context, id string) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		if err := tx.Clauses(clause.Locking{Strength: "NO KEY UPDATE"}).Select("id").Where("id = (SELECT athlete_id FROM screens WHERE id = ?)", id).Take(&athleteRow{}).Error; err != nil {
			return err
		}
		res := tx.Where("id = ?", id).Delete(&screenRow{})
		if res.Error == nil && res.RowsAffected == 0 {
			return ErrNotFound
		}
		return res.Error
	})
}

// hasTrials leaves out screens nothing was written into.
const hasTrials = "EXISTS (SELECT 1 FROM trials WHERE trials.screen_id = screens.id)"

// ScreenDates returns the days of a golfer's screens with anything in them, newest
// first.
func (p *Practice) ScreenDates(ctx context.Context, athleteID string) ([]civil.Date, error) {
	var rows []screenRow
	if err := p.db(ctx).Select("date").Where("athlete_id = ?", athleteID).Where(hasTrials).Order("date DESC").Find(&rows).Error; err != nil {
		return nil, translate(err)
	}
	out := make([]civil.Date, len(rows))
	for i := range rows {
		out[i] = day(&rows[i].Date)
	}
	return out, nil
}

// Files returns golfers by name with their screens, oldest first, in four queries
// however many there are: those named by ids, or all with nil. Limits and
// competitions are left out.
func (p *Practice) Files(ctx context.Context, ids []string) (out []Athlete, err error) {
	err = p.Snapshot(ctx, func(p *Practice) error {
		out, err = p.files(ctx, ids, nil)
		return err
	})
	return out, translate(err)
}

// FilesOf is [Practice.Files] with the trials of some tests alone.
func (p *Practice) FilesOf(ctx context.Context, ids, tests []string) (out []Athlete, err error) {
	err = p.Snapshot(ctx, func(p *Practice) error {
		out, err = p.files(ctx, ids, tests)
		return err
	})
	return out, translate(err)
}

func (p *Practice) files(ctx context.Context, ids, tests []string) ([]Athlete, error) {
	some := func(column string) *gorm.DB {
		if ids == nil {
			return p.db(ctx)
		}
		return p.db(ctx).Where(column+" IN ?", ids)
	}
	var rows []athleteRow
	if err := some("id").Order("name, id").Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]Athlete, len(rows))
	at := make(map[string]*Athlete, len(rows))
	for i := range rows {
		out[i] = Athlete{ID: rows[i].ID, Revision: rows[i].Revision, FactsVersion: rows[i].FactsVersion, Facts: rows[i].file()}
		at[rows[i].ID] = &out[i]
	}
	var screens []screenRow
	if err := some("athlete_id").Order("date").Find(&screens).Error; err != nil {
		return nil, err
	}
	full, err := p.withTrials(ctx, screens, tests)
	if err != nil {
		return nil, err
	}
	for _, s := range full {
		if a := at[s.AthleteID]; a != nil {
			a.Facts.Screens = append(a.Facts.Screens, s.Screen)
		}
	}
	facts := make(map[string]*athlete.File, len(out))
	for i := range out {
		facts[out[i].ID] = &out[i].Facts
	}
	return out, p.coldStarts(ctx, facts)
}
