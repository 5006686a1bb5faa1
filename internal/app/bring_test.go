package app_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/changes"
	"dicaxon/internal/finding"
	"dicaxon/internal/realign"
	"dicaxon/internal/treetest"
)

// TestBring brings small projects to a layout that somebody names: what a text shows, and
// what its package spells, says where it goes.
func TestBring(t *testing.T) {
	t.Parallel()
	redux := `{"name": "ferry", "dependencies": {"react": "^19.0.0", "react-dom": "^19.0.0", "react-redux": "^9.0.0", "redux": "^5.0.0"}}`
	page := "import { createRoot } from 'react-dom/client';\nimport TidePanel from './TidePanel.js';\nimport { createStore } from 'redux';\nimport tides from './tidesReducer.js';\nconst store = createStore(tides);\ncreateRoot(document.body).render(<TidePanel store={store} />);\n"
	for name, c := range map[string]struct {
		layout string
		files  map[string]string
		moves  []string
		left   []string
	}{
		"components by what they know": {"react/roles", map[string]string{"package.json": redux, "index.html": "<!doctype html><div id=app></div>\n", "src/index.js": page,
			"src/TideTable.js":    "export default function TideTable({ rows }) {\n  return <ul>{rows.map((r) => <li key={r}>{r}</li>)}</ul>;\n}\n",
			"src/TidePanel.js":    "import { useSelector } from 'react-redux';\nimport TideTable from './TideTable.js';\nexport default function TidePanel() {\n  const rows = useSelector((s) => s);\n  return <TideTable rows={rows} />;\n}\n",
			"src/tidesActions.js": "export const asked = () => ({ type: 'asked' });\n", "src/tidesReducer.js": "export default function tides(state = [], action) {\n  switch (action.type) {\n    default:\n      return state;\n  }\n}\n"},
			[]string{"src/TidePanel.js > src/containers/TidePanel.js", "src/TideTable.js > src/components/TideTable.js", "src/tidesActions.js > src/actions/tidesActions.js", "src/tidesReducer.js > src/reducers/tidesReducer.js"}, []string{"missing src/store.js"}},
		"models with a folder of their own": {"laravel/models-folder", map[string]string{"composer.json": `{"require": {"laravel/framework": "^12.0"}, "autoload": {"psr-4": {"App\\": "app/"}}}`, "artisan": "<?php\n", "routes/web.php": "<?php\n",
			"app/Berth.php":      "<?php\n\nnamespace App;\n\nuse App\\Crew\\Pilot;\nuse Illuminate\\Database\\Eloquent\\Model;\n\nclass Berth extends Model\n{\n    public Pilot $pilot;\n}\n",
			"app/Crew/Pilot.php": "<?php\n\nnamespace App\\Crew;\n\nuse Illuminate\\Database\\Eloquent\\Model;\n\nclass Pilot extends Model\n{\n}\n"},
			[]string{"app/Berth.php > app/Models/Berth.php", "app/Crew/Pilot.php > app/Models/Crew/Pilot.php"}, nil},
		"one module of an application": {"flask/package", map[string]string{"requirements.txt": "flask\n", ".flaskenv": "FLASK_APP=site.py\n", "site.py": "from flask import Flask, render_template\n\napp = Flask(__name__)\n\n\n@app.route(\"/\")\ndef index():\n    return render_template(\"index.html\")\n",
			"templates/index.html": "<!doctype html>{{ 1 }}\n", "static/main.css": "body {}\n"},
			[]string{"site.py > app/__init__.py", "static/ > app/static/", "templates/ > app/templates/"}, nil},
		"sources that lie loose": {"node/service", map[string]string{"package.json": `{"name": "ferry", "main": "dist/index.js", "scripts": {"build": "tsc"}, "devDependencies": {"typescript": "^5.0.0"}}`, "tsconfig.json": `{"compilerOptions": {"outDir": "dist"}, "include": ["*.ts"]}`, "settings.json": "{}\n",
			"index.ts": "export * from './Tide';\n", "Tide.ts": "export class Tide {}\n", "Server.ts": "import { createServer } from 'node:http';\nimport { Tide } from './Tide';\nexport const open = () => createServer(() => new Tide()).listen(8080);\n", "Tide.test.ts": "import { Tide } from './Tide';\nnew Tide();\n"},
			[]string{"Server.ts > src/Server.ts", "Tide.test.ts > tests/Tide.test.ts", "Tide.ts > src/Tide.ts", "index.ts > src/index.ts"}, nil},
		"what is against the layout alone holds nothing back": {"dbt/layers", map[string]string{"dbt_project.yml": "name: ferry\nmodel-paths: [models]\n", "models/staging/stg_moorings.sql": "select 1 as berth\n",
			"models/core/fct_moorings.sql": "select * from {{ ref('stg_moorings') }}\n", "models/reporting/monthly.sql": "select * from {{ source('warehouse', 'fct_moorings') }}\n",
			"models/reporting/warehouse_sources.yml": "version: 2\nsources:\n  - name: warehouse\n    tables:\n      - name: fct_moorings\n"},
			[]string{"models/core/fct_moorings.sql > models/warehouse/fct_moorings.sql", "models/reporting/monthly.sql > models/marts/monthly.sql", "models/reporting/warehouse_sources.yml > models/sources/warehouse_sources.yml"}, nil},
		"controllers beside the program": {"dotnet/controllers", map[string]string{"Ferry.sln": "", "src/Ferry/Ferry.csproj": "<Project Sdk=\"Microsoft.NET.Sdk.Web\">\n</Project>\n", "src/Ferry/Program.cs": "var builder = WebApplication.CreateBuilder(args);\nvar app = builder.Build();\napp.MapControllers();\napp.Run();\n",
			"src/Ferry/TidesController.cs": "using Microsoft.AspNetCore.Mvc;\n\nnamespace Ferry;\n\n[ApiController]\npublic class TidesController : ControllerBase\n{\n}\n",
			"src/Ferry/TideRepository.cs":  "namespace Ferry;\n\npublic class TideRepository\n{\n}\n"},
			[]string{"src/Ferry/TideRepository.cs > src/Ferry/Repositories/TideRepository.cs", "src/Ferry/TidesController.cs > src/Ferry/Controllers/TidesController.cs"}, nil},
		"what belongs together stays so": {"flask/package", map[string]string{"requirements.txt": "flask\n", "site.py": "from flask import Flask\n\napp = Flask(__name__)\nfolder = \"static\"\n",
			"templates/index.html": "<!doctype html>{{ 1 }}\n", "static/main.css": "body {}\n"}, nil, nil},
	} {
		t.Run(name, func(t *testing.T) {
			r, err := app.Realign(t.Context(), treetest.Make(t, c.files), app.RealignOptions{Options: app.Options{Layout: c.layout}, Least: finding.Warning, Findings: true})
			if err != nil {
				t.Fatal(err)
			}
			moves, left := movesOf(r), []string(nil)
			for _, l := range r.Left {
				if l.Level < finding.Note && l.Kind != finding.Dangling {
					left = append(left, string(l.Kind)+" "+l.Path)
				}
			}
			if !slices.Equal(moves, c.moves) || c.left != nil && !slices.Equal(left, c.left) {
				t.Errorf("%s: moves %q, not %q; left %q", name, moves, c.moves, left)
			}
			if slices.ContainsFunc(r.Left, func(l realign.Left) bool { return l.Kind == finding.Misdeclared }) {
				t.Errorf("%s: what ends by the way is left: %v", name, r.Left)
			}
			for _, rm := range r.Remarks {
				t.Errorf("%s: %s:%d %s", name, rm.Path, rm.Line, rm.Says)
			}
		})
	}
}

