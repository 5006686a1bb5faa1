package rules

import (
	"maps"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

// tellNearPackages tells once of a package of Python that all who import it call by nearly its name,
// and gives the causes that are left: the folder is what is wrong then.
func (c *Call) tellNearPackages(causes []*broken) (left []*broken) {
	byName := map[string][]*broken{}
	for _, b := range causes {
		if e := b.edges[0]; path.Ext(e.From) == ".py" && e.Near && b.near && len(b.meant) == 1 {
			first, _, _ := strings.Cut(e.Ref.Name, ".")
			byName[first] = append(byName[first], b)
		} else {
			left = append(left, b)
		}
	}
	for _, name := range slices.Sorted(maps.Keys(byName)) {
		all := byName[name]
		if folder, files := c.nearPackage(name, all); folder != "" {
			c.tellNearPackage(folder, name, files, all)
		} else {
			left = append(left, all...)
		}
	}
	return left
}

// nearPackage gives the one folder of nearly a name in which all that was meant lies, where several
// files call it so and none as it is called, and how many do; "" where that is not so.
func (c *Call) nearPackage(name string, all []*broken) (folder string, files int) {
	from := map[string]bool{}
	for _, b := range all {
		within := ""
		for at := b.meant[0]; at != "." && within == ""; at = path.Dir(at) {
			if names.Near(path.Base(at), name) != names.Apart && c.node(path.Join(at, "__init__.py")) != nil {
				within = at
			}
		}
		if within == "" || folder != "" && within != folder || path.Base(within) == name {
			return "", 0
		}
		folder = within
		for _, e := range b.edges {
			from[e.From] = true
		}
	}
	if len(from) < 2 || c.node(path.Join(path.Dir(folder), name)) != nil || c.saysPackage(path.Base(folder)) {
		return "", 0
	}
	return folder, len(from)
}

// saysPackage says whether an import in Python begins with a name.
func (c *Call) saysPackage(name string) (says bool) {
	c.Graph.Look().Each(func(at string) {
		says = says || path.Ext(at) == ".py" && slices.ContainsFunc(c.Graph.Noted(at).Of(refs.Import), func(r refs.Ref) bool {
			first, _, _ := strings.Cut(r.Name, ".")
			return r.Relative == 0 && first == name
		})
	})
	return says
}

func (c *Call) tellNearPackage(folder, name string, files int, all []*broken) {
	first := all[0].edges[0]
	f := c.report(folder+"/", 0, 0, &finding.Place{Path: first.From, Line: first.Ref.Line}, "%d files import %s, which is not there", files, name)
	f.Kind, f.Level, f.Home = finding.Misnamed, max(f.Level, finding.Warning), c.Top.Path()+path.Join(path.Dir(folder), name)+"/"
	for _, b := range all {
		f.Sought = append(f.Sought, c.looked(b.edges[0].From, b.edges[0].Sought[0])...)
	}
}
