// Package web carries the built front end inside the binary.
package web

import (
	"embed"
	"io/fs"
)

//go:embed all:dist
var dist embed.FS

// Dist is the built front end: index.html and assets/. It is empty in a binary
// built before the front end was.
func Dist() fs.FS {
	sub, err := fs.Sub(dist, "dist")
	if err != nil {
		panic(err) // dist is embedded above
	}
	return sub
}
