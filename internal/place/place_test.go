package place_test

import (
	"strings"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/treetest"
)

var ferry = map[string]string{
	"requirements.txt": "flask\n", "run.py": "from ferry import create_app\n\napp = create_app()\n", "config.py": "",
	"ferry/__init__.py":                        "from flask import Flask\n\nfrom ferry import berths, tides\n\n\ndef create_app():\n    app = Flask(__name__)\n    app.register_blueprint(berths.blueprint)\n    app.register_blueprint(tides.blueprint)\n    return app\n",
	"ferry/berths/__init__.py":                 "from flask import Blueprint\n\nblueprint = Blueprint(\"berths\", __name__)\n\nfrom ferry.berths import views\n",
	"ferry/berths/views.py":                    "from ferry.berths import blueprint\n\n\n@blueprint.get(\"/\")\ndef index():\n    return \"\"\n",
	"ferry/berths/templates/berths/index.html": "", "ferry/tides/templates/tides/index.html": "",
	"ferry/tides/__init__.py":   "from flask import Blueprint\n\nblueprint = Blueprint(\"tides\", __name__)\n\nfrom ferry.tides import views\n",
	"ferry/tides/views.py":      "from ferry.tides import blueprint\n\n\n@blueprint.get(\"/\")\ndef index():\n    return \"\"\n",
	"ferry/templates/base.html": "", "ferry/static/site.css": "", "tests/test_berths.py": "from ferry.berths import views\n", "tests/test_tides.py": "from ferry.tides import views\n",
	"ferry/berths/view.html": "<p>",
}

// TestPlace holds the first place that is named, and what is asked back.
func TestPlace(t *testing.T) {
	root := treetest.Make(t, ferry)
	for asked, want := range map[string]string{
		"tides/card.html":            "ferry/tides/templates/card.html",
		"card.html":                  "ferry/<area>/templates/<area>/card.html ?area",
		"test_crews.py":              "tests/test_crews.py",
		"models.py":                  "ferry/<area>/models.py ?area",
		"extra.css":                  "ferry/static/extra.css",
		"pages that areas share":     "ferry/templates/",
		"routes of the tides":        "ferry/tides/views.py",
		"routes of crews":            "ferry/<area>/views.py ?area",
		"ferry/berths/views.py":      "ferry/berths/views.py home",
		"ferry/berths/view.html":     "ferry/berths/templates/berths/view.html",
		"x.zzz":                      "",
		"helper for quantum physics": "",
	} {
		a, err := app.Place(t.Context(), root, asked, app.Options{})
		if err != nil {
			t.Fatal(err)
		}
		var all []string
		for _, p := range a.Places {
			all = append(all, p.Path)
		}
		got := strings.Join(all, " ")
		if len(all) > 0 && !strings.HasPrefix(want, "ferry/static") {
			got = all[0]
		}
		if a.Unit != "" && !strings.HasPrefix(want, "ferry/static") {
			got += " ?" + a.Unit
		}
		if a.Home {
			got += " home"
		}
		if got != want && !(strings.HasPrefix(want, "ferry/static") && strings.Contains(got, want)) {
			t.Errorf("%s: %s and not %s", asked, got, want)
		}
		if len(a.Places) > 3 {
			t.Errorf("%s: %d places", asked, len(a.Places))
		}
	}
}
