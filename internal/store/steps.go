package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/change"
)

// Editor is who changes a draft.
type Editor struct{ ID, Name string }

func (e Editor) id() *string {
	if e.ID == "" {
		return nil
	}
	return &e.ID
}

// Done is one thing that was done to a draft: the revision it made, what it was, by whom,
// and the parts it touched (nil: not known).
type Done struct {
	Revision int            `json:"revision"`
	Label    string         `json:"label"`
	By       string         `json:"by"`
	ByID     string         `json:"byId,omitempty"`
	Touched  []programme.ID `json:"touched"`
}

const (
	recentKept = 30  // of what was done to a draft
	stepsKept  = 300 // of a draft
)

// ChangedError says what was done to a draft since an editor saw it. It is an
// ErrConflict. Since is empty where that was too long ago.
type ChangedError struct{ Since []Done }

func (e *ChangedError) Error() string { return ErrConflict.Error() }

// Is makes it an ErrConflict.
func (e *ChangedError) Is(target error) bool { return target == ErrConflict }

// StuckError says why a step cannot be undone or redone: somebody changed the same place
// since. It is an ErrConflict.
type StuckError struct {
	Label string
	Since []Done // what touched the same places, last first
}

func (e *StuckError) Error() string { return e.Label + ": " + ErrConflict.Error() }

// Is makes it an ErrConflict.
func (e *StuckError) Is(target error) bool { return target == ErrConflict }

// Steps returns the labels of what an undo of an editor takes back and a redo brings back;
// empty where there is nothing.
func (p *Practice) Steps(ctx context.Context, id string, who Editor) (undo, redo string, err error) {
	err = p.Snapshot(ctx, func(p *Practice) error {
		u, err := lastStep(p.db(ctx), id, who, false)
		if err != nil {
			return err
		}
		r, err := lastStep(p.db(ctx), id, who, true)
		undo, redo = u.Label, r.Label
		return err
	})
	return undo, redo, err
}

// lastStep is an editor's last step that stands, or their last undone one; a step of nobody
// known counts as anybody's. Its Seq is 0 where there is none.
func lastStep(db *gorm.DB, id string, who Editor, undone bool) (stepRow, error) {
	var row stepRow
	db = db.Where("programme_id = ? AND (by_user = ? OR by_user IS NULL)", id, who.id())
	if undone {
		db = db.Where("undone > 0").Order("undone DESC")
	} else {
		db = db.Where("undone = 0").Order("seq DESC")
	}
	return row, db.Limit(1).Find(&row).Error
}

// Since returns what was done to a draft since a revision; all is false where some of it is
// not known any more.
func (p *Practice) Since(ctx context.Context, id string, revision int) (done []Done, all bool, err error) {
	var row programmeRow
	if err := p.db(ctx).Where("id = ?", id).Take(&row).Error; err != nil {
		return nil, false, translate(err)
	}
	done = row.since(revision)
	return done, len(done) == row.Revision-revision, nil
}

func (r *programmeRow) since(revision int) []Done {
	var out []Done
	for _, d := range r.Recent {
		if d.Revision > revision {
			out = append(out, d)
		}
	}
	return out
}

// editable returns a draft's row, held until the unit ends, if it still has the given
// revision; a *ChangedError otherwise.
func editable(tx *gorm.DB, id string, revision int) (*programmeRow, error) {
	row, err := holdDraft(tx, id)
	if err != nil {
		return nil, err
	}
	if row.Revision != revision {
		return nil, &ChangedError{row.since(revision)}
	}
	return row, nil
}

// holdDraft returns a draft's row, held until the unit ends.
func holdDraft(tx *gorm.DB, id string) (*programmeRow, error) {
	var row programmeRow
	if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("id = ?", id).Take(&row).Error; err != nil {
		return nil, err
	}
	if row.Status != Draft {
		return nil, ErrIssued
	}
	return &row, nil
}

// SaveStep makes a document the draft's next step.
func (p *Practice) SaveStep(ctx context.Context, id string, revision int, label string, by Editor, doc *programme.Programme) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		row, err := editable(tx, id, revision)
		if err != nil {
			return err
		}
		return addStep(tx, row, label, by, doc)
	})
}

