// Package method is what a coach works by: the exercises, the rules and the
// schools, as one value that does not change. It is passed to whoever plans,
// judges or shows; there is no other way to any of the three.
package method

import (
	"dunnock/internal/core/library"
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
