package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"

	"dunnock/internal/core/force"
	"dunnock/internal/forcefile"
	"dunnock/internal/store"
)

const previewStretches = 240

// LookAtForce says what a file holds and how it would be read: by the mapping
// given, by the one remembered for files like it, or by its names. A file that was
// looked at a moment ago may be named by its hash instead of being sent again.
func (a *App) LookAtForce(ctx context.Context, who *Actor, side force.Side, mapping *forcefile.Mapping, hash string, r io.Reader) (*forcefile.Look, error) {
	held, err := a.forceFile(who, hash, r)
	if err != nil {
		return nil, err
	}
	f := held.File
	l := &forcefile.Look{
		Hash:        held.hash,
		Kind:        f.Kind,
		Fingerprint: f.Fingerprint(),
		RateHz:      f.RateHz,
		Samples:     f.Len(),
		Channels:    []forcefile.LookChannel{},
		Plates:      len(f.Plates),
		Notes:       []string{},
		Preview:     []forcefile.PreviewLine{},
	}
	for _, c := range f.Channels {
		l.Channels = append(l.Channels, forcefile.LookChannel{Name: c.Name, Unit: c.Unit})
	}
	if l.Mapping, l.Known, err = a.forceMapping(ctx, who, f); err != nil {
		return nil, err
	}
	if mapping != nil {
		l.Mapping = *mapping
	}
	rec, err := l.Mapping.Recording(f, side)
	if err != nil {
		l.Problem = Sentence(err)
		return l, nil
	}
	l.RateHz, l.Seconds, l.ImpactS = rec.RateHz, float64(rec.Len())/rec.RateHz, rec.ImpactS
	l.Notes = append(l.Notes, rec.Notes...)
	for _, c := range rec.Channels() {
		if strings.HasPrefix(c.Name, "cop") {
			continue
		}
		l.Preview = append(l.Preview, forcefile.PreviewLine{Foot: c.Foot, Name: c.Name, Unit: c.Unit, Points: thin(rec, c.Values, previewStretches)})
	}
	return l, nil
}

// thin keeps the lowest and the highest sample of each of n stretches.
func thin(r *force.Recording, y []float64, n int) [][2]float64 {
	out := make([][2]float64, 0, 2*n)
	step := max(1, len(y)/n)
	for i := 0; i < len(y); i += step {
		low, high := i, i
		for k := i; k < min(i+step, len(y)); k++ {
			if y[k] < y[low] {
				low = k
			}
			if y[k] > y[high] {
				high = k
			}
		}
		first, second := min(low, high), max(low, high)
		out = append(out, [2]float64{r.Time(float64(first)), y[first]})
		if second != first {
			out = append(out, [2]float64{r.Time(float64(second)), y[second]})
		}
	}
	return out
}

func readForce(r io.Reader) (*forcefile.File, []byte, error) {
	b, err := forcefile.ReadAll(r)
	if err != nil {
		var refused *forcefile.Error
		if errors.As(err, &refused) {
			return nil, nil, forceWords(err)
		}
		return nil, nil, err
	}
	f, err := forcefile.Read(b)
	return f, b, forceWords(err)
}

// forceMapping is how a file is read: as remembered, or by its names.
func (a *App) forceMapping(ctx context.Context, who *Actor, f *forcefile.File) (forcefile.Mapping, string, error) {
	name, known, err := a.store.For(who.PracticeID).Source(ctx, f.Fingerprint())
	switch {
	case errors.Is(err, store.ErrNotFound):
		return forcefile.Guess(f), "", nil
	case err != nil:
		return forcefile.Mapping{}, "", err
	}
	var m forcefile.Mapping
	return m, name, json.Unmarshal([]byte(known), &m)
}

// RememberForceMapping keeps how files with this fingerprint are read.
func (a *App) RememberForceMapping(ctx context.Context, who *Actor, fingerprint string, m forcefile.Mapping) error {
	if err := m.Check(); err != nil {
		return invalid("mapping", "%s", Sentence(err))
	}
	name := strings.TrimSpace(m.Source)
	if name == "" {
		return invalid("source", "Name the source: the plates or the program the file comes from.")
	}
	b, err := json.Marshal(m)
	if err != nil {
		return err
	}
	return a.store.For(who.PracticeID).RememberSource(ctx, fingerprint, fmt.Sprintf("%.120s", name), string(b))
}
