package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/upgrade"
)

// The states of a programme.
const (
	Draft  = "draft"
	Issued = "issued"
)

// Programme is a stored programme. Doc is filled by the calls that say so.
type Programme struct {
	ID        string
	AthleteID string
	Revision  int
	Status    string
	Version   int // 0 for a draft
	School    string
	StartDate civil.Date
	Weeks     int
	Emphasis  string
	Note      string
	IssuedOn  civil.Date
	Undo      string // label of the step an undo takes back
	Redo      string // label of the step a redo brings back
	Doc       *programme.Programme
	Frozen    []byte // the content it was issued with: nil for a draft, and for versions from before content was kept
}

func (r *programmeRow) programme() Programme {
	return Programme{
		ID:        r.ID,
		AthleteID: r.AthleteID,
		Revision:  r.Revision,
		Status:    r.Status,
		Version:   r.Version,
		School:    r.School,
		StartDate: day(&r.StartDate),
		Weeks:     r.Weeks,
		Emphasis:  r.Emphasis,
		Note:      r.Note,
		IssuedOn:  day(r.IssuedOn),
	}
}

func (r *programmeRow) describe(doc *programme.Programme) {
	r.School, r.StartDate, r.Weeks, r.Emphasis = doc.School, date(doc.StartDate), 0, ""
	for _, b := range doc.Blocks {
		r.Weeks += len(b.Weeks)
		r.Emphasis = b.Emphasis
	}
}

// Programmes returns a golfer's draft and versions without documents, the
// draft first, then the newest.
func (p *Practice) Programmes(ctx context.Context, athleteID string) ([]Programme, error) {
	var rows []programmeRow
	if err := p.db(ctx).Where("athlete_id = ?", athleteID).Order("status, version DESC").Find(&rows).Error; err != nil {
		return nil, translate(err)
	}
	out := make([]Programme, len(rows))
	for i := range rows {
		out[i] = rows[i].programme()
	}
	return out, nil
}

// Programme returns one programme with its document and what can be undone.
func (p *Practice) Programme(ctx context.Context, id string) (out *Programme, err error) {
	err = p.Snapshot(ctx, func(p *Practice) error {
		out, err = load(p.db(ctx), id)
		return err
	})
	return out, err
}

func load(db *gorm.DB, id string) (*Programme, error) {
	var row programmeRow
	if err := db.Where("id = ?", id).Take(&row).Error; err != nil {
		return nil, translate(err)
	}
	out := row.programme()
	var step stepRow
	switch err := translate(db.Where("programme_id = ? AND seq = ?", id, row.Cursor).Take(&step).Error); {
	case errors.Is(err, ErrNotFound):
		return nil, fmt.Errorf("programme %s has lost its step %d", id, row.Cursor)
	case err != nil:
		return nil, err
	}
	doc, err := upgrade.Read([]byte(step.Doc))
	if err != nil {
		return nil, fmt.Errorf("programme %s, step %d: %w", id, row.Cursor, err)
	}
	out.Doc = doc
	if step.Frozen != nil {
		out.Frozen = []byte(*step.Frozen)
	}
	if row.Cursor > 0 {
		out.Undo = step.Label
	}
	err = db.Model(&stepRow{}).Where("programme_id = ? AND seq = ?", id, row.Cursor+1).Pluck("label", &out.Redo).Error
	if err != nil {
		return nil, err
	}
	return &out, nil
}

// CreateDraft stores a new draft, or, where the golfer has one, makes the
// document its next step. It returns the draft's id.
func (p *Practice) CreateDraft(ctx context.Context, athleteID, label, by string, doc *programme.Programme) (string, error) {
	var id string
	err := p.tx(ctx, func(tx *gorm.DB) error {
		var row programmeRow
		if err := lockGolfer(tx, athleteID); err != nil {
			return err
		}
		switch err := translate(tx.Where("athlete_id = ? AND status = ?", athleteID, Draft).Take(&row).Error); {
		case err == nil:
			id = row.ID
			return appendStep(tx, &row, label, by, doc)
		case !errors.Is(err, ErrNotFound):
			return err
		}
		row = programmeRow{AthleteID: athleteID, Revision: 1, Status: Draft, Recent: []Done{{1, label, by}}}
		row.describe(doc)
		if err := tx.Create(&row).Error; err != nil {
			return err
		}
		id = row.ID
		return putStep(tx, row.ID, 0, label, doc)
	})
	return id, err
}

func putStep(tx *gorm.DB, id string, seq int, label string, doc *programme.Programme) error {
	b, err := document(doc)
	if err != nil {
		return err
	}
	return tx.Create(&stepRow{ProgrammeID: id, Seq: seq, Label: label, Doc: b}).Error
}

// document is what is stored of a programme. One whose parts cannot be told apart
// is not.
func document(doc *programme.Programme) (string, error) {
	if err := doc.Check(); err != nil {
		return "", fmt.Errorf("store a programme: %w", err)
	}
	b, err := json.Marshal(doc)
	return string(b), err
}

// appendStep puts a document behind the step that is shown; steps that were
// undone are gone for good.
func appendStep(tx *gorm.DB, row *programmeRow, label, by string, doc *programme.Programme) error {
	if err := tx.Where("programme_id = ? AND seq > ?", row.ID, row.Cursor).Delete(&stepRow{}).Error; err != nil {
		return err
	}
	if err := putStep(tx, row.ID, row.Cursor+1, label, doc); err != nil {
		return err
	}
	next := row.after(label, by)
	next.Cursor++
	next.describe(doc)
	return change(tx, row, &next, "Revision", "Recent", "Cursor", "School", "StartDate", "Weeks", "Emphasis")
}

