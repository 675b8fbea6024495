package store

import (
	"context"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

type sourceRow struct {
	PracticeID string `gorm:"primaryKey"`
	Header     string `gorm:"primaryKey"`
	Name       string
	Mapping    string
}

func (sourceRow) TableName() string { return "import_sources" }

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