// movesOf gives the moves of a plan as texts, in their order.
func movesOf(r *app.Realignment) (all []string) {
	for _, m := range r.Moves {
		all = append(all, m.From+" > "+m.To)
	}
	slices.Sort(all)
	return all
}

// TestBringsNoOtherLanguage says so where nothing is of the kind that a layout is for.
func TestBringsNoOtherLanguage(t *testing.T) {
	root := treetest.Make(t, map[string]string{"requirements.txt": "flask\n", "site.py": "from flask import Flask\napp = Flask(__name__)\n"})
	for layout, becomes := range map[string]bool{"go/service": false, "flask/package": true} {
		_, err := app.Realign(t.Context(), root, app.RealignOptions{Options: app.Options{Layout: layout}, Least: finding.Warning, Findings: true})
		if (err == nil) != becomes {
			t.Errorf("%s: %v", layout, err)
		}
	}
}

// TestConstantsFollow moves a file of Ruby whose constant its path spells: it says where it
// lies then, unless a name would no longer be found.
func TestConstantsFollow(t *testing.T) {
	for name, c := range map[string]struct {
		pilot, other string
		want         string // what the moved file says, "" where it is left to people
		also         string // what the other one says then, "" for no change
	}{
		"modules around a class":            {"module Crew\n  class Pilot < ApplicationRecord\n    WATCH = 4\n  end\nend\n", "", "module Harbour\n  class Pilot < ApplicationRecord\n    WATCH = 4\n  end\nend\n", ""},
		"a name found by what is around it": {"module Crew\n  class Pilot < Person\n  end\nend\n", "module Crew\n  class Person < ApplicationRecord\n  end\nend\n", "", ""},
		"another file names it in full":     {"module Crew\n  class Pilot < ApplicationRecord\n  end\nend\n", "module Crew\n  class Person < Crew::Pilot\n  end\nend\n", "module Harbour\n  class Pilot < ApplicationRecord\n  end\nend\n", "module Crew\n  class Person < Harbour::Pilot\n  end\nend\n"},
	} {
		files := map[string]string{
			"Gemfile": "source \"https://rubygems.org\"\ngem \"rails\", \"~> 8.1\"\n", "config/application.rb": "module Ferry\n  class Application < Rails::Application\n  end\nend\n", "config/routes.rb": "Rails.application.routes.draw do\nend\n",
			"app/models/application_record.rb": "class ApplicationRecord < ActiveRecord::Base\nend\n", "app/models/crew/pilot.rb": c.pilot,
		}
		if c.other != "" {
			files["app/models/crew/person.rb"] = c.other
		}
		root := treetest.Make(t, files)
		r, err := app.Realign(t.Context(), root, app.RealignOptions{Options: app.Options{Layout: "rails/app"}, Moves: []changes.Move{{From: "app/models/crew/pilot.rb", To: "app/models/harbour/pilot.rb"}}})
		if err != nil {
			t.Fatal(err)
		}
		all, err := app.Changes(r.Workspace, &r.Plan.Plan)
		if err != nil || len(all) != 1 && c.also == "" {
			t.Fatal(all, err)
		}
		if c.also != "" && (len(all) != 2 || string(all[0].New) != c.also) {
			t.Errorf("%s: %v", name, all)
		}
		if got := string(all[len(all)-1].New); c.want != "" && (got != c.want || len(r.Remarks) > 0) || c.want == "" && (got != c.pilot || len(r.Remarks) == 0) {
			t.Errorf("%s: %s%v", name, got, r.Remarks)
		}
	}
}

