package app_test

import (
	"bytes"
	"context"
	"errors"
	"io"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/app"
	"dunnock/internal/core/force"
	"dunnock/internal/core/testkit"
	"dunnock/internal/device"
	"dunnock/internal/postgres/pgtest"
)

// unread fails whoever reads it.
type unread struct{}

func (unread) Read([]byte) (int, error) { return 0, errors.New("the file was read again") }

// A file that was looked at is brought in by its hash alone, with the very result
// it has when it is sent.
func TestAForceFileTravelsAndIsReadOnce(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	id, other := empty(t, a, u), golfer(t, a, u, testkit.Weak())
	csv := file(t, device.PlatesPlan{NoiseN: 2}).Bytes()
	look, err := a.LookAtForce(ctx, u, force.RightSided, nil, "", bytes.NewReader(csv))
	require.NoError(t, err)
	again, err := a.LookAtForce(ctx, u, force.RightSided, nil, look.Hash, unread{})
	require.NoError(t, err)
	assert.Equal(t, look, again)

	held, err := a.AddRecording(ctx, u, id, app.NewRecording{Name: "j", Kind: "jump", Hash: look.Hash}, unread{})
	require.NoError(t, err)
	sent, err := a.AddRecording(ctx, u, other, app.NewRecording{Name: "j", Kind: "jump", Side: force.RightSided}, bytes.NewReader(csv))
	require.NoError(t, err)
	assert.Equal(t, sent.Jump, held.Jump)
	traces, err := a.Traces(ctx, u, held.ID)
	require.NoError(t, err)
	assert.NotNil(t, traces)
	stored, err := a.RecordingFile(ctx, u, held.ID)
	require.NoError(t, err)
	assert.Equal(t, csv, stored)
}

func TestAFileThatIsHeldNoMoreIsAskedFor(t *testing.T) {
	ctx := context.Background()
	now := time.Date(2026, 11, 24, 9, 0, 0, 0, time.UTC)
	a := app.New(pgtest.Store(t), func() time.Time { return now }, testkit.Day)
	coach := func(email string) *app.Actor {
		who, err := a.AddUser(ctx, app.Setup{Practice: "P", Zone: "UTC", Name: "N", Email: email, Password: "long enough"}, false)
		require.NoError(t, err)
		return who
	}
	u, stranger := coach("a@example.org"), coach("b@example.org")
	look := func(who *app.Actor, hash string, r io.Reader) (string, error) {
		l, err := a.LookAtForce(ctx, who, force.RightSided, nil, hash, r)
		if err != nil {
			return "", err
		}
		return l.Hash, nil
	}
	csv := file(t, device.PlatesPlan{NoiseN: 2}).Bytes()
	hash, err := look(u, "", bytes.NewReader(csv))
	require.NoError(t, err)
	_, err = look(stranger, hash, unread{})
	assert.Equal(t, app.NotFound, kind(t, err), "another practice's file is nobody's business")

	now = now.Add(9 * time.Minute)
	_, err = look(u, hash, unread{})
	require.NoError(t, err)
	now = now.Add(11 * time.Minute)
	_, err = look(u, hash, unread{})
	assert.Equal(t, app.NotFound, kind(t, err))

	hash, err = look(u, "", bytes.NewReader(csv))
	require.NoError(t, err)
	id := golfer(t, a, u, testkit.Weak())
	require.NoError(t, a.EraseGolfer(ctx, u, id))
	_, err = look(u, hash, unread{})
	assert.Equal(t, app.NotFound, kind(t, err), "what may have been an erased golfer's is forgotten")
}

// Files that do not fit make room, the one not used for the longest time first.
func TestHeldFilesAreBounded(t *testing.T) {
	ctx := context.Background()
	now := time.Date(2026, 11, 24, 9, 0, 0, 0, time.UTC)
	s := pgtest.Store(t)
	a := app.New(s, func() time.Time { now = now.Add(time.Second); return now }, testkit.Day)
	u, err := a.AddUser(ctx, app.Setup{Practice: "P", Zone: "UTC", Name: "N", Email: "a@example.org", Password: "long enough"}, false)
	require.NoError(t, err)
	var hashes []string
	for i := range 120 {
		csv := file(t, device.PlatesPlan{NoiseN: 2, Seed: uint64(i + 1)}).Bytes()
		l, err := a.LookAtForce(ctx, u, force.RightSided, nil, "", bytes.NewReader(csv))
		require.NoError(t, err)
		hashes = append(hashes, l.Hash)
	}
	_, err = a.LookAtForce(ctx, u, force.RightSided, nil, hashes[len(hashes)-1], unread{})
	require.NoError(t, err)
	_, err = a.LookAtForce(ctx, u, force.RightSided, nil, hashes[0], unread{})
	assert.Equal(t, app.NotFound, kind(t, err))
}
