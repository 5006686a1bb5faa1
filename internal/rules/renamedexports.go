package rules

import (
	"bytes"
	"path"
	"regexp"
	"slices"

	"dicaxon/internal/edit"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// sharedWord is how many letters a word has at least by which two names say the same thing.
const sharedWord = 4

// renamedTo gives the one name that a module gives and nobody uses, of those that have a word in common with the one
// name that is taken out of it and not there: what is called otherwise now. "" where nobody can tell.
func (c *Call) renamedTo(e *refs.Edge) string {
	ending := path.Ext(e.Within)
	if e.Ref.Kind != refs.Import || ending != ".py" && !kin(ending, ".js") || c.soleLost(e) != e.Ref.Value {
		return ""
	}
	taken := map[string]bool{}
	for _, other := range c.Graph.To(e.Within) {
		if other.Ref.Value == "*" || other.Ref.Value == "" && takesWhole.Match(c.Graph.Code(other.From)[:max(0, int(other.Ref.Span.Start)-1)]) {
			return "" // who may use anything of it
		}
		taken[other.Ref.Value] = true
	}
	code := c.Graph.Code(e.Within)
	return only(c.givenBy(e.Within), func(name string) bool {
		return !taken[name] && haveWord(name, e.Ref.Value) && len(lang.Words(code, name)) == 1
	})
}

// takesWhole is what stands before a module of which somebody takes all: one that is only loaded, or stood in for by a
// test, gives nothing to anybody.
var takesWhole = lazy.New(`\b(?:require|import)\s*\(\s*$`)

// keeps says whether a script declares what is imported from it, and keeps that for itself.
func (c *Call) keeps(e *refs.Edge) bool {
	return e.Within != "" && kin(path.Ext(e.Within), ".ts") && slices.Contains(c.givenBy(e.Within), e.Ref.Value)
}

// exported gives the edit by which a script exports what it declares, keeps for itself, and another imports.
func (c *Call) exported(e *refs.Edge) (edit.Edit, bool) {
	if !c.keeps(e) {
		return edit.Edit{}, false
	}
	declared := regexp.MustCompile(`(?m)^(?:declare\s+|abstract\s+|async\s+)*(?:function\*?|class|const|let|var|enum|interface|type|namespace)\s+` + regexp.QuoteMeta(e.Ref.Value) + `\b`)
	all := declared.FindAllIndex(c.Graph.Code(e.Within), 2)
	if len(all) != 1 {
		return edit.Edit{}, false
	}
	at := int32(all[0][0])
	return c.edit(e.Within, refs.Span{Start: at, End: at}, "export "), true
}

// soleLost gives the one name that is taken out of a module and not there, "" where there are several.
func (c *Call) soleLost(e *refs.Edge) string {
	if c.notGivenBy == nil {
		c.notGivenBy = map[string][]string{}
		for _, b := range c.Graph.Broken() {
			if b.Within != "" {
				c.notGivenBy[b.Within] = append(c.notGivenBy[b.Within], b.Ref.Value)
			}
		}
	}
	return sole(c.notGivenBy[e.Within])
}

// haveWord says whether two names have a word in common.
func haveWord(a, b string) bool {
	others := names.Words(b)
	return slices.ContainsFunc(names.Words(a), func(word string) bool {
		return len(word) >= sharedWord && slices.ContainsFunc(others, func(other string) bool { return names.SameInNumber(word, other) })
	})
}

// inText says whether a line ends within a text.
func inText(line []byte) bool {
	return slices.ContainsFunc([]string{`"`, "'", "`"}, func(quote string) bool { return bytes.Count(line, []byte(quote))%2 == 1 })
}

// usesRenamed gives the edits that call by another name what a file takes out of a module, wherever it says it; false
// where the file may mean something else by the name somewhere, or says it in a text.
func (c *Call) usesRenamed(e *refs.Edge, to string) ([]edit.Edit, bool) {
	name, code := e.Ref.Value, c.Graph.Code(e.From)
	all := []edit.Edit{c.edit(e.From, e.Ref.ValueSpan, to)}
	at := lang.Words(code, name)
	if len(at) < 2 {
		return all, true
	}
	if len(lang.Words(code, to)) > 0 {
		return nil, false
	}
	is := regexp.QuoteMeta(name)
	again := regexp.MustCompile(`\b(?:const|let|var|function|class|def|as|for)\s+` + is + `\b|[{,(]\s*` + is + `\s*(?::|=[^=>])|(?:[^=>}\s]\s*\{|,)\s*` + is + `\s*[,}]|\b` + is + `\s*=>`)
	for _, i := range at {
		span := refs.Span{Start: int32(i), End: int32(i + len(name))}
		switch before := lang.TrimEnd(code[:i]); {
		case span == e.Ref.ValueSpan:
			continue
		case bytes.HasSuffix(before, []byte(".")) && !bytes.HasSuffix(before, []byte("...")):
			continue // a member of something else
		}
		if line := code[bytes.LastIndexByte(code[:i], '\n')+1 : i]; inText(line) || again.Match(code[max(0, i-40):min(len(code), i+len(name)+10)]) {
			return nil, false
		}
		all = append(all, c.edit(e.From, span, to))
	}
	return all, len(lang.Words(c.textOf(e.From), name)) == len(at)
}
