package unit_test

import (
	"fmt"

	"dunnock/internal/core/unit"
)

// A club speed typed in miles an hour is kept in metres a second.
func ExampleConvert() {
	u, err := unit.Parse("mph")
	if err != nil {
		fmt.Println(err)
		return
	}
	v, err := unit.Convert(100, u, unit.MetrePerSecond)
	fmt.Println(unit.Text(v, 2), "m/s", err)
	_, err = unit.Convert(100, u, unit.Kilogram)
	fmt.Println(err)
	// Output:
	// 44.70 m/s <nil>
	// mph cannot be read as kg
}
