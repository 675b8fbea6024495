package store

import (
	"context"
	"errors"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"dunnock/internal/core/athlete"
)

// The states of an import.
const (
	Uploaded  = "uploaded"
	Checking  = "checking"
	Checked   = "checked"
	Saving    = "saving"
	Saved     = "saved"
	Undone    = "undone"
	Cancelled = "cancelled"
	Failed    = "failed"
)

// Import is a file being brought in. Mapping and Report are JSON the use case
// writes and reads.
type Import struct {
	ID        string
	FileName  string
	State     string
	Done      int
	Total     int
	Mapping   string
	Report    string
	Note      string
	CreatedAt time.Time
	CreatedBy string
}

type importRow struct {
	ID         string `gorm:"default:gen_random_uuid()"`
	PracticeID string
	FileName   string
	Content    []byte
	State      string
	Done       int
	Total      int
	Cancel     bool
	Mapping    *string
	Report     *string
	Note       string
	CreatedAt  time.Time
	CreatedBy  string
	TouchedAt  time.Time
}

func (importRow) TableName() string { return "imports" }

// deadAfter is how long an import may say nothing before the server that worked
// on it is taken for stopped.
const deadAfter = time.Minute

func (r *importRow) get() Import {
	if (r.State == Checking || r.State == Saving) && time.Since(r.TouchedAt) > deadAfter {
		r.State, r.Note = Failed, "The server was stopped while it worked on this file. Nothing was saved; bring it in again."
	}
	i := Import{ID: r.ID, FileName: r.FileName, State: r.State, Done: r.Done, Total: r.Total, Note: r.Note, CreatedAt: r.CreatedAt, CreatedBy: r.CreatedBy}
	if r.Mapping != nil {
		i.Mapping = *r.Mapping
	}
	if r.Report != nil {
		i.Report = *r.Report
	}
	return i
}

type sourceRow struct {
	PracticeID string `gorm:"primaryKey"`
	Header     string `gorm:"primaryKey"`
	Name       string
	Mapping    string
}

func (sourceRow) TableName() string { return "import_sources" }

// CreateImport keeps an upload and returns its id.
func (p *Practice) CreateImport(ctx context.Context, name, by string, content []byte) (string, error) {
	row := importRow{FileName: name, Content: content, State: Uploaded, CreatedBy: by, TouchedAt: time.Now()}
	err := p.tx(ctx, func(tx *gorm.DB) error { return tx.Create(&row).Error })
	return row.ID, err
}

var withoutContent = []string{"id", "file_name", "state", "done", "total", "cancel", "mapping", "report", "note", "created_at", "created_by", "touched_at"}

// Import returns one import without the file.
func (p *Practice) Import(ctx context.Context, id string) (*Import, error) {
	var row importRow
	if err := p.db(ctx).Select(withoutContent).Where("id = ?", id).Take(&row).Error; err != nil {
		return nil, translate(err)
	}
	i := row.get()
	return &i, nil
}

// Imports returns the practice's last fifty imports, newest first, without
// files and reports.
func (p *Practice) Imports(ctx context.Context) ([]Import, error) {
	var rows []importRow
	if err := p.db(ctx).Select("id", "file_name", "state", "done", "total", "note", "created_at", "created_by", "touched_at").Order("created_at DESC").Limit(50).Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]Import, len(rows))
	for i := range rows {
		out[i] = rows[i].get()
	}
	return out, nil
}

// ImportContent returns the file of an import.
func (p *Practice) ImportContent(ctx context.Context, id string) ([]byte, error) {
	var row importRow
	if err := p.db(ctx).Select("content").Where("id = ?", id).Take(&row).Error; err != nil {
		return nil, translate(err)
	}
	return row.Content, nil
}

// StartImport moves an import from one of the states in from to state, with the
// mapping it is read by; ErrConflict when it is in another one.
func (p *Practice) StartImport(ctx context.Context, id string, from []string, state, mapping string, total int) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		change := map[string]any{"state": state, "done": 0, "total": total, "cancel": false, "note": "", "touched_at": gorm.Expr("now()")}
		if mapping != "" {
			change["mapping"], change["report"] = mapping, nil
		}
		res := tx.Model(&importRow{}).Where("id = ? AND state IN ?", id, from).Updates(change)
		if res.Error == nil && res.RowsAffected == 0 {
			return missingOrChanged[importRow](tx, id)
		}
		return res.Error
	})
}

