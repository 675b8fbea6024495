// Package method is what a coach works by: the exercises, the rules and the
// schools, as one value that does not change. It is passed to whoever plans,
// judges or shows; there is no other way to any of the three.
//
// What an issued programme was made by is frozen with it (Freeze) and thawed when
// the programme is shown, so that it reads the same for ever.
package method

import (
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/school"
)

// Method is a set of catalogues that belong together. Its parts do not change.
type Method struct {
	Exercises *library.Catalogue
	Rules     *rulebook.Book
	Schools   *school.Schools
}

var shipped = &Method{library.Shipped(), rulebook.Shipped(), school.Shipped()}

// Shipped returns the method we ship.
func Shipped() *Method { return shipped }

// Judge works out the view of a programme, and how the rules judge it for a
// golfer of whom the facts hold.
func (m *Method) Judge(p *programme.Programme, f rulebook.Facts) (*derive.Programme, []rulebook.Result) {
	v := derive.View(p, m.Exercises, m.Schools)
	return v, m.Rules.Check(v, f, m.Exercises)
}
