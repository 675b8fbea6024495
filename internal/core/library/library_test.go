package library

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
)

func TestEveryEntryHangsTogether(t *testing.T) {
	all := Shipped().All()
	require.GreaterOrEqual(t, len(all), 70)
	families := map[string]int{}
	for i := range all {
		families[all[i].Family]++
	}
	for _, f := range []string{"swings", "throws", "jumps", "strength-lower", "upper-push", "upper-pull", "trunk", "grip-forearm", "mobility"} {
		assert.GreaterOrEqual(t, families[f], 5, f)
	}
}

func TestEverySlotHasAChoiceWithoutKitForABeginner(t *testing.T) {
	for _, slot := range SlotOrder {
		n := 0
		for i := range Shipped().All() {
			if e := &Shipped().All()[i]; e.Fits(slot) && len(e.Kit) == 0 && e.Level == 1 {
				n++
			}
		}
		assert.Positive(t, n, slot)
	}
}

func TestLimitsBlockByRegionAndKind(t *testing.T) {
	find := func(id string) *Exercise { e, ok := Shipped().Find(id); require.True(t, ok, id); return e }
	rows := []struct {
		exercise string
		limit    athlete.Limit
		blocked  bool
	}{
		{"jump-countermovement", athlete.Limit{Region: "knee", Kind: athlete.NoImpact}, true},
		{"lift-trap-bar", athlete.Limit{Region: "knee", Kind: athlete.NoImpact}, false},
		{"lift-trap-bar", athlete.Limit{Region: "lumbar-spine", Kind: athlete.NoLoadedFlexion}, true},
		{"throw-scoop", athlete.Limit{Region: "lumbar-spine", Kind: athlete.NoLoadedRotation}, true},
		{"pull-down", athlete.Limit{Region: "shoulder", Kind: athlete.NoOverhead}, true},
		{"range-hip-9090", athlete.Limit{Region: "hip", Kind: athlete.NoneOfPattern}, true},
		{"throw-chest-standing", athlete.Limit{Region: "heart", Kind: athlete.NoMaximalEffort}, true},
		{"lift-goblet-squat", athlete.Limit{Region: "heart", Kind: athlete.NoMaximalEffort}, false},
		{"lift-trap-bar", athlete.Limit{Region: "lumbar-spine", Kind: athlete.LoadCap, CapKg: 60}, false},
	}
	for _, r := range rows {
		_, got := find(r.exercise).Blocked([]athlete.Limit{r.limit})
		assert.Equal(t, r.blocked, got, "%s under %s", r.exercise, r.limit.Words())
	}
	cap, ok := find("lift-trap-bar").Cap([]athlete.Limit{{Region: "hip", Kind: athlete.LoadCap, CapKg: 80}, {Region: "lumbar-spine", Kind: athlete.LoadCap, CapKg: 60}})
	assert.True(t, ok)
	assert.Equal(t, 60.0, cap)
}

// A catalogue is checked when it is made, and does not change with what it was
// made of.
func TestCatalogue(t *testing.T) {
	some := []Exercise{{
		ID: "hop", Name: "Hop", Family: "jumps", Slots: []Slot{"jump"}, Zone: Z3, Sides: TwoSided, Level: 1, SecondsPerRep: 2, RestSeconds: 60,
		Cues: []string{"Land softly"}, Faults: []string{"Stiff knees"}, Demands: []string{"knee/impact"}, Kit: []string{"mat"},
	}}
	c, err := New("own.1", some)
	require.NoError(t, err)
	some[0].Name = "Something else"
	e, ok := c.Find("hop")
	require.True(t, ok)
	assert.Equal(t, "Hop", e.Name)
	assert.Equal(t, "own.1", c.Version())
	assert.Equal(t, []string{"mat"}, c.Kit())
	_, ok = c.Find("lift-trap-bar")
	assert.False(t, ok, "what we ship is not in it")

	_, err = New("own.1", []Exercise{some[0], some[0]})
	assert.ErrorContains(t, err, "two exercises are named hop")
	for want, spoil := range map[string]func(*Exercise){
		"needs an id, a name and a family": func(e *Exercise) { e.Name = "" },
		"hop: zone":                        func(e *Exercise) { e.Zone = "Z9" },
		"hop: sides":                       func(e *Exercise) { e.Sides = "three" },
		"seconds per repetition and rest":  func(e *Exercise) { e.RestSeconds = 0 },
		"cues, faults, demands and slots":  func(e *Exercise) { e.Cues = nil },
		"hop: level 5":                     func(e *Exercise) { e.Level = 5 },
		"needs a ball share":               func(e *Exercise) { e.LoadBasis = "ball" },
		"hop: demand":                      func(e *Exercise) { e.Demands = []string{"elbow"} },
		"neighbour \"skip\"":               func(e *Exercise) { e.Easier = "skip" },
		"target test \"speed of thought\"": func(e *Exercise) { e.Targets = []string{"speed of thought"} },
	} {
		bad := some[0]
		spoil(&bad)
		_, err := New("own.1", []Exercise{bad})
		assert.ErrorContains(t, err, want)
	}
	round := []Exercise{some[0], some[0]}
	round[1].ID = "leap"
	round[0].Harder, round[1].Harder = "leap", "hop"
	_, err = New("own.1", round)
	assert.ErrorContains(t, err, "leads round in a circle")
	_, err = read(fstest.MapFS{"data/own.json": {Data: []byte(`[{"id": "hop", "colour": "red"}]`)}})
	assert.ErrorContains(t, err, "data/own.json: json: unknown field \"colour\"")
}

