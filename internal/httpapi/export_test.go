package httpapi

import (
	"fmt"
	"strings"
	"time"
)

// Patience sets how long a silent body is waited for, and returns how to set it
// back.
func Patience(d time.Duration) (back func()) {
	was := patience
	patience = d
	return func() { patience = was }
}

// Kept reports whether answers of a route of the contract are kept.
func Kept(route string) bool {
	return keptRoutes[Base+strings.NewReplacer("{", ":", "}", "").Replace(route)]
}

// FillAnswers keeps n answers of a size for many practices and returns how many
// bytes are held then.
func FillAnswers(n, size int) int {
	a := newAnswers()
	for i := range n {
		a.add(fmt.Sprint(i%50), int64(i/1000), fmt.Sprint(i), answer{body: make([]byte, size)})
	}
	held := 0
	for _, v := range a.practices {
		for _, x := range v.kept {
			held += len(x.body)
		}
	}
	return max(held, a.bytes)
}
