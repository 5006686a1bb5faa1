package refs

import (
	"bytes"
	"strings"
)

var (
	double = quote{open: `"`, close: `"`, escape: true}
	single = quote{open: "'", close: "'", escape: true}
	triple = quote{open: `"""`, close: `"""`, escape: true, lines: true}

	cComments  = []string{"//"}
	cBlock     = [][2]string{{"/*", "*/"}}
	dotted     = `[\p{L}_][\p{L}\p{N}_]*(?:\.[\p{L}_][\p{L}\p{N}_]*)*`
	statementB = `(?:^|;)[ \t]*` // where a statement begins
)

// script is JavaScript and TypeScript: ECMAScript 2024, clauses 16.2.2 and
// 13.3.10, and CommonJS' require with a literal.
var script = language{
	lexis: lexis{line: cComments, block: cBlock, regexps: true, strings: []quote{double, single, {open: "`", close: "`", escape: true, lines: true, inner: "${"}}},
	statements: []statement{
		says(Import, "import", `(?:^|[;}])[ \t]*import\s*(?:type\s+)?(?:(?P<what>[\w$*\s{},]+?)\s*from\s*)?`+stringText),
		says(Import, "export", `(?:^|[;}])[ \t]*export\s+(?:type\s+)?(?P<what>\*(?:\s+as\s+[\w$]+)?|\{[\w$\s,]*\})\s*from\s*`+stringText),
		says(Import, "require import", `(?:^|[^\w$.])(?:require|import)\s*\(\s*`+stringText+`\s*[,)]`),
	},
}

func readScript(text []byte) File { return script.read(text) }

// readVue reads the scripts of a single-file component.
func readVue(text []byte) File {
	var code []byte
	rest, from := text, 0
	for {
		open := bytes.Index(rest, []byte("<script"))
		if open < 0 {
			break
		}
		end := bytes.IndexByte(rest[open:], '>')
		stop := bytes.Index(rest[open:], []byte("</script"))
		if end < 0 || stop < end {
			break
		}
		// What stands around a script is blank, so that positions stay.
		around := bytes.Clone(text[len(code) : from+open+end+1])
		blank(around)
		code = append(append(code, around...), rest[open+end+1:open+stop]...)
		from += open + stop
		rest = text[from:]
	}
	return script.read(code)
}

var kotlin = language{
	lexis: lexis{line: cComments, block: cBlock, nested: true, strings: []quote{{open: `"""`, close: `"""`, lines: true}, double, single}},
	statements: []statement{
		says(Package, "package", `^[ \t]*package[ \t]+(?P<name>[\w.`+"`"+`]+)`),
		says(Import, "import", `^[ \t]*import[ \t]+(?P<name>[\w`+"`"+`]+(?:\.[\w`+"`"+`]+)*(?:\.\*)?)`),
		says(Type, "class interface object", `^[ \t]*(?:(?:public|private|internal|protected|abstract|open|sealed|data|enum|value|annotation|inner|fun|expect|actual)[ \t]+)*(?:class|interface|object)[ \t]+(?P<name>\w+)`),
	},
}

func readKotlin(text []byte) File {
	f := kotlin.read(text)
	for i := range f.Refs {
		f.Refs[i].Name = strings.ReplaceAll(f.Refs[i].Name, "`", "")
	}
	return f
}

// java: the Java Language Specification, 7.4.1 and 7.5.
var java = language{
	lexis: lexis{line: cComments, block: cBlock, strings: []quote{triple, double, single}},
	statements: []statement{
		says(Package, "package", statementB+`package\s+(?P<name>[\w.]+)\s*;`),
		says(Import, "import", statementB+`import\s+(?:static\s+)?(?P<name>[\w.]+(?:\.\*)?)\s*;`),
		says(Type, "class interface enum record", `^[ \t]*(?:(?:public|protected|private|abstract|static|final|sealed|non-sealed|strictfp)\s+)*(?:class|@?interface|enum|record)\s+(?P<name>\w+)`),
	},
}

func readJava(text []byte) File { return java.read(text) }

// php: the manual's pages on namespaces, and include with a literal path.
var php = language{
	lexis: lexis{line: []string{"//", "#"}, block: cBlock, heredoc: true, strings: []quote{{open: `"`, close: `"`, escape: true, lines: true}, {open: "'", close: "'", escape: true, lines: true}}},
	statements: []statement{
		says(Package, "", `(?:^|[;{]|<\?php\b)\s*namespace\s+(?P<name>[\w\\]+)\s*[;{]`),
		says(Import, "use", `(?:^|;)[ \t]*use\s+(?:function\s+|const\s+)?(?P<name>\\?[\w\\]+)(?:\s+as\s+\w+)?(?P<what>(?:\s*,\s*[\w\\]+(?:\s+as\s+\w+)?)*)\s*;`),
		says(Path, "require include", `\b(?:require|include)(?:_once)?[\s(]+(?P<what>__DIR__)\s*\.\s*`+stringText),
		says(Path, "require include", `\b(?:require|include)(?:_once)?[\s(]+`+stringText),
		says(Type, "class interface trait enum", `^[ \t]*(?:(?:abstract|final|readonly)[ \t]+)*(?:class|interface|trait|enum)[ \t]+(?P<name>\w+)`),
	},
}

// phpGroup is "use Name\{One, Two};", with the name up to the brace.
var phpGroup = says(Import, "use", `(?:^|;)[ \t]*use\s+(?:function\s+|const\s+)?(?P<name>\\?[\w\\]+\\)\{(?P<what>[^}]*)\}`)

