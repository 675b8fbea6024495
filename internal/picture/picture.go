// Package picture makes a small portrait of a photo: turned upright, cut to a
// square, shrunk, and encoded anew, so that nothing of the file it came as is left:
// no place, no camera, no day.
package picture

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	_ "image/png" // photos may be PNG

	"github.com/bep/imagemeta"
	"golang.org/x/image/draw"
	_ "golang.org/x/image/webp" // or WebP
)

// Limits of a photo that is taken.
const (
	MaxBytes = 12 << 20
	// maxPixels bounds what a photo unfolds to: of some JPEGs fifteen bytes a pixel, of
	// some PNGs eight. Browsers send a smaller one.
	maxPixels = 16_000_000
	// Side is how wide and high a portrait is, in pixels; a smaller photo stays as it is.
	Side = 256
)

// ErrNoPhoto is wrapped by what is said of a file that is no photo.
var ErrNoPhoto = errors.New("no photo")

func no(format string, args ...any) error {
	return fmt.Errorf("%w: %s", ErrNoPhoto, fmt.Sprintf(format, args...))
}

// Portrait makes a JPEG of at most Side by Side pixels of a photo (JPEG, PNG or
// WebP). What is none, or too large a one, is an ErrNoPhoto.
func Portrait(b []byte) ([]byte, error) {
	if len(b) > MaxBytes {
		return nil, no("the photo is larger than %d MB", MaxBytes>>20)
	}
	c, kind, err := image.DecodeConfig(bytes.NewReader(b))
	switch {
	case err != nil:
		return nil, no("this is no JPEG, PNG or WebP")
	case c.Width < 16 || c.Height < 16:
		return nil, no("the photo is smaller than 16 pixels")
	case c.Width*c.Height > maxPixels:
		return nil, no("the photo has more than %d million pixels", maxPixels/1_000_000)
	}
	photo, _, err := image.Decode(bytes.NewReader(b))
	if err != nil {
		return nil, no("the photo is damaged")
	}
	box := middle(photo.Bounds())
	side := min(Side, box.Dx())
	small := image.NewRGBA(image.Rect(0, 0, side, side))
	draw.Draw(small, small.Bounds(), image.White, image.Point{}, draw.Src)
	draw.CatmullRom.Scale(small, small.Bounds(), photo, box, draw.Over, nil)
	var out bytes.Buffer
	err = jpeg.Encode(&out, upright(small, orientation(b, kind)), &jpeg.Options{Quality: 85})
	return out.Bytes(), err
}

// middle is the largest square in the middle; of a high photo the upper part, where
// a head is.
func middle(r image.Rectangle) image.Rectangle {
	side := min(r.Dx(), r.Dy())
	x, y := r.Min.X+(r.Dx()-side)/2, r.Min.Y+(r.Dy()-side)/3
	return image.Rect(x, y, x+side, y+side)
}

// orientation is how the camera was held: 1 to 8 as EXIF counts it, 1 where nothing
// says so.
func orientation(b []byte, kind string) int {
	formats := map[string]imagemeta.ImageFormat{"jpeg": imagemeta.JPEG, "png": imagemeta.PNG, "webp": imagemeta.WebP}
	out := 1
	_, err := imagemeta.Decode(imagemeta.Options{
		R: bytes.NewReader(b), ImageFormat: formats[kind], Sources: imagemeta.EXIF,
		ShouldHandleTag: func(t imagemeta.TagInfo) bool { return t.Tag == "Orientation" && t.Namespace == "IFD0" },
		HandleTag: func(t imagemeta.TagInfo) error {
			if v, ok := t.Value.(uint16); ok && v >= 1 && v <= 8 {
				out = int(v)
			}
			return nil
		},
	})
	if err != nil {
		return 1
	}
	return out
}

// upright turns and mirrors a square as its orientation asks.
func upright(m *image.RGBA, orientation int) *image.RGBA {
	n := m.Bounds().Dx()
	from := map[int]func(x, y int) (int, int){
		2: func(x, y int) (int, int) { return n - 1 - x, y },
		3: func(x, y int) (int, int) { return n - 1 - x, n - 1 - y },
		4: func(x, y int) (int, int) { return x, n - 1 - y },
		5: func(x, y int) (int, int) { return y, x },
		6: func(x, y int) (int, int) { return y, n - 1 - x },
		7: func(x, y int) (int, int) { return n - 1 - y, n - 1 - x },
		8: func(x, y int) (int, int) { return n - 1 - y, x },
	}[orientation]
	if from == nil {
		return m
	}
	out := image.NewRGBA(m.Bounds())
	for y := range n {
		for x := range n {
			out.SetRGBA(x, y, m.RGBAAt(from(x, y)))
		}
	}
	return out
}
