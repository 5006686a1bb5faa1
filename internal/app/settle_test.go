package app

import (
	"context"
	"slices"
	"testing"

	"dicaxon/internal/changes"
	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/realign"
	"dicaxon/internal/treetest"
)

// TestWhatIsLeftStaysTold: what cannot be done beside something else is told also where a
// later round leaves out more.
func TestWhatIsLeftStaysTold(t *testing.T) {
	root := treetest.Make(t, map[string]string{
		"package.json": `{"name": "ferry", "type": "module"}`,
		"index.js":     "import './tides.js'\n",
		"tides.js":     "export {}\n", "berths.js": "export {}\n", "crew.js": "export {}\n",
	})
	r, err := checked(context.Background(), root, Options{})
	if err != nil {
		t.Fatal(err)
	}
	move := func(from, to string) realign.Group {
		return realign.Group{Kind: finding.Misplaced, Path: from, Says: from, Moves: []changes.Move{{From: from, To: to}}}
	}
	breaks := realign.Group{Kind: finding.Dangling, Path: "index.js", Says: "index.js", Edits: []edit.Edit{
		{Path: "index.js", Start: 8, End: 18, Text: "./nowhere.js"},
	}}
	plan, err := (&settling{ctx: context.Background(), before: r}).on([]realign.Group{move("berths.js", "port.js"), move("crew.js", "port.js"), breaks}, nil)
	if err != nil {
		t.Fatal(err)
	}
	var left []string
	for _, l := range plan.Left {
		left = append(left, l.Path)
	}
	if len(left) != 2 || left[0] != "crew.js" || left[1] != "index.js" || len(plan.Groups) != 1 {
		t.Errorf("left: %v; done: %d", left, len(plan.Groups))
	}
}

// TestFoldersThatAllLeave: a folder is not moved first, to another name, if all that it holds
// has its place elsewhere; then a second round has nothing to do.
func TestFoldersThatAllLeave(t *testing.T) {
	root := treetest.Make(t, map[string]string{"old/a/x": "", "old/b": "", "part/c": "", "part/d": ""})
	r, err := checked(context.Background(), root, Options{})
	if err != nil {
		t.Fatal(err)
	}
	var groups []realign.Group
	for _, m := range []changes.Move{{From: "old/", To: "new/"}, {From: "old/a/x", To: "x"}, {From: "old/b", To: "b"}, {From: "part/", To: "parts/"}, {From: "part/c", To: "c"}} {
		groups = append(groups, realign.Group{Kind: finding.Misplaced, Path: m.From, Moves: []changes.Move{m}})
	}
	plan := realign.Compose(context.Background(), r.Workspace, groups, nil)
	var done []string
	for _, m := range plan.Moves {
		done = append(done, m.From)
	}
	if want := []string{"old/a/x", "old/b", "part/"}; !slices.Equal(done, want) || len(plan.Left) != 1 {
		t.Errorf("moves %q, not %q; left %v", done, want, plan.Left)
	}
}

// TestChangesSayModes: what is made to be run is so in the patch too, and what goes is
// shown with its text.
func TestChangesSayModes(t *testing.T) {
	root := treetest.Make(t, map[string]string{"package.json": "{}", "log/.keep": "kept\n"})
	r, err := checked(context.Background(), root, Options{})
	if err != nil {
		t.Fatal(err)
	}
	all, err := Changes(r.Workspace, &changes.Plan{
		Makes: []changes.Make{{Path: "bin/tides", Text: "#!/bin/sh\n", Executable: true}, {Path: "a.txt", Text: "a\n"}},
		Drops: []string{"log/.keep"},
	})
	if err != nil {
		t.Fatal(err)
	}
	if len(all) != 3 || all[0].Executable || !all[1].Executable || all[1].To != "bin/tides" || string(all[2].Old) != "kept\n" {
		t.Errorf("%+v", all)
	}
}

// TestWhatIsNotSeenStaysTold: a finding about a file that version control does not see is
// left as it was, whatever else is put right.
func TestWhatIsNotSeenStaysTold(t *testing.T) {
	t.Parallel()
	root := treetest.Make(t, map[string]string{
		"requirements.txt": "flask\n", ".gitignore": ".env\n", ".env": "PORT=1\n", ".env.example": "PORT=1\nTIDES_URL=x\n", "run.py": "from ferry import app\n",
		"ferry/__init__.py":        "from flask import Flask\n\napp = Flask(__name__)\n\nfrom ferry import berths\napp.register_blueprint(berths.blueprint)\n",
		"ferry/berths/__init__.py": "from flask import Blueprint\n\nblueprint = Blueprint(\"berths\", __name__)\n\nfrom ferry.berths import view\n", "ferry/berths/view.py": "from ferry.berths import blueprint\n\n\n@blueprint.route(\"/\")\ndef show():\n    return \"x\"\n",
	})
	r, err := Realign(context.Background(), root, RealignOptions{Options: Options{Layout: "flask/areas"}, Least: finding.Warning})
	if err != nil {
		t.Fatal(err)
	}
	if len(r.Moves) != 1 || !slices.ContainsFunc(r.Left, func(l realign.Left) bool { return l.Path == ".env.example" }) {
		t.Errorf("moves %v, left %v", r.Moves, r.Left)
	}
}
