package refs

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"testing"
)

// listed is a Tree of paths, some with a text.
type listed struct {
	files []string
	texts map[string]string
}

// of gives a project of some texts by their paths.
func of(texts map[string]string) listed {
	return listed{slices.Sorted(maps.Keys(texts)), texts}
}

func (l listed) IsFile(p string) bool { return slices.Contains(l.files, p) }

func (l listed) IsFolder(p string) bool {
	return slices.ContainsFunc(l.files, func(f string) bool { return strings.HasPrefix(f, p+"/") })
}

func (l listed) Each(yield func(string)) {
	for _, f := range l.files {
		yield(f)
	}
}

func (l listed) Names(folder string) []string {
	var all []string
	for _, f := range l.files {
		if folder != "." && folder != "" {
			below, ok := strings.CutPrefix(f, folder+"/")
			if !ok {
				continue
			}
			f = below
		}
		if name, _, _ := strings.Cut(f, "/"); !slices.Contains(all, name) {
			all = append(all, name)
		}
	}
	return all
}

func (l listed) Text(p string) ([]byte, error) {
	if text, ok := l.texts[p]; ok {
		return []byte(text), nil
	}
	return nil, fmt.Errorf("no %s", p)
}

// TestResolve shows which file of a project each reference leads to.
func TestResolve(t *testing.T) {
	settings := map[string]string{
		"go.mod":        "module gannet.example/ferry\n",
		"tsconfig.json": `{"compilerOptions": {"baseUrl": ".", "paths": {"#tides/*": ["src/tides/*"]}}}`,
		"composer.json": `{"autoload": {"psr-4": {"App\\": "app/", "App\\Harbour\\": "harbour/"}}}`,
		"pubspec.yaml":  "name: ferry\n",
	}
	files := []string{
		"go.mod", "tsconfig.json", "composer.json", "pubspec.yaml",
		"ferry/__init__.py", "ferry/tides/__init__.py", "ferry/tides/views.py", "src/line/__init__.py", "src/line/crews.py",
		"internal/tide/tide.go", "src/tides/index.ts", "src/tides/table.ts", "src/a.tsx", "src/style.css", "public/logo.png",
		"src/main/kotlin/gannet/Tide.kt", "src/main/java/gannet/berths/Berth.java",
		"app/Models/Sailing.php", "harbour/Pier.php", "app/models/sailing.rb", "app/models/harbour/pier.rb", "lib/fares.rb",
		"lib/screens/home.dart", "lib/main.dart", "src/Ferry/Tides/Table.cs", "Sources/Routing/R.swift",
		"dbt_project.yml", "pages/index.html", "pages/js/app.js", "models/staging/stg_tides.sql",
	}
	g := NewGraph(listed{files, settings})
	for _, c := range []struct {
		from string
		ref  Ref
		want []string
	}{
		{"run.py", Ref{Name: "ferry.tides.views"}, []string{"ferry/tides/views.py"}},
		{"run.py", Ref{Name: "ferry.tides", Value: "views"}, []string{"ferry/tides/__init__.py", "ferry/tides/views.py"}},
		{"run.py", Ref{Name: "line.crews"}, []string{"src/line/crews.py"}},
		{"run.py", Ref{Name: "os.path"}, nil},
		{"ferry/tides/views.py", Ref{Relative: 1, Value: "views"}, []string{"ferry/tides/__init__.py", "ferry/tides/views.py"}},
		{"ferry/tides/views.py", Ref{Relative: 2, Name: "tides"}, []string{"ferry/tides/__init__.py"}},
		{"cmd/main.go", Ref{Name: "gannet.example/ferry/internal/tide"}, []string{"internal/tide"}},
		{"cmd/main.go", Ref{Name: "gannet.example/ferryboat/internal/tide"}, nil},
		{"src/a.tsx", Ref{Name: "./tides"}, []string{"src/tides/index.ts"}},
		{"src/a.tsx", Ref{Name: "./tides/table.js"}, []string{"src/tides/table.ts"}},
		{"src/a.tsx", Ref{Name: "#tides/table"}, []string{"src/tides/table.ts"}},
		{"src/a.tsx", Ref{Name: "@/style.css"}, []string{"src/style.css"}},
		{"src/a.tsx", Ref{Name: "react"}, nil},
		{"X.kt", Ref{Name: "gannet.berths.Berth"}, []string{"src/main/java/gannet/berths/Berth.java"}},
		{"X.kt", Ref{Name: "gannet.Tide.Companion.x"}, []string{"src/main/kotlin/gannet/Tide.kt"}},
		{"X.java", Ref{Name: "gannet.berths.*"}, []string{"src/main/java/gannet/berths"}},
		{"x.php", Ref{Name: `App\Models\Sailing`}, []string{"app/Models/Sailing.php"}},
		{"x.php", Ref{Name: `App\Harbour\Pier`}, []string{"harbour/Pier.php"}},
		{"x.rb", Ref{Name: "Harbour::Pier"}, []string{"app/models/harbour/pier.rb"}},
		{"x.rb", Ref{Name: "Sailing::LIMIT"}, []string{"app/models/sailing.rb"}},
		{"x.rb", Ref{Name: "fares", Value: "require"}, []string{"lib/fares.rb"}},
		{"x.rb", Ref{Name: "ActiveRecord::Base"}, nil},
		{"test/a.dart", Ref{Name: "package:ferry/screens/home.dart"}, []string{"lib/screens/home.dart"}},
		{"lib/main.dart", Ref{Name: "screens/home.dart"}, []string{"lib/screens/home.dart"}},
		{"lib/main.dart", Ref{Name: "package:flutter/material.dart"}, nil},
		{"X.cs", Ref{Name: "Ferry.Tides"}, []string{"src/Ferry/Tides"}},
		{"X.swift", Ref{Name: "Routing"}, []string{"Sources/Routing"}},
		{"pages/index.html", Ref{Kind: Link, Name: "js/app.js?v=1"}, []string{"pages/js/app.js"}},
		{"pages/index.html", Ref{Kind: Link, Name: "/logo.png"}, []string{"public/logo.png"}},
		{"pages/index.html", Ref{Kind: Link, Name: "https://gannet.example/app.js"}, nil},
		{"models/marts/m.sql", Ref{Kind: Model, Name: "stg_tides"}, []string{"models/staging/stg_tides.sql"}},
	} {
		if got := g.Resolve(c.from, c.ref); !slices.Equal(got, c.want) {
			t.Errorf("%+v in %s: got %q, want %q", c.ref, c.from, got, c.want)
		}
	}
}

