package store

import (
	"context"
	"errors"
	"reflect"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// errNoPractice is returned for a query on a practice's table that names no
// practice. It is a fault of the program, never of the user.
var errNoPractice = errors.New("store: query on a practice's table without a practice")

type practiceKey struct{}

// tenancy ties every statement on a table with a practice_id to the practice
// in its context. A statement without a model (raw SQL) is refused unless its
// context is the system's.
type tenancy struct{}

type systemKey struct{}

// system marks a context for the few statements that stand above practices:
// sign-in, first run, rate limit.
func system(ctx context.Context) context.Context { return context.WithValue(ctx, systemKey{}, true) }

func (tenancy) Name() string { return "dunnock:tenancy" }

func (tenancy) Initialize(db *gorm.DB) error {
	return errors.Join(
		db.Callback().Query().Before("gorm:query").Register("tenancy:query", scope),
		db.Callback().Row().Before("gorm:row").Register("tenancy:row", scope),
		db.Callback().Raw().Before("gorm:raw").Register("tenancy:raw", scope),
		db.Callback().Update().Before("gorm:update").Register("tenancy:update", write),
		db.Callback().Delete().Before("gorm:delete").Register("tenancy:delete", write),
		db.Callback().Create().Before("gorm:create").Register("tenancy:create", own),
	)
}

// errOutsideTx is returned for a write that does not go through Practice.tx. It
// is a fault of the program.
var errOutsideTx = errors.New("store: write outside of a transaction of the practice")

// write is scope for statements that change something.
func write(db *gorm.DB) {
	if db.Statement.Context.Value(systemKey{}) == nil && db.Statement.Context.Value(writingKey{}) == nil {
		_ = db.AddError(errOutsideTx)
		return
	}
	scope(db)
}

// scope adds "practice_id = ?" to a statement.
func scope(db *gorm.DB) {
	if db.Statement.Context.Value(systemKey{}) != nil {
		return
	}
	practice, ok := db.Statement.Context.Value(practiceKey{}).(string)
	if !ok || practice == "" || db.Statement.Schema == nil || db.Statement.Schema.LookUpField("PracticeID") == nil {
		_ = db.AddError(errNoPractice)
		return
	}
	db.Statement.AddClause(clause.Where{Exprs: []clause.Expression{
		clause.Eq{Column: clause.Column{Table: clause.CurrentTable, Name: "practice_id"}, Value: practice},
	}})
}

// own sets the practice of rows that are created.
func own(db *gorm.DB) {
	if db.Statement.Context.Value(systemKey{}) != nil {
		return
	}
	if db.Statement.Context.Value(writingKey{}) == nil {
		_ = db.AddError(errOutsideTx)
		return
	}
	practice, ok := db.Statement.Context.Value(practiceKey{}).(string)
	if !ok || practice == "" || db.Statement.Schema == nil {
		_ = db.AddError(errNoPractice)
		return
	}
	field := db.Statement.Schema.LookUpField("PracticeID")
	if field == nil {
		_ = db.AddError(errNoPractice)
		return
	}
	rows := db.Statement.ReflectValue
	if rows.Kind() != reflect.Slice {
		_ = db.AddError(field.Set(db.Statement.Context, rows, practice))
		return
	}
	for i := range rows.Len() {
		_ = db.AddError(field.Set(db.Statement.Context, rows.Index(i), practice))
	}
}

// Practice is the store as one practice sees it.
type Practice struct {
	s  *Store
	id string
}

// For returns the store of one practice.
func (s *Store) For(practiceID string) *Practice { return &Practice{s: s, id: practiceID} }

func (p *Practice) db(ctx context.Context) *gorm.DB {
	return p.s.db.WithContext(context.WithValue(ctx, practiceKey{}, p.id))
}

type writingKey struct{}

// tx runs do in one transaction of the practice, and raises the practice's data
// version with it. Writes outside of it are refused.
func (p *Practice) tx(ctx context.Context, do func(*gorm.DB) error) error {
	_, err := p.versioned(ctx, do)
	return err
}

// versioned is tx and returns the data version the transaction made.
func (p *Practice) versioned(ctx context.Context, do func(*gorm.DB) error) (int64, error) {
	var row practiceRow
	err := p.db(context.WithValue(ctx, writingKey{}, true)).Transaction(func(tx *gorm.DB) error {
		if err := do(tx); err != nil {
			return err
		}
		return tx.WithContext(system(ctx)).Model(&row).Clauses(clause.Returning{Columns: []clause.Column{{Name: "data_version"}}}).
			Where("id = ?", p.id).Update("data_version", gorm.Expr("data_version + 1")).Error
	})
	return row.DataVersion, translate(err)
}
