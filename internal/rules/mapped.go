package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

// A mapping is a folder that stands for a namespace, as the key of a manifest says.
type mapping struct {
	prefix, root, manifest string
	key                    refs.Ref
}

// mappings lists those that a manifest gives.
func (c *Call) mappings() (all []mapping) {
	for _, option := range c.texts("mapped-by") {
		at, above, _ := strings.Cut(option, "#")
		if n := c.node(at); n == nil || n.Folder != nil {
			continue
		}
		for _, k := range c.refsOf(at).Of(refs.Key) {
			if prefix, ok := strings.CutPrefix(k.Name, above+"."); ok {
				all = append(all, mapping{strings.Trim(prefix, `\`), path.Clean(k.Value), at, k})
			}
		}
	}
	return all
}

// tellMappings tells of a mapping to which no file below its folder holds, where all of them,
// several, hold to one other: then it is the manifest that is wrong, once, and not each of the
// files. It gives the mappings that the files are to be held to.
func (c *Call) tellMappings(files []file, all []mapping) []mapping {
	said := map[string][]string{} // by folder of a mapping, the namespace that each file gives it
	for _, f := range files {
		m := deepest(all, f.path, func(m *mapping) string { return m.root })
		line := c.refsOf(f.path).Package()
		if m == nil || line == nil || c.lends(f.path) {
			continue
		}
		below := strings.ReplaceAll(strings.Trim(strings.TrimPrefix(path.Dir(f.path), m.root), "/"), "/", `\`)
		as, fits := strings.CutSuffix(`\`+strings.Trim(line.Name, `\`), strings.TrimSuffix(`\`+below, `\`))
		if !fits {
			as = ""
		}
		said[m.root] = append(said[m.root], strings.Trim(as, `\`))
	}
	return slices.DeleteFunc(all, func(m mapping) bool {
		as := sole(said[m.root])
		others := slices.ContainsFunc(all, func(o mapping) bool {
			return o.key.Span == m.key.Span && o.root != m.root || o.root == m.root && o.prefix == as
		})
		if as == "" || as == m.prefix || len(said[m.root]) < 2 || others || names.Near(firstPart(as, `\`), firstPart(m.prefix, `\`)) == names.Apart {
			return false
		}
		told := c.atRef(m.manifest, m.key, &finding.Place{Path: m.root + "/"}, "it gives %s to %s/, whose %d files all say %s", m.prefix, m.root, len(said[m.root]), as)
		written := string(c.textOf(m.manifest)[m.key.Span.Start:m.key.Span.End])
		if was := strings.ReplaceAll(m.prefix, `\`, `\\`); strings.HasPrefix(written, was) {
			told.Fix = []edit.Edit{c.edit(m.manifest, m.key.Span, strings.ReplaceAll(as, `\`, `\\`)+strings.TrimPrefix(written, was))}
		}
		return true
	})
}