func readPHP(text []byte) File {
	inside := bytes.Clone(text)
	for from := 0; from < len(inside); {
		open := bytes.Index(inside[from:], []byte("<?"))
		if open < 0 {
			blank(inside[from:])
			break
		}
		blank(inside[from : from+open])
		end := bytes.Index(inside[from+open:], []byte("?>"))
		if end < 0 {
			break
		}
		from += open + end + 2
	}
	f := php.read(inside)
	code, _ := php.lexis.scrub(inside)
	groups := language{statements: []statement{phpGroup}}
	for _, r := range append(f.Of(Import), groups.find(inside, code).Refs...) {
		grouped := strings.HasSuffix(r.Name, `\`)
		for _, name := range strings.Split(r.Value, ",") {
			if name, _, _ = strings.Cut(strings.TrimSpace(name), " "); name == "" {
				continue
			}
			one := Ref{Kind: Import, Name: name, Line: r.Line, Column: r.Column}
			if grouped {
				one.Name = r.Name + name
			}
			f.Refs = append(f.Refs, one)
		}
	}
	for i := range f.Refs {
		if f.Refs[i].Kind == Import {
			f.Refs[i].Name, f.Refs[i].Value = strings.TrimPrefix(f.Refs[i].Name, `\`), ""
		}
	}
	return f
}

var ruby = language{
	lexis: lexis{line: []string{"#"}, block: [][2]string{{"\n=begin", "\n=end"}}, heredoc: true, regexps: true, strings: []quote{{open: `"`, close: `"`, escape: true, lines: true, inner: "#{"}, {open: "'", close: "'", escape: true, lines: true}}},
	statements: []statement{
		says(Import, "require load", `(?:^|[^\w.:@$])(?P<what>require|require_relative|load)[ \t(]+`+stringText),
		says(Import, "autoload", statementB+`autoload[ \t(]+:(?P<what>\w+)[ \t]*,[ \t]*`+stringText),
		says(Type, "class module", `^[ \t]*(?:class|module)[ \t]+(?P<name>[A-Z][\w:]*)`),
		// Constants that autoloading finds by their path.
		says(Import, "", `(?:^|[^\w:.])(?P<name>[A-Z]\w*[a-z]\w*(?:::[A-Z]\w*)*)`),
	},
}

func readRuby(text []byte) File {
	f := ruby.read(text)
	// A constant that is declared is none that is used.
	declared := map[[2]int]bool{}
	for _, r := range f.Refs {
		if r.Kind == Type {
			declared[[2]int{r.Line, r.Column}] = true
		}
	}
	kept := f.Refs[:0]
	for _, r := range f.Refs {
		if strings.Contains(r.Name, "#{") {
			continue // only a run could say what that is
		}
		if r.Kind != Import || r.Value != "" || !declared[[2]int{r.Line, r.Column}] {
			kept = append(kept, r)
		}
	}
	f.Refs = kept
	return f
}

var dart = language{
	lexis: lexis{line: cComments, block: cBlock, nested: true, strings: []quote{triple, {open: "'''", close: "'''", escape: true, lines: true}, double, single}},
	statements: []statement{
		says(Import, "import export part", statementB+`(?P<what>import|export|part)\s+`+stringText),
		says(Import, "part", statementB+`(?P<what>part of)\s+`+stringText),
		says(Package, "library", statementB+`library\s+(?P<name>[\w.]+)\s*;`),
		says(Type, "class enum mixin extension", `^(?:(?:abstract|base|final|interface|sealed|mixin)[ \t]+)*(?:class|enum|mixin|extension type)[ \t]+(?P<name>\w+)`),
	},
}

func readDart(text []byte) File { return dart.read(text) }

// csharp: ECMA-334, 14.
var csharp = language{
	lexis: lexis{line: []string{"//", "#region", "#endregion"}, block: cBlock, strings: []quote{triple, {open: `@"`, close: `"`, lines: true}, {open: `$@"`, close: `"`, lines: true}, double, single}},
	statements: []statement{
		says(Package, "namespace", `^[ \t]*namespace\s+(?P<name>[\w.]+)\s*[;{]`),
		says(Import, "using", statementB+`(?:global\s+)?using\s+(?:static\s+)?(?:(?P<what>\w+)\s*=\s*)?(?P<name>[\w.]+)\s*;`),
		says(Type, "class interface struct enum record", `^[ \t]*(?:(?:public|internal|private|protected|abstract|static|sealed|partial|readonly|ref|file)[ \t]+)*(?:class|interface|struct|enum|record(?:[ \t]+(?:class|struct))?)[ \t]+(?P<name>\w+)`),
	},
}

func readCSharp(text []byte) File { return csharp.read(text) }

var swift = language{
	lexis: lexis{line: cComments, block: cBlock, nested: true, strings: []quote{triple, double}},
	statements: []statement{
		says(Import, "import", `^[ \t]*(?:@[\w()]+[ \t]+)*(?:public[ \t]+|internal[ \t]+|private[ \t]+)?import[ \t]+(?:(?:struct|class|enum|protocol|func|var|let|typealias)[ \t]+)?(?P<name>[\w.]+)`),
		says(Type, "struct class enum protocol actor", `^[ \t]*(?:(?:public|internal|private|fileprivate|open|final|indirect)[ \t]+)*(?:struct|class|enum|protocol|actor)[ \t]+(?P<name>\w+)`),
	},
}

func readSwift(text []byte) File { return swift.read(text) }
