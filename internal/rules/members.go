package rules

import (
	"cmp"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
)

var membersListed = &Rule{
	Name: "members-listed", Kind: finding.Unwired, Level: finding.Warning,
	Doc: "A package that needs another of the repository, or is needed by one, is among those that the manifest at the top has: else its manager looks for the other outside.",
	Example: `- rule: members-listed
  by: [package.json, pnpm-workspace.yaml]
  keys: [workspaces, workspaces.packages, packages]`,
	Options: []Option{
		{"by", Paths, true, "the files that list folders of packages, by patterns", false},
		{"keys", Texts, true, "the keys of those whose values are patterns", false},
		{"manifest", Text, false, "the manifest of a package: package.json, if left out", false},
		{"name-key", Text, false, "the key of its name: name, if left out", false},
	},
	Run: runMembersListed,
}

func runMembersListed(c *Call) {
	var patterns []string
	at := ""
	for _, f := range c.files("by") {
		for _, k := range c.keysOf(f.path, "keys") {
			patterns, at = append(patterns, path.Clean(strings.TrimPrefix(k.Value, "./"))), f.path
		}
	}
	if len(patterns) == 0 {
		return
	}
	var within, outside []string // folders of packages, also of other projects, from the top of this one
	for _, f := range c.anywhere()[c.manifest()] {
		dir, below := strings.CutPrefix(path.Dir(f)+"/", c.Top.Path())
		dir = strings.TrimSuffix(dir, "/")
		switch {
		case !below || dir == "" || dir == "." || strings.Contains(f, "node_modules/") || inSample(f) || testData.MatchString(f):
		case listed(dir, patterns):
			within = append(within, dir)
		default:
			outside = append(outside, dir)
		}
	}
	for _, dir := range outside {
		if i := slices.IndexFunc(within, func(other string) bool { return c.needs(dir, other) || c.needs(other, dir) }); i >= 0 {
			c.report(dir+"/", 0, 0, &finding.Place{Path: at}, "%s does not list it, and it goes with %s/", at, within[i])
		}
	}
}

// needs says whether the package in a folder asks for that in another.
func (c *Call) needs(from, to string) bool {
	asking, asked := c.manifestAt(c.Top.Path()+from+"/"+c.manifest()), c.manifestAt(c.Top.Path()+to+"/"+c.manifest())
	if asking == nil || asked == nil {
		return false
	}
	called := asked.Get(cmp.Or(c.text("name-key"), "name"))
	return called != nil && slices.ContainsFunc(asking.Of(refs.Key), func(k refs.Ref) bool {
		list, name, _ := strings.Cut(k.Name, ".")
		if strings.HasSuffix(k.Name, ".dependencies") { // a list of names, each perhaps with a version
			list, name = "dependencies", requirement.Get().FindString(k.Value)
		}
		return name == called.Value && strings.HasSuffix(strings.ToLower(list), "dependencies")
	})
}

// manifest gives the name of the manifests of packages.
func (c *Call) manifest() string { return cmp.Or(c.text("manifest"), "package.json") }

// requirement finds the name in what a package of Python asks for (PEP 508).
var requirement = lazy.New(`^[\w.-]+`)

// listed says whether a folder is among those that patterns stand for: "*" for one name, "**" for any
// folders, "!" before what is left out.
func listed(dir string, patterns []string) (found bool) {
	for _, p := range patterns {
		p, not := strings.CutPrefix(p, "!")
		p = strings.TrimSuffix(p, "/")
		fits, _ := path.Match(p, dir)
		if before, _, deep := strings.Cut(p, "/**"); deep || p == "**" {
			fits = p == "**" || dir == before || strings.HasPrefix(dir, before+"/")
		}
		if fits {
			found = !not
		}
	}
	return found
}
