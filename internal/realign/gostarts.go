package realign

import (
	"path"
	"path/filepath"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// goCommand finds a go command that builds the package of the folder it is called in, by name.
var goCommand = lazy.New(`\bgo (?:build|run|install)\b[^\n&|;#]*?\s(\./?)(?:[\s"']|$)`)

// goBare finds one that names no package, which means the same.
var goBare = lazy.New(`(?m)\bgo (?:build|install)(?:\s+-o[ =]\S+|\s+-\w+(?:=\S+)?)*[ \t]*$`)

// started lets commands follow that build the program of a folder: it lies elsewhere now.
func (s *goSplit) started(to string) {
	now, err := filepath.Rel(s.dir, to)
	if now = filepath.ToSlash(now); err != nil {
		return
	}
	if !strings.HasPrefix(now, ".") {
		now = "./" + now
	}
	s.tree.Each(func(at string) {
		called := path.Dir(at) == s.dir || strings.HasPrefix(at, ".github/") && s.dir == "."
		if !called || !namesPaths(at) && path.Ext(at) != ".md" {
			return
		}
		text, err := s.tree.Text(at)
		if err != nil {
			return
		}
		for _, m := range goCommand.FindAll(text) {
			line, _ := refs.Place(text, lang.At(m[2], m[3]))
			s.edit(at, line, m[2], m[3], now)
		}
		for _, m := range goBare.Get().FindAllIndex(text, -1) {
			line, _ := refs.Place(text, lang.At(m[0], m[1]))
			s.remark(at, line, "a command builds what lies where it is called; the program is "+now+" then")
		}
	})
}