// TestConstantsNearlyNamed holds of which constants of one name Ruby's loader finds nothing, though
// one a slip away is there: those alone are the project's.
func TestConstantsNearlyNamed(t *testing.T) {
	texts := map[string]string{
		"config/application.rb": "", "app/models/sailing.rb": "class Sailing\n  include Timeed\nend\n", "app/models/concerns/timed.rb": "module Timed\nend\n",
		"app/services/publish_crew.rb": "class PublishCrew\nend\n", "app/models/setting.rb": "class Setting\nend\n", "app/jobs/a.rb": "class A\n  Settings.x\n  Setting.y\n  PublishCrews.new\n  Sailing.all\n  Shipping.new\n  Kernel.exit\nend\n",
	}
	var broken []string
	for _, e := range NewGraph(of(texts)).Broken() {
		broken = append(broken, e.Ref.Name+" "+e.Sought[0])
	}
	if want := []string{"PublishCrews app/services/publish_crews.rb", "Timeed app/models/concerns/timeed.rb"}; !slices.Equal(broken, want) {
		t.Errorf("%q, not %q", broken, want)
	}
}

// TestLoaders shows where a loader that is told a list of modules looks for them, and what of it is
// nobody else's.
func TestLoaders(t *testing.T) {
	texts := map[string]string{
		"index.html": "<!doctype html>\n", "js/libs/backbone.js": "", "js/models/berth.js": "define(['backbone'], f)\n", "js/views/list.js": "", "js/pages/list.html": "",
		"js/main.js": "require.config({ baseUrl: 'js', paths: { backbone: 'libs/backbone', shown: 'views' } });\nrequire(['app'], f)\n",
		"js/app.js":  "define(['models/berth', 'shown/list', 'text!pages/list.html', 'models/crew', 'text!pages/none.html', 'shown/none', 'other/none', 'hbs!pages/none', 'jquery'], f)\n",
	}
	g := NewGraph(of(texts))
	for name, want := range map[string][]string{"models/berth": {"js/models/berth.js"}, "shown/list": {"js/views/list.js"}, "text!pages/list.html": {"js/pages/list.html"}, "backbone": {"js/libs/backbone.js"}, "jquery": nil} {
		if got := g.Resolve("js/app.js", Ref{Name: name}); !slices.Equal(got, want) {
			t.Errorf("%s: got %q, want %q", name, got, want)
		}
	}
	var broken []string
	for _, e := range g.Broken() {
		if !e.Near {
			broken = append(broken, e.Ref.Name)
		}
	}
	if want := []string{"models/crew", "text!pages/none.html"}; !slices.Equal(broken, want) {
		t.Errorf("%q, not %q", broken, want)
	}
}

