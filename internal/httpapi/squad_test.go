package httpapi_test

import (
	"bytes"
	"image"
	"image/color"
	"image/png"
	"math/rand/v2"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/httpapi/gen"
)

// A photo as a telephone sends it is taken, made small, answered to whoever is signed in and
// kept by nobody else; what is too large is refused by its size.
func TestAPhotoOverHTTP(t *testing.T) {
	c := withDemo(t)
	id := c.everybody()[0]
	photo := image.NewRGBA(image.Rect(0, 0, 800, 600))
	noise := rand.New(rand.NewPCG(1, 2))
	for i := range photo.Pix {
		photo.Pix[i] = byte(noise.Uint32())
	}
	photo.SetRGBA(0, 0, color.RGBA{A: 255})
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, photo))
	require.Greater(t, b.Len(), 1<<20, "more than a form may hold")
	res, body := c.do("PUT", "/athletes/"+id+"/photo", "application/octet-stream", b.Bytes(), nil)
	require.Equal(t, http.StatusOK, res.StatusCode, string(body))
	res, body = c.do("GET", "/athletes/"+id+"/photo", "", nil, nil)
	require.Equal(t, http.StatusOK, res.StatusCode)
	assert.Equal(t, "Cookie", res.Header.Get("Vary"))
	assert.Contains(t, res.Header.Get("Cache-Control"), "private")
	assert.Less(t, len(body), 128<<10)
	res, _ = c.do("PUT", "/athletes/"+id+"/photo", "application/octet-stream", make([]byte, 40<<20), nil)
	assert.Equal(t, http.StatusRequestEntityTooLarge, res.StatusCode)
	var squad struct{ Athletes []gen.SquadRow }
	c.get("/athletes", http.StatusOK, &squad)
	kept := 0
	for _, g := range squad.Athletes {
		if g.Photo != nil {
			kept++
		}
	}
	assert.Equal(t, 1, kept)
	c.post("/squad/groups", m{"golfers": []string{"no id", id}, "group": "Barn", "in": true}, http.StatusOK, nil)
	c.get("/golfers?q=zzz", http.StatusOK, &[]gen.GolferHead{})
	res, body = c.do("GET", "/squad/programmes.pdf?golfers=no-id", "", nil, nil)
	assert.Less(t, res.StatusCode, 500, string(body))
}
