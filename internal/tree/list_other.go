//go:build !linux

package tree

import "os"

// A lister reads folders.
type lister struct{}

func (*lister) list(path string) ([]entry, error) { return listed(os.Open(path)) }
