package rules

import (
	"path"
	"strings"

	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

// followOn looks a dotted name up that goes on behind a module of Python, part by part, as far as its parts are modules
// of the project: what is behind the last one is what that gives.
func (c *Call) followOn(s spoken) (sought []string, meant string, broken bool) {
	from := path.Join(path.Dir(s.file.path), "_.py")
	parts := strings.Split(s.name, ".")
	for i := 1; i < len(parts); i++ {
		a := c.Graph.Answer(from, refs.Ref{Kind: refs.Import, Name: strings.Join(parts[:i], "."), Value: parts[i]})
		behind := strings.Join(parts[i+1:], ".")
		switch {
		case len(a.To) == 2: // a module
		case a.Within != "" && a.Own && !strings.HasPrefix(parts[i], "__"):
			near := names.Closest(parts[i], c.givenWithin(a.Within))
			if near == "" && c.setSomewhere(parts[i]) {
				return nil, "", false
			}
			if near != "" {
				meant = strings.TrimSuffix(strings.Join(append(parts[:i:i], near), ".")+"."+behind, ".")
			}
			return nil, meant, true
		default:
			return nil, "", false
		}
	}
	return nil, "", false
}
