package app_test

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/scaffoldtest"
	"dicaxon/internal/treetest"
)

// A change is made to the scaffold of a layout, as a person makes it by
// mistake, and gives what check then says beyond the tree.
type mistake struct {
	layout string
	what   string
	edit   func(e *editor)
	want   []string
}

// An editor changes files of a project.
type editor struct {
	t    *testing.T
	root string
}

func (e *editor) replace(path, old, new string) {
	e.t.Helper()
	text, err := os.ReadFile(filepath.Join(e.root, path))
	if err != nil || !strings.Contains(string(text), old) {
		e.t.Fatalf("%s has no %q: %v", path, old, err)
	}
	e.write(path, strings.ReplaceAll(string(text), old, new))
}

func (e *editor) add(path, text string) {
	e.t.Helper()
	before, err := os.ReadFile(filepath.Join(e.root, path))
	if err != nil {
		e.t.Fatal(err)
	}
	e.write(path, text+string(before))
}

func (e *editor) write(path, text string) { treetest.Add(e.t, e.root, map[string]string{path: text}) }

var mistakes = []mistake{
	{"flask/areas", "an area that is not mounted", func(e *editor) {
		e.replace("ferry/__init__.py", "from ferry import berth_plans\n", "")
		e.replace("ferry/__init__.py", "    app.register_blueprint(berth_plans.blueprint, url_prefix=\"/berth-plans\")\n", "")
	}, []string{"error unwired ferry/berth_plans/views.py"}},
	{"flask/areas", "one area in another's routes", func(e *editor) { e.add("ferry/sailings/views.py", "from ferry.manifests.views import index\n") }, []string{"warning tangled ferry/sailings/views.py:1"}},
	{"flask/areas", "a secret key only here", func(e *editor) { e.write(".env", "SECRET_KEY=x\nMAIL_HOST=y\n") }, []string{"error disagrees .env.example"}},
	{"flask/package", "routes that are not mounted", func(e *editor) {
		e.replace("ferry/__init__.py", "from ferry.routes import crews\n", "")
		e.replace("ferry/__init__.py", "crews.blueprint", "harbour.blueprint")
	}, []string{"error unwired ferry/routes/crews.py"}},
	{"fastapi/areas", "a router that is not included", func(e *editor) {
		e.replace("ferry/main.py", "from ferry.sailings.router import router as sailings\n", "")
	}, []string{"error unwired ferry/sailings/router.py"}},
	{"django/project", "an app that is not installed", func(e *editor) {
		e.replace("ferry/settings.py", "    \"crews.apps.CrewsConfig\",\n", "")
		e.write("crews/models.py", "from django.db import models\n\n\nclass Crew(models.Model):\n    pass\n")
	}, []string{"error unwired crews/models.py"}},
	{"airflow/project", "a job without an owner", func(e *editor) { e.replace("dags/tides/refresh.py", "owner", "keeper") }, []string{"note substandard dags/tides/refresh.py"}},
	{"dbt/layers", "a key that is spelt otherwise", func(e *editor) { e.replace("dbt_project.yml", "    marts:", "    mart:") }, []string{"error disagrees dbt_project.yml:23"}},
	{"dbt/layers", "another name of the project", func(e *editor) { e.replace("dbt_project.yml", "\n  gannet:", "\n  ganet:") }, []string{"error disagrees dbt_project.yml:16", "error disagrees dbt_project.yml:28"}},
	{"dbt/layers", "a mart that reads a raw table", func(e *editor) {
		e.write("models/marts/calls.sql", "select * from {{ source('harbour', 'sailings') }}\n")
	}, []string{"error disagrees models/marts/calls.sql:1"}},
	{"dbt/domains", "a mart that reads a raw table", func(e *editor) {
		e.add("models/harbour/marts/harbour_sailings.sql", "-- {{ source('harbour', 'sailings') }}\n")
	}, []string{"error dangling models/harbour/marts/harbour_sailings.sql:1", "error disagrees models/harbour/marts/harbour_sailings.sql:1"}},
	{"go/service", "a package called otherwise", func(e *editor) { e.replace("internal/config/config.go", "package config", "package settings") }, []string{"error misdeclared internal/config/config.go:2"}},
	{"gin/mvc", "two models in one file", func(e *editor) {
		e.write("models/berth.go", "package models\n\ntype Berth struct{}\n\ntype Pier struct{}\n\nfunc AllBerths() []Berth { return nil }\n")
	}, []string{"warning crowded models/berth.go:5"}},
	{"node/service", "a start script that is not there", func(e *editor) { e.replace("package.json", "\"start\": \"node ", "\"start\": \"node lib/") }, []string{"error dangling package.json:8"}},
	{"node/service", "an image that copies nothing", func(e *editor) { e.replace("Dockerfile", "COPY src", "COPY sources") }, []string{"error dangling Dockerfile:6"}},
	{"node/client-server", "a client that reaches the server", func(e *editor) {
		e.add("public/modules/sailings/sailings.view.js", "import { all } from \"../../../private/modules/sailings/sailings.store.js\";\n")
	}, []string{"error tangled public/modules/sailings/sailings.view.js:1"}},
	{"node/client-server", "a key that everybody can fetch", func(e *editor) { e.write("public/modules/server.key", "x\n") }, []string{"error exposed public/modules/server.key"}},
	{"react/roles", "a reducer among the actions", func(e *editor) {
		e.write("src/actions/crewReducer.js", "export function crews(state = [], action) {\n  switch (action.type) {\n    default:\n      return state;\n  }\n}\n")
	}, []string{"warning misplaced src/actions/crewReducer.js"}},
	{"dotnet/endpoints", "one resource inside another", func(e *editor) {
		e.replace("src/Ferry/Endpoints/Sailings/GetAll/GetAllEndpoint.cs", "namespace", "using Ferry.Endpoints.BerthPlans.GetAll;\n\nnamespace")
	}, []string{"warning tangled src/Ferry/Endpoints/Sailings/GetAll/GetAllEndpoint.cs:1"}},
	{"dotnet/endpoints", "a request one level too high", func(e *editor) {
		e.write("src/Ferry/Endpoints/Sailings/Request.cs", "namespace Ferry.Endpoints.Sailings.GetOne;\n\npublic record Request(int Id);\n")
	}, []string{"warning misplaced src/Ferry/Endpoints/Sailings/Request.cs:1"}},
	{"dbt/domains", "a staging model of another department", func(e *editor) {
		e.write("models/harbour/staging/stg_crews__rosters.sql", "select 1\n")
		e.write("models/crews/staging/stg_crews__watches.sql", "select 1\n")
		e.write("models/crews/marts/crews_watches.sql", "select * from {{ ref('stg_crews__watches') }}\n")
	}, []string{"warning misplaced models/harbour/staging/stg_crews__rosters.sql"}},
	{"react/roles", "a plain component that knows the store", func(e *editor) {
		e.add("src/components/Timetable.jsx", "import { useSelector } from \"react-redux\";\n")
	}, []string{"warning tangled src/components/Timetable.jsx:1"}},
	{"react/roles", "a reducer that the store does not know", func(e *editor) {
		e.replace("src/reducers/index.js", "import { berthPlans } from \"./berthPlans.js\";\n", "")
	}, []string{"error unwired src/reducers/berthPlans.js"}},
	{"react/features", "one feature inside another", func(e *editor) {
		e.add("src/features/sailings/sailings.view.jsx", "import \"../berth-plans/state.js\";\n")
	}, []string{"warning tangled src/features/sailings/sailings.view.jsx:1"}},
	{"react/features", "features in a circle", func(e *editor) {
		e.add("src/features/sailings/index.js", "import \"../berth-plans/index.js\";\n")
		e.add("src/features/berth-plans/index.js", "import \"../sailings/index.js\";\n")
	}, []string{"error tangled src/features/berth-plans/index.js:1"}},
	{"backbone/mvc", "a script before its library", func(e *editor) {
		e.replace("index.html", "    <script src=\"js/app.js\"></script>\n", "")
		e.replace("index.html", "    <script src=\"js/libs/jquery.js\">", "    <script src=\"js/app.js\"></script>\n    <script src=\"js/libs/jquery.js\">")
	}, []string{"error disagrees index.html"}},
	{"backbone/mvc", "a model that the page does not load", func(e *editor) { e.replace("index.html", "    <script src=\"js/models/Sailing.js\"></script>\n", "") }, []string{"error unwired js/models/Sailing.js"}},
	{"flutter/screens", "a screen that asks the backend", func(e *editor) {
		e.add("lib/screens/sailings/sailings_screen.dart", "import 'package:http/http.dart';\n")
	}, []string{"error tangled lib/screens/sailings/sailings_screen.dart:1", "warning disagrees lib/screens/sailings/sailings_screen.dart:1"}},
	{"flutter/screens", "an asset that is not there", func(e *editor) {
		e.replace("pubspec.yaml", "  uses-material-design: true", "  uses-material-design: true\n  assets:\n    - assets/logo.png")
	}, []string{"error dangling pubspec.yaml:21"}},
	{"kotlin/plain", "a package that says another folder", func(e *editor) {
		e.replace("src/example/gannet/tidetables/Main.kt", "package example.gannet.tidetables", "package example.gannet.tides")
	}, []string{"error misdeclared src/example/gannet/tidetables/Main.kt:1"}},
	{"kotlin/plain", "Kotlin without its ending", func(e *editor) {
		e.write("src/example/gannet/tidetables/Tide.kt.txt", "package example.gannet.tidetables\n")
	}, []string{"error misdeclared src/example/gannet/tidetables/Tide.kt.txt:1"}},
	{"java/maven", "a package that says another folder", func(e *editor) {
		e.replace("src/main/java/example/gannet/tidetables/Main.java", "package example.gannet.tidetables;", "package example.gannet;")
	}, []string{"error misdeclared src/main/java/example/gannet/tidetables/Main.java:1"}},
	{"laravel/models-folder", "a namespace that does not follow its folder", func(e *editor) { e.replace("app/Models/Sailing.php", "namespace App\\Models;", "namespace App;") }, []string{"error misdeclared app/Models/Sailing.php:3"}},
	{"rails/app", "a controller without a route", func(e *editor) { e.replace("config/routes.rb", "  resources :berth_plans, only: :index\n", "") }, []string{"warning unwired app/controllers/berth_plans_controller.rb"}},
	{"hanami/slices", "a slice without a route", func(e *editor) { e.replace("config/routes.rb", "slice :berth_plans", "slice :berths") }, []string{"error dangling config/routes.rb:6", "warning unwired slices/berth_plans/action.rb"}},
	{"dotnet/endpoints", "an operation that is not mapped", func(e *editor) {
		e.replace("src/Ferry/Program.cs", "Ferry.Endpoints.Sailings.GetOne.GetOneEndpoint.Map(app);\n", "")
		e.replace("src/Ferry/Program.cs", "Ferry.Endpoints.BerthPlans.GetOne.GetOneEndpoint.Map(app);\n", "")
	}, []string{"error unwired src/Ferry/Endpoints/BerthPlans/GetOne/GetOneEndpoint.cs", "error unwired src/Ferry/Endpoints/Sailings/GetOne/GetOneEndpoint.cs"}},
	{"swift/modules", "a module that knows Main", func(e *editor) { e.add("Sources/Presentation/Sailings/SailingsPresenter.swift", "import Main\n") }, []string{"error tangled Sources/Presentation/Sailings/SailingsPresenter.swift:1"}},
	{"helm/chart", "a chart without a version", func(e *editor) { e.replace("Chart.yaml", "\nversion:", "\nversio:") }, []string{"error substandard Chart.yaml:5"}},
	{"vite/react", "the name of the starter", func(e *editor) { e.replace("package.json", "\"tide-tables\"", "\"vite-project\"") }, []string{"warning leftover package.json:2"}},
}

