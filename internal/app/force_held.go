package app

import (
	"crypto/sha256"
	"encoding/hex"
	"io"
	"strings"
	"sync"
	"time"

	"dunnock/internal/forcefile"
)

// Bounds of the force files that are held between a look and what follows it.
const (
	heldBytes = 24 << 20 // of all of them, as they came and as they were read
	heldFor   = 10 * time.Minute
)

// forceFile is a file of force as it came and as it was read.
type forceFile struct {
	hash string
	raw  []byte
	*forcefile.File
	at time.Time
}

func (f *forceFile) size() int { return len(f.raw) + 8*f.Len()*(len(f.Channels)+1) }

// heldFiles are the files of force that were looked at last, so that a file that
// is looked at, mapped, brought in and shown travels and is read once. Whoever
// finds none sends the file; nothing rests on it.
type heldFiles struct {
	mu    sync.Mutex
	files map[string]*forceFile // by practice and hash
	bytes int
}

func (h *heldFiles) get(practice, hash string, now time.Time) *forceFile {
	h.mu.Lock()
	defer h.mu.Unlock()
	f := h.files[practice+hash]
	if f == nil || now.Sub(f.at) > heldFor {
		return nil
	}
	f.at = now
	return f
}

// put holds a file; those not used for the longest time make room for it.
func (h *heldFiles) put(practice string, f *forceFile) {
	if f.size() > heldBytes {
		return
	}
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.files == nil {
		h.files = map[string]*forceFile{}
	}
	key := practice + f.hash
	if old := h.files[key]; old != nil {
		h.bytes -= old.size()
	}
	h.files[key] = f
	h.bytes += f.size()
	for k, x := range h.files {
		if f.at.Sub(x.at) > heldFor {
			h.bytes -= x.size()
			delete(h.files, k)
		}
	}
	for h.bytes > heldBytes {
		oldest := key
		for k, x := range h.files {
			if x.at.Before(h.files[oldest].at) {
				oldest = k
			}
		}
		h.bytes -= h.files[oldest].size()
		delete(h.files, oldest)
	}
}

// drop forgets the files of a practice: somebody of it was erased.
func (h *heldFiles) drop(practice string) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for k, x := range h.files {
		if strings.HasPrefix(k, practice) {
			h.bytes -= x.size()
			delete(h.files, k)
		}
	}
}

// forceFile reads a file of force, or takes the one that is held under a hash:
// then nothing is read of r. The error asks for the file where it is held no more.
func (a *App) forceFile(who *Actor, hash string, r io.Reader) (*forceFile, error) {
	now := a.now()
	if hash != "" {
		if f := a.held.get(who.PracticeID, hash, now); f != nil {
			return f, nil
		}
		return nil, &Error{Kind: NotFound, Text: "This file is not held any more: send it again."}
	}
	parsed, raw, err := readForce(r)
	if err != nil {
		return nil, err
	}
	sum := sha256.Sum256(raw)
	f := &forceFile{hash: hex.EncodeToString(sum[:]), raw: raw, File: parsed, at: now}
	a.held.put(who.PracticeID, f)
	return f, nil
}