// addStep makes a document of a draft, with what it changed as a step of its editor. What
// the editor had undone is gone for good.
func addStep(tx *gorm.DB, row *programmeRow, label string, by Editor, doc *programme.Programme) error {
	was, _, err := readDoc(tx, row.ID)
	if err != nil {
		return err
	}
	if err := doc.Check(); err != nil {
		return fmt.Errorf("store a programme: %w", err)
	}
	made := change.Between(was, doc)
	stored, err := json.Marshal(made)
	if err != nil {
		return err
	}
	if err := tx.Where("programme_id = ? AND undone > 0 AND (by_user = ? OR by_user IS NULL)", row.ID, by.id()).Delete(&stepRow{}).Error; err != nil {
		return err
	}
	var seq int
	if err := tx.Model(&stepRow{}).Where("programme_id = ?", row.ID).Select("COALESCE(MAX(seq), 0) + 1").Scan(&seq).Error; err != nil {
		return err
	}
	if err := tx.Create(&stepRow{ProgrammeID: row.ID, Seq: seq, Label: label, Change: string(stored), ByUser: by.id(), ByName: by.Name}).Error; err != nil {
		return err
	}
	if err := tx.Where("programme_id = ? AND seq <= ?", row.ID, seq-stepsKept).Delete(&stepRow{}).Error; err != nil {
		return err
	}
	return putDoc(tx, row, doc, Done{Label: label, By: by.Name, ByID: by.ID, Touched: made.Touched()})
}

// putDoc stores the document of a draft and what was done to it.
func putDoc(tx *gorm.DB, row *programmeRow, doc *programme.Programme, done Done) error {
	text, err := document(doc)
	if err != nil {
		return err
	}
	if err := tx.Model(&docRow{}).Where("programme_id = ?", row.ID).Select("Doc").Updates(&docRow{Doc: text}).Error; err != nil {
		return err
	}
	next := row.after(done)
	next.describe(doc)
	return alter(tx, row, &next, "Revision", "Recent", "School", "StartDate", "Weeks", "Emphasis")
}

// after is the next revision of a draft with what made it.
func (r *programmeRow) after(done Done) programmeRow {
	done.Revision = r.Revision + 1
	recent := append(slices.Clone(r.Recent), done)
	return programmeRow{Revision: done.Revision, Recent: recent[max(0, len(recent)-recentKept):]}
}

func alter(tx *gorm.DB, row, next *programmeRow, columns ...string) error {
	res := tx.Model(&programmeRow{}).Where("id = ? AND revision = ?", row.ID, row.Revision).Select(columns).Updates(next)
	if res.Error == nil && res.RowsAffected == 0 {
		return ErrConflict
	}
	return res.Error
}

// Step takes back an editor's own last change (−1), or makes the one they took back last
// again (+1), whatever others did elsewhere meanwhile. The error is ErrNotFound when there
// is none, a *StuckError where somebody changed the same place since.
func (p *Practice) Step(ctx context.Context, id string, by int, who Editor) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		row, err := holdDraft(tx, id)
		if err != nil {
			return err
		}
		step, err := lastStep(tx, id, who, by > 0)
		if err != nil {
			return err
		}
		if step.Seq == 0 {
			return ErrNotFound
		}
		var c change.Change
		if err := json.Unmarshal([]byte(step.Change), &c); err != nil {
			return fmt.Errorf("programme %s, step %d: %w", id, step.Seq, err)
		}
		done := Done{Label: "Redid: " + step.Label, By: who.Name, ByID: who.ID}
		if by < 0 {
			c, done.Label = c.Inverse(), "Undid: "+step.Label
		}
		doc, _, err := readDoc(tx, id)
		if err != nil {
			return err
		}
		made, err := c.Apply(doc)
		var clash *change.Clash
		switch {
		case errors.As(err, &clash):
			return &StuckError{step.Label, row.touching(c, who)}
		case err != nil:
			return err
		}
		undone := 0
		if by < 0 {
			if err := tx.Model(&stepRow{}).Where("programme_id = ?", id).Select("COALESCE(MAX(undone), 0) + 1").Scan(&undone).Error; err != nil {
				return err
			}
		}
		if err := tx.Model(&stepRow{}).Where("programme_id = ? AND seq = ?", id, step.Seq).Select("Undone").Updates(&stepRow{Undone: undone}).Error; err != nil {
			return err
		}
		done.Touched = c.Touched()
		return putDoc(tx, row, made, done)
	})
}

// touching returns what others did last to any of the parts of a change, the newest first.
func (r *programmeRow) touching(c change.Change, who Editor) []Done {
	parts := []programme.ID{}
	for i := range c {
		parts = append(parts, c[i].ID)
	}
	var out []Done
	for _, d := range slices.Backward(r.Recent) {
		if d.ByID != who.ID && slices.ContainsFunc(d.Touched, func(id programme.ID) bool { return slices.Contains(parts, id) }) {
			out = append(out, d)
		}
	}
	return out
}

// A Revision is what was done last to a programme.
type Revision struct {
	Revision int
	Status   string
	Last     Done
}

// Revision returns what was done last to a programme.
func (p *Practice) Revision(ctx context.Context, id string) (*Revision, error) {
	var row programmeRow
	if err := p.db(ctx).Select("id", "revision", "status", "recent").Where("id = ?", id).Take(&row).Error; err != nil {
		return nil, translate(err)
	}
	out := &Revision{Revision: row.Revision, Status: row.Status}
	if n := len(row.Recent); n > 0 {
		out.Last = row.Recent[n-1]
	}
	return out, nil
}
