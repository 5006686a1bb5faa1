package rules

import (
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

var blocksClosed = &Rule{
	Name: "blocks-closed", Kind: finding.Disagrees, Level: finding.Error,
	Doc: "Each block of a template has its end, and each end the block that it closes.",
	Example: `- rule: blocks-closed
  files: "templates/**/*.html"
  marks: '\{%-?\s*(\w+)'
  blocks: [if, for, block, macro]
  end: end`,
	Options: []Option{
		{"files", Paths, true, "the templates", true},
		{"marks", Finders, true, "finds a mark that may begin or end a block: its first group is the word", false},
		{"blocks", Texts, true, "the words that begin a block", false},
		{"alone", Regexps, false, "finds such a mark that needs no end", false},
		{"end", Text, true, "what stands before such a word to end the block", false},
		{"unless", Regexps, false, "a text that has this is passed over, such as one that shows templates", false},
		{"aside", Regexps, false, "parts of a text that are no template, such as remarks", false},
	},
	Run: func(c *Call) {
		for _, f := range c.files("files") {
			if !c.lends(strings.TrimSuffix(f.path, ".j2")) && f.node.Folder == nil && !anyFits(c.regexps["unless"], c.textOf(f.path)) {
				c.tellUnclosed(f.path)
			}
		}
	},
}

// A block is where one begins.
type block struct {
	word string
	at   int
}

func (b block) span() refs.Span { return lang.At(b.at, b.at+len(b.word)) }

// tellUnclosed tells of the first place of a template where a block has no end, or an end no block.
func (c *Call) tellUnclosed(at string) {
	text := c.withoutAside(c.textOf(at))
	var open []block
	for _, mark := range c.marksIn(text) {
		word, ends := strings.CutPrefix(mark.word, c.text("end"))
		switch {
		case slices.Contains(c.texts("blocks"), mark.word):
			open = append(open, mark)
		case !ends || !slices.Contains(c.texts("blocks"), word):
		case len(open) == 0:
			c.atName(at, mark.span(), "", "%s ends a block that nothing begins", mark.word)
			return
		case open[len(open)-1].word != word:
			last := open[len(open)-1]
			line, _ := refs.Place(text, last.span())
			c.atName(at, mark.span(), "", "%s stands where the %s of line %d has no end", mark.word, last.word, line)
			return
		default:
			open = open[:len(open)-1]
		}
	}
	if len(open) > 0 {
		last := open[len(open)-1]
		c.atName(at, last.span(), "", "the %s has no %s%s", last.word, c.text("end"), last.word)
	}
}

// marksIn gives the marks of a template in their order, without those that need no end.
func (c *Call) marksIn(text []byte) (all []block) {
	alone := map[int]bool{}
	for _, re := range c.regexps["alone"] {
		for _, m := range re.FindAll(text) {
			alone[m[0]] = true
		}
	}
	for _, re := range c.regexps["marks"] {
		for _, m := range re.FindAll(text) {
			if !alone[m[0]] {
				all = append(all, block{string(text[m[2]:m[3]]), m[2]})
			}
		}
	}
	slices.SortFunc(all, func(a, b block) int { return a.at - b.at })
	return all
}
