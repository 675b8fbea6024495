package picture_test

import (
	"bytes"
	"encoding/binary"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/picture"
)

var red, blue = color.RGBA{R: 220, A: 255}, color.RGBA{B: 220, A: 255}

// photo is red in its upper half and blue in its lower, and says where it was taken.
func photo(t testing.TB, w, h, orientation int) []byte {
	t.Helper()
	m := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			c := red
			if y >= h/2 {
				c = blue
			}
			m.SetRGBA(x, y, c)
		}
	}
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, m, nil))
	// An APP1 segment behind the first marker: Exif, big endian, one tag in IFD0.
	exif := append([]byte("Exif\x00\x00MM\x00*\x00\x00\x00\x08\x00\x01\x01\x12\x00\x03\x00\x00\x00\x01"), 0, byte(orientation), 0, 0, 0, 0, 0, 0)
	exif = append(exif, []byte("SECRETPLACE")...)
	segment := binary.BigEndian.AppendUint16([]byte{0xFF, 0xE1}, uint16(len(exif)+2))
	return append(append(append([]byte{}, b.Bytes()[:2]...), append(segment, exif...)...), b.Bytes()[2:]...)
}

func look(t *testing.T, b []byte) image.Image {
	t.Helper()
	m, kind, err := image.Decode(bytes.NewReader(b))
	require.NoError(t, err)
	assert.Equal(t, "jpeg", kind)
	return m
}

func isRed(c color.Color) bool {
	r, _, b, _ := c.RGBA()
	return r > b
}

func TestAPortraitIsSmallSquareAndTellsNothing(t *testing.T) {
	got, err := picture.Portrait(photo(t, 900, 600, 1))
	require.NoError(t, err)
	m := look(t, got)
	assert.Equal(t, image.Rect(0, 0, picture.Side, picture.Side), m.Bounds())
	assert.NotContains(t, string(got), "Exif")
	assert.NotContains(t, string(got), "SECRETPLACE")
	assert.Less(t, len(got), 128<<10)

	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, image.NewGray(image.Rect(0, 0, 40, 60))))
	got, err = picture.Portrait(b.Bytes())
	require.NoError(t, err)
	assert.Equal(t, 40, look(t, got).Bounds().Dx(), "a small one is not blown up")
}

// Where the upper half of the stored picture stands when it is shown upright; Exif 2.32,
// tag 274.
func TestAPortraitStandsUpright(t *testing.T) {
	for orientation, side := range map[int]string{1: "top", 2: "top", 3: "bottom", 4: "bottom", 5: "left", 6: "right", 7: "right", 8: "left"} {
		got, err := picture.Portrait(photo(t, 300, 300, orientation))
		require.NoError(t, err)
		m := look(t, got)
		at := map[string]image.Point{"top": {128, 20}, "bottom": {128, 236}, "left": {20, 128}, "right": {236, 128}}
		for name, p := range at {
			if name == side {
				assert.True(t, isRed(m.At(p.X, p.Y)), "%d: red is %s", orientation, side)
			}
		}
		opposite := map[string]string{"top": "bottom", "bottom": "top", "left": "right", "right": "left"}[side]
		p := at[opposite]
		assert.False(t, isRed(m.At(p.X, p.Y)), "%d: blue is %s", orientation, opposite)
	}
}

func TestWhatIsNoPhoto(t *testing.T) {
	var huge bytes.Buffer
	require.NoError(t, png.Encode(&huge, image.NewGray(image.Rect(0, 0, 10, 10))))
	bomb := huge.Bytes()
	binary.BigEndian.PutUint32(bomb[16:], 100_000)
	binary.BigEndian.PutUint32(bomb[20:], 100_000)
	for name, b := range map[string][]byte{
		"nothing": nil, "text": []byte("a portrait"), "half": photo(t, 300, 300, 1)[:900], "tiny": huge.Bytes()[:60], "a bomb": bomb, "too large": make([]byte, picture.MaxBytes+1),
		"svg": []byte("<svg onload=alert(1)>"),
	} {
		_, err := picture.Portrait(b)
		assert.ErrorIs(t, err, picture.ErrNoPhoto, name)
	}
}

func FuzzPortrait(f *testing.F) {
	f.Add(photo(f, 40, 40, 6))
	f.Add([]byte("\x89PNG\r\n\x1a\n"))
	f.Add([]byte("RIFF\x00\x00\x00\x00WEBP"))
	f.Fuzz(func(t *testing.T, b []byte) {
		if out, err := picture.Portrait(b); err == nil {
			look(t, out)
		}
	})
}