// TestMistakes makes one mistake in each scaffold and reads what is said of it:
// that, and nothing else.
func TestMistakes(t *testing.T) {
	t.Parallel()
	for _, m := range mistakes {
		t.Run(m.layout+" "+m.what, func(t *testing.T) {
			_, plan := scaffoldtest.Plan(t, m.layout, treetest.Answers[m.layout])
			root := scaffoldtest.Write(t, plan)
			m.edit(&editor{t, root})
			r, err := app.Check(context.Background(), root, app.Options{Layout: m.layout})
			if err != nil {
				t.Fatal(err)
			}
			var got []string
			for _, f := range r.Projects[0].Findings {
				line := fmt.Sprintf("%s %s %s", f.Level, f.Kind, f.Path)
				if f.Line > 0 && f.Kind != "disagrees" || f.Line > 0 && !strings.HasSuffix(f.Path, ".html") {
					line += fmt.Sprintf(":%d", f.Line)
				}
				got = append(got, line)
			}
			slices.Sort(got)
			if got = slices.Compact(got); !slices.Equal(got, m.want) {
				t.Errorf("got  %q\nwant %q", got, m.want)
			}
		})
	}
}

// move moves a file or folder of a project, or removes it where it goes nowhere.
func move(t *testing.T, root, from, to string) {
	t.Helper()
	if from == "" {
		return
	}
	if to == "" {
		if err := os.RemoveAll(filepath.Join(root, from)); err != nil {
			t.Fatal(err)
		}
		return
	}
	if err := os.MkdirAll(filepath.Dir(filepath.Join(root, filepath.Clean(to))), 0o755); err != nil {
		t.Fatal(err)
	}
	if err := os.Rename(filepath.Join(root, from), filepath.Join(root, to)); err != nil {
		t.Fatal(err)
	}
}
