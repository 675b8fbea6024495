package method_test

import (
	"bytes"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/testkit"
)

// What was frozen with a programme gives the same view and the same judgement as
// what it was made by, and freezes to the same bytes.
func TestAFrozenMethodJudgesAsItDid(t *testing.T) {
	for _, school := range []string{"measured-gap", "strength-first"} {
		f := testkit.Weak()
		f.School = school
		b, err := plan.BasisOf(f, method.Shipped())
		require.NoError(t, err)
		j, err := b.Generate("t")
		require.NoError(t, err)
		frozen, err := method.Shipped().Freeze(j.Doc)
		require.NoError(t, err)
		m, err := method.Thaw(frozen)
		require.NoError(t, err)
		view, rules := m.Judge(j.Doc, b.Facts)
		assert.Equal(t, j.View, view)
		assert.Equal(t, j.Rules, rules)
		assert.Less(t, len(m.Exercises.All()), len(method.Shipped().Exercises.All()), "only what was used, and its neighbours")
		again, err := m.Freeze(j.Doc)
		require.NoError(t, err)
		assert.Equal(t, string(frozen), string(again))
	}
}

// A version keeps its words when the exercises, rules and schools change later.
func TestAFrozenMethodIsNotChangedByALaterOne(t *testing.T) {
	b, err := plan.BasisOf(testkit.Strong(), method.Shipped())
	require.NoError(t, err)
	j, err := b.Generate("t")
	require.NoError(t, err)
	frozen, err := method.Shipped().Freeze(j.Doc)
	require.NoError(t, err)
	changed := bytes.ReplaceAll(frozen, []byte("Trap-bar deadlift"), []byte("Hexagon lift"))
	require.NotEqual(t, string(frozen), string(changed))
	later, err := method.Thaw(changed)
	require.NoError(t, err)
	names := func(m *method.Method) (out []string) {
		view, _ := m.Judge(j.Doc, b.Facts)
		for _, it := range view.Blocks[0].Weeks[0].Sessions[0].Items {
			out = append(out, it.Name)
		}
		return out
	}
	assert.Contains(t, names(later), "Hexagon lift")
	then, err := method.Thaw(frozen)
	require.NoError(t, err)
	assert.Contains(t, names(then), "Trap-bar deadlift")
}

func TestWhatIsNotAFrozenMethodIsRefused(t *testing.T) {
	for want, text := range map[string]string{
		"thaw a method":                            `{`,
		`the format is "dunnock-method/9"`:         `{"format": "dunnock-method/9"}`,
		"thaw a method: EOF":                       `{"format": "dunnock-method/1"}`,
		"two exercises are named a":                `{"format": "dunnock-method/1", "exercises": [{"id": "a"}, {"id": "a"}]}`,
		"school : a school needs a name and its l": `{"format": "dunnock-method/1", "rules": {"rules": []}, "schools": [{}]}`,
	} {
		_, err := method.Thaw([]byte(text))
		assert.ErrorContains(t, err, want)
	}
}

func TestTheMethodBeforeFreezing(t *testing.T) {
	m := method.BeforeFreezing()
	assert.Equal(t, "2026.1", m.Exercises.Version())
	assert.Len(t, m.Exercises.All(), 104)
	assert.Len(t, m.Schools.All(), 2)
}
