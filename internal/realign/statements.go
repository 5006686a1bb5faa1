package realign

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
)

// A statement is one of a file that stands in no other, with the remarks and decorators before it.
type statement struct {
	start, body, end int
	line, last       int             // of its body, from 1
	names            []string        // that it declares
	imports          bool            // it takes names out of another file
	words            map[string]bool // that its code has, apart from what stands behind a dot
	quoted           map[string]bool // words that are whole texts in it
	exported         bool
	several          bool // it declares more than its first name, or is several in one line: it is left whole
	// on holds what it does something with once the file is loaded, as in site.register(Berth) or under
	// @router.get("/"): the first name of each, a word of the language where it does what nobody looks into.
	on []string
}

// A cutLanguage says how the statements of a language begin.
type cutLanguage struct {
	comment  string   // begins a remark of one line
	longer   []string // marks around texts that go over several lines
	declares []*lazy.Regexp
	imports  *lazy.Regexp
	exports  *lazy.Regexp // nil where everything is seen from outside
}

var (
	pythonCut = &cutLanguage{"#", []string{`"""`, "'''"}, []*lazy.Regexp{lazy.New(`^(?:async\s+)?(?:def|class)\s+(\w+)`), lazy.New(`^(\w+)\s*(?::[^=\n]+)?=[^=]`)}, lazy.New(`^(?:from|import)\s`), nil}
	scriptCut = &cutLanguage{"//", []string{"`"}, []*lazy.Regexp{lazy.New(`^(?:export\s+)?(?:default\s+)?(?:declare\s+)?(?:abstract\s+)?(?:async\s+)?(?:function\s*\*?|class|interface|type|enum|const|let|var)\s+([\w$]+)`)},
		lazy.New(`^import\b`), lazy.New(`^export\b`)}
)

// cutLanguageOf gives the language of a file that can be cut, nil for others.
func cutLanguageOf(at string) *cutLanguage {
	switch path.Ext(at) {
	case ".py":
		return pythonCut
	case ".js", ".mjs", ".jsx", ".ts", ".tsx", ".mts":
		return scriptCut
	}
	return nil
}

// statementsOf divides a file into the statements that stand in no other. It is nil for a language that it
// does not divide, and where a bracket does not close.
func statementsOf(at string, text []byte) []statement {
	l, code := cutLanguageOf(at), refs.Scrub(at, text)
	if l == nil || code == nil {
		return nil
	}
	var all []statement
	depth, line, before, within := 0, 0, 0, false // a text of several lines
	for i := 0; i < len(code); {
		line++
		end := i + bytes.IndexByte(code[i:], '\n') + 1
		if end == i {
			end = len(code)
		}
		row := code[i:end]
		blank := len(bytes.TrimSpace(row)) == 0
		if c := row[0]; depth == 0 && !within && !blank && c > ' ' && !strings.ContainsRune(")]}.", rune(c)) && !continues(row) && c != 0 {
			if n := len(all); n == 0 || !decorates(code[all[n-1].body:i]) {
				all = append(all, statement{start: before, body: i, line: line})
			}
		}
		for _, c := range row {
			switch {
			case strings.IndexByte("([{", c) >= 0:
				depth++
			case strings.IndexByte(")]}", c) >= 0:
				depth--
			}
		}
		for _, mark := range l.longer {
			within = within != (bytes.Count(row, []byte(mark))%2 == 1)
		}
		if n := len(all); !blank && n > 0 {
			all[n-1].end, all[n-1].last, before = end, line, end
		}
		i = end
	}
	if depth != 0 {
		return nil
	}
	for k := range all {
		all[k].read(at, l, text, code)
		// What stands above the first, or apart, is of the file and not of what follows it.
		all[k].start = ownStart(l, text, all[k].start, all[k].body)
	}
	return all
}

// continues says whether a line goes on with the statement above it though it is not indented.
func continues(row []byte) bool {
	for _, word := range []string{"else", "elif", "except", "finally", "case", "catch"} {
		if rest, is := bytes.CutPrefix(row, []byte(word)); is && len(rest) > 0 && !strings.ContainsRune("_$", rune(rest[0])) && (rest[0] < '0' || rest[0] > 'z' || rest[0] == ':') {
			return true
		}
	}
	return false
}

// decorates says whether all of a text so far is decorators, which are of what follows.
func decorates(code []byte) bool {
	for row := range bytes.Lines(code) {
		if c := row[0]; c > ' ' && c != '@' && !strings.ContainsRune(")]}", rune(c)) {
			return false
		}
	}
	return len(code) > 0 && code[0] == '@'
}

// ownStart gives where the remarks begin that stand directly above a statement.
func ownStart(l *cutLanguage, text []byte, from, body int) int {
	start := body
	for start > from {
		at := bytes.LastIndexByte(text[:start-1], '\n') + 1
		row := strings.TrimSpace(string(text[at:start]))
		if at < from || row == "" || !strings.HasPrefix(row, l.comment) && !strings.HasPrefix(row, "/*") && !strings.HasPrefix(row, "*") {
			break
		}
		start = at
	}
	return start
}