// TestFellows: tests and declarations beside a file go with it, unless somebody says
// otherwise; what a program makes is told not to follow.
func TestFellows(t *testing.T) {
	files := map[string]string{"package.json": "{}", "lib/berth.js": "module.exports = 1\n", "lib/berth.d.ts": "export {}\n", "lib/berth.test.js": "require('./berth')\n", "lib/berth.css": "", "lib/berths.js": "require('./berth')\n",
		"dist/all.js": "require('./one')\n", "dist/one.js": "\n"}
	for call, want := range map[string][]string{
		"lib/berth.js lib/quay/pier.js":                                       {"lib/berth.d.ts > lib/quay/pier.d.ts", "lib/berth.js > lib/quay/pier.js", "lib/berth.test.js > lib/quay/pier.test.js"},
		"lib/berth.js lib/quay/berth.js lib/berth.test.js test/berth.test.js": {"lib/berth.d.ts > lib/quay/berth.d.ts", "lib/berth.js > lib/quay/berth.js", "lib/berth.test.js > test/berth.test.js"},
		"lib/berth.js lib/pier.js":                                            {"lib/berth.js > lib/pier.js"},
		"dist/one.js dist/two/one.js":                                         {"dist/one.js > dist/two/one.js", "dist/one.js:1 it lies in what npm run build makes; no reference in there follows"},
	} {
		o := app.RealignOptions{}
		words := strings.Fields(call)
		for i := 0; i < len(words); i += 2 {
			o.Moves = append(o.Moves, changes.Move{From: words[i], To: words[i+1]})
		}
		r, err := app.Realign(t.Context(), treetest.Make(t, files), o)
		if err != nil {
			t.Fatal(err)
		}
		var got []string
		for _, m := range r.Moves {
			got = append(got, m.From+" > "+m.To)
		}
		slices.Sort(got)
		for _, rm := range r.Remarks {
			got = append(got, fmt.Sprintf("%s:%d %s", rm.Path, rm.Line, rm.Says))
		}
		if !slices.Equal(got, want) {
			t.Errorf("%s: %q, not %q", call, got, want)
		}
	}
}