func ExampleCatalogue_Find() {
	e, _ := Shipped().Find("lift-trap-bar")
	fmt.Println(e.Name, e.Zone, e.Sides)
	// Output: Trap-bar deadlift Z4 two
}

// What is gripped, caught or leaned on names the wrist and hand, and a limit there
// then keeps it out (handbook 11, "Sides count").
func TestWhatIsGrippedCaughtOrLeanedOnNamesTheHand(t *testing.T) {
	gripped := []string{
		"dumbbells", "barbell", "trap bar", "cable", "band", "pull-up bar", "club", "light club", "heavy club", "medicine ball", "plates", "stick", "rope", "kettlebell",
	}
	wrist := []athlete.Limit{{Region: "wrist-hand", Kind: athlete.NoneOfPattern}}
	for _, e := range Shipped().All() {
		held := slices.ContainsFunc(e.Kit, func(k string) bool { return slices.Contains(gripped, k) })
		leaned := strings.Contains(e.Stance, "hands") || strings.Contains(e.Stance, "at a wall") || e.Pattern == "push" && len(e.Kit) == 0
		if !held && !leaned {
			continue
		}
		_, blocked := e.Blocked(wrist)
		assert.True(t, blocked, "%s is done with the hands and does not say so", e.ID)
	}
}

// A limit of one side leaves one-sided work of the sound side, and only that.
func TestSidesOfLimits(t *testing.T) {
	c := Shipped()
	find := func(id string) *Exercise {
		e, ok := c.Find(id)
		require.True(t, ok, id)
		return e
	}
	lead := []athlete.Limit{{Region: "wrist-hand", Side: "lead", Kind: athlete.NoneOfPattern}}
	knee := []athlete.Limit{{Region: "knee", Side: "trail", Kind: athlete.NoneOfPattern}}
	lunge := find("lift-split-squat-db")
	_, blocked := lunge.Blocked(lead)
	assert.True(t, blocked, "both hands hold the dumbbells")
	_, blocked = lunge.Blocked(knee)
	assert.False(t, blocked)
	assert.Equal(t, "lead", lunge.SoundSide(knee))
	_, blocked = lunge.Blocked(append(knee, athlete.Limit{Region: "hip", Side: "lead", Kind: athlete.NoneOfPattern}))
	assert.True(t, blocked, "no side is left")
	_, blocked = find("lift-trap-bar").Blocked(knee)
	assert.True(t, blocked, "both legs work")
	_, blocked = lunge.Blocked([]athlete.Limit{{Region: "knee", Kind: athlete.NoneOfPattern}})
	assert.True(t, blocked, "a side that is not known is both")
}

// A programme of before may name an exercise that another has taken the place of.
func TestAnExerciseIsFoundByItsFormerName(t *testing.T) {
	e, ok := Shipped().Find("lift-wall-sit")
	require.True(t, ok)
	assert.Equal(t, "finisher-wall-sit", e.ID)
	assert.True(t, e.Fits(SlotMain), "it stands where the former stood")
	_, err := New("x", []Exercise{{ID: "a", Formerly: []string{"b"}}, {ID: "b"}})
	assert.ErrorContains(t, err, "b is named still")
}
