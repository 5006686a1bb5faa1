package rules

import (
	"testing"

	"dicaxon/internal/refs"
)

// TestOtherFolder finds the folder by whose name a constant of Ruby differs from its path.
func TestOtherFolder(t *testing.T) {
	for _, c := range []struct {
		at, below, said string
		wanted          []string
		folder, name    string
	}{
		{"slices/deks/actions/show.rb", "actions/show.rb", "Desk::Actions::Show", []string{"Deks", "Actions", "Show"}, "slices/deks", "desk"},
		{"app/models/harbour/tides/high.rb", "harbour/tides/high.rb", "Harbour::Tide::High", []string{"Harbour", "Tides", "High"}, "app/models/harbour/tides", "tide"},
		{"app/models/tides/high.rb", "tides/high.rb", "Tides::Low", []string{"Tides", "High"}, "", ""},                   // the file is called otherwise
		{"app/models/tides/high.rb", "tides/high.rb", "Quays::Low", []string{"Tides", "High"}, "", ""},                   // both are
		{"app/models/tides/high.rb", "tides/high.rb", "High", []string{"Tides", "High"}, "", ""},                         // it has fewer parts
		{"app/api/high.rb", "api/high.rb", "API::High", []string{"Api", "High"}, "", ""},                                 // the inflector may know the word
		{"app/models/concerns/tides/high.rb", "concerns/tides/high.rb", "Tide::High", []string{"Tides", "High"}, "", ""}, // a folder that is no part
	} {
		folder, name := otherFolder(&constant{at: c.at, said: c.said, wanted: c.wanted, below: c.below})
		if folder != c.folder || name != c.name {
			t.Errorf("%s that declares %s: %q called %q, and not %q called %q", c.at, c.said, folder, name, c.folder, c.name)
		}
	}
}

// TestOlder compares versions as far as both are written.
func TestOlder(t *testing.T) {
	for _, c := range []struct {
		version, than string
		older         bool
	}{
		{"1.9", "1.26", true}, {"1.26", "1.26", false}, {"1.26.1", "1.26", false}, {"1.26", "1.26.3", false}, {"2", "1.26", false}, {"20", "22", true}, {"3.9", "3.12", true}, {"3.12", "3.9", false},
	} {
		if older(c.version, c.than) != c.older {
			t.Errorf("%s older than %s: %v", c.version, c.than, !c.older)
		}
	}
}

// TestScriptOf names a file as the compiler of TypeScript finds it in modules of Node.js.
func TestScriptOf(t *testing.T) {
	for _, c := range []struct{ name, to, want string }{
		{"./store", "src/store.ts", "./store.js"},
		{"./store.ts", "src/store.ts", "./store.js"},
		{"../parts/Card", "src/parts/Card.tsx", "../parts/Card.js"},
		{"./routes", "src/routes/index.ts", "./routes/index.js"},
		{"./routes/index", "src/routes/index.ts", "./routes/index.js"},
		{"./made", "src/made.mts", "./made.mjs"},
		{"./old", "src/old.js", "./old.js"},
		{".", "src/index.ts", "./index.js"},
	} {
		if got := scriptOf(c.name, c.to); got != c.want {
			t.Errorf("%s for %s: %s, and not %s", c.name, c.to, got, c.want)
		}
	}
}

// TestModuleOf gives the module that a package of Go is likely of.
func TestModuleOf(t *testing.T) {
	for at, want := range map[string]string{
		"github.com/x/tides": "github.com/x/tides", "github.com/x/tides/table": "github.com/x/tides", "github.com/x/tides/v2/table": "github.com/x/tides/v2",
		"gannet.example/weir": "gannet.example/weir", "github.com/x/tides/vendor/a": "github.com/x/tides",
	} {
		if got := moduleOf(at); got != want {
			t.Errorf("%s is of %s, and not of %s", at, got, want)
		}
	}
}

// TestSchemaFields lists what a schema asks of the environment and gives no value for.
func TestSchemaFields(t *testing.T) {
	const code = "const s = z.object({\n  ONE: z.string(),\n  TWO: z.string().default('x'),\n  THREE: z.string().optional(),\n  FOUR: z.enum(['a']),\n  five: z.string(),\n})\n"
	for text, want := range map[string][]string{code: nil, code + "s.parse(process.env)\n": {"ONE", "FOUR"}, code + "s.safeParse(process.env)\n": {"ONE", "FOUR"}} {
		var got []string
		for _, field := range schemaFields([]byte(text)) {
			if got = append(got, field.Name); string(field.Span.In([]byte(text))) != field.Name {
				t.Errorf("the span of %s is another", field.Name)
			}
		}
		if len(got) != len(want) || len(got) > 0 && (got[0] != want[0] || got[1] != want[1]) {
			t.Errorf("%q, and not %q", got, want)
		}
	}
}

// TestMended: what the new rules find they can put right, in the characters of the reference alone.
func TestMendedByRules(t *testing.T) {
	for _, c := range []struct {
		rule, at, was, becomes string
		in                     files
	}{
		{"- {rule: import-endings}", "src/a.ts", "./b", "./b.js", files{"package.json": `{"type": "module"}`, "tsconfig.json": `{"compilerOptions": {"module": "Node16"}}`, "src/a.ts": "import './b'\n", "src/b.ts": ""}},
		{"- {rule: import-endings}", "src/a.ts", "./b.ts", "./b.js", files{"package.json": `{}`, "tsconfig.json": `{"compilerOptions": {"outDir": "dist"}}`, "src/a.ts": "import './b.ts'\n", "src/b.ts": ""}},
		{"- {rule: dangling}", "docs/a/b.md", "../../../README.md", "../../README.md", files{"docs/a/b.md": "[x](../../../README.md)\n", "README.md": "x\n"}},
	} {
		found := foundIn(t, c.rule, c.in)
		if len(found) != 1 || len(found[0].Fix) != 1 {
			t.Errorf("%s: %v", c.at, found)
			continue
		}
		e, text := found[0].Fix[0], c.in[c.at]
		if was := string(refs.Span{Start: int32(e.Start), End: int32(e.End)}.In([]byte(text))); e.Path != c.at || was != c.was || e.Text != c.becomes {
			t.Errorf("%s: %s becomes %s, and not %s %s", e.Path, was, e.Text, c.was, c.becomes)
		}
	}
}
