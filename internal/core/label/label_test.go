package label_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/label"
	"dunnock/internal/core/measure"
)

var reader = label.New(measure.Shipped())

// How people head their columns. Left and right are those of who plays from the
// right.
func TestHeadings(t *testing.T) {
	for text, want := range map[string]string{
		"Grip":                             "grip",
		"Grip lead 2":                      "grip lead 2",
		"Grip L":                           "grip lead",
		"grip strength (lb) right":         "grip trail lb",
		"Handgrip R t3":                    "grip trail 3",
		"CMJ":                              "cmj",
		"CMJ #2 [cm]":                      "cmj 2 cm",
		"Counter Movement Jump trial 3":    "cmj 3",
		"Countermovment jump":              "cmj ~",
		"Vertical jump (in)":               "cmj in",
		"Hip IR Left":                      "hip-ir lead",
		"Hip Internal Rot. - R":            "hip-ir trail",
		"Hip internal rotaton L":           "hip-ir lead ~",
		"T-Spine Rotation L":               "thoracic-rotation toward",
		"Thoracic rotation, seated away 1": "thoracic-rotation away 1",
		"KTW L (cm)":                       "ankle-lunge lead cm",
		"Club Head Speed mph":              "driver-speed mph",
		"CHS":                              "driver-speed",
		"Trap Bar Deadlift":                "trap-bar-lift",
		"Bodyweight (kg)":                  "mass kg",
		"Push-ups":                         "push-up",
		"Grip avg L":                       "grip lead sum",
		"MB scoop toss toward":             "scoop-throw toward",
		"Left":                             "lead",
		"Trial 2":                          "2",
		"2nd":                              "2",
		"average":                          "sum",
	} {
		l, ok := reader.Read(text)
		require.True(t, ok, text)
		test := l.Test
		probe := test
		if probe == nil {
			probe, _ = measure.Shipped().Find("grip")
		}
		words := []string{}
		if test != nil {
			words = append(words, test.ID)
		}
		if s := l.SideFor(probe, true); s != "" {
			words = append(words, string(s))
		}
		if l.Trial > 0 {
			words = append(words, fmt.Sprint(l.Trial))
		}
		if l.Unit != "" {
			words = append(words, string(l.Unit))
		}
		if l.Summary {
			words = append(words, "sum")
		}
		if l.Near {
			words = append(words, "~")
		}
		assert.Equal(t, want, strings.Join(words, " "), text)
	}
}

func TestWhatNamesNoTest(t *testing.T) {
	for _, text := range []string{"", "Shoe size", "Comments", "Team", "Date", "Handicap", "Rotation", "Name", "42", "Coach's remarks on the day"} {
		l, ok := reader.Read(text)
		assert.Nil(t, l.Test, text)
		assert.False(t, ok && l.Trial == 0, text)
	}
}

// The lead limb of who plays from the right is the left one, toward the target is
// to the left, and their own side to swing from is the right (handbook 02).
func TestHandsAndSides(t *testing.T) {
	b := measure.Shipped()
	for _, c := range []struct {
		test  string
		hand  label.Hand
		right bool
		want  measure.Side
	}{
		{"grip", label.Left, true, "lead"},
		{"grip", label.Left, false, "trail"},
		{"thoracic-rotation", label.Left, true, "toward"},
		{"thoracic-rotation", label.Right, false, "toward"},
		{"other-side-speed", label.Right, true, "playing"},
		{"other-side-speed", label.Left, false, "playing"},
		{"cmj", label.Left, true, ""},
	} {
		test, ok := b.Find(c.test)
		require.True(t, ok)
		assert.Equal(t, c.want, label.Label{Hand: c.hand}.SideFor(test, c.right), "%+v", c)
	}
}

