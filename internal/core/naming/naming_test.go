package naming_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"dunnock/internal/core/naming"
)

var squad = []naming.Person{
	{ID: "1", Names: []string{"Torquil Brae"}},
	{ID: "2", Names: []string{"Marit Hellyer", "Maz"}},
	{ID: "3", Names: []string{"Tomás Ó Briain"}},
	{ID: "4", Names: []string{"Eilidh Saltness"}},
	{ID: "5", Names: []string{"Torquil Saltness"}},
	{ID: "6", Names: []string{"Ann Lee"}},
	{ID: "7", Names: []string{"Ann Lee"}},
	{ID: "8", Names: []string{"Guest 10"}},
}

func ids(people []naming.Person) string {
	var out []string
	for _, p := range people {
		out = append(out, p.ID)
	}
	return strings.Join(out, " ")
}

func TestWhoIsMeant(t *testing.T) {
	book := naming.New(squad)
	for written, want := range map[string]struct{ same, near string }{
		"Torquil Brae":          {"1", ""},
		"  torquil   BRAE ":     {"1", ""},
		"Brae, Torquil":         {"1", ""},
		"Brae Torquil":          {"1", ""},
		"Torquil Brae (U18)":    {"1", ""},
		"Tomas O Briain":        {"3", ""},
		"Maz":                   {"2", ""},
		"Ann Lee":               {"6 7", ""},
		"T. Brae":               {"", "1"},
		"Brae, T":               {"", "1"},
		"Torquil B":             {"", "1"},
		"TB":                    {"", "1"},
		"Torquill Brae":         {"", "1"},
		"Torquil J Brae":        {"", "1"},
		"Marrit Helyer":         {"", "2"},
		"Saltness":              {"", "4 5"},
		"Torquil":               {"", "1 5"},
		"T":                     {"", ""},
		"Bo Fjord":              {"", ""},
		"Average":               {"", ""},
		"":                      {"", ""},
		"Eilidh Saltness-Firth": {"", "4"},
		"Guest 1":               {"", ""},
		"Torqiul Brae":          {"", "1"},
	} {
		m := book.Find(written)
		assert.Equal(t, want.same, ids(m.Same), written)
		assert.Equal(t, want.near, ids(m.Near), written)
	}
}

func TestTheSameNameInAnotherOrder(t *testing.T) {
	assert.True(t, naming.Same("Brae, Torquil", "torquil brae"))
	assert.False(t, naming.Same("T Brae", "Torquil Brae"))
	assert.False(t, naming.Same("", ""))
}

// Among very many whose names begin alike the other part tells who is near.
func TestAmongManyOfOneFirstName(t *testing.T) {
	var people []naming.Person
	for i := range 2000 {
		people = append(people, naming.Person{ID: fmt.Sprint(i), Names: []string{fmt.Sprintf("Guest %04d", i)}})
	}
	people = append(people, naming.Person{ID: "t", Names: []string{"Guest Harrowby"}})
	book := naming.New(people)
	assert.Equal(t, "7", ids(book.Find("Guest 0007").Same))
	assert.Empty(t, book.Find("Guest 9999").Near)
	assert.Equal(t, "t", ids(book.Find("Guest Harowby").Near))
}

func BenchmarkFindNobody(b *testing.B) {
	people := make([]naming.Person, 10_000)
	letters := "abcdefghijklmnopqrstuvwxyz"
	word := func(n int) string {
		out := ""
		for range 6 {
			out += string(letters[n%26])
			n = n*7/3 + 11
		}
		return out
	}
	for i := range people {
		people[i] = naming.Person{ID: fmt.Sprint(i), Names: []string{word(i) + " " + word(3*i+5)}}
	}
	book := naming.New(people)
	for b.Loop() {
		book.Find("Nobody Known")
	}
}
