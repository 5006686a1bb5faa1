package rules

import (
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
)

var programs = &Rule{
	Name: "programs", Kind: finding.Disagrees, Level: finding.Warning,
	Doc: "A command that a manifest keeps under a name starts programs of packages that it asks for.",
	Example: `- rule: programs
  files: "**/package.json"
  keys: "scripts.*"
  programs: [mocha, "tsc: typescript"]`,
	Options: []Option{
		{"files", Paths, true, "the manifests", false},
		{"keys", Texts, true, "the keys whose values are commands; \"*\" stands for one key", false},
		{"programs", Texts, true, "programs that packages bring, each with the packages behind a colon where they are called otherwise", false},
	},
	Run: runPrograms,
}

func runPrograms(c *Call) {
	brings := map[string][]string{}
	for _, one := range c.texts("programs") {
		program, packages, other := strings.Cut(one, ":")
		if brings[program] = strings.Fields(packages); !other {
			brings[program] = []string{program}
		}
	}
	for _, f := range c.files("files") {
		if c.lends(f.path) || inSample(f.path) {
			continue
		}
		told := map[string]bool{}
		for _, r := range c.keysOf(f.path, "keys") {
			for _, program := range started(r.Value) {
				packages := brings[program]
				if packages == nil || told[program] || !c.unasked(f.path, packages) {
					continue
				}
				told[program] = true
				line, column := refs.Place(c.textOf(f.path), r.Edit())
				name := r.Name[strings.LastIndexByte(r.Name, '.')+1:] // any text, as a key of the manifest
				c.report(f.path, line, column, nil, "%s starts %s, and no package that brings it is asked for", name, program).About = program
			}
		}
	}
}

// unasked says whether neither a manifest nor one around it asks for any of the packages.
func (c *Call) unasked(manifest string, packages []string) bool {
	for _, name := range packages {
		if at, kin := c.asking(manifest, name); at == "" || kin {
			return false
		}
	}
	return true
}

// between are the signs that part commands of one line.
var between = lazy.New(`&&|\|\||[;|&]`)

// started gives the programs that a line of commands starts by their bare names.
func started(line string) (all []string) {
	for _, command := range between.Get().Split(line, -1) {
		for _, word := range strings.Fields(command) {
			if word == "cross-env" || strings.Contains(word, "=") {
				continue // what is set for it
			}
			all = append(all, word)
			break
		}
	}
	return all
}
