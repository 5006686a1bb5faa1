package app_test

import (
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/changes"
	"dicaxon/internal/finding"
	"dicaxon/internal/treetest"
)

// TestConversions brings projects from one layout of a framework to another by what is of one kind in
// both: by roles to by units and back, one script to a package, tests to what they test.
func TestConversions(t *testing.T) {
	t.Parallel()
	router := "from fastapi import APIRouter\n\nrouter = APIRouter()\n"
	area := "from fastapi import APIRouter\n\nfrom src.%s import service\n\nrouter = APIRouter()\n"
	areas := map[string]string{"requirements.txt": "fastapi\n", "src/__init__.py": "", "src/main.py": "from fastapi import FastAPI\n\nfrom src.berths.router import router\n\napp = FastAPI()\napp.include_router(router)\n",
		"src/berths/__init__.py": "", "src/berths/router.py": strings.ReplaceAll(area, "%s", "berths"), "src/berths/service.py": "def free():\n    return 4\n", "src/berths/models.py": "class Berth:\n    pass\n", "src/models.py": "class Base:\n    pass\n"}
	redux := `{"name": "ferry", "dependencies": {"react": "^19.0.0", "react-dom": "^19.0.0", "react-redux": "^9.0.0", "redux": "^5.0.0"}}`
	roles := map[string]string{"package.json": redux, "index.html": "<!doctype html><div id=app></div>\n", "src/index.jsx": "import { createRoot } from 'react-dom/client';\nimport App from './App.jsx';\ncreateRoot(document.body).render(<App />);\n",
		"src/App.jsx":                          "import TideList from './containers/TideListContainer.jsx';\nexport default function App() {\n  return <TideList />;\n}\n",
		"src/actions/tides.js":                 "export const asked = () => ({ type: 'asked' });\n",
		"src/reducers/tidesReducer.js":         "export default function tides(state = [], action) {\n  switch (action.type) {\n    default:\n      return state;\n  }\n}\n",
		"src/reducers/tidesReducer.test.js":    "import tides from './tidesReducer.js';\n",
		"src/reducers/index.js":                "import { combineReducers } from 'redux';\nimport tides from './tidesReducer.js';\nexport default combineReducers({ tides });\n",
		"src/store.js":                         "import { createStore } from 'redux';\nimport all from './reducers/index.js';\nexport default createStore(all);\n",
		"src/containers/TideListContainer.jsx": "import { connect } from 'react-redux';\nimport { asked } from '../actions/tides.js';\nimport Table from '../components/Table.jsx';\nexport default connect(null, { asked })(Table);\n",
		"src/components/Table.jsx":             "import './Table.css';\nexport default function Table() {\n  return <ul />;\n}\n", "src/components/Table.css": "ul {}\n"}
	for name, c := range map[string]struct {
		layout       string
		files        map[string]string
		moves, makes []string
		drops        []string
		text         map[string]string // of files afterwards, by their names of then
	}{
		"modules of routes become areas": {"fastapi/areas", map[string]string{"requirements.txt": "fastapi\n", "app/__init__.py": "", "app/main.py": "from fastapi import FastAPI\n\nfrom app.routers import berths, tides  # noqa\n\napp = FastAPI()\napp.include_router(berths.router)\napp.include_router(tides.router)\n",
			"app/routers/__init__.py": "", "app/routers/berths.py": "from fastapi import APIRouter\n\nfrom app.schemas.berth import Berth\n\nrouter = APIRouter(tags=[\"berths\"])\n", "app/routers/tides.py": router, "app/schemas/__init__.py": "# Shapes.\n", "app/schemas/berth.py": "from pydantic import BaseModel\n\n\nclass Berth(BaseModel):\n    number: int\n"},
			[]string{"app/routers/berths.py > app/berths/router.py", "app/routers/tides.py > app/tides/router.py", "app/schemas/berth.py > app/berths/schemas.py"}, []string{"app/berths/__init__.py", "app/tides/__init__.py"}, []string{"app/routers/__init__.py"},
			map[string]string{"app/main.py": "from fastapi import FastAPI\n\nfrom app.berths import router as berths  # noqa\nfrom app.tides import router as tides  # noqa\n\napp = FastAPI()\napp.include_router(berths.router)\napp.include_router(tides.router)\n"}},
		"areas become modules by role, and what a module beside would hide stays": {"fastapi/routers", areas,
			[]string{"src/berths/router.py > src/routers/berths.py", "src/berths/service.py > src/services/berths.py"}, []string{"src/routers/__init__.py", "src/services/__init__.py"}, nil, nil},
		"roles become features": {"react/features", roles,
			[]string{"src/actions/tides.js > src/features/tides/actions.js", "src/components/Table.css > src/features/tides/components/Table.css", "src/components/Table.jsx > src/features/tides/components/Table.jsx",
				"src/containers/TideListContainer.jsx > src/features/tides/containers/TideListContainer.jsx", "src/reducers/index.js > src/rootReducer.js", "src/reducers/tidesReducer.js > src/features/tides/state.js", "src/reducers/tidesReducer.test.js > src/features/tides/state.test.js"},
			nil, nil, nil},
		"blueprints become areas": {"flask/areas", map[string]string{"requirements.txt": "flask\n", "ferry/__init__.py": "from flask import Flask\n\n\ndef create_app():\n    app = Flask(__name__)\n    from . import auth, tides\n    app.register_blueprint(auth.bp)\n    app.register_blueprint(tides.bp)\n    return app\n",
			"ferry/auth.py": "from flask import Blueprint\n\nbp = Blueprint(\"auth\", __name__)\n\n\n@bp.route(\"/in\")\ndef enter():\n    return \"\"\n", "ferry/tides.py": "from flask import Blueprint\n\nbp = Blueprint(\"tides\", __name__)\n\n\n@bp.route(\"/\")\ndef index():\n    return \"\"\n", "ferry/templates/base.html": "{{ 1 }}\n"},
			[]string{"ferry/auth.py > ferry/auth/views.py", "ferry/tides.py > ferry/tides/views.py"}, []string{"ferry/auth/__init__.py", "ferry/tides/__init__.py"}, nil, nil},
		"the modules of a script become a package, and what is started stays": {"python/package", map[string]string{"README.md": "# Tides\n", "requirements.txt": "numpy\n", "report.py": "import numpy\n\nimport readers\n\nif __name__ == \"__main__\":\n    readers.read(numpy)\n", "readers.py": "def read(at):\n    return at\n", "tests/test_readers.py": "from readers import read\n\n\ndef test():\n    read(1)\n"},
			[]string{"readers.py > ferry/readers.py"}, []string{"ferry/__init__.py"}, nil, map[string]string{"report.py": "import numpy\n\nimport ferry.readers\n\nif __name__ == \"__main__\":\n    ferry.readers.read(numpy)\n"}},
		"tests go to what they test": {"javascript/beside", map[string]string{"package.json": `{"name": "ferry", "main": "lib/index.js", "scripts": {"test": "node --test"}}`, "lib/index.js": "exports.tide = require('./sea/tide');\n", "lib/sea/tide.js": "module.exports = 1;\n", "test/tide.test.js": "require('../lib/sea/tide');\n", "test/whole.test.js": "require('../lib');\n"},
			[]string{"test/tide.test.js > lib/sea/tide.test.js"}, nil, nil, nil},
		"a flat program becomes packages": {"go/service", map[string]string{"go.mod": "module harbour.example/ferryd\n\ngo 1.26\n", "README.md": "# Ferryd\n", ".gitignore": "bin/\n", "main.go": "package main\n\nimport \"net/http\"\n\nfunc main() {\n\tif err := http.ListenAndServe(read().address, routes()); err != nil {\n\t\tpanic(err)\n\t}\n}\n",
			"settings.go": "package main\n\nimport \"os\"\n\ntype settings struct{ address string }\n\nfunc read() settings { return settings{os.Getenv(\"ADDRESS\")} }\n",
			"tides.go":    "package main\n\nimport (\n\t\"fmt\"\n\t\"net/http\"\n)\n\nfunc routes() http.Handler {\n\treturn http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) { fmt.Fprint(w, tide{height: 3}.high()) })\n}\n",
			"tide.go":     "package main\n\ntype tide struct{ height int }\n\nfunc (t tide) high() bool { return t.height > 2 }\n", "tide_test.go": "package main\n\nimport \"testing\"\n\nfunc TestHigh(t *testing.T) {\n\tif !(tide{height: 3}).high() {\n\t\tt.Fail()\n\t}\n}\n"},
			[]string{"main.go > cmd/ferryd/main.go", "settings.go > internal/config/settings.go", "tide.go > internal/model/tide.go", "tide_test.go > internal/model/tide_test.go", "tides.go > internal/handler/tides.go"}, nil, nil,
			map[string]string{"internal/handler/tides.go": "package handler\n\nimport (\n\t\"fmt\"\n\t\"net/http\"\n\n\t\"harbour.example/ferryd/internal/model\"\n)\n\nfunc Routes() http.Handler {\n\treturn http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) { fmt.Fprint(w, model.Tide{Height: 3}.High()) })\n}\n"}},
		"actions come to slices with routes, constants and specs, but for what asks for what stays": {"hanami/slices", map[string]string{"Gemfile": "gem \"hanami\", \"~> 2.3\"\n", "config.ru": "run Hanami.app\n", "config/app.rb": "module Harbour\n  class App < Hanami::App\n  end\nend\n",
			"config/routes.rb": "module Harbour\n  class Routes < Hanami::Routes\n    root to: \"berths.index\"\n    get \"/berths/:id\", to: \"berths.show\", as: :berth\n    get \"/office/berths\", to: \"office.berths.index\"\n    delete \"/office/berths/:id\", to: \"office.berths.remove\"\n    get \"/office\", to: \"office.berths.first\", as: :office\n  end\nend\n",
			"app/action.rb":    "module Harbour\n  class Action < Hanami::Action\n  end\nend\n", "app/view.rb": "module Harbour\n  class View < Hanami::View\n  end\nend\n",
			"app/actions/berths/index.rb":         "module Harbour\n  module Actions\n    module Berths\n      class Index < Harbour::Action\n      end\n    end\n  end\nend\n",
			"app/actions/berths/show.rb":          "module Harbour\n  module Actions\n    module Berths\n      class Show < Harbour::Action\n        include Deps[\"operations.free\"]\n      end\n    end\n  end\nend\n",
			"app/actions/office/berths/index.rb":  "module Harbour\n  module Actions\n    module Office\n      module Berths\n        class Index < Harbour::Action\n          def handle(request, response)\n            response.body = \"all\"\n          end\n        end\n      end\n    end\n  end\nend\n",
			"app/actions/office/berths/remove.rb": "module Harbour\n  module Actions\n    module Office::Berths\n      class Remove < Harbour::Action\n      end\n    end\n  end\nend\n",
			"app/actions/office/berths/first.rb":  "module Harbour\n  module Actions\n    module Office::Berths\n      class First < Harbour::Action\n      end\n    end\n  end\nend\n",
			"app/operations/free.rb":              "module Harbour\n  module Operations\n    class Free\n      def call = 4\n    end\n  end\nend\n",
			"spec/spec_helper.rb":                 "require \"hanami/prepare\"\n", "spec/actions/office/berths/index_spec.rb": "RSpec.describe Harbour::Actions::Office::Berths::Index do\nend\n"},
			[]string{"app/actions/office/berths/first.rb > slices/office/actions/berths/first.rb", "app/actions/office/berths/index.rb > slices/office/actions/berths/index.rb", "app/actions/office/berths/remove.rb > slices/office/actions/berths/remove.rb", "spec/actions/office/berths/index_spec.rb > spec/slices/office/actions/berths/index_spec.rb"}, nil, nil,
			map[string]string{"config/routes.rb": "module Harbour\n  class Routes < Hanami::Routes\n    root to: \"berths.index\"\n    get \"/berths/:id\", to: \"berths.show\", as: :berth\n    slice :office, at: \"/office\" do\n      get \"/berths\", to: \"berths.index\"\n      delete \"/berths/:id\", to: \"berths.remove\"\n    end\n    slice :office, at: \"/\" do\n      get \"/office\", to: \"berths.first\", as: :office\n    end\n  end\nend\n",
				"slices/office/actions/berths/index.rb":           "module Office\n  module Actions\n    module Berths\n      class Index < Harbour::Action\n        def handle(request, response)\n          response.body = \"all\"\n        end\n      end\n    end\n  end\nend\n",
				"slices/office/actions/berths/remove.rb":          "module Office\n  module Actions\n    module Berths\n      class Remove < Harbour::Action\n      end\n    end\n  end\nend\n",
				"spec/slices/office/actions/berths/index_spec.rb": "RSpec.describe Office::Actions::Berths::Index do\nend\n"}},
		"models come to the schemas they build, staging to its sources, settings and descriptions with them": {"dbt/layers", map[string]string{"dbt_project.yml": "name: harbour\nprofile: harbour\nmodels:\n  harbour:\n    staging:\n      +materialized: view\n    core:\n      +schema: warehouse\n",
			"models/staging/stg_berths.sql": "select id from {{ source('quays', 'berths') }}\n", "models/staging/stg_tides.sql": "select at from {{ source(\"sea\", \"tides\") }}\n", "models/staging/stg_both.sql": "select 1 from {{ source('sea', 'tides') }} join {{ source('quays', 'berths') }}\n",
			"models/core/fct_stays.sql": "select 1 from {{ ref('stg_berths') }} join {{ ref('stg_tides') }}\n", "models/core/dim_berths.sql": "select 1 from {{ ref('stg_berths') }}\n", "models/sources.yml": "version: 2\nsources:\n  - name: quays\n    tables:\n      - name: berths\n  - name: sea\n    tables:\n      - name: tides\n", "models/schema.yml": "version: 2\nmodels:\n  - name: fct_stays\n  - name: dim_berths\n"},
			[]string{"models/core/dim_berths.sql > models/warehouse/dim_berths.sql", "models/core/fct_stays.sql > models/warehouse/fct_stays.sql", "models/schema.yml > models/warehouse/_warehouse__models.yml", "models/sources.yml > models/sources/sources.yml", "models/staging/stg_berths.sql > models/staging/quays/stg_quays__berths.sql", "models/staging/stg_tides.sql > models/staging/sea/stg_sea__tides.sql"}, []string{"models/marts/.gitkeep"}, nil,
			map[string]string{"models/warehouse/fct_stays.sql": "select 1 from {{ ref('stg_quays__berths') }} join {{ ref('stg_sea__tides') }}\n", "dbt_project.yml": "name: harbour\nprofile: harbour\nmodels:\n  harbour:\n    staging:\n      +materialized: view\n    warehouse:\n      +schema: warehouse\n"}},
		"settings of a folder hold back what would leave it one by one": {"dbt/layers", map[string]string{"dbt_project.yml": "name: harbour\nprofile: harbour\nmodels:\n  harbour:\n    core:\n      +schema: warehouse\n",
			"models/staging/stg_berths.sql": "select id from {{ source('quays', 'berths') }}\n", "models/sources/quays.yml": "version: 2\nsources:\n  - name: quays\n    tables:\n      - name: berths\n",
			"models/core/dim_berths.sql": "select 1 from {{ ref('stg_berths') }}\n", "models/core/busy.sql": "select 1 from {{ ref('dim_berths') }}\n", "models/marts/free.sql": "select 1 from {{ ref('dim_berths') }}\n"},
			nil, nil, nil, nil},
		"a program stays with what stays": {"go/service", map[string]string{"go.mod": "module harbour.example/ferryd\n\ngo 1.26\n", "README.md": "# Ferryd\n", ".gitignore": "bin/\n", "main.go": "package main\n\nimport \"net/http\"\n\nfunc main() {\n\t_ = http.StatusOK\n\tprintln(round(tide{}.height))\n}\n",
			"tide.go": "package main\n\ntype tide struct{ height float64 }\n", "round.go": "package main\n\nfunc round(f float64) int { return int(f + 0.5) }\n"},
			[]string{"tide.go > internal/model/tide.go"}, nil, nil, nil},
	} {
		t.Run(name, func(t *testing.T) {
			root := filepath.Join(t.TempDir(), "ferry")
			treetest.Add(t, root, c.files)
			r, err := app.Realign(t.Context(), root, app.RealignOptions{Options: app.Options{Layout: c.layout}, Least: finding.Warning, Findings: true})
			if err != nil {
				t.Fatal(err)
			}
			moves, makes := movesOf(r), []string(nil)
			for _, m := range r.Makes {
				makes = append(makes, m.Path)
			}
			slices.Sort(makes)
			if !slices.Equal(moves, c.moves) || !slices.Equal(makes, c.makes) || !slices.Equal(r.Drops, c.drops) {
				t.Errorf("moves %q, makes %q, drops %q; left %v", moves, makes, r.Drops, r.Left)
			}
			if _, err := r.Plan.Plan.Write(t.Context(), root, realigning); err != nil && !r.Empty() {
				t.Fatal(err)
			}
			now := texts(t, root)
			for at, text := range c.text {
				if now[at] != text {
					t.Errorf("%s becomes\n%s", at, now[at])
				}
			}
		})
	}
}

