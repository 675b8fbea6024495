package quality_test

import (
	"fmt"

	"dunnock/internal/core/quality"
	"dunnock/internal/core/school"
	"dunnock/internal/core/testkit"
)

// A read names what holds a golfer's speed back, first things first.
func ExampleCompute() {
	f := testkit.Weak()
	s, err := school.Shipped().Find(f.School)
	if err != nil {
		fmt.Println(err)
		return
	}
	read := quality.Compute(f, s, nil)
	for _, q := range read.Qualities[:3] {
		fmt.Printf("%d. %s: %s\n", q.Rank, q.Name, q.Against)
	}
	// Output:
	// 1. maximal strength: clearly below target
	// 2. horizontal power: clearly below target
	// 3. vertical power: clearly below target
}
