package upgrade_test

import (
	"fmt"

	"dunnock/internal/core/programme/upgrade"
)

// A document of an older format gets ids for its parts, always the same ones.
func ExampleRead() {
	old := `{"format": "dunnock-programme/1", "blocks": [{"weeks": [{"number": 2, "sessions": [
		{"letter": "B", "items": [{"slot": "throw", "exercise": "throw-scoop", "dose": {"sets": 3, "reps": 3}}]}]}]}]}`
	p, err := upgrade.Read([]byte(old))
	if err != nil {
		fmt.Println(err)
		return
	}
	it := p.Blocks[0].Weeks[0].Sessions[0].Items[0]
	fmt.Println(it.ID, it.Dose.Volume())
	// Output:
	// b1-w2-B-throw-throw-scoop 9
}
