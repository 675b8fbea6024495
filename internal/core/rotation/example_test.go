package rotation_test

import (
	"fmt"

	"dunnock/internal/core/rotation"
)

// Three golfers go through two stations; nobody is at two places at once.
func ExampleMake() {
	p, err := rotation.Make(3, []rotation.Station{{Name: "Range", Minutes: 5, Places: 1}, {Name: "Jumps", Minutes: 10, Places: 1}}, nil)
	if err != nil {
		fmt.Println(err)
		return
	}
	fmt.Printf("%d min, at best %d\n", p.Minutes, p.LowerBound)
	// Output:
	// 30 min, at best 30
}