// read notes what a statement declares and which words it has.
func (s *statement) read(at string, l *cutLanguage, text, code []byte) {
	body := code[s.body:s.end]
	first := body
	for len(first) > 0 && first[0] == '@' { // behind its decorators
		next := bytes.Index(first, []byte("\n"))
		for next >= 0 && next+1 < len(first) && (first[next+1] <= ' ' || first[next+1] == ')') {
			more := bytes.IndexByte(first[next+1:], '\n')
			if more < 0 {
				next = -1
				break
			}
			next += more + 1
		}
		if next < 0 {
			break
		}
		first = first[next+1:]
	}
	s.imports = l.imports.Match(first)
	s.exported = l.exports == nil || l.exports.Match(first)
	for _, declares := range l.declares {
		if m := declares.Get().FindSubmatch(first); m != nil && !s.imports {
			s.names = append(s.names, string(m[1]))
		}
	}
	s.acts(l, body, first)
	if s.several = several(l, first); s.several {
		s.names = nil
	}
	s.words, s.quoted = map[string]bool{}, map[string]bool{}
	for i := 0; i < len(body); {
		if !wordStart(body[i]) {
			i++
			continue
		}
		end := i
		for end < len(body) && (wordStart(body[end]) || '0' <= body[end] && body[end] <= '9') {
			end++
		}
		if before := bytes.TrimRight(body[:i], " \t"); len(before) == 0 || before[len(before)-1] != '.' || bytes.HasSuffix(before, []byte("...")) {
			s.words[string(body[i:end])] = true
		}
		i = end
	}
	for _, m := range quotedWord.Get().FindAllSubmatch(text[s.body:s.end], -1) {
		s.quoted[string(m[1])] = true
	}
}

var (
	decorator = lazy.New(`(?m)^@\s*([\w.]+)`)
	firstWord = lazy.New(`^(?:await\s+)?([A-Za-z_$][\w$]*)`)
	// describes is a decorator that only changes what it stands above.
	describes = lazy.New(`^(?:dataclass|property|staticmethod|classmethod|abstractmethod|overload|final|override|wraps|cache|lru_cache|cached_property|total_ordering|contextmanager|asynccontextmanager|runtime_checkable|unique|deprecated|(?:dataclasses|functools|contextlib|typing|abc|enum|attr|attrs|pydantic|pytest)\.\w+)$`)
	// handing are words with which a script says what it exports.
	handing = []string{"export", "module", "exports"}
)

// acts notes what a statement does something with.
func (s *statement) acts(l *cutLanguage, body, first []byte) {
	if l == pythonCut {
		for _, m := range decorator.Get().FindAllSubmatch(body[:len(body)-len(first)], -1) {
			if !describes.Match(m[1]) {
				root, _, _ := strings.Cut(string(m[1]), ".")
				s.on = append(s.on, root)
			}
		}
	}
	m := firstWord.Get().FindSubmatch(first)
	if m == nil || s.imports || len(s.names) > 0 || bytes.Contains(first, []byte("__name__")) || slices.Contains(handing, string(m[1])) {
		return
	}
	s.on = append(s.on, string(m[1]))
}

// several says whether a statement may declare more than one name: "a = b = 1", "const a = 1, b = 2", or
// two of them in one line.
func several(l *cutLanguage, code []byte) bool {
	depth, sets := 0, 0
	for i, c := range code {
		switch {
		case strings.IndexByte("([{", c) >= 0:
			depth++
		case strings.IndexByte(")]}", c) >= 0:
			depth--
		case depth > 0:
		case c == ';':
			rest := code[i+1:]
			if end := bytes.IndexByte(rest, '\n'); end >= 0 {
				rest = rest[:end]
			}
			if len(bytes.TrimSpace(rest)) > 0 {
				return true
			}
		case c == ',' && (l == pythonCut && sets == 0 || l == scriptCut && severalVars.Match(code)):
			return l == scriptCut || bytes.IndexByte(code[i:], '=') > 0
		case c == '=' && i+1 < len(code) && code[i+1] != '=' && code[i+1] != '>' && i > 0 && strings.IndexByte("=!<>:+-*/%&|^@", code[i-1]) < 0:
			if sets++; l == pythonCut && sets > 1 && bytes.IndexByte(code[:i], ':') < 0 {
				return true
			}
		}
	}
	return l == scriptCut && destructured.Match(code)
}

var (
	severalVars  = lazy.New(`^(?:export\s+)?(?:const|let|var)\b`)
	destructured = lazy.New(`^(?:export\s+)?(?:const|let|var)\s*[\[{]`)
)

var quotedWord = lazy.New("[\"'`]([A-Za-z_$][\\w$]*)[\"'`]")

func wordStart(c byte) bool {
	return c == '_' || c == '$' || 'a' <= c && c <= 'z' || 'A' <= c && c <= 'Z' || c >= 0x80
}

// declaring gives the statement that declares a name, nil where none does.
func declaring(all []statement, name string) *statement {
	if k := slices.IndexFunc(all, func(s statement) bool { return slices.Contains(s.names, name) }); k >= 0 {
		return &all[k]
	}
	return nil
}