// TestModulesOfOnesOwn holds which modules of Python can be nobody else's though no package with a
// marker says so, and for which others may stand.
func TestModulesOfOnesOwn(t *testing.T) {
	board := map[string]string{"pyproject.toml": "[project]\nname = 'gannet-board'\n", "src/board/__init__.py": "", "src/board/a.py": "import gannet_board.x\nimport gannet_bord.x\n"}
	near := map[string]string{"pyproject.toml": "[project]\nname = 'gannet-board'\n", "src/gannet_boards/__init__.py": "", "src/gannet_boards/a.py": "import gannet_board.x\n"}
	for name, c := range map[string]struct {
		texts map[string]string
		want  []string // "elsewhere" behind those that something else may bring
	}{
		"a folder without a marker that holds modules": {map[string]string{"dags/a.py": "from include.harbour.clean import clean\nfrom include.quays.clean import x\nfrom include.harbour.berths import b\n", "include/harbour/berths.py": "b = 1\n", "include/harbour/sql/a.sql": "", "include/quays/a.txt": ""},
			[]string{"include.harbour.clean elsewhere"}},
		"one that a list of requirements may give": {map[string]string{"requirements.txt": "include\n", "dags/a.py": "from include.harbour.clean import clean\n", "include/harbour/berths.py": ""}, nil},
		"a package that gives any name":            {map[string]string{"ferry/__init__.py": "def __getattr__(name): pass\n", "a.py": "from ferry.some import x\n"}, nil},
		"the project's own name":                   {board, []string{"gannet_board.x"}},
		"a package of nearly the project's name":   {near, nil},
	} {
		var got []string
		for _, e := range NewGraph(of(c.texts)).Broken() {
			switch {
			case e.Near || e.Only:
			case e.Elsewhere:
				got = append(got, e.Ref.Name+" elsewhere")
			default:
				got = append(got, e.Ref.Name)
			}
		}
		if !slices.Equal(got, c.want) {
			t.Errorf("%s: %q, not %q", name, got, c.want)
		}
	}
}

// TestAliasesOfSettings shows where names lead that settings give to folders, also those that
// only a part of the settings has, and what is nearly such a name.
func TestAliasesOfSettings(t *testing.T) {
	g := NewGraph(of(map[string]string{
		"package.json": `{"dependencies": {"@decks/a": "1"}}`, "tsconfig.json": `{"files": [], "references": [{"path": "./tsconfig.web.json"}]}`,
		"tsconfig.web.json":       `{"compilerOptions": {"paths": {"@deck/*": ["./src/deck/*"]}}}`,
		"electron.vite.config.ts": "alias: { '@pier': resolve('src/pier') }\n",
		"src/deck/board.ts":       "export const board = 1\n", "src/pier/quay.ts": "export const quay = 1\n",
		"src/main.ts": "import { board } from '@deck/board'\nimport { quay } from '@pier/quay'\nimport { b } from '@dekc/board'\nimport x from '@decks/a'\nimport y from '@deckx/other'\n",
	}))
	var broken []string
	for _, e := range g.Broken() {
		broken = append(broken, e.Ref.Name+" "+e.Meant)
	}
	if want := []string{"@dekc/board src/deck/board.ts"}; !slices.Equal(broken, want) {
		t.Errorf("broken are %q, not %q", broken, want)
	}
	if len(g.To("src/pier/quay.ts")) != 1 || len(g.To("src/deck/board.ts")) != 1 {
		t.Error("a name that settings give leads nowhere")
	}
}

// TestBuiltBefore asks where an image's paths lead that are called as a program of the project.
func TestBuiltBefore(t *testing.T) {
	g := NewGraph(of(map[string]string{"Dockerfile": "FROM x AS y\nCOPY --from=y /x /x\nCOPY pier /a/\nCOPY tides /b/\nCOPY quays /c/\n", "pier/a.txt": "", "cmd/pier/main.go": "", "cmd/tides/main.go": ""}))
	var got []string
	for _, e := range g.From("Dockerfile") {
		if e.Ref.Kind == Path {
			got = append(got, fmt.Sprintf("%s %s %v", e.Ref.Name, e.To, e.Broken()))
		}
	}
	if want := []string{"pier [pier] false", "tides [] false", "quays [] true"}; !slices.Equal(got, want) {
		t.Errorf("%q, not %q", got, want)
	}
}