// TestConversionsOfLivingExamples brings each living example to every other layout of its framework:
// nothing leads nowhere then, no error is new, a second call has nothing to do, and undo gives all back.
func TestConversionsOfLivingExamples(t *testing.T) {
	t.Parallel()
	variants := map[string][]string{"fastapi": {"fastapi/areas", "fastapi/routers"}, "flask": {"flask/areas", "flask/module", "flask/package"}, "react": {"react/features", "react/roles"}, "flutter": {"flutter/features", "flutter/screens"},
		"go": {"go/command", "go/service"}, "laravel": {"laravel/models-folder"}, "javascript": {"javascript/apart", "javascript/beside"}, "dbt": {"dbt/domains", "dbt/layers"}, "hanami": {"hanami/app", "hanami/slices"}, "dotnet": {"dotnet/controllers", "dotnet/endpoints"}}
	files, err := filepath.Glob(examples)
	if err != nil {
		t.Fatal(err)
	}
	all, moved := 0, 0
	for _, file := range files {
		e := readExample(t, file)
		for _, to := range variants[strings.Split(e.layout, "/")[0]] {
			if to == e.layout || testing.Short() && all%4 != 0 {
				continue
			}
			all++
			root := treetest.Make(t, e.files)
			o := app.RealignOptions{Options: app.Options{Layout: to}, Least: finding.Warning, Findings: true}
			original, errors, lost := texts(t, root), errorsOf(t, root, to), dangling(t, root, to)
			r, err := app.Realign(t.Context(), root, o)
			if err != nil {
				continue // nothing in it is of that layout
			}
			if r.Empty() {
				continue
			}
			if _, err := r.Plan.Plan.Write(t.Context(), root, realigning); err != nil {
				t.Fatalf("%s to %s: %v", file, to, err)
			}
			moved += len(r.Moves)
			if n := dangling(t, root, to); n > lost {
				t.Errorf("%s to %s: %d references lead nowhere", file, to, n-lost)
			}
			if n := errorsOf(t, root, to); n > errors {
				t.Errorf("%s to %s: %d errors, and before %d", file, to, n, errors)
			}
			again, err := app.Realign(t.Context(), root, o)
			if err != nil || !again.Empty() {
				t.Errorf("%s to %s: a second call has still to do %v %v %v", file, to, again.Moves, again.Makes, err)
			}
			if _, err := changes.Undo(t.Context(), root, false); err != nil {
				t.Errorf("%s to %s: %v", file, to, err)
			}
			if d := difference(original, texts(t, root)); d != "" {
				t.Errorf("%s to %s: undone, it differs:\n%s", file, to, d)
			}
		}
	}
	t.Logf("%d examples brought to another layout, %d moves", all, moved)
	if moved < 2*all && !testing.Short() {
		t.Error("too little goes anywhere")
	}
}

// errorsOf counts the errors that a check tells.
func errorsOf(t *testing.T, root, layout string) int {
	t.Helper()
	r, err := app.Check(t.Context(), root, app.Options{Layout: layout})
	if err != nil {
		t.Fatal(err)
	}
	return r.Totals.Error
}
