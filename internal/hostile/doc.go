// Package hostile attacks the built program as a stranger would, by layouts, repositories,
// records of git, names and signals, and holds that nothing runs, nothing leaves the
// repository, nothing hangs, nothing is half made and no secret is shown. It has tests
// alone.
package hostile
