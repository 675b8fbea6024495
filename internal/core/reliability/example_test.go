package reliability_test

import (
	"fmt"

	"dunnock/internal/core/reliability"
)

// A jump got 2.4 cm higher, and the test's error is 1.1 cm: whether that is real
// depends on how sure one wants to be.
func ExampleJudge() {
	fmt.Println(reliability.Judge(2.4, 1.1, 1.96))
	fmt.Println(reliability.Judge(2.4, 1.1, 1.28))
	fmt.Println(reliability.Judge(0.8, 1.1, 1.96))
	// Output:
	// unclear
	// real
	// within error
}
