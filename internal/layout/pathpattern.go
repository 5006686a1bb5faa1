package layout

import (
	"fmt"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
)

// A PathPattern fits paths: names with "/" between them, each written as in a
// key of a tree, "**" for any number of folders, and a slash at the end for a
// folder.
type PathPattern struct {
	Text     string
	Folder   bool
	segments []*Pattern // nil stands for "**"
}

// ParsePath reads a path pattern.
func ParsePath(text string) (*PathPattern, error) { return parsePath(text, nil) }

// ParsePath reads a path pattern, whose captures may have shapes of the layout's own.
func (l *Layout) ParsePath(text string) (*PathPattern, error) { return parsePath(text, l.Shapes) }

func parsePath(text string, own map[string]names.Shape) (*PathPattern, error) {
	p := &PathPattern{Text: text}
	rest, folder := strings.CutSuffix(text, "/")
	p.Folder = folder
	if rest == "" {
		return p, nil
	}
	for _, name := range strings.Split(rest, "/") {
		if name == "**" {
			p.segments = append(p.segments, nil)
			continue
		}
		segment, err := parsePattern(name)
		if err == nil {
			err = segment.settle(own)
		}
		if err != nil {
			return nil, fmt.Errorf("%q: %v", text, err)
		}
		p.segments = append(p.segments, &segment)
	}
	return p, nil
}

// Match says whether the path fits, and gives env with what was captured. A
// folder's path may have its slash.
func (p *PathPattern) Match(path string, env *Env) (*Env, bool) {
	return matchSegments(p.segments, strings.TrimSuffix(path, "/"), env)
}

func matchSegments(segments []*Pattern, path string, env *Env) (*Env, bool) {
	if len(segments) == 0 {
		return env, path == ""
	}
	if segments[0] == nil {
		for {
			if bound, ok := matchSegments(segments[1:], path, env); ok {
				return bound, true
			}
			cut := strings.IndexByte(path, '/')
			if cut < 0 {
				return env, len(segments) == 1
			}
			path = path[cut+1:]
		}
	}
	if path == "" {
		return env, false
	}
	name, rest, _ := strings.Cut(path, "/")
	bound, ok := segments[0].Match(name, env)
	if !ok {
		return env, false
	}
	return matchSegments(segments[1:], rest, bound)
}

var filled = lazy.New(`<([a-z][a-z0-9-]*)(?::([a-z]+))?>`)

// FillText puts captured names into a text of any kind, in the shape asked for.
// What is not captured stays as written.
func FillText(text string, env *Env) string {
	return filled.Get().ReplaceAllStringFunc(text, func(written string) string {
		m := filled.Get().FindStringSubmatch(written)
		value, ok := env.Get(m[1])
		switch {
		case !ok:
			return written
		case m[2] == "":
			return value
		}
		return names.To(names.Shape(m[2]), value)
	})
}

// Segments gives the names of the pattern; nil stands for "**".
func (p *PathPattern) Segments() []*Pattern { return p.segments }

// Everything is the path pattern "**".
var Everything = &PathPattern{Text: "**", segments: []*Pattern{nil}}

// AnyName is the pattern "*".
var AnyName = &Pattern{Text: "*", parts: []part{{kind: anyRun}}}
