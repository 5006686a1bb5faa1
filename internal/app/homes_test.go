package app_test

import (
	"context"
	"slices"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/finding"
	"dicaxon/internal/scaffoldtest"
	"dicaxon/internal/treetest"
)

// TestNoHomeByAnEndingAlone adds to scaffolds what is right where it stands, or
// unknown: none of it is sent anywhere, and none of it is an error.
func TestNoHomeByAnEndingAlone(t *testing.T) {
	for _, c := range []struct {
		layout string
		cause  string
		files  map[string]string
	}{
		{"python/source", "texts at the top are no requirement lists", map[string]string{"AUTHORS.txt": "x", "runtime.txt": "x", "robots.txt": "x", "CMakeLists.txt": "x", "notes.txt": "x"}},
		{"python/source", "fixtures of the whole project stand at the top", map[string]string{"conftest.py": "import pytest\n"}},
		{"flask/areas", "fixtures of the whole project stand at the top", map[string]string{"conftest.py": "import pytest\n"}},
		{"vite/react", "settings of tools are no code", map[string]string{"postcss.config.js": "x", "tailwind.config.js": "x", "next.config.ts": "x", "svelte.config.js": "x", ".eslintrc.yml": "x", "turbo.json": "{}", "vercel.json": "{}"}},
		{"react/roles", "settings of tools are no tests", map[string]string{"playwright.config.js": "x", "cypress.config.ts": "x", "house.config.js": "x"}},
		{"rails/app", "settings of tools are none of the application", map[string]string{".rubocop_todo.yml": "x", "house.yml": "x"}},
		{"java/maven", "rules for the code are no descriptors", map[string]string{"checkstyle.xml": "<x/>", "house.xml": "<x/>"}},
		{"go/service", "tests lie with what they test", map[string]string{"internal/tides/tides.go": "package tides\n", "internal/tides/more_test.go": "package tides\n"}},
		{"go/service", "a package line speaks for where its neighbours lie", map[string]string{"tides.go": "package tides\n", "moon.go": "package tides\n", "internal/tides/a.go": "package tides\n"}},
		{"go/command", "commands of a program are a package", map[string]string{"cmd/root.go": "package cmd\n"}},
		{"go/service", "a folder of code is what it is called", map[string]string{"internal/almanac/almanac.go": "package almanac\n", "internal/almanac/moon.go": "package almanac\n", "almanac/a.go": "package almanac\n"}},
		{"node/service", "a folder of code is what it is called", map[string]string{"src/almanac/moon.ts": "export const x = 1\n", "src/almanac/sun.ts": "export const y = 1\n"}},
		{"javascript/apart", "code at the top is not sent down", map[string]string{"routes/index.js": "export const x = 1\n", "tool.js": "export const y = 1\n"}},
		{"laravel/models-folder", "namespaces are folders", map[string]string{"app/Http/Controllers/Admin/BerthController.php": "<?php\nnamespace App\\Http\\Controllers\\Admin;\nclass BerthController\n{\n}\n"}},
		{"kotlin/plain", "an entry point is no test", map[string]string{"src/example/gannet/tidetables/Start.kt": "package example.gannet.tidetables\nfun main() {}\n"}},
		{"flutter/screens", "a widget stays with its screen", map[string]string{"lib/screens/sailings/card.dart": "class Card {}\n"}},
		{"python/package", "modules are no helpers", map[string]string{"tides/almanac.py": "x = 1\n", "tides/moon.py": "y = 1\n"}},
		{"react/features", "one helper makes none of the others", map[string]string{"src/utils/x.js": "export const x = 1\n", "src/features/sailings/fares.js": "export const y = 1\n"}},
		{"airflow/project", "a job is no include", map[string]string{"dags/tides/daily.py": "from airflow import DAG\n"}},
		{"dbt/layers", "a model is no macro", map[string]string{"models/staging/harbour/stg_harbour__piers.sql": "select 1\n"}},
		{"python/source", "a marker says nothing of its own", map[string]string{"src/__init__.py": ""}},
		{"flask/areas", "what every area uses is not one area's", map[string]string{"ferry/static/harbour.css": "x"}},
	} {
		t.Run(c.layout+" "+c.cause, func(t *testing.T) {
			_, plan := scaffoldtest.Plan(t, c.layout, treetest.Answers[c.layout])
			root := scaffoldtest.Write(t, plan)
			treetest.Add(t, root, c.files)
			r, err := app.Check(context.Background(), root, app.Options{Layout: c.layout})
			if err != nil {
				t.Fatal(err)
			}
			for _, f := range r.Projects[0].Findings {
				if f.Home != "" || len(f.Homes) > 0 || f.Level == finding.Error {
					t.Errorf("%s %s %s -> %s %v: %s", f.Level, f.Kind, f.Path, f.Home, f.Homes, f.Message)
				}
			}
		})
	}
}

