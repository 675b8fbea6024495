package words

import "math/bits"

// maxWord is how many letters a word may have that a slip is looked for in.
const maxWord = 24

// Slips counts the letters that differ between two words: left out, put in,
// changed, or two beside each other changed about (optimal string alignment). Of
// words longer than maxWord every letter differs.
func Slips(a, b string) int {
	if len(a) > maxWord || len(b) > maxWord {
		return max(len(a), len(b))
	}
	// The rows of the letters before the last, of the last, and of this one.
	var rows [3][maxWord + 1]int
	before, last, now := &rows[0], &rows[1], &rows[2]
	for j := range len(b) + 1 {
		last[j] = j
	}
	for i := 1; i <= len(a); i++ {
		now[0] = i
		for j := 1; j <= len(b); j++ {
			change := 1
			if a[i-1] == b[j-1] {
				change = 0
			}
			now[j] = min(last[j]+1, now[j-1]+1, last[j-1]+change)
			if i > 1 && j > 1 && a[i-1] == b[j-2] && a[i-2] == b[j-1] {
				now[j] = min(now[j], before[j-2]+1)
			}
		}
		before, last, now = last, now, before
	}
	return last[len(b)]
}

// Within reports whether two words differ by at most so many slips. Most that
// differ by more are told apart by which letters they have, without counting: a
// slip takes one letter away at most, and brings one in.
func Within(a, b string, most int) bool {
	return bits.OnesCount64(letters(a)^letters(b)) <= 2*most && Slips(a, b) <= most
}

// letters is which letters a word has, as bits; some share one.
func letters(word string) (set uint64) {
	for i := range len(word) {
		set |= 1 << (word[i] % 64)
	}
	return set
}
