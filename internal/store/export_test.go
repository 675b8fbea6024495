package store

import (
	"context"

	"gorm.io/gorm"
)

// Unguarded gives tests the database without a practice.
func (s *Store) Unguarded(ctx context.Context) *gorm.DB { return s.db.WithContext(ctx) }

// OutsideTx gives tests the practice's database outside of a transaction.
func (p *Practice) OutsideTx(ctx context.Context) *gorm.DB { return p.db(ctx) }

// InTx gives tests a transaction of the practice.
func (p *Practice) InTx(ctx context.Context, do func(*gorm.DB) error) error { return p.tx(ctx, do) }

// PracticeOf is the id of a practice.
func PracticeOf(p *Practice) string { return p.id }

// Rows of the practice's tables, for tests.
type (
	AthleteRow = athleteRow
	ScreenRow  = screenRow
)
