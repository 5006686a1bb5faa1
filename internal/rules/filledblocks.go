package rules

import (
	"slices"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
)

var filledBlocks = &Rule{
	Name: "filled-blocks", Kind: finding.Dangling, Level: finding.Error,
	Doc: "A page fills blocks that one of the pages has on which it is built; what it says in others is shown nowhere.",
	Example: `- rule: filled-blocks
  files: "**/*.html"
  to: "**/templates/{}"`,
	Options: []Option{
		{"files", Paths, true, "the pages", true},
		{"to", Texts, true, "the paths that the name of a page stands for, as in the rule names", false},
	},
	Run: func(c *Call) {
		for _, f := range c.files("files") {
			if c.lends(f.path) {
				continue
			}
			if has := c.blocksAround(f); has != nil {
				c.tellUnfilled(f, has)
			}
		}
	},
}

var (
	builtOn   = lazy.New(`\A\s*(?:\{#(?:[^#]|#[^}])*#\}\s*)*\{%-?\s*extends\s+["']([\w./-]+)["']\s*-?%\}`)
	blockTag  = lazy.New(`\{%-?\s*(block|endblock)\b\s*(\w*)`)
	mayExtend = lazy.New(`\{%-?\s*extends\b`)
)

// mostAround bounds how many pages one is built on, one around the other.
const mostAround = 12

// blocksAround gives the blocks of the pages on which one is built; nil where it is built on none, or nobody here knows
// on which.
func (c *Call) blocksAround(f file) (has []string) {
	for range mostAround {
		text := c.textOf(f.path)
		m := builtOn.Get().FindSubmatch(text)
		if m == nil {
			if mayExtend.Match(text) {
				return nil
			}
			return has
		}
		var all []string
		for _, to := range c.texts("to") {
			all = append(all, c.standing(c.standsAt(spoken{file: f, name: string(m[1])}, to))...)
		}
		if len(all) != 1 || all[0] == f.path {
			return nil
		}
		f.path = all[0]
		for _, m := range blockTag.Get().FindAllSubmatch(c.textOf(f.path), -1) {
			has = append(has, string(m[2]))
		}
	}
	return nil
}

// tellUnfilled tells of the blocks of a page that stand in no other and that the pages around it do not have.
func (c *Call) tellUnfilled(f file, has []string) {
	text := c.textOf(f.path)
	depth := 0
	for _, m := range blockTag.Get().FindAllSubmatchIndex(text, -1) {
		if string(text[m[2]:m[3]]) == "endblock" {
			depth--
			continue
		}
		at := refs.Span{Start: int32(m[4]), End: int32(m[5])}
		name := string(at.In(text))
		if depth++; depth > 1 || slices.Contains(has, name) || name == "" {
			continue
		}
		told := c.atName(f.path, at, "", "it fills the block %s, which no page has that it is built on", name)
		if near := nearOne(name, has); near != "" {
			told.Message += "; did it mean " + near + "?"
			told.Fix = append(told.Fix, c.edit(f.path, at, near))
		}
		told.About = name
	}
}
