package store

import (
	"context"
	"errors"
	"time"

	"gorm.io/gorm"
)

// CalendarAddress says when the private address of a golfer's calendar was made, and by whom.
type CalendarAddress struct {
	At time.Time
	By string
}

type calendarRow struct {
	PracticeID string
	AthleteID  string `gorm:"primaryKey"`
	SecretHash []byte
	CreatedAt  time.Time
	CreatedBy  string
}

func (calendarRow) TableName() string { return "calendar_addresses" }

// CalendarAddress returns the private address of a golfer's calendar; nil where there is none.
func (p *Practice) CalendarAddress(ctx context.Context, athleteID string) (*CalendarAddress, error) {
	var row calendarRow
	err := translate(p.db(ctx).Where("athlete_id = ?", athleteID).Take(&row).Error)
	if errors.Is(err, ErrNotFound) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	return &CalendarAddress{row.CreatedAt, row.CreatedBy}, nil
}

// PutCalendarAddress makes a golfer's calendar reachable by a secret of this hash, and no
// longer by the one before.
func (p *Practice) PutCalendarAddress(ctx context.Context, athleteID string, hash [32]byte, by string) error {
	row := calendarRow{PracticeID: p.id, AthleteID: athleteID, SecretHash: hash[:], CreatedAt: time.Now(), CreatedBy: by}
	return p.tx(ctx, func(tx *gorm.DB) error {
		if err := tx.Where("athlete_id = ?", athleteID).Delete(&calendarRow{}).Error; err != nil {
			return err
		}
		return tx.Create(&row).Error
	})
}

// RevokeCalendarAddress ends a golfer's private address.
func (p *Practice) RevokeCalendarAddress(ctx context.Context, athleteID string) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		return tx.Where("athlete_id = ?", athleteID).Delete(&calendarRow{}).Error
	})
}

// CalendarOf returns whose calendar a secret of this hash opens, and the zone of their
// practice.
func (s *Store) CalendarOf(ctx context.Context, hash [32]byte) (practiceID, athleteID, zone string, err error) {
	var row calendarRow
	if err := s.sys(ctx).Where("secret_hash = ?", hash[:]).Take(&row).Error; err != nil {
		return "", "", "", translate(err)
	}
	var practice practiceRow
	err = translate(s.sys(ctx).Select("zone").Where("id = ?", row.PracticeID).Take(&practice).Error)
	return row.PracticeID, row.AthleteID, practice.Zone, err
}
