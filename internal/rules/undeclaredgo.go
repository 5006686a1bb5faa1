package rules

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/refs"
)

func undeclaredGo(c *Call, e *refs.Edge) (name, manifest string, sure bool) {
	first, _, _ := strings.Cut(e.Ref.Name, "/")
	_, at := c.Graph.Look().Nearest(e.From, "go.mod")
	// What begins with an underscore the go command passes over.
	if strings.HasPrefix(e.From, "_") || strings.Contains(e.From, "/_") || !strings.Contains(first, ".") || at == "" || c.node("vendor") != nil {
		return "", "", false
	}
	said := c.refsOf(at)
	asks := slices.ContainsFunc(said.Refs, func(r refs.Ref) bool { return r.Kind == refs.Import })
	// One that asks for nothing may not have been tidied yet, but asks for a neighbour, or was once.
	asks = asks || bytes.Contains(c.textOf(path.Join(path.Dir(at), "go.sum")), []byte(moduleOf(e.Ref.Name)+" "))
	if m := said.Package(); m == nil || !asks && !strings.HasPrefix(m.Name, first+"/") && c.nearOwn(e, at) == "" || strings.HasPrefix(e.Ref.Name+"/", m.Name+"/") || said.Broken != "" {
		return "", "", false
	}
	if slices.ContainsFunc(said.Refs, func(r refs.Ref) bool {
		rest, below := strings.CutPrefix(e.Ref.Name, r.Name)
		return below && r.Kind == refs.Import && (rest == "" || rest[0] == '/')
	}) {
		return "", "", false
	}
	if own := c.refsOf(e.From).Package(); own == nil || own.Guarded {
		return "", "", false
	}
	return e.Ref.Name, at, true
}

// moduleOf gives the part of a package's path that is likely its module's: that of the big hosts of code has three parts.
func moduleOf(at string) string {
	parts := strings.Split(at, "/")
	n := min(len(parts), 3)
	if len(parts) > n && len(parts[n]) > 1 && parts[n][0] == 'v' && strings.Trim(parts[n][1:], "0123456789") == "" {
		n++
	}
	return strings.Join(parts[:n], "/")
}
