package civil_test

import (
	"fmt"

	"dunnock/internal/core/civil"
)

// A date is a day without a clock or a place: the zero value is no date.
func ExampleParse() {
	d, err := civil.Parse("2026-11-30")
	fmt.Println(d.Words(), d.Add(28).Words(), err)
	_, err = civil.Parse("30.11.2026")
	fmt.Println(err)
	fmt.Println(civil.Date{}.IsZero())
	// Output:
	// Mon 30 Nov 2026 Mon 28 Dec 2026 <nil>
	// "30.11.2026" is not a date: write it as YYYY-MM-DD
	// true
}
