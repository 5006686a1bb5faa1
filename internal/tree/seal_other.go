//go:build !linux

package tree

func (r *Repository) stampsIn(folder string) (stamp stamper, done func()) { return r.stampsOf(folder) }
