package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"

	"github.com/jackc/pgx/v5/pgconn"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Practice is the store as one practice sees it; inside of Together or Snapshot,
// as one transaction of it does.
type Practice struct {
	s    *Store
	id   string
	work *work
}

// work is a unit of work that spans calls.
type work struct {
	tx       *gorm.DB
	readOnly bool
}

// For returns the store of one practice.
func (s *Store) For(practiceID string) *Practice { return &Practice{s: s, id: practiceID} }

type writingKey struct{}

func (p *Practice) db(ctx context.Context) *gorm.DB {
	ctx = context.WithValue(ctx, practiceKey{}, p.id)
	if p.work == nil {
		return p.s.db.WithContext(ctx)
	}
	if !p.work.readOnly {
		ctx = context.WithValue(ctx, writingKey{}, true)
	}
	return p.work.tx.WithContext(ctx)
}

// unitTries is how often a transaction that met another one head on is run.
const unitTries = 4

// Together runs do as one transaction: what is done through the Practice it gets
// is seen together or not at all. It returns the data version it made. do may be
// run more than once, and must not use anything else of the store: one unit
// holds one connection and waits for no second one. Within a unit it is a part
// of that unit.
func (p *Practice) Together(ctx context.Context, do func(*Practice) error) (version int64, err error) {
	if p.work != nil {
		if p.work.readOnly {
			return 0, errOutsideTx
		}
		return 0, translate(p.part(ctx, do))
	}
	for range unitTries {
		version, err = p.once(ctx, do)
		if !headOn(err) {
			break
		}
	}
	return version, translate(err)
}

// part runs do as a part of the unit: if it fails, what it did is taken back and
// the unit may go on. (GORM's own savepoints are raw statements, which the guard
// refuses, and it does not say so.)
func (p *Practice) part(ctx context.Context, do func(*Practice) error) error {
	run := func(sql string) error { return p.work.tx.WithContext(system(ctx)).Exec(sql).Error }
	if err := run("SAVEPOINT part"); err != nil {
		return err
	}
	if err := do(p); err != nil {
		return errors.Join(err, run("ROLLBACK TO SAVEPOINT part"))
	}
	return run("RELEASE SAVEPOINT part")
}

func (p *Practice) once(ctx context.Context, do func(*Practice) error) (int64, error) {
	var row practiceRow
	err := p.s.db.WithContext(context.WithValue(ctx, practiceKey{}, p.id)).Transaction(func(tx *gorm.DB) error {
		if err := do(&Practice{p.s, p.id, &work{tx: tx}}); err != nil {
			return err
		}
		res := tx.WithContext(system(ctx)).Model(&row).Clauses(clause.Returning{Columns: []clause.Column{{Name: "data_version"}}}).
			Where("id = ?", p.id).Update("data_version", gorm.Expr("data_version + 1"))
		if res.Error == nil && res.RowsAffected == 0 {
			return ErrNotFound
		}
		return res.Error
	})
	return row.DataVersion, err
}

// headOn reports whether a transaction was ended because it and another one
// waited for each other.
func headOn(err error) bool {
	var pg *pgconn.PgError
	return errors.As(err, &pg) && (pg.Code == "40P01" || pg.Code == "40001")
}

// tx runs do in one transaction of the practice, or as a part of the unit of
// work, and raises the practice's data version with it. Writes outside of it are
// refused.
func (p *Practice) tx(ctx context.Context, do func(*gorm.DB) error) error {
	_, err := p.Together(ctx, func(p *Practice) error { return do(p.db(ctx)) })
	return err
}

// Writing reports whether the practice is a unit of work that may write.
func (p *Practice) Writing() bool { return p.work != nil && !p.work.readOnly }

// Snapshot runs do on one picture of the practice: everything read through the
// Practice it gets is of the same moment.
func (p *Practice) Snapshot(ctx context.Context, do func(*Practice) error) error {
	if p.work != nil {
		return do(p)
	}
	err := p.s.db.WithContext(context.WithValue(ctx, practiceKey{}, p.id)).Transaction(func(tx *gorm.DB) error {
		return do(&Practice{p.s, p.id, &work{tx: tx, readOnly: true}})
	}, &sql.TxOptions{Isolation: sql.LevelRepeatableRead, ReadOnly: true})
	return translate(err)
}

// Classes of advisory locks.
const (
	lockGolfers = 1 // who is there: making golfers, matching them to a file
	lockBattery = 2 // which tests there are
	lockSignIn  = 3 // tries of one key
)

// hold takes an advisory lock of the practice until the unit ends.
func (p *Practice) hold(ctx context.Context, class int, shared bool) error {
	if p.work == nil || p.work.readOnly {
		return errOutsideTx
	}
	f := "pg_advisory_xact_lock"
	if shared {
		f += "_shared"
	}
	return p.work.tx.WithContext(system(ctx)).Exec(fmt.Sprintf("SELECT %s(%d, hashtext(?))", f, class), p.id).Error
}

// HoldGolfers keeps others from making golfers until the unit ends.
func (p *Practice) HoldGolfers(ctx context.Context) error { return p.hold(ctx, lockGolfers, false) }

// HoldBattery keeps others from changing the battery until the unit ends, and
// returns the revision it has.
func (p *Practice) HoldBattery(ctx context.Context) (int, error) {
	if err := p.hold(ctx, lockBattery, true); err != nil {
		return 0, err
	}
	var row batteryRow
	err := p.db(ctx).Select("revision").Limit(1).Find(&row).Error
	return row.Revision, err
}

// ChangeBattery keeps others from changing the battery and from writing trials
// until the unit ends.
func (p *Practice) ChangeBattery(ctx context.Context) error { return p.hold(ctx, lockBattery, false) }

// lockGolfer takes a golfer's row until the unit ends: who writes anything of a
// golfer takes it first.
func lockGolfer(tx *gorm.DB, id string) error {
	var row athleteRow
	return tx.Clauses(clause.Locking{Strength: "NO KEY UPDATE"}).Select("id").Where("id = ?", id).Take(&row).Error
}

// LockGolfers takes the rows of golfers, in the order that keeps two of these
// from waiting for each other. One that is gone is no error.
func (p *Practice) LockGolfers(ctx context.Context, ids []string) error {
	if p.work == nil || p.work.readOnly {
		return errOutsideTx
	}
	var rows []athleteRow
	return p.db(ctx).Clauses(clause.Locking{Strength: "NO KEY UPDATE"}).Select("id").Where("id IN ?", ids).Order("id").Find(&rows).Error
}
