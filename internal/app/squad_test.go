package app_test

import (
	"bytes"
	"context"
	"encoding/json"
	"image"
	"image/png"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/app"
	"dunnock/internal/core/athlete"
	"dunnock/internal/core/testkit"
	"dunnock/internal/store"
)

func named(name string) *athlete.File {
	f := testkit.Strong()
	f.Athlete.Name, f.Screens = name, nil
	return f
}

// A golfer put away is no more in the squad, is found after the others, and comes
// back as they were.
func TestGolfersArePutAwayAndBack(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	ada, bo := golfer(t, a, u, named("Ada North")), golfer(t, a, u, named("Bo North"))
	n, err := a.Archive(ctx, u, []string{ada, "no id", bo}, true)
	require.NoError(t, err)
	assert.Equal(t, 2, n)
	n, err = a.Archive(ctx, u, []string{ada}, true)
	require.NoError(t, err)
	assert.Zero(t, n, "once is enough")
	_, err = a.Archive(ctx, u, []string{bo}, false)
	require.NoError(t, err)
	squad, err := a.Squad(ctx, u, false)
	require.NoError(t, err)
	require.Len(t, squad, 1)
	assert.Equal(t, "Bo North", squad[0].Name)
	away, err := a.Squad(ctx, u, true)
	require.NoError(t, err)
	require.Len(t, away, 1)
	found, err := a.FindGolfers(ctx, u, "NOR", 10)
	require.NoError(t, err)
	assert.Equal(t, []string{"Bo North", "Ada North"}, []string{found[0].Name, found[1].Name})
	assert.True(t, found[1].Archived)
	for text, n := range map[string]int{"north ada": 1, "%": 0, "_": 0, "": 2, `\`: 0} {
		found, err = a.FindGolfers(ctx, u, text, 10)
		require.NoError(t, err)
		assert.Len(t, found, n, text)
	}
	// What is saved of their facts does not bring them back.
	g, err := a.Golfer(ctx, u, ada)
	require.NoError(t, err)
	facts := g.Facts
	facts.ArchivedOn = testkit.Day.Add(-400)
	g, err = a.SaveGolfer(ctx, u, ada, g.Revision, &facts)
	require.NoError(t, err)
	assert.Equal(t, testkit.Day, g.Facts.ArchivedOn)
	_, err = a.Archive(ctx, u, make([]string, 501), true)
	assert.Equal(t, app.Invalid, kind(t, err))
}

func TestGroupsOfASquad(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	ids := []string{golfer(t, a, u, named("Ada")), golfer(t, a, u, named("Bo"))}
	n, err := a.Group(ctx, u, ids, "  Monday   juniors ", true)
	require.NoError(t, err)
	assert.Equal(t, 2, n)
	n, err = a.Group(ctx, u, append(ids, "00000000-0000-0000-0000-000000000000", "no id"), "Monday juniors", true)
	require.NoError(t, err)
	assert.Zero(t, n)
	_, err = a.Group(ctx, u, ids[:1], "Monday juniors", false)
	require.NoError(t, err)
	squad, err := a.Squad(ctx, u, false)
	require.NoError(t, err)
	assert.Empty(t, squad[0].Groups)
	assert.Equal(t, []string{"Monday juniors"}, squad[1].Groups)
	_, err = a.Group(ctx, u, ids, "", true)
	assert.Equal(t, app.Invalid, kind(t, err), "a group has a name")
}

func TestAGolferIsMadeAfterAnother(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	f := named("Ada")
	f.Athlete.Groups, f.Athlete.Notes, f.Athlete.GoalText = []string{"Juniors"}, "likes mornings", "110"
	f.Training.Days = []string{"tue", "thu"}
	f.Competitions = []athlete.Competition{{Date: testkit.Day.Add(-9), Name: "Past"}, {Date: testkit.Day.Add(30), Name: "Cup", Peak: true}}
	f.Limits = []athlete.Limit{{Region: "lumbar-spine", Kind: "no-impact", SetBy: "me"}}
	id := golfer(t, a, u, f)
	made, err := a.After(ctx, u, id, athlete.Profile{Name: "Bo", BirthDate: f.Athlete.BirthDate, PlayingSide: "left"})
	require.NoError(t, err)
	x := made.Facts
	assert.Equal(t, f.Training.Days, x.Training.Days)
	assert.Equal(t, []string{"Juniors"}, x.Athlete.Groups)
	require.Len(t, x.Competitions, 1)
	assert.Equal(t, "Cup", x.Competitions[0].Name)
	assert.Empty(t, x.Limits, "what is of the body is not taken")
	assert.Empty(t, x.Athlete.Notes+x.Athlete.GoalText)
	assert.True(t, x.Clearance.AnsweredOn.IsZero())
}

// A photo is kept small, goes into the export and comes back from it, and goes with
// the golfer; under 18 it needs the consent, and goes with that.
func TestAPhotoIsKeptExportedAndErased(t *testing.T) {
	ctx := context.Background()
	a, u, s := practice(t, testkit.Day)
	var photo bytes.Buffer
	require.NoError(t, png.Encode(&photo, image.NewGray(image.Rect(0, 0, 500, 400))))
	id := golfer(t, a, u, named("Ada"))
	g, err := a.SetPhoto(ctx, u, id, bytes.NewReader(photo.Bytes()))
	require.NoError(t, err)
	assert.Len(t, g.Photo, 16)
	b, err := a.Photo(ctx, u, id)
	require.NoError(t, err)
	small, _, err := image.DecodeConfig(bytes.NewReader(b))
	require.NoError(t, err)
	assert.Equal(t, 256, small.Width)
	_, err = a.SetPhoto(ctx, u, id, bytes.NewReader([]byte("<svg>")))
	assert.Equal(t, app.Invalid, kind(t, err))

	f, err := a.Export(ctx, u, id)
	require.NoError(t, err)
	text, err := json.Marshal(f)
	require.NoError(t, err)
	require.NoError(t, a.EraseGolfer(ctx, u, id))
	_, err = s.For(u.PracticeID).Photo(ctx, id)
	require.ErrorIs(t, err, store.ErrNotFound)
	back, err := a.BringGolfer(ctx, u, bytes.NewReader(text))
	require.NoError(t, err)
	assert.NotEmpty(t, back.Photo)
	back, err = a.RemovePhoto(ctx, u, back.ID)
	require.NoError(t, err)
	assert.Empty(t, back.Photo)

	junior := named("Bo")
	junior.Athlete.BirthDate = testkit.Day.Add(-15 * 365)
	young := golfer(t, a, u, junior)
	_, err = a.SetPhoto(ctx, u, young, bytes.NewReader(photo.Bytes()))
	assert.Equal(t, app.Refused, kind(t, err))
	g, err = a.Golfer(ctx, u, young)
	require.NoError(t, err)
	facts := g.Facts
	facts.Consent = &athlete.Consent{Guardian: "Their mother", On: testkit.Day}
	g, err = a.SaveGolfer(ctx, u, young, g.Revision, &facts)
	require.NoError(t, err)
	_, err = a.SetPhoto(ctx, u, young, bytes.NewReader(photo.Bytes()))
	require.NoError(t, err)
	facts.Consent = nil
	g, err = a.SaveGolfer(ctx, u, young, g.Revision, &facts)
	require.NoError(t, err)
	assert.Empty(t, g.Photo, "the consent was taken back")
}
