package formats_test

import (
	"bytes"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/implement"
	"dunnock/internal/core/testkit"
	"dunnock/internal/core/warmup"
	"dunnock/internal/formats"
)

func TestAWarmUpAsACard(t *testing.T) {
	w, err := warmup.Build(&warmup.Person{Own: implement.Usual, OtherSide: true}, warmup.Request{Purpose: warmup.Tee, Minutes: 10, Place: warmup.TeeBox, Tee: "9:00", Walk: 4, Wait: 15})
	require.NoError(t, err)
	var a, b bytes.Buffer
	require.NoError(t, formats.WriteWarmUp(&a, "Torquil 李", testkit.Day, w))
	require.NoError(t, formats.WriteWarmUp(&b, "Torquil 李", testkit.Day, w))
	assert.True(t, bytes.HasPrefix(a.Bytes(), []byte("%PDF-")))
	assert.Contains(t, a.String(), "/CreationDate (D:20261124000000)")
	assert.Equal(t, a.Len(), b.Len())
}
