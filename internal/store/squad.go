package store

import (
	"context"
	"strings"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"dunnock/internal/core/civil"
)

// Head is who a golfer is, and no more.
type Head struct {
	ID       string
	Name     string
	Birth    civil.Date
	Side     string
	Archived bool
}

// FindGolfers returns at most n golfers whose name holds every word of a text in any
// order, those in the squad first; with none, the first by name.
func (p *Practice) FindGolfers(ctx context.Context, text string, n int) ([]Head, error) {
	q := p.db(ctx).Select("id", "name", "birth_date", "playing_side", "archived_on")
	for _, w := range strings.Fields(text) {
		q = q.Where("lower(name) LIKE ?", "%"+like.Replace(strings.ToLower(w))+"%")
	}
	var rows []athleteRow
	if err := q.Order("archived_on IS NOT NULL, name, id").Limit(n).Find(&rows).Error; err != nil {
		return nil, translate(err)
	}
	out := make([]Head, len(rows))
	for i, r := range rows {
		out[i] = Head{ID: r.ID, Name: r.Name, Birth: day(&rows[i].BirthDate), Side: r.PlayingSide, Archived: r.ArchivedOn != nil}
	}
	return out, nil
}

// like takes their meaning from the signs LIKE has.
var like = strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`)

// Archive puts golfers away as of a day, or with the zero day back into the squad.
// Who is not there any more is passed over; how many were changed is returned.
func (p *Practice) Archive(ctx context.Context, ids []string, on civil.Date) (n int, err error) {
	err = p.tx(ctx, func(tx *gorm.DB) error {
		res := tx.Model(&athleteRow{}).Where("id IN ?", uuids(ids)).Where("(archived_on IS NULL) = ?", !on.IsZero()).
			Updates(map[string]any{"archived_on": datePtr(on), "revision": gorm.Expr("revision + 1")})
		n = int(res.RowsAffected)
		return res.Error
	})
	return n, err
}

type photoRow struct {
	AthleteID  string `gorm:"primaryKey"`
	PracticeID string
	JPEG       []byte `gorm:"column:jpeg"`
	Version    string
}

func (photoRow) TableName() string { return "photos" }

// Photo returns the picture of a golfer as JPEG; ErrNotFound where there is none.
func (p *Practice) Photo(ctx context.Context, athleteID string) ([]byte, error) {
	var row photoRow
	err := p.db(ctx).Where("athlete_id = ?", athleteID).Take(&row).Error
	return row.JPEG, translate(err)
}

// SetPhoto keeps a picture in place of the one before; an empty one removes it.
// version names what is in it.
func (p *Practice) SetPhoto(ctx context.Context, athleteID string, jpeg []byte, version string) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		if err := lockGolfer(tx, athleteID); err != nil {
			return err
		}
		if len(jpeg) == 0 {
			return tx.Where("athlete_id = ?", athleteID).Delete(&photoRow{}).Error
		}
		row := photoRow{AthleteID: athleteID, JPEG: jpeg, Version: version}
		return tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "athlete_id"}}, DoUpdates: clause.AssignmentColumns([]string{"jpeg", "version"})}).Create(&row).Error
	})
}

// PhotoVersion names what is in a golfer's picture; "" where there is none.
func (p *Practice) PhotoVersion(ctx context.Context, athleteID string) (string, error) {
	var rows []photoRow
	if err := p.db(ctx).Select("version").Where("athlete_id = ?", athleteID).Find(&rows).Error; err != nil || len(rows) == 0 {
		return "", translate(err)
	}
	return rows[0].Version, nil
}
