package store

import (
	"bytes"
	"context"
	"slices"
	"strings"

	"gorm.io/gorm"
)

// Erase removes a golfer with everything that hangs on them, issued programmes
// included, and what other tables say of them: their place in screen days, rows
// and reports of files that name them, and the files' names.
func (p *Practice) Erase(ctx context.Context, id string) error {
	_, err := p.Together(ctx, func(p *Practice) error {
		if err := p.HoldGolfers(ctx); err != nil {
			return err
		}
		tx := p.db(ctx)
		var row athleteRow
		if err := tx.Select("id", "name", "situation").Where("id = ?", id).Take(&row).Error; err != nil {
			return err
		}
		if err := leaveDays(tx, id); err != nil {
			return err
		}
		if err := leaveClasses(tx, id); err != nil {
			return err
		}
		if err := leaveImports(tx, id, append([]string{row.Name}, row.Situation.AlsoWritten...)); err != nil {
			return err
		}
		if err := tx.WithContext(system(ctx)).Exec("SET LOCAL dunnock.erasing = 'on'").Error; err != nil {
			return err
		}
		res := tx.Where("id = ?", id).Delete(&athleteRow{})
		if res.Error == nil && res.RowsAffected == 0 {
			return ErrNotFound
		}
		return res.Error
	})
	return err
}

// leaveDays empties the golfer's place in screen days: a plan names golfers by
// their place.
func leaveDays(tx *gorm.DB, id string) error {
	var days []screenDayRow
	if err := tx.Where("jsonb_exists(athletes, ?)", id).Find(&days).Error; err != nil {
		return err
	}
	for _, d := range days {
		for i := range d.Athletes {
			if d.Athletes[i] == id {
				d.Athletes[i] = ""
			}
		}
		if err := tx.Model(&screenDayRow{}).Where("id = ?", d.ID).Select("Athletes").Updates(&screenDayRow{Athletes: d.Athletes}).Error; err != nil {
			return err
		}
	}
	return nil
}

const eraseNote = "A golfer this file names was erased: its contents were dropped."

// leaveImports drops what files say of the golfer.
func leaveImports(tx *gorm.DB, id string, names []string) error {
	var ids []string
	if err := tx.Model(&importRow{}).Pluck("id", &ids).Error; err != nil {
		return err
	}
	for _, importID := range ids {
		var r importRow // one at a time: rows may be large
		if err := tx.Where("id = ?", importID).Take(&r).Error; err != nil {
			return err
		}
		change := map[string]any{}
		parsed := r.Content
		if r.Parsed != nil {
			var err error
			if parsed, err = unpack(r.Parsed); err != nil {
				return err
			}
		}
		if mentions(string(parsed), id, names) || r.Content != nil {
			change["parsed"], change["head"], change["content"], change["run"], change["note"] = nil, nil, nil, nil, eraseNote
			if r.State != Saved && r.State != Undone {
				change["state"] = Failed
			}
		}
		for column, text := range map[string]*string{"report": r.Report, "mapping": r.Mapping, "head": r.Head} {
			if text != nil && mentions(*text, id, names) {
				change[column] = nil
			}
		}
		if mentions(r.FileName, id, names) {
			change["file_name"] = "file"
		}
		if mentions(r.Note, id, names) {
			change["note"] = eraseNote
		}
		if len(change) == 0 {
			continue
		}
		if err := tx.Model(&importRow{}).Where("id = ?", importID).Updates(change).Error; err != nil {
			return err
		}
	}
	return nil
}

// mentions reports whether a text names a golfer: by id, by one of the names, or by
// all the words of one in any order, as "Hellyer, Marit" does.
func mentions(text, id string, names []string) bool {
	if text == "" {
		return false
	}
	plain := []byte(strings.ToLower(text))
	if bytes.Contains(plain, []byte(strings.ToLower(id))) {
		return true
	}
	return slices.ContainsFunc(names, func(name string) bool {
		parts := strings.Fields(strings.ToLower(name))
		return len(parts) > 0 && !slices.ContainsFunc(parts, func(w string) bool { return !bytes.Contains(plain, []byte(w)) })
	})
}
