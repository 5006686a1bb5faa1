package workspace

import (
	"testing"

	"dicaxon/internal/tree"
)

// FuzzConfig reads a dicaxon.yaml of anything.
func FuzzConfig(f *testing.F) {
	for _, text := range []string{
		"dicaxon: 1\nprojects:\n  - layout: flask/areas\n    answers: {project: ferry}\n",
		"dicaxon: 1\nprojects: [{at: berths, layout: go/command}]\nlevels: {tangled: off}\n",
		"dicaxon: 1\nwaivers:\n  - {kind: extra, path: '*.old', reason: R., until: 2026-12-31}\n",
		"dicaxon: 1\nprojects: [{at: ../.., layout: ./x}]\n",
	} {
		f.Add([]byte(text))
	}
	rep := tree.FromRecord("/nowhere", []tree.Recorded{{Path: "berths/a.py"}}, nil, nil)
	f.Fuzz(func(t *testing.T, text []byte) {
		if len(text) < 1<<16 {
			_, _ = parse(rep, rep.Top, text)
		}
	})
}
