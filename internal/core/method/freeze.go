package method

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"sync"

	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/school"
)

// FrozenFormat names the layout of Frozen.
const FrozenFormat = "dunnock-method/1"

// Frozen is the content a programme was made by: its exercises with the easier and
// harder ones beside them, all rules, and its school.
type Frozen struct {
	Format         string             `json:"format"`
	LibraryVersion string             `json:"libraryVersion"`
	Exercises      []library.Exercise `json:"exercises"`
	Rules          json.RawMessage    `json:"rules"`
	Schools        []json.RawMessage  `json:"schools"`
}

// Freeze returns the content a document was made by, to be stored with it.
func (m *Method) Freeze(p *programme.Programme) ([]byte, error) {
	s, err := m.Schools.Find(p.School)
	if err != nil {
		return nil, err
	}
	raw, err := json.Marshal(s)
	if err != nil {
		return nil, err
	}
	f := Frozen{Format: FrozenFormat, LibraryVersion: m.Exercises.Version(), Exercises: []library.Exercise{}, Rules: m.Rules.Source(), Schools: []json.RawMessage{raw}}
	wanted := map[string]bool{}
	var want func(id string)
	want = func(id string) {
		if e, ok := m.Exercises.Find(id); ok && !wanted[id] {
			wanted[id] = true
			want(e.Easier)
			want(e.Harder)
		}
	}
	p.EachItem(func(it *programme.Item) { want(it.Exercise) })
	for _, e := range m.Exercises.All() {
		if wanted[e.ID] {
			f.Exercises = append(f.Exercises, e)
		}
	}
	return json.Marshal(f)
}

// Thaw returns the method that was frozen.
func Thaw(b []byte) (*Method, error) {
	var f Frozen
	if err := json.Unmarshal(b, &f); err != nil {
		return nil, fmt.Errorf("thaw a method: %w", err)
	}
	if f.Format != FrozenFormat {
		return nil, fmt.Errorf("thaw a method: the format is %q, and this version reads %s", f.Format, FrozenFormat)
	}
	exercises, err := library.New(f.LibraryVersion, f.Exercises)
	if err != nil {
		return nil, fmt.Errorf("thaw a method: %w", err)
	}
	rules, err := rulebook.Read(f.Rules)
	if err != nil {
		return nil, fmt.Errorf("thaw a method: %w", err)
	}
	schools, err := school.Thaw(f.Schools)
	if err != nil {
		return nil, fmt.Errorf("thaw a method: %w", err)
	}
	return &Method{exercises, rules, schools}, nil
}

//go:embed before.json
var beforeJSON []byte

// BeforeFreezing returns the method that was shipped last before content was
// frozen with each issued programme: older ones are shown by it.
var BeforeFreezing = sync.OnceValue(func() *Method {
	m, err := Thaw(beforeJSON)
	if err != nil {
		panic("method: before.json: " + err.Error())
	}
	return m
})
