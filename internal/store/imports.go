package store

import (
	"bytes"
	"compress/gzip"
	"context"
	"fmt"
	"io"
	"time"

	"gorm.io/gorm"
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
	Head      string // header and first rows, JSON of the use case; "" once they were dropped
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
	Content    []byte // of an upload by an earlier version that was not read yet
	Head       *string
	Parsed     []byte // the table as it was read, compressed JSON of the use case
	State      string
	Run        *string // the work on it that is under way
	Done       int
	Total      int
	Cancel     bool
	Mapping    *string
	Report     *string
	Note       string
	CreatedAt  time.Time
	CreatedBy  string
	TouchedAt  time.Time
	AskedAt    time.Time `gorm:"default:now()"`
}

func (importRow) TableName() string { return "imports" }

const (
	// deadAfter is how long a run may give no sign of life before the server that
	// worked on it is taken for stopped.
	deadAfter = 15 * time.Second
	// ContentsKept is how long the rows of an upload wait to be saved.
	ContentsKept = 7 * 24 * time.Hour
	// waitedFor is how long a check goes on that nobody asks about.
	waitedFor = time.Minute
)

func (r *importRow) get() Import {
	i := Import{ID: r.ID, FileName: r.FileName, State: r.State, Done: r.Done, Total: r.Total, Note: r.Note, CreatedAt: r.CreatedAt, CreatedBy: r.CreatedBy}
	if r.Head != nil {
		i.Head = *r.Head
	}
	if r.Mapping != nil {
		i.Mapping = *r.Mapping
	}
	if r.Report != nil {
		i.Report = *r.Report
	}
	return i
}

// CreateImport keeps the rows of an upload and returns its id.
func (p *Practice) CreateImport(ctx context.Context, name, by, head string, parsed []byte) (string, error) {
	packed, err := pack(parsed)
	if err != nil {
		return "", err
	}
	row := importRow{FileName: name, Head: &head, Parsed: packed, State: Uploaded, CreatedBy: by, TouchedAt: time.Now()}
	err = p.tx(ctx, func(tx *gorm.DB) error { return tx.Create(&row).Error })
	return row.ID, err
}

func pack(b []byte) ([]byte, error) {
	var out bytes.Buffer
	w, err := gzip.NewWriterLevel(&out, gzip.BestSpeed)
	if err == nil {
		if _, err = w.Write(b); err == nil {
			err = w.Close()
		}
	}
	return out.Bytes(), err
}

func unpack(b []byte) ([]byte, error) {
	r, err := gzip.NewReader(bytes.NewReader(b))
	if err != nil {
		return nil, err
	}
	return io.ReadAll(r)
}

var withoutContent = []string{"id", "file_name", "state", "run", "done", "total", "cancel", "head", "mapping", "report", "note", "created_at", "created_by", "touched_at"}

// revive gives imports whose server stopped back to the coach: what was being
// saved was not, in one transaction with its state, so it can be saved again.
func (p *Practice) revive(ctx context.Context) error {
	var n int64
	stale := fmt.Sprintf("state IN ('checking', 'saving') AND touched_at < now() - interval '%d seconds'", int(deadAfter.Seconds()))
	if err := p.db(ctx).Model(&importRow{}).Where(stale).Count(&n).Error; err != nil || n == 0 {
		return err
	}
	return p.tx(ctx, func(tx *gorm.DB) error {
		return tx.Model(&importRow{}).Where(stale).Updates(map[string]any{
			"state": gorm.Expr("CASE state WHEN 'saving' THEN 'checked' ELSE 'uploaded' END"), "run": nil, "cancel": false,
			"note": "The server was stopped while it worked on this file. Nothing was saved: go on from here.",
		}).Error
	})
}

// Import returns one import without its rows.
func (p *Practice) Import(ctx context.Context, id string) (*Import, error) {
	if err := p.revive(ctx); err != nil {
		return nil, translate(err)
	}
	var row importRow
	if err := p.db(ctx).Select(withoutContent).Where("id = ?", id).Take(&row).Error; err != nil {
		return nil, translate(err)
	}
	i := row.get()
	return &i, nil
}

// Imports returns the practice's last fifty imports, newest first, without rows
// and reports.
func (p *Practice) Imports(ctx context.Context) ([]Import, error) {
	if err := p.revive(ctx); err != nil {
		return nil, translate(err)
	}
	var rows []importRow
	if err := p.db(ctx).Select("id", "file_name", "state", "done", "total", "note", "created_at", "created_by", "touched_at").Order("created_at DESC").Limit(50).Find(&rows).Error; err != nil {
		return nil, translate(err)
	}
	out := make([]Import, len(rows))
	for i := range rows {
		out[i] = rows[i].get()
	}
	return out, nil
}

// ImportRows returns the rows of an import as they were kept, or, of an upload
// by an earlier version, the file as it came. Both nil: they were dropped.
func (p *Practice) ImportRows(ctx context.Context, id string) (parsed, file []byte, err error) {
	var row importRow
	if err := p.db(ctx).Select("content", "parsed").Where("id = ?", id).Take(&row).Error; err != nil {
		return nil, nil, translate(err)
	}
	if row.Parsed != nil {
		parsed, err = unpack(row.Parsed)
	}
	return parsed, row.Content, err
}

