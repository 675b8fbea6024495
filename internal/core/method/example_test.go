package method_test

import (
	"fmt"

	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/testkit"
)

// What a programme was made by is frozen with it, and judges it the same later.
func ExampleThaw() {
	r, err := plan.Generate(testkit.Strong(), method.Shipped(), "example")
	if err != nil {
		fmt.Println(err)
		return
	}
	frozen, err := method.Shipped().Freeze(r.Doc)
	if err != nil {
		fmt.Println(err)
		return
	}
	m, err := method.Thaw(frozen)
	fmt.Println(m.Rules.Version(), len(m.Exercises.All()) < len(method.Shipped().Exercises.All()), err)
	// Output:
	// 2026.8 true <nil>
}
