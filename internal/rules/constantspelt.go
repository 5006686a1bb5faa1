package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// bareConstant finds constants that nothing stands before.
var bareConstant = lazy.New(`(?:^|[^\w:.@$"'])([A-Z]\w*)`)

// constantRespelt gives the edits by which a Ruby file that was moved declares the constant that its
// path stands for: as many modules around it as before, under their new names. None where a
// name in it, or in another file, would no longer be found.
func (c *Call) constantRespelt(at, said, wanted string) []edit.Edit {
	chain := c.opening(at)
	parts := strings.Split(wanted, "::")
	if len(chain) < 2 || len(parts) < len(chain) || strings.Contains(chain[len(chain)-1].Name, "::") || c.namesAround(at, said, chain) {
		return nil
	}
	last := len(chain) - 1
	spelt := append(slices.Clone(parts[:last-1]), strings.Join(parts[last-1:len(parts)-1], "::"), parts[len(parts)-1])
	var all []edit.Edit
	for i, t := range chain {
		if t.Name != spelt[i] {
			all = append(all, c.edit(at, t.Span, spelt[i]))
		}
	}
	return all
}

// namesAround says whether a file names a constant that it finds by what stands around it, or
// another file names this one's by the end of its name.
func (c *Call) namesAround(at, said string, chain []refs.Ref) bool {
	own := map[string]bool{} // and what is declared at the top, which is found from anywhere
	for _, t := range chain {
		for _, part := range strings.Split(t.Name, "::") {
			own[part] = true
		}
	}
	declared, used := map[string]bool{}, false
	parts := strings.Split(said, "::")
	tail := strings.Join(parts[max(0, len(parts)-2):], "::") // the shortest that is no common word
	for _, f := range c.files("files") {
		for _, t := range c.refsOf(f.path).Of(refs.Type) {
			for i, part := range strings.Split(t.Name, "::") {
				declared[part] = true
				own[part] = own[part] || i == 0 && t.Column <= len("module ")+1
			}
		}
		if f.path != at && path.Ext(f.path) == ".rb" {
			used = used || lang.HasWord(c.Graph.Code(f.path), tail)
		}
	}
	if used {
		return true
	}
	for _, m := range bareConstant.Get().FindAllSubmatch(c.Graph.Code(at), -1) {
		if name := string(m[1]); declared[name] && !own[name] {
			return true
		}
	}
	return false
}