func change(tx *gorm.DB, row, next *programmeRow, columns ...string) error {
	res := tx.Model(&programmeRow{}).Where("id = ? AND revision = ?", row.ID, row.Revision).Select(columns).Updates(next)
	if res.Error == nil && res.RowsAffected == 0 {
		return ErrConflict
	}
	return res.Error
}

// Done is one thing that was done to a draft: the revision it made, what it was,
// and by whom.
type Done struct {
	Revision int    `json:"revision"`
	Label    string `json:"label"`
	By       string `json:"by"`
}

// recentKept is how many of them are kept.
const recentKept = 30

// ChangedError says what was done to a draft since an editor saw it. It is an
// ErrConflict. Since is empty where that was too long ago.
type ChangedError struct{ Since []Done }

func (e *ChangedError) Error() string { return ErrConflict.Error() }

// Is makes it an ErrConflict.
func (e *ChangedError) Is(target error) bool { return target == ErrConflict }

// editable returns a draft's row, with hold taken until the unit ends, if it still
// has the given revision; a *ChangedError otherwise.
func editable(tx *gorm.DB, id string, revision int, hold bool) (*programmeRow, error) {
	var row programmeRow
	if hold {
		tx = tx.Clauses(clause.Locking{Strength: "UPDATE"})
	}
	if err := tx.Where("id = ?", id).Take(&row).Error; err != nil {
		return nil, err
	}
	switch {
	case row.Status == Issued:
		return nil, ErrIssued
	case row.Revision != revision:
		e := &ChangedError{}
		for _, d := range row.Recent {
			if d.Revision > revision {
				e.Since = append(e.Since, d)
			}
		}
		return nil, e
	}
	return &row, nil
}

// after is the next revision of a draft with what made it.
func (r *programmeRow) after(label, by string) programmeRow {
	recent := append(slices.Clone(r.Recent), Done{r.Revision + 1, label, by})
	return programmeRow{Revision: r.Revision + 1, Cursor: r.Cursor, Recent: recent[max(0, len(recent)-recentKept):]}
}

// Unchanged returns a *ChangedError when a draft no longer has the revision.
func (p *Practice) Unchanged(ctx context.Context, id string, revision int) error {
	return translate(p.Snapshot(ctx, func(p *Practice) error {
		_, err := editable(p.db(ctx), id, revision, false)
		return err
	}))
}

// SaveStep makes a document the draft's next step.
func (p *Practice) SaveStep(ctx context.Context, id string, revision int, label, by string, doc *programme.Programme) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		row, err := editable(tx, id, revision, true)
		if err != nil {
			return err
		}
		return appendStep(tx, row, label, by, doc)
	})
}

// Step moves the draft by one step back (−1) or forward (+1). ErrNotFound when
// there is none.
func (p *Practice) Step(ctx context.Context, id string, revision, by int, who string) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		row, err := editable(tx, id, revision, true)
		if err != nil {
			return err
		}
		var step stepRow
		if err := tx.Where("programme_id = ? AND seq = ?", id, row.Cursor+by).Take(&step).Error; err != nil {
			return err
		}
		doc, err := upgrade.Read([]byte(step.Doc))
		if err != nil {
			return fmt.Errorf("programme %s, step %d: %w", id, step.Seq, err)
		}
		label := "Redid: " + step.Label
		if by < 0 {
			var undone stepRow
			if err := tx.Select("label").Where("programme_id = ? AND seq = ?", id, row.Cursor).Take(&undone).Error; err != nil {
				return err
			}
			label = "Undid: " + undone.Label
		}
		next := row.after(label, who)
		next.Cursor += by
		next.describe(doc)
		return change(tx, row, &next, "Revision", "Recent", "Cursor", "School", "StartDate", "Weeks", "Emphasis")
	})
}

// Issue makes the draft the golfer's next version, with the document as given and
// the content it was made by. From then on the database refuses every change to
// it.
func (p *Practice) Issue(ctx context.Context, id string, revision int, on civil.Date, by, note string, doc *programme.Programme, frozen []byte) error {
	b, err := document(doc)
	if err != nil {
		return err
	}
	return p.tx(ctx, func(tx *gorm.DB) error {
		row, err := editable(tx, id, revision, true)
		if err != nil {
			return err
		}
		// Only the step that is issued stays.
		if err := tx.Where("programme_id = ? AND seq <> ?", id, row.Cursor).Delete(&stepRow{}).Error; err != nil {
			return err
		}
		if err := tx.Model(&stepRow{}).Where("programme_id = ? AND seq = ?", id, row.Cursor).Updates(map[string]any{"seq": 0, "doc": b, "frozen": string(frozen)}).Error; err != nil {
			return err
		}
		var last programmeRow
		err = tx.Where("athlete_id = ? AND status = ?", row.AthleteID, Issued).Order("version DESC").Limit(1).Find(&last).Error
		if err != nil {
			return err
		}
		next := programmeRow{Revision: row.Revision + 1, Status: Issued, Version: last.Version + 1, Note: note, IssuedOn: datePtr(on), IssuedBy: &by}
		return change(tx, row, &next, "Revision", "Status", "Version", "Note", "IssuedOn", "IssuedBy", "Cursor")
	})
}

// DeleteDraft discards a draft. An issued programme is refused.
func (p *Practice) DeleteDraft(ctx context.Context, id string) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		var row programmeRow
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Select("id", "status").Where("id = ?", id).Take(&row).Error; err != nil {
			return err
		}
		res := tx.Where("id = ?", id).Delete(&programmeRow{})
		if res.Error == nil && res.RowsAffected == 0 {
			return ErrNotFound
		}
		return res.Error
	})
}
