package forcefile_test

import (
	"fmt"

	"dunnock/internal/core/force"
	"dunnock/internal/forcefile"
)

// A laboratory's table is read by the names of its columns: here a German one,
// with decimal commas, and units in brackets.
func ExampleRead() {
	text := "Zeit (s);Fz links (N);Fz rechts (N)\n"
	for i := range 600 {
		text += fmt.Sprintf("0,%03d;401,5;398,0\n", i)
	}
	f, err := forcefile.Read([]byte(text))
	if err != nil {
		fmt.Println(err)
		return
	}
	rec, err := forcefile.Guess(f).Recording(f, force.Side("right"))
	fmt.Println(f.Len(), err)
	if err == nil {
		fmt.Println(rec.RateHz, "Hz")
	}
	// Output:
	// 600 <nil>
	// 1000 Hz
}