// TestHomesByEvidence names what speaks for each home: the place that waits for
// the very name, a reference, a package line, a text, a unit.
func TestHomesByEvidence(t *testing.T) {
	for _, c := range []struct {
		layout, evidence string
		move             [2]string
		add              map[string]string
		want             []string // kind, path and home
	}{
		{"node/service", "the wanted name, among what a pattern accepts", [2]string{"package.json", "src/package.json"}, nil, []string{"misplaced src/package.json -> package.json"}},
		{"flask/areas", "the wanted name, where any file may lie", [2]string{"README.md", "ferry/README.md"}, nil, []string{"misplaced ferry/README.md -> README.md"}},
		{"vue/app", "the wanted name, in another folder of code", [2]string{"src/main.ts", "src/router/main.ts"}, nil, []string{"misplaced src/router/main.ts -> src/main.ts"}},
		{"laravel/models-folder", "its own namespace", [2]string{"app/Http/Controllers/SailingController.php", "app/SailingController.php"}, nil, []string{"misplaced app/SailingController.php -> app/Http/Controllers/SailingController.php"}},
		{"java/maven", "the package lines of a whole folder", [2]string{"src/main/java/example/gannet/", "src/main/java/sample/"}, nil, nil},
		{"flask/areas", "a near name", [2]string{"ferry/sailings/views.py", "ferry/sailings/view.py"}, nil, []string{"misnamed ferry/sailings/view.py -> ferry/sailings/views.py"}},
		{"go/service", "a name apart in its separators only", [2]string{"internal/config/config_test.go", "internal/config/configtest.go"}, nil, []string{"misnamed internal/config/configtest.go -> internal/config/config_test.go"}},
		{"flask/areas", "it is a page of that area", [2]string{"", ""}, map[string]string{"ferry/sailings/fares.html": "{% extends 'base.html' %}\n"}, []string{"misplaced ferry/sailings/fares.html -> ferry/sailings/templates/fares.html"}},
		{"python/source", "the layout says where it goes instead", [2]string{"", ""}, map[string]string{"src/tide_tables/test_moon.py": "def test(): pass\n"}, []string{"misplaced src/tide_tables/test_moon.py -> tests/test_moon.py"}},
		{"python/script", "a folder that waits for things called like it", [2]string{"tests/", ""}, map[string]string{"test_moon.py": "def test(): pass\n"}, []string{"misplaced test_moon.py -> tests/test_moon.py"}},
		{"react/features", "what was said of a folder holds in it", [2]string{"src/features/", "src/feature/"}, nil, []string{"misnamed src/feature/ -> src/features/"}},
	} {
		t.Run(c.layout+" "+c.evidence, func(t *testing.T) {
			_, plan := scaffoldtest.Plan(t, c.layout, treetest.Answers[c.layout])
			root := scaffoldtest.Write(t, plan)
			move(t, root, c.move[0], c.move[1])
			treetest.Add(t, root, c.add)
			r, err := app.Check(context.Background(), root, app.Options{Layout: c.layout, Skip: []string{"empty"}})
			if err != nil {
				t.Fatal(err)
			}
			var got []string
			for _, f := range r.Projects[0].Findings {
				if f.Home != "" {
					got = append(got, string(f.Kind)+" "+f.Path+" -> "+f.Home)
				}
			}
			if c.want != nil && !slices.Equal(got, c.want) {
				t.Errorf("got  %q\nwant %q", got, c.want)
			}
		})
	}
}