func lay(t *testing.T, text string, right bool) (lines, left []string) {
	t.Helper()
	var grid [][]string
	for row := range strings.SplitSeq(strings.Trim(text, "\n"), "\n") {
		grid = append(grid, strings.Split(row, "|"))
	}
	laid, ok := reader.Lay(grid, right)
	require.True(t, ok)
	for _, l := range laid.Lines {
		s := strings.TrimSpace(l.Test.ID + " " + string(l.Side))
		if l.Near {
			s += " ~"
		}
		for _, c := range l.Cells {
			s += fmt.Sprintf("; %d %s", c.Trial, c.Text)
		}
		lines = append(lines, s)
	}
	for _, l := range laid.LeftOut {
		left = append(left, l.Text+": "+l.Why)
	}
	return lines, left
}

func TestBlocksWithLabels(t *testing.T) {
	for name, c := range map[string]struct {
		text        string
		right       bool
		lines, left []string
	}{
		"tests down": {"Grip L|42|43\nGrip R|44|45\nCMJ|38,1|n/a", true,
			[]string{"grip lead; 1 42; 2 43", "grip trail; 1 44; 2 45", "cmj; 1 38,1"}, []string{"CMJ n/a: not measured"}},
		"with a header, and a mean": {"Test|1|2|Avg\nHip IR left|21|22|21.5\nHip IR right|24|25|24.5", false,
			[]string{"hip-ir trail; 1 21; 2 22", "hip-ir lead; 1 24; 2 25"},
			[]string{"Hip IR left 21.5: worked out from others: the trials count", "Hip IR right 24.5: worked out from others: the trials count"}},
		"left and right across": {"|Left|Right\nGrip (lb)|92|96\nKTW|6|6.5", true,
			[]string{"grip lead; 1 92 lb", "grip trail; 1 96 lb", "ankle-lunge lead; 1 6", "ankle-lunge trail; 1 6.5"}, nil},
		"sides in a column of their own": {"Grip|lead|42|43\n|trail|44|45", true,
			[]string{"grip lead; 1 42; 2 43", "grip trail; 1 44; 2 45"}, nil},
		"tests across": {"CMJ|Grip L|Grip R|Shoe\n38|42|44|46\n37.5|43|45|46", true,
			[]string{"cmj; 1 38; 2 37.5", "grip lead; 1 42; 2 43", "grip trail; 1 44; 2 45"}, []string{"Shoe 46 46: no test is called like this"}},
		"a slip of the hand":  {"Countermovment jump|38|37", true, []string{"cmj ~; 1 38; 2 37"}, nil},
		"more than there are": {"Push ups|20|22", true, []string{"push-up; 1 20"}, []string{"Push ups 22: Strict push-ups has 1 trials"}},
		"no side":             {"Grip|42", true, nil, []string{"Grip 42: Grip needs a side: lead or trail, left or right"}},
	} {
		lines, left := lay(t, c.text, c.right)
		assert.Equal(t, c.lines, lines, name)
		assert.Equal(t, c.left, left, name)
	}
	_, ok := reader.Lay([][]string{{"42", "43"}, {"44"}}, true)
	assert.False(t, ok, "numbers alone have no labels")
	_, ok = reader.Lay(nil, true)
	assert.False(t, ok)
}

func FuzzLay(f *testing.F) {
	f.Add("Grip L\t42\t43\nGrip R\t44", true)
	f.Add("CMJ\tGrip (lb) left\n38\t9,2", false)
	f.Fuzz(func(t *testing.T, text string, right bool) {
		var grid [][]string
		for row := range strings.SplitSeq(text, "\n") {
			grid = append(grid, strings.Split(row, "\t"))
		}
		laid, _ := reader.Lay(grid, right)
		for _, l := range laid.Lines {
			if !l.Test.HasSide(l.Side) {
				t.Fatalf("%s has no side %q", l.Test.ID, l.Side)
			}
			for _, c := range l.Cells {
				if c.Trial < 1 || c.Trial > l.Test.Trials {
					t.Fatalf("%s has no trial %d", l.Test.ID, c.Trial)
				}
			}
		}
	})
}

// The largest block that is laid: every cell a heading nobody knows.
func BenchmarkLay(b *testing.B) {
	row := strings.Split(strings.TrimSuffix(strings.Repeat("internel rotatoin of somthing unkown|", 60), "|"), "|")
	grid := slices.Repeat([][]string{row}, 500)
	for b.Loop() {
		reader.Lay(grid, true)
	}
}
