package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

var parameters = &Rule{
	Name: "parameters", Kind: finding.Disagrees, Level: finding.Warning,
	Doc: "A part of its address that a file reads is one that its path has in brackets. It is silent where none of nearly that name is there.",
	Example: `- rule: parameters
  files: "src/routes/**/+page.ts"
  by: '\bparams\.(\w+)'`,
	Options: []Option{
		{"files", Paths, true, "the files that lie by their address", false},
		{"by", Regexps, true, "what reads a part of the address: the names in its first group", false},
		{"surely", Regexps, false, "what says that the address has a part: the names in its first group", false},
	},
	Run: func(c *Call) {
		for _, f := range c.files("files") {
			parts := partsOfAddress(f.path)
			if len(parts) == 0 || c.lends(f.path) || c.homeOf(f.path) != f.path {
				continue
			}
			read, told := c.partsRead(f.path, "by"), map[string]bool{}
			for _, r := range read {
				if slices.Contains(parts, r.name) || r.name == "" {
					continue
				}
				// The part that it means is one that nothing reads.
				meant := only(parts, func(part string) bool {
					return (names.Mistyped(r.name, part) || names.Near(r.name, part) != names.Apart || swappedShort(r.name, part)) && !slices.ContainsFunc(read, func(other partRead) bool { return other.name == part })
				})
				if meant == "" {
					continue
				}
				line, column := refs.Place(c.textOf(f.path), r.span)
				c.report(f.path, line, column, nil, "it reads %s of its address, which has [%s]", r.name, meant)
				told[r.name] = true
			}
			for _, r := range c.partsRead(f.path, "surely") {
				if !slices.Contains(parts, r.name) && !told[r.name] {
					line, column := refs.Place(c.textOf(f.path), r.span)
					c.report(f.path, line, column, nil, "it reads %s of its address, which has [%s]", r.name, strings.Join(parts, "] and ["))
				}
			}
		}
	},
}

// A partRead is a part of its address that a file reads.
type partRead struct {
	name string
	span refs.Span
}

// partsRead gives the parts of an address that a file reads by what an option finds, each once.
func (c *Call) partsRead(at, option string) (all []partRead) {
	code := c.Graph.Code(at)
	for _, re := range c.regexps[option] {
		for _, m := range re.Get().FindAllSubmatchIndex(code, -1) {
			if m[2] < 0 {
				continue
			}
			for _, w := range word.Get().FindAllIndex(code[m[2]:m[3]], -1) {
				one := partRead{string(code[m[2]+w[0] : m[2]+w[1]]), refs.Span{Start: int32(m[2] + w[0]), End: int32(m[2] + w[1])}}
				if !slices.ContainsFunc(all, func(known partRead) bool { return known.name == one.name }) {
					all = append(all, one)
				}
			}
		}
	}
	return all
}

var (
	word     = lazy.New(`[A-Za-z_]\w*`)
	brackets = lazy.New(`\[+(?:\.\.\.)?(\w+)(?:=\w+)?\]+`)
)

// partsOfAddress gives the names that a path has in brackets.
func partsOfAddress(at string) (all []string) {
	for _, m := range brackets.Get().FindAllStringSubmatch(strings.TrimSuffix(at, path.Ext(at)), -1) {
		all = append(all, m[1])
	}
	return all
}

// swappedShort says whether two names of two letters, such as id and di, are one turned round.
func swappedShort(a, b string) bool {
	return len(a) == 2 && len(b) == 2 && a[0] == b[1] && a[1] == b[0]
}
