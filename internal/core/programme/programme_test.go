package programme_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/programme"
)

// doc is a document of one block, a week, a session of two items and a home day
// of one.
func doc() *programme.Programme {
	kg, reserve := 60.0, 2
	item := programme.Item{Exercise: "lift", Dose: programme.Dose{Sets: 3, Reps: 5, LoadKg: &kg, Reserve: &reserve, WarmUpSets: []programme.WarmSet{{Reps: 6}}}}
	return &programme.Programme{Blocks: []programme.Block{{Weeks: []programme.Week{{
		Number: 1, Sessions: []programme.Session{{Letter: programme.DayA, Items: []programme.Item{item, item}}},
		Home: []programme.HomeDay{{Items: []programme.Item{item}}}, Retest: &programme.Retest{Tests: []string{"grip"}},
	}}}}}
}

func TestPartsWithoutAnIDGetOneFromThePrefix(t *testing.T) {
	p, same := doc(), doc()
	p.Name("k")
	same.Name("k")
	assert.Equal(t, same, p, "the same document and prefix give the same ids")
	require.NoError(t, p.Check())
	w := &p.Blocks[0].Weeks[0]
	assert.Equal(t, []programme.ID{"k-1", "k-2", "k-3", "k-4", "k-5", "k-6", "k-7"},
		[]programme.ID{p.Blocks[0].ID, w.ID, w.Sessions[0].ID, w.Sessions[0].Items[0].ID, w.Sessions[0].Items[1].ID, w.Home[0].ID, w.Home[0].Items[0].ID})

	w.Sessions[0].Items[0], w.Sessions[0].Items[1] = w.Sessions[0].Items[1], w.Sessions[0].Items[0]
	w.Sessions[0].Items = append(w.Sessions[0].Items, programme.Item{Exercise: "throw"})
	p.Name("k")
	assert.Equal(t, programme.ID("k-5"), w.Sessions[0].Items[0].ID, "an id moves with its item")
	assert.Equal(t, programme.ID("k-8"), w.Sessions[0].Items[2].ID, "one that is taken is never given again")
}

func TestADocumentWithoutItsIDsIsFound(t *testing.T) {
	p := doc()
	assert.EqualError(t, p.Check(), "a block has no id")
	p.Name("k")
	p.Blocks[0].Weeks[0].Home[0].Items[0].ID = "k-3"
	assert.EqualError(t, p.Check(), "the id k-3 stands for two parts, a session and another item")
}

func TestFind(t *testing.T) {
	p := doc()
	p.Name("k")
	spot, ok := p.Find("k-5")
	require.True(t, ok)
	assert.Same(t, &p.Blocks[0].Weeks[0].Sessions[0].Items[1], spot.Item)
	assert.Same(t, &p.Blocks[0].Weeks[0].Sessions[0], spot.Session)
	spot, ok = p.Find("k-7")
	require.True(t, ok)
	assert.Nil(t, spot.Session, "a home day is no session")
	assert.Equal(t, 1, spot.Week.Number)
	_, ok = p.Find("k-3")
	assert.False(t, ok, "a session is no item")
	s, ok := p.Session("k-3")
	require.True(t, ok)
	assert.Equal(t, programme.DayA, s.Letter)
	_, ok = p.Session("k-5")
	assert.False(t, ok)
}

func TestACloneSharesNothing(t *testing.T) {
	p := doc()
	p.Name("k")
	out := p.Clone()
	assert.Equal(t, p, out)
	w := &out.Blocks[0].Weeks[0]
	w.Sessions[0].Items[0].Dose.WarmUpSets[0].Reps = 1
	*w.Sessions[0].Items[0].Dose.LoadKg, *w.Sessions[0].Items[0].Dose.Reserve = 1, 1
	w.Sessions[0].Items[1].Exercise, w.Home[0].Items[0].Exercise, w.Retest.Tests[0], w.Number = "x", "x", "x", 9
	same := doc()
	same.Name("k")
	assert.Equal(t, same, p)
}
