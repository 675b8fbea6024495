package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/upgrade"
)

// The states of a programme.
const (
	Draft     = "draft"
	Issued    = "issued"
	Withdrawn = "withdrawn" // it was issued
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
	// WithdrawnOn and WithdrawnWhy say when and why an issued version was withdrawn.
	WithdrawnOn  civil.Date
	WithdrawnWhy string
	Doc          *programme.Programme
	Frozen       []byte // the content it was issued with: nil for a draft, and for versions from before content was kept
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

		WithdrawnOn: day(r.WithdrawnOn), WithdrawnWhy: r.WithdrawnWhy,
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

// Programme returns one programme with its document.
func (p *Practice) Programme(ctx context.Context, id string) (out *Programme, err error) {
	err = p.Snapshot(ctx, func(p *Practice) error {
		var row programmeRow
		if err := p.db(ctx).Where("id = ?", id).Take(&row).Error; err != nil {
			return translate(err)
		}
		one := row.programme()
		out = &one
		out.Doc, out.Frozen, err = readDoc(p.db(ctx), id)
		return err
	})
	return out, err
}

// readDoc returns a programme's document, and what it was issued with.
func readDoc(db *gorm.DB, id string) (*programme.Programme, []byte, error) {
	var row docRow
	switch err := translate(db.Where("programme_id = ?", id).Take(&row).Error); {
	case errors.Is(err, ErrNotFound):
		return nil, nil, fmt.Errorf("programme %s has lost its document", id)
	case err != nil:
		return nil, nil, err
	}
	doc, err := upgrade.Read([]byte(row.Doc))
	if err != nil {
		return nil, nil, fmt.Errorf("programme %s: %w", id, err)
	}
	if row.Frozen == nil {
		return doc, nil, nil
	}
	return doc, []byte(*row.Frozen), nil
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

// CreateDraft stores a new draft, or, where the golfer has one, makes the
// document its next step. It returns the draft's id.
func (p *Practice) CreateDraft(ctx context.Context, athleteID, label string, by Editor, doc *programme.Programme) (string, error) {
	text, err := document(doc)
	if err != nil {
		return "", err
	}
	var id string
	err = p.tx(ctx, func(tx *gorm.DB) error {
		var row programmeRow
		if err := lockGolfer(tx, athleteID); err != nil {
			return err
		}
		switch err := translate(tx.Where("athlete_id = ? AND status = ?", athleteID, Draft).Take(&row).Error); {
		case err == nil:
			id = row.ID
			return addStep(tx, &row, label, by, doc)
		case !errors.Is(err, ErrNotFound):
			return err
		}
		row = programmeRow{AthleteID: athleteID, Revision: 1, Status: Draft, Recent: []Done{{Revision: 1, Label: label, By: by.Name, ByID: by.ID}}}
		row.describe(doc)
		if err := tx.Create(&row).Error; err != nil {
			return err
		}
		id = row.ID
		return tx.Create(&docRow{ProgrammeID: row.ID, Doc: text}).Error
	})
	return id, err
}

// Issue makes the draft the golfer's next version, with the document as given and
// the content it was made by. From then on the database refuses every change to
// it but that it is withdrawn.
func (p *Practice) Issue(ctx context.Context, id string, revision int, on civil.Date, by, note string, doc *programme.Programme, frozen []byte) error {
	text, err := document(doc)
	if err != nil {
		return err
	}
	return p.tx(ctx, func(tx *gorm.DB) error {
		row, err := editable(tx, id, revision)
		if err != nil {
			return err
		}
		if err := tx.Where("programme_id = ?", id).Delete(&stepRow{}).Error; err != nil {
			return err
		}
		content := string(frozen)
		if err := tx.Model(&docRow{}).Where("programme_id = ?", id).Select("Doc", "Frozen").Updates(&docRow{Doc: text, Frozen: &content}).Error; err != nil {
			return err
		}
		var newest programmeRow
		err = tx.Where("athlete_id = ? AND version > 0", row.AthleteID).Order("version DESC").Limit(1).Find(&newest).Error
		if err != nil {
			return err
		}
		next := programmeRow{Revision: row.Revision + 1, Status: Issued, Version: newest.Version + 1, Note: note, IssuedOn: datePtr(on), IssuedBy: &by}
		return alter(tx, row, &next, "Revision", "Status", "Version", "Note", "IssuedOn", "IssuedBy")
	})
}

// IssueOver makes a document the golfer's next version, issued at once over the version it was
// made from: a draft there may be stays as it is. ErrConflict where that version is no longer
// the golfer's newest.
func (p *Practice) IssueOver(ctx context.Context, from string, on civil.Date, by, note string, doc *programme.Programme, frozen []byte) (string, error) {
	text, err := document(doc)
	if err != nil {
		return "", err
	}
	var id string
	err = p.tx(ctx, func(tx *gorm.DB) error {
		var was programmeRow
		if err := tx.Where("id = ? AND status = ?", from, Issued).Take(&was).Error; err != nil {
			return err
		}
		if err := lockGolfer(tx, was.AthleteID); err != nil {
			return err
		}
		var newest programmeRow
		if err := tx.Where("athlete_id = ? AND version > 0", was.AthleteID).Order("version DESC").Limit(1).Find(&newest).Error; err != nil {
			return err
		}
		if newest.Version != was.Version {
			// A later block may be issued ahead; another version of this one may not.
			var later int64
			err := tx.Model(&programmeRow{}).Where("athlete_id = ? AND version > ? AND start_date <= ? AND status = ?", was.AthleteID, was.Version, was.StartDate, Issued).Count(&later).Error
			if err != nil {
				return err
			}
			if later > 0 {
				return ErrConflict
			}
		}
		row := programmeRow{AthleteID: was.AthleteID, Revision: 1, Status: Issued, Version: newest.Version + 1, Note: note, IssuedOn: datePtr(on), IssuedBy: &by, Recent: []Done{}}
		row.describe(doc)
		if err := tx.Create(&row).Error; err != nil {
			return err
		}
		id = row.ID
		content := string(frozen)
		return tx.Create(&docRow{ProgrammeID: row.ID, Doc: text, Frozen: &content}).Error
	})
	return id, translate(err)
}

// Withdraw takes an issued version back: it stays to be looked at, and nothing is trained
// by it any more. ErrNotFound where it is not issued.
func (p *Practice) Withdraw(ctx context.Context, id string, on civil.Date, why string) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		var row programmeRow
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("id = ? AND status = ?", id, Issued).Take(&row).Error; err != nil {
			return err
		}
		next := programmeRow{Revision: row.Revision + 1, Status: Withdrawn, WithdrawnOn: datePtr(on), WithdrawnWhy: why}
		return alter(tx, &row, &next, "Revision", "Status", "WithdrawnOn", "WithdrawnWhy")
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
