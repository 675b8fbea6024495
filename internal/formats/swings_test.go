package formats_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/speed"
	"dunnock/internal/core/unit"
	"dunnock/internal/formats"
)

func swingFile(t *testing.T, text string, preferred unit.Unit) *formats.SwingFile {
	t.Helper()
	table, err := formats.ReadSwingTable(context.Background(), []byte(text))
	require.NoError(t, err)
	f, err := formats.ReadSwings(table, formats.GuessSwings(table, preferred))
	require.NoError(t, err)
	return f
}

func TestAFileOfSwingsIsMapped(t *testing.T) {
	f := swingFile(t, "Shot;Club speed (mph);Ball speed (mph);Carry;Side;Stick\n1;100,5;148;240;own;Light\n2;90;;;other;\n3;fast;;;;\n4;300;;;;\n", unit.MetrePerSecond)
	require.Len(t, f.Swings, 2)
	s := f.Swings[0]
	assert.InDelta(t, 100.5*0.44704, s.ClubMps, 1e-9)
	assert.InDelta(t, 148*0.44704, s.BallMps, 1e-9)
	assert.InDelta(t, 240, s.CarryM, 1e-9, "metres where nothing says yards")
	assert.Equal(t, "Light", s.Implement)
	assert.Equal(t, speed.Other, f.Swings[1].Side)
	require.Len(t, f.Errors, 2)
	assert.Equal(t, 4, f.Errors[0].Row)
	assert.Contains(t, f.Errors[0].Text, "fast")
	assert.Contains(t, f.Errors[1].Text, "10 to 75 m/s")
}

func TestAColumnOfNumbersAlone(t *testing.T) {
	f := swingFile(t, "45.1\n46.2\n47\n", unit.MetrePerSecond)
	require.Len(t, f.Swings, 3)
	assert.InDelta(t, 45.1, f.Swings[0].ClubMps, 1e-9)
	assert.Equal(t, 1, f.Swings[0].Line)
	mixed := swingFile(t, "Club\n45\n46\n22\n", unit.MetrePerSecond)
	assert.Len(t, mixed.Warnings, 1, "two units in one column are asked about")
}

func TestWhatAFileOfSwingsCannotSay(t *testing.T) {
	table, err := formats.ReadSwingTable(context.Background(), []byte("a,b\nx,y\n"))
	require.NoError(t, err)
	f, err := formats.ReadSwings(table, formats.GuessSwings(table, unit.MilePerHour))
	require.NoError(t, err)
	assert.Empty(t, f.Swings, "nothing is guessed where no header tells")
	_, err = formats.ReadSwings(table, []formats.SwingColumn{{Quantity: formats.SwingClub}})
	require.Error(t, err)
	f, err = formats.ReadSwings(table, []formats.SwingColumn{{Quantity: formats.SwingClub, Unit: "furlongs"}, {}})
	require.NoError(t, err)
	assert.NotEmpty(t, f.Errors)
}

func FuzzReadSwings(f *testing.F) {
	f.Add([]byte("Club speed (mph);Ball;Carry\n100;148;240\n"))
	f.Add([]byte("45\n46\n"))
	f.Fuzz(func(t *testing.T, b []byte) {
		table, err := formats.ReadSwingTable(context.Background(), b)
		if err != nil {
			return
		}
		got, err := formats.ReadSwings(table, formats.GuessSwings(table, unit.MilePerHour))
		require.NoError(t, err)
		for _, s := range got.Swings {
			require.NoError(t, speed.CheckSpeed(s.ClubMps))
		}
	})
}
