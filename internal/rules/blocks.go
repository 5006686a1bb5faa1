package rules

import (
	"regexp"
	"slices"
	"strings"

	"dicaxon/internal/layout"
	"dicaxon/internal/lazy"
)

// A Block is what the line that says a name has to stand in where the file of that name comes to a part of its
// own: a route of Hanami in the block of its slice.
type Block struct {
	Name   string // by which the file is found within the block
	Opens  string // the line that begins the block
	Closes string // the line that ends it
	Takes  string // what the block says already of the path that a quoted text of the line begins with, "" for nothing
}

// ofPart finds, in the pattern of a path, where a part has its name.
var ofPart = lazy.New(`<([a-z][a-z0-9-]*)>`)

// blockOf gives the block that a line has to stand in where a name in it is to stand for a file at a path, and
// whether it has to: not where the file lay in such a part before, where the line stands in a block already.
func (c *Call) blockOf(line, from, to string) (b Block, ok bool) {
	form := c.text("block")
	captures := ofPart.Get().FindAllStringSubmatch(form, -1)
	shape := strings.Replace(ofPart.Get().ReplaceAllLiteralString(regexp.QuoteMeta(form), `([^/]+)`), regexp.QuoteMeta("{/}"), `([^.]+)`, 1)
	re := regexp.MustCompile("^" + shape + "$")
	m := re.FindStringSubmatch(to)
	if m == nil || re.MatchString(from) {
		return b, false
	}
	var env *layout.Env
	for i, capture := range captures {
		env = env.Bind(capture[1], m[1+i])
	}
	opens := c.texts("block-opens")
	b = Block{Name: strings.ReplaceAll(m[len(m)-1], "/", "."), Opens: fill(opens[len(opens)-1], env), Closes: c.text("block-closes")}
	plain := slices.ContainsFunc(c.regexps["block-plain"], func(re *lazy.Regexp) bool { return re.Get().MatchString(line) })
	takes := fill(c.text("block-takes"), env)
	if takes != "" && plain && regexp.MustCompile(`["']`+regexp.QuoteMeta(takes)+`["'/]`).MatchString(line) {
		b.Opens, b.Takes = fill(opens[0], env), takes
	}
	return b, true
}