// ImportProgress notes how far an import is and returns whether it should stop.
// It does not count as a change of the practice's data.
func (p *Practice) ImportProgress(ctx context.Context, id string, done, total int) (stop bool, err error) {
	db := p.s.db.WithContext(system(ctx))
	res := db.Model(&importRow{}).Where("practice_id = ? AND id = ?", p.id, id).Updates(map[string]any{"done": done, "total": total, "touched_at": gorm.Expr("now()")})
	if res.Error != nil {
		return false, res.Error
	}
	var row importRow
	err = db.Select("cancel").Where("practice_id = ? AND id = ?", p.id, id).Take(&row).Error
	return row.Cancel, translate(err)
}

// CancelImport asks a running import to stop.
func (p *Practice) CancelImport(ctx context.Context, id string) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		res := tx.Model(&importRow{}).Where("id = ? AND state IN ?", id, []string{Checking, Saving}).Update("cancel", true)
		if res.Error == nil && res.RowsAffected == 0 {
			return missingOrChanged[importRow](tx, id)
		}
		return res.Error
	})
}

// FinishImport ends a step of an import.
func (p *Practice) FinishImport(ctx context.Context, id, state, report, note string) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		change := map[string]any{"state": state, "note": note}
		if report != "" {
			change["report"] = report
		}
		return tx.Model(&importRow{}).Where("id = ?", id).Updates(change).Error
	})
}

// GolferScreens is what an import brings for one golfer: ID names one who is
// there, otherwise New is made.
type GolferScreens struct {
	ID      string
	New     *athlete.File
	Screens []athlete.Screen
}

// ErrStopped is returned when an import was cancelled. Nothing was saved.
var ErrStopped = errors.New("stopped")

// importBatch is how many trials an import gathers before it writes them.
const importBatch = 2000

// CommitImport writes everything an import brings, or nothing, and calls
// progress after each golfer; when it returns true the whole is taken back with
// ErrStopped. It returns how many trials were written.
func (p *Practice) CommitImport(ctx context.Context, importID string, golfers []GolferScreens, progress func(done int) (stop bool)) (int, error) {
	written := 0
	var pending []trialRow
	err := p.tx(ctx, func(tx *gorm.DB) error {
		for i, g := range golfers {
			id := g.ID
			if g.New != nil {
				row := athleteRow{Revision: 1, ImportID: &importID}
				row.from(g.New)
				if err := tx.Create(&row).Error; err != nil {
					return err
				}
				id = row.ID
			}
			rows, err := importScreens(tx, id, g.Screens, &importID, g.New != nil)
			if err != nil {
				return err
			}
			written += len(rows)
			// Trials of many golfers are written together.
			if pending = append(pending, rows...); len(pending) >= importBatch {
				if err := writeTrials(tx, pending); err != nil {
					return err
				}
				pending = pending[:0]
			}
			if progress(i + 1) {
				return ErrStopped
			}
		}
		return writeTrials(tx, pending)
	})
	return written, err
}

// UndoImport takes back what an import wrote: every trial nobody changed since,
// then the screens and golfers it made that are empty and untouched. It returns
// how many trials went.
func (p *Practice) UndoImport(ctx context.Context, importID string) (removed int, err error) {
	err = p.tx(ctx, func(tx *gorm.DB) error {
		var screens []string
		if err := tx.Model(&trialRow{}).Where("import_id = ?", importID).Distinct().Pluck("screen_id", &screens).Error; err != nil {
			return err
		}
		res := tx.Where("import_id = ?", importID).Delete(&trialRow{})
		if res.Error != nil {
			return res.Error
		}
		removed = int(res.RowsAffected)
		if len(screens) > 0 {
			if err := tx.Model(&screenRow{}).Where("id IN ?", screens).Update("revision", gorm.Expr("revision + 1")).Error; err != nil {
				return err
			}
		}
		if err := tx.Where("import_id = ? AND NOT EXISTS (SELECT 1 FROM trials WHERE trials.screen_id = screens.id)", importID).Delete(&screenRow{}).Error; err != nil {
			return err
		}
		return tx.Where("import_id = ? AND revision = 1 AND NOT EXISTS (SELECT 1 FROM screens WHERE screens.athlete_id = athletes.id) AND NOT EXISTS (SELECT 1 FROM programmes WHERE programmes.athlete_id = athletes.id)", importID).
			Delete(&athleteRow{}).Error
	})
	return removed, err
}

// Source returns how a file with this header was read the last time;
// ErrNotFound when it never was.
func (p *Practice) Source(ctx context.Context, header string) (name, mapping string, err error) {
	var row sourceRow
	err = translate(p.db(ctx).Where("header = ?", header).Take(&row).Error)
	return row.Name, row.Mapping, err
}

// RememberSource keeps how files with this header are read.
func (p *Practice) RememberSource(ctx context.Context, header, name, mapping string) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		row := sourceRow{Header: header, Name: name, Mapping: mapping}
		return tx.Clauses(clause.OnConflict{UpdateAll: true}).Create(&row).Error
	})
}
