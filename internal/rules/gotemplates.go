package rules

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"text/template/parse"

	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

var goTemplates = &Rule{
	Name: "go-templates", Kind: finding.Disagrees, Level: finding.Error,
	Doc: "A template of Go can be read: each block has its end, each action is closed, and each function is one that templates have or that the program gives them, as far as the rule says where it does.",
	Example: `- rule: go-templates
  files: "templates/**/*.html"
  functions-in: "**/*.go"
  functions: '(?m)^\s*"(\w+)"\s*:'`,
	Options: []Option{
		{"files", Paths, true, "the templates", true},
		{"unless-in", Paths, false, "files that say how templates are read", true},
		{"unless", Regexps, false, "what such files say where templates are read in a way of the project's own, as with other marks", false},
		{"functions-in", Paths, false, "the files that give templates their functions", true},
		{"functions", Finders, false, "finds the name of one in such a file: its first group", false},
		{"functions-inside", Regexps, false, "they are looked for in such parts of a text alone", false},
		{"functions-of-others", Regexps, false, "what such files say where others give templates functions, too", false},
		{"known", Texts, false, "functions that every such template has: of others only those of nearly such a name are told", false},
	},
	Run: func(c *Call) {
		if c.saidOtherwise() {
			return
		}
		given := c.templateFunctions()
		for _, f := range c.files("files") {
			if c.lends(f.path) || f.node.Folder != nil {
				continue
			}
			trees, line, why := readTemplate(f.path, string(c.textOf(f.path)))
			if why != "" {
				c.report(f.path, line, 0, nil, "it cannot be read as a template: %s", why)
				continue
			}
			if given != nil {
				c.tellFunctions(f.path, trees, given)
			}
		}
	},
}

// ofTemplates are the functions that every template has (text/template, "Functions").
var ofTemplates = lang.SetOf("and call html index slice js len not or print printf println urlquery eq ge gt le lt ne break continue")

// templateFunctions gives the functions that templates have, nil where nobody says that, or others give some.
func (c *Call) templateFunctions() []string {
	given := slices.Clone(c.texts("known"))
	for _, f := range c.files("functions-in") {
		text := c.textOf(f.path)
		if anyFits(c.regexps["functions-of-others"], text) {
			return nil
		}
		for _, part := range partsOf(text, c.regexps["functions-inside"]) {
			for _, re := range c.regexps["functions"] {
				given = append(given, groupsIn(re, text[part[0]:part[1]])...)
			}
		}
	}
	return given
}

// tellFunctions tells of functions that a template calls and nobody gives.
func (c *Call) tellFunctions(at string, trees map[string]*parse.Tree, given []string) {
	told := map[string]bool{}
	for _, called := range functionsIn(trees) {
		name := called.Ident
		if told[name] || ofTemplates()[name] || slices.Contains(given, name) {
			continue
		}
		near := nearOne(name, given)
		if near == "" && len(c.texts("known")) > 0 {
			continue
		}
		told[name] = true
		message := fmt.Sprintf("it calls %s, which nothing gives to templates", name)
		if near != "" {
			message += "; did it mean " + near + "?"
		}
		pos := int(called.Position())
		line, column := refs.Place(c.textOf(at), lang.At(pos, pos+len(name)))
		f := c.report(at, line, column, nil, "%s", message)
		f.Kind = finding.Dangling
		if near != "" {
			f.Fix = c.wordsAs(at, name, near)
		}
	}
}

// functionsIn gives the functions that templates of one file call, in the order of their places.
func functionsIn(trees map[string]*parse.Tree) (all []*parse.IdentifierNode) {
	for _, tree := range trees {
		eachFunction(tree.Root, func(f *parse.IdentifierNode) { all = append(all, f) })
	}
	slices.SortFunc(all, func(a, b *parse.IdentifierNode) int { return int(a.Position() - b.Position()) })
	return all
}

// eachFunction yields the functions that a part of a template calls.
func eachFunction(n parse.Node, yield func(*parse.IdentifierNode)) {
	branch := func(b *parse.BranchNode) {
		eachFunction(b.Pipe, yield)
		eachFunction(b.List, yield)
		eachFunction(b.ElseList, yield)
	}
	switch n := n.(type) {
	case *parse.ListNode:
		if n != nil {
			for _, one := range n.Nodes {
				eachFunction(one, yield)
			}
		}
	case *parse.ActionNode:
		eachFunction(n.Pipe, yield)
	case *parse.IfNode:
		branch(&n.BranchNode)
	case *parse.RangeNode:
		branch(&n.BranchNode)
	case *parse.WithNode:
		branch(&n.BranchNode)
	case *parse.TemplateNode:
		eachFunction(n.Pipe, yield)
	case *parse.PipeNode:
		if n != nil {
			for _, one := range n.Cmds {
				eachFunction(one, yield)
			}
		}
	case *parse.CommandNode:
		for _, one := range n.Args {
			eachFunction(one, yield)
		}
	case *parse.ChainNode:
		eachFunction(n.Node, yield)
	case *parse.IdentifierNode:
		yield(n)
	}
}

// whereInTemplate finds the line in what Go says of a template, and what is wrong there.
var whereInTemplate = regexp.MustCompile(`^template: [^\n]*?:(\d+):(?:\d+:)? (.+)$`)

// readTemplate reads a text as templates of Go (text/template/parse), or says in which line it is none, and why.
func readTemplate(name, text string) (trees map[string]*parse.Tree, line int, why string) {
	trees = map[string]*parse.Tree{}
	t := parse.New(name)
	t.Mode = parse.SkipFuncCheck
	_, err := t.Parse(text, "", "", trees)
	if err == nil {
		return trees, 0, ""
	}
	if m := whereInTemplate.FindStringSubmatch(err.Error()); m != nil {
		line, _ = strconv.Atoi(m[1])
		return nil, line, m[2]
	}
	return nil, 0, strings.TrimSpace(err.Error())
}
