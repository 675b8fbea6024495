package store

import (
	"context"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"dunnock/internal/core/civil"
)

// DayValue is one number of a day of a golfer: body mass in kg, hours slept, resting heart
// rate in beats a minute.
type DayValue struct {
	Kind  string
	Date  civil.Date
	Value float64
}

type dayValueRow struct {
	PracticeID string
	AthleteID  string    `gorm:"primaryKey"`
	Kind       string    `gorm:"primaryKey"`
	Date       time.Time `gorm:"primaryKey"`
	Value      float64
	ImportID   *string
}

func (dayValueRow) TableName() string { return "day_values" }

// writeDays stores numbers of days; those that are there already stay.
func writeDays(tx *gorm.DB, athleteID string, days []DayValue, importID *string) error {
	if len(days) == 0 {
		return nil
	}
	rows := make([]dayValueRow, len(days))
	for i, d := range days {
		rows[i] = dayValueRow{AthleteID: athleteID, Kind: d.Kind, Date: date(d.Date), Value: d.Value, ImportID: importID}
	}
	return tx.Clauses(clause.OnConflict{DoNothing: true}).CreateInBatches(&rows, importBatch).Error
}

// DayValues returns the numbers of days of golfers, oldest first.
func (p *Practice) DayValues(ctx context.Context, athleteIDs []string) (map[string][]DayValue, error) {
	var rows []dayValueRow
	if err := p.db(ctx).Where("athlete_id IN ?", uuids(athleteIDs)).Order("kind, date").Find(&rows).Error; err != nil {
		return nil, translate(err)
	}
	out := map[string][]DayValue{}
	for i := range rows {
		r := &rows[i]
		out[r.AthleteID] = append(out[r.AthleteID], DayValue{r.Kind, day(&r.Date), r.Value})
	}
	return out, nil
}
