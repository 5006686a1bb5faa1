package rules

import (
	"slices"
	"testing"
)

// TestByHand is of what people leave behind when they move and rename by hand.
func TestByHand(t *testing.T) {
	quays := `{"autoload": {"psr-4": {"App\\": "app/", "Gannet\\Quays\\": "src/"}}}`
	for _, c := range []struct {
		what, rule string
		files      files
		want       []string
	}{
		{"a package that all call by nearly its name", "- {rule: dangling}", files{
			"pyproject.toml":     "[project]\nname = \"quays\"\ndependencies = [\"flask\"]\n",
			"quay/__init__.py":   "def table():\n    return 1\n",
			"quay/tides.py":      "from quays import table\ntable()\n",
			"tests/test_quay.py": "from quays import table\ntable()\n",
		}, []string{"misnamed quay/"}},
		{"a package that one file calls otherwise", "- {rule: dangling}", files{
			"pyproject.toml":     "[project]\nname = \"ferry\"\ndependencies = [\"flask\"]\n",
			"quay/__init__.py":   "def table():\n    return 1\n",
			"quay/tides.py":      "from quay import table\ntable()\n",
			"tests/test_quay.py": "from quays import table\ntable()\n",
		}, []string{"dangling tests/test_quay.py:1"}},
		{"a package of others that is called nearly as one here", "- {rule: dangling}", files{
			"requirements.txt": "quays==1.0\n",
			"quay/__init__.py": "def table():\n    return 1\n",
			"quay/tides.py":    "from quays import chart\nchart()\n",
			"run.py":           "from quays import chart\nimport quay\nchart(quay)\n",
		}, nil},
		{"a class of the application whose folder is gone", "- {rule: dangling}", files{
			"composer.json":      quays,
			"app/Desk.php":       "<?php\nnamespace App;\nuse App\\Models\\Berth;\nuse Gannet\\Quays\\Charts\\Chart;\nclass Desk { public Berth $berth; public Chart $chart; }\n",
			"src/Register.php":   "<?php\nnamespace Gannet\\Quays;\nclass Register {}\n",
			"app/Http/Board.php": "<?php\nnamespace App\\Http;\nclass Board {}\n",
		}, []string{"dangling app/Desk.php:3"}},
		{"a name of the project's own with two colons", "- {rule: names, files: 'app/*.rb', by: '< ([\\w:]+)', own: ['settings.rb~module (\\w+)'], to: 'app/{_}.rb', folder-there: true, here-only: true}", files{
			"settings.rb":  "module Quays\nend\n",
			"app/desk.rb":  "class Desk < Quays::Action\nend\n",
			"app/board.rb": "class Board < Others::Action\nend\n",
			"app/list.rb":  "class List < Quays::Desk\nend\n",
		}, []string{"dangling app/desk.rb:1"}},
		{"a copy is looked for by its name", "- {rule: copies}", files{
			"areas/berths.py":         "def show():\n    return 1\n",
			"areas/berths copy 2.py":  "def show():\n    return 2\n",
			"areas/berths - Copy.py":  "def show():\n    return 2\n",
			"areas/copy.py":           "def show():\n    return 3\n",
			"areas/older.py":          "def show():\n    return 3\n",
			"areas/tides.bak":         "nothing is beside it\n",
			"areas/threshold_old.py":  "nothing is beside it\n",
			"testdata/a.txt":          "x\n",
			"testdata/a.txt.bak":      "x\n",
			"areas/altogether.min.js": "x()\n",
		}, []string{"leftover areas/berths - Copy.py", "leftover areas/berths copy 2.py"}},
	} {
		if got := checked(t, c.rule, c.files); !slices.Equal(got, c.want) {
			t.Errorf("%s\n got %q\nwant %q", c.what, got, c.want)
		}
	}
}