// KeepRows puts the rows of an upload by an earlier version in the file's place.
func (p *Practice) KeepRows(ctx context.Context, id, head string, parsed []byte) error {
	packed, err := pack(parsed)
	if err != nil {
		return err
	}
	return p.tx(ctx, func(tx *gorm.DB) error {
		return tx.Model(&importRow{}).Where("id = ? AND content IS NOT NULL", id).Updates(map[string]any{"parsed": packed, "head": head, "content": nil}).Error
	})
}

// DropOldRows forgets the rows of uploads nobody saved in ContentsKept, of every
// practice, and what was captured and not kept. It returns how many uploads.
func (s *Store) DropOldRows(ctx context.Context, now time.Time) (int, error) {
	res := s.sys(ctx).
		Model(&importRow{}).
		Where("(parsed IS NOT NULL OR content IS NOT NULL) AND created_at < ? AND state NOT IN ('checking', 'saving')", now.UTC().Add(-ContentsKept)).
		Updates(map[string]any{"parsed": nil, "head": nil, "content": nil, "report": nil, "state": Failed, "note": "Nobody saved this file within a week: its contents were dropped. Bring it in again."})
	if res.Error != nil {
		return 0, res.Error
	}
	err := s.sys(ctx).Where("state = ? AND created_at < ?", statePending, now.UTC().Add(-pendingKept)).Delete(&recordingRow{}).Error
	return int(res.RowsAffected), err
}

// BeginImport starts a run on an import that is in one of the states from, with
// the mapping it is read by; ErrConflict when it is in another state. Of two at
// once, one begins.
func (p *Practice) BeginImport(ctx context.Context, id, run string, from []string, state, mapping string, total int) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		change := map[string]any{
			"state":      state,
			"run":        run,
			"done":       0,
			"total":      total,
			"cancel":     false,
			"note":       "",
			"touched_at": gorm.Expr("now()"),
			"asked_at":   gorm.Expr("now()"),
		}
		if mapping != "" {
			change["mapping"], change["report"] = mapping, nil
		}
		res := tx.Model(&importRow{}).Where("id = ? AND state IN ? AND (parsed IS NOT NULL OR content IS NOT NULL)", id, from).Updates(change)
		if res.Error == nil && res.RowsAffected == 0 {
			return missingOrChanged[importRow](tx, id)
		}
		return res.Error
	})
}

// LayImport keeps how an import in one of the states from is proposed to be read
// now; what it was checked by is forgotten.
func (p *Practice) LayImport(ctx context.Context, id string, from []string, head string) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		res := tx.Model(&importRow{}).Where("id = ? AND state IN ? AND parsed IS NOT NULL", id, from).
			Updates(map[string]any{"head": head, "mapping": nil, "report": nil, "state": Uploaded, "note": ""})
		if res.Error == nil && res.RowsAffected == 0 {
			return missingOrChanged[importRow](tx, id)
		}
		return res.Error
	})
}

// ImportProgress notes how far a run is, the sign that its server lives, and
// returns whether it should stop: somebody cancelled it, nobody waits for the
// check any more, or it is no longer the run of its import. It does not count as a change of the practice's data.
func (p *Practice) ImportProgress(ctx context.Context, id, run string, done, total int) (stop bool, err error) {
	db := p.s.db.WithContext(system(ctx))
	res := db.Model(&importRow{}).Where("practice_id = ? AND id = ? AND run = ? AND NOT cancel", p.id, id, run).
		Where("state <> ? OR asked_at > now() - make_interval(secs => ?)", Checking, waitedFor.Seconds()).
		Updates(map[string]any{"done": done, "total": total, "touched_at": gorm.Expr("now()")})
	return res.Error == nil && res.RowsAffected == 0, res.Error
}

// AskedFor notes that somebody waits for an import. It does not count as a change
// of the practice's data.
func (p *Practice) AskedFor(ctx context.Context, id string) error {
	return p.s.db.WithContext(system(ctx)).
		Model(&importRow{}).
		Where("practice_id = ? AND id = ? AND asked_at < now() - interval '5 seconds'", p.id, id).
		Update("asked_at", gorm.Expr("now()")).
		Error
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

// EndImport ends a run; ErrStopped when it was cancelled or is no longer the run
// of its import. In the unit of work that saves, state and data change together.
// A saved import's rows are dropped.
func (p *Practice) EndImport(ctx context.Context, id, run, state, report, note string) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		change := map[string]any{"state": state, "run": nil, "note": note}
		if report != "" {
			change["report"] = report
		}
		q := tx.Model(&importRow{}).Where("id = ? AND run = ?", id, run)
		if state == Saved {
			change["parsed"], change["head"], change["content"] = nil, nil, nil
			q = q.Where("NOT cancel")
		}
		res := q.Updates(change)
		if res.Error == nil && res.RowsAffected == 0 {
			return ErrStopped
		}
		return res.Error
	})
}
