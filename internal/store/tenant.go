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

// write is scope for statements that change something. No statement moves a row
// into another practice.
func write(db *gorm.DB) {
	if db.Statement.Context.Value(systemKey{}) != nil {
		return
	}
	if db.Statement.Context.Value(writingKey{}) == nil {
		_ = db.AddError(errOutsideTx)
		return
	}
	if moves(db.Statement) {
		_ = db.AddError(errMoves)
		return
	}
	scope(db)
}

// errMoves is returned for a write that names a practice. It is a fault of the
// program.
var errMoves = errors.New("store: a row does not change its practice")

// moves reports whether an update sets practice_id.
func moves(s *gorm.Statement) bool {
	if m, ok := s.Dest.(map[string]any); ok {
		for k := range m {
			if k == "practice_id" || k == "PracticeID" {
				return true
			}
		}
		return false
	}
	if s.Schema == nil || s.Dest == nil {
		return false
	}
	field := s.Schema.LookUpField("PracticeID")
	v := reflect.Indirect(reflect.ValueOf(s.Dest))
	if field == nil || v.Kind() != reflect.Struct || v.Type() != s.Schema.ModelType {
		return false
	}
	_, unset := field.ValueOf(s.Context, v)
	return !unset
}

// scope ties a statement to the practice: whatever its conditions are, Or and
// raw ones included, they hold together with it.
func scope(db *gorm.DB) {
	s := db.Statement
	if s.Context.Value(systemKey{}) != nil {
		return
	}
	practice, ok := s.Context.Value(practiceKey{}).(string)
	if !ok || practice == "" || s.Schema == nil || s.Schema.LookUpField("PracticeID") == nil || s.Table != s.Schema.Table {
		_ = db.AddError(errNoPractice)
		return
	}
	mine := clause.Eq{Column: clause.Column{Table: clause.CurrentTable, Name: "practice_id"}, Value: practice}
	if c, ok := s.Clauses["WHERE"]; ok {
		if w, ok := c.Expression.(clause.Where); ok && len(w.Exprs) > 0 {
			c.Expression = clause.Where{Exprs: []clause.Expression{bracketed(w.Exprs), mine}}
			s.Clauses["WHERE"] = c
			return
		}
	}
	s.AddClause(clause.Where{Exprs: []clause.Expression{mine}})
}

// bracketed is conditions in brackets of their own.
type bracketed []clause.Expression

// Build writes the conditions.
func (b bracketed) Build(builder clause.Builder) {
	_ = builder.WriteByte('(')
	clause.Where{Exprs: b}.Build(builder)
	_ = builder.WriteByte(')')
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
