package python

import (
	"bytes"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

// keywords are no names: The Python Language Reference, 2.3.1 and 2.3.2.
var keywords = lang.SetOf(`False None True and as assert async await break class continue def del elif else except finally for
	from global if import in is lambda nonlocal not or pass raise return try while with yield match case type self cls`)

// builtins are given to every module: The Python Standard Library, "Built-in Functions",
// "Built-in Constants" and "Built-in Exceptions", with the names that a module has of itself.
var builtins = lang.SetOf(`abs aiter all anext any ascii bin bool breakpoint bytearray bytes callable chr classmethod compile complex
	copyright credits delattr dict dir divmod enumerate eval exec exit filter float format frozenset getattr globals hasattr
	hash help hex id input int isinstance issubclass iter len license list locals map max memoryview min next object oct open
	ord pow print property quit range repr reversed round set setattr slice sorted staticmethod str sum super tuple vars zip
	NotImplemented Ellipsis __import__ __name__ __file__ __doc__ __package__ __spec__ __loader__ __builtins__ __path__
	__debug__ __annotations__ __dict__ __class__ __all__ __version__ unicode basestring long xrange raw_input reduce unichr
	file execfile cmp reload WindowsError ArithmeticError AssertionError AttributeError BaseException BaseExceptionGroup
	BlockingIOError BrokenPipeError BufferError BytesWarning ChildProcessError ConnectionAbortedError ConnectionError
	ConnectionRefusedError ConnectionResetError DeprecationWarning EOFError EncodingWarning EnvironmentError Exception
	ExceptionGroup FileExistsError FileNotFoundError FloatingPointError FutureWarning GeneratorExit IOError ImportError
	ImportWarning IndentationError IndexError InterruptedError IsADirectoryError KeyError KeyboardInterrupt LookupError
	MemoryError ModuleNotFoundError NameError NotADirectoryError NotImplementedError OSError OverflowError
	PendingDeprecationWarning PermissionError ProcessLookupError PythonFinalizationError RecursionError ReferenceError
	ResourceWarning RuntimeError RuntimeWarning StopAsyncIteration StopIteration SyntaxError SyntaxWarning SystemError
	SystemExit TabError TimeoutError TypeError UnboundLocalError UnicodeDecodeError UnicodeEncodeError UnicodeError
	UnicodeTranslateError UnicodeWarning UserWarning ValueError Warning ZeroDivisionError`)

// binders stand before a name that they give something to; askers before one that is used.
var (
	binders = lang.SetOf("def class import as for global nonlocal lambda del from type")
	askers  = lang.SetOf("return raise in not and or except await yield assert is if elif while else")
)

// given are signs of a module into whose names more is put than its text says.
var given = [][]byte{[]byte("globals()"), []byte("locals()"), []byte("vars()"), []byte("exec("), []byte("builtins"), []byte("cython"), []byte("NameError")}

// uses finds out which names a module uses, in its text and in that with its comments and texts gone.
func uses(text, code []byte, refs []lang.Ref) lang.Uses {
	if slices.ContainsFunc(given, func(sign []byte) bool { return bytes.Contains(text, sign) }) {
		return lang.Uses{}
	}
	wholes := map[string]lang.Span{}
	for _, r := range refs {
		if r.Kind != lang.Import || r.Guarded {
			continue
		}
		if name := localName(code, r); name != "" && r.Value != "" {
			wholes[name] = r.ValueSpan // if it is a module
		} else if name != "" {
			wholes[name] = r.Span
		}
	}
	return lang.FindUses(code, wholes, placeOf)
}

// otherName finds another name for what is imported.
var otherName = lazy.New(`^\s+as\s+(\w+)`)

// localName gives the name by which what an import names is known; "" where it is by several.
func localName(code []byte, r lang.Ref) string {
	end := int(max(r.Span.End, r.ValueSpan.End))
	if m := otherName.Get().FindSubmatch(code[end:min(len(code), end+80)]); m != nil {
		return string(m[1])
	}
	if r.Value != "" {
		return strings.Trim(r.Value, "*")
	}
	if strings.Contains(r.Name, ".") {
		return ""
	}
	return r.Name
}

// placeOf says what a word is where it stands.
func placeOf(w *lang.Word) lang.Place {
	word, next := w.Text(), w.Next()
	behindDot := w.OfAnother() || w.Start > 0 && w.Code[w.Start-1] == '.'
	if behindDot || len(word) < 3 || keywords()[string(word)] || builtins()[string(word)] || bytes.HasPrefix(word, []byte("__")) {
		return lang.Elsewhere
	}
	previous := string(w.Previous())
	quoted := w.Start > 0 && (w.Code[w.Start-1] == '"' || w.Code[w.Start-1] == '\'')
	follows := func(signs string) bool { return w.After == 0 || strings.IndexByte(signs, w.After) >= 0 }
	switch {
	case quoted || binders()[previous]:
		return lang.Bound
	case next == '"' || next == '\'':
		return lang.Elsewhere // such as the r of a raw text
	case next == '(', w.After == '.', w.Before == '@':
		return lang.Used
	case w.After == '=' && !bytes.HasPrefix(bytes.TrimLeft(w.Code[w.End:], " "), []byte("==")), w.After == ':' && bytes.HasPrefix(bytes.TrimLeft(w.Code[w.End:], " "), []byte(":=")):
		return lang.Bound
	case askers()[previous] && follows(")]}:\n"):
		return lang.Used
	case (w.Before == '=' || w.Before == '>' || w.Before == ':') && w.SameLine() && follows(",)]}:=\n|"):
		return lang.Used
	case (w.Before == '(' || w.Before == '[' || w.Before == ',') && (w.After == ')' || w.After == ']' || w.After == ','):
		return argument(w)
	}
	return lang.Unclear
}

// argument says whether a name between brackets is handed over, or taken.
func argument(w *lang.Word) lang.Place {
	at, open := w.Around()
	if open != '(' && open != '[' {
		return lang.Bound
	}
	name, before := w.Called(at)
	if open == '[' && !opensNames(w.Code, at, string(before)) && listed(w, at) {
		return lang.Used
	}
	if open == '[' || w.After == ']' {
		return lang.Bound
	}
	if len(name) == 0 || keywords()[string(name)] || string(before) == "def" {
		return lang.Bound
	}
	inside := w.Code[at:w.Start]
	if bytes.Contains(inside, []byte("lambda")) || bytes.Contains(inside, []byte(" for ")) {
		return lang.Bound
	}
	return lang.Used
}

// opensNames says whether a bracket is one of names that are bound: parameters of a type behind the name of
// what is defined, or a pattern to match.
func opensNames(code []byte, at int, before string) bool {
	line := bytes.TrimSpace(code[bytes.LastIndexByte(code[:at], '\n')+1 : at])
	return before == "def" || before == "class" || before == "type" || bytes.HasPrefix(line, []byte("case")) || bytes.HasPrefix(line, []byte("for"))
}

// listed says whether a name in square brackets is one of a list, or of what is looked up: nothing in them binds, and
// they are not given a value.
func listed(w *lang.Word, at int) bool {
	depth := 0
	for i, c := range w.Code[at:] {
		if depth += lang.Bracket(c); depth > 0 {
			continue
		}
		inside, after := w.Code[at:at+i], bytes.TrimLeft(w.Code[at+i+1:], " ")
		given := bytes.HasPrefix(after, []byte("=")) && !bytes.HasPrefix(after, []byte("=="))
		return !bytes.Contains(inside, []byte(" for ")) && !bytes.Contains(inside, []byte("lambda")) && !bytes.Contains(inside, []byte(":=")) && !given && !bytes.HasPrefix(after, []byte("in "))
	}
	return false
}
