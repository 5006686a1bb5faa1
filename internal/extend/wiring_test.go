package extend

import (
	"testing"

	"dicaxon/internal/edit"
)

// TestWired holds where the lines for a new unit go: beside those of another, in its words;
// where there is none, behind the line that stands before them in the starter.
func TestWired(t *testing.T) {
	const without = "from flask import Flask\n\napp = Flask(__name__)\n"
	const with = "from flask import Flask\n\nfrom app import harbour_lights\n\napp = Flask(__name__)\napp.mount(harbour_lights.blueprint, \"/harbour-lights\")\n"
	for name, c := range map[string]struct {
		text  string
		known []string
		want  string
	}{
		"beside another, in the project's words": {"import app.tides as t\nsite.mount(tides.bp, \"/tides\")\n", []string{"tides"},
			"import app.tides as t\nsite.mount(tides.bp, \"/tides\")\nsite.mount(harbour_lights.bp, \"/harbour_lights\")\n"},
		"as the starter writes it": {"app.mount(tides.blueprint, \"/tides\")\n", []string{"tides"},
			"app.mount(tides.blueprint, \"/tides\")\napp.mount(harbour_lights.blueprint, \"/harbour-lights\")\n"},
		"the first of its kind": {"from flask import Flask\n\napp = Flask(__name__)\n", nil,
			"from flask import Flask\nfrom app import harbour_lights\n\napp = Flask(__name__)\napp.mount(harbour_lights.blueprint, \"/harbour-lights\")\n"},
		"nowhere to put it":              {"print(1)\n", nil, "print(1)\n"},
		"one line that is no list":       {"start = \"/tides\"\n", []string{"tides"}, "start = \"/tides\"\n"},
		"two that show that each has it": {"start(\"/tides\")\nstart(\"/crews\")\n", []string{"tides", "crews"}, "start(\"/tides\")\nstart(\"/crews\")\nstart(\"/harbour_lights\")\n"},
	} {
		got, err := edit.Apply([]byte(c.text), wired("app.py", c.text, with, without, c.known, "harbour_lights"))
		if string(got) != c.want {
			t.Errorf("%s: %v\n%s\nand not\n%s", name, err, got, c.want)
		}
	}
}

// TestItemsOfSeveralLines puts an item of a list of YAML in whole, and nothing where its place is not plain.
func TestItemsOfSeveralLines(t *testing.T) {
	const without = "tasks:\n  - name: Use tides\n    use:\n      name: tides\n"
	const with = without + "  - name: Use lookouts\n    use:\n      name: lookouts\n"
	for text, want := range map[string]string{
		without:                           with,
		"x: 1\n" + without + "after: 2\n": "x: 1\n" + with + "after: 2\n",
		"tasks:\n  - use: tides\n":        "tasks:\n  - use: tides\n",
		with:                              with,
	} {
		got, err := edit.Apply([]byte(text), wired("site.yml", text, with, without, []string{"tides"}, "lookouts"))
		if string(got) != want {
			t.Errorf("%v\n%s\nand not\n%s", err, got, want)
		}
	}
}

// TestListsGrow gives a line of the starter that lists all units one more, and not the file a second line.
func TestListsGrow(t *testing.T) {
	const without, with = "name = 1\npath = [\"a/src\", \"b/src\"]\n", "name = 1\npath = [\"a/src\", \"b/src\", \"c/src\"]\n"
	for text, want := range map[string]string{
		"name = 1\npath = [\"b/src\", \"a/src\"]\n": "name = 1\npath = [\"b/src\", \"a/src\", \"c/src\"]\n",
		"name = 1\npath = []\n":                     "name = 1\npath = [\"c/src\"]\n",
		"name = 1\npath = [\n  \"a/src\",\n]\n":     "name = 1\npath = [\n  \"a/src\",\n]\n",
	} {
		got, err := edit.Apply([]byte(text), fromStarter("a.toml", text, with, without))
		if string(got) != want {
			t.Errorf("%v\n%s\nand not\n%s", err, got, want)
		}
	}
}

// TestInWords holds that the words of a unit in a text for people become those of the new one, once.
func TestInWords(t *testing.T) {
	for _, tt := range []struct{ line, known, value, want string }{
		{`name: "Berth plans",`, "berthPlans", "harbour-lights", `name: "Harbour lights",`},
		{`what berth plans are`, "berth_plans", "Lookouts", `what lookouts are`},
		{`name: "Sailings",`, "sailings", "lookouts", `name: "Sailings",`},
		{`Berth plans`, "berth_plans", "old berth plans", `Old berth plans`},
	} {
		if got := inWords(tt.line, []string{tt.known}, tt.value); got != tt.want {
			t.Errorf("%s with %s: %q, want %q", tt.line, tt.value, got, tt.want)
		}
	}
}
