package rules

import (
	"bytes"
	"path"
	"slices"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// ofSmallTypes are the types of Rust with small letters, which paths begin with, too.
var ofSmallTypes = lang.SetOf("bool char str i8 i16 i32 i64 i128 isize u8 u16 u32 u64 u128 usize f32 f64 dyn mut ref")

// ofStandard are modules of the standard library by whose names people call what is in them.
var ofStandard = lang.SetOf(`any array borrow cell cmp collections convert env error ffi fmt fs future hash io iter mem net num ops os path pin
	process ptr rc slice string sync thread time vec`)

// makesNames is code in which macros or others bring names.
var makesNames = lazy.New(`::\*|\bmacro_rules!|#!?\[(?:macro_use|no_std|path)|\bextern crate\b|\binclude!`)

// takings finds what a file takes in, whole trees of paths among it.
var takings = lazy.New(`(?m)(?:^|[;{}])\s*(?:pub(?:\([^)]*\))?\s+)?use\s[^;]*;`)

// tellRustPaths tells of paths that begin with a name which nothing in the file brings in, and that is no crate the
// manifest asks for (The Rust Reference, "Paths"): the compiler stops there.
func (g *givers) tellRustPaths(at string) {
	_, manifest := g.Graph.Look().Nearest(at, "Cargo.toml")
	code := g.Graph.Code(at)
	begin := pathsBegin(code)
	if manifest == "" || len(begin) == 0 || makesNames.Match(code) || !inCrate(path.Dir(manifest), at) && path.Base(at) != "build.rs" {
		return
	}
	f := g.refsOf(manifest)
	if !sinceCrates(f) {
		return
	}
	taken := takings.Get().FindAllIndex(code, -1)
	for _, name := range begin {
		places := slices.DeleteFunc(lang.Words(code, name), func(i int) bool {
			return i > 0 && code[i-1] == ':' || slices.ContainsFunc(taken, func(t []int) bool { return i > t[0] && i < t[1] })
		})
		if len(places) == 0 || foundOnce(g.crates, [2]string{manifest, name}, func() bool { return knowsCrate(f, name) }) || bindsName(code, name) {
			continue // what a taking leads to is told there
		}
		g.tellRustPath(at, name, lang.At(places[0], places[0]+len(name)))
	}
}

// pathsBegin gives the names with which paths begin and that the code says nowhere but before two colons.
func pathsBegin(code []byte) (all []string) {
	begin, bound := map[string]bool{}, map[string]bool{}
	lang.EachWord(code, func(at int, word []byte) {
		switch {
		case word[0] < 'a' || word[0] > 'z':
		case !bytes.HasPrefix(code[at+len(word):], []byte("::")):
			bound[string(word)] = true
		case at > 0 && bytes.IndexByte([]byte(":$.'"), code[at-1]) >= 0 || at+len(word)+2 < len(code) && !lang.WordByte(code[at+len(word)+2]):
		default:
			begin[string(word)] = true
		}
	})
	for name := range begin {
		if !bound[name] && !ofRust()[name] && !ofSmallTypes()[name] {
			all = append(all, name)
		}
	}
	slices.Sort(all)
	return all
}

func (c *Call) tellRustPath(at, name string, span refs.Span) {
	if !ofStandard()[name] {
		f := c.atName(at, span, "", "it begins a path with %s, which nothing in it brings in", name)
		if f.About = name; len(c.Graph.Look().Called(name)) == 0 {
			f.Level = finding.Note // a crate may have another name
		}
		return
	}
	f := c.atName(at, span, "", "it uses %s and does not import it; the standard library has it as std::%s", name, name)
	f.Fix = c.afterImports(at, c.refsOf(at), "use std::"+name)
}
