package layout

import "testing"

// words is a layout with folders for kinds of files.
const words = `tree:
  src/:
    role: R.
    tree:
      controllers/ | handlers/: {role: R., tree: {"**/*.ts": {role: R.}}}
      view_models/: {role: R., tree: {"*.ts": {role: R.}}}
      db/: {role: R., tree: {"*.ts": {role: R.}}}
      uses/: {role: R., tree: {"use*.ts": {role: R.}}}
      units/: {role: R., tree: {"<unit>/": {unit: unit, role: R., tree: {"<unit>.controller.ts | *Endpoint.ts": {role: R.}}}}}
`

// TestSaysKind says which folders the names of files speak of.
func TestSaysKind(t *testing.T) {
	l := resolve(t, words)
	for folder, files := range map[string]map[string]bool{
		"src/controllers/": {"TideController.ts": true, "tide_controller.ts": true, "tides.controller.ts": true, "tides.handler.ts": true, "TideControllers.ts": false, "Controller.ts": false, "controller.ts": false, "TideControl.ts": false, "ControllerOfTides.ts": false},
		"src/view_models/": {"TideViewModel.ts": true, "tide_view_model.ts": true, "TideModel.ts": false, "ViewModel.ts": false},
		"src/db/":          {"tides.db.ts": false, "TideDb.ts": false}, // too short a word
		"":                 {"TideController.ts": false},
	} {
		e := l.Find(folder)
		if e == nil {
			t.Fatalf("no entry %s", folder)
		}
		for file, want := range files {
			if got := e.SaysKind(file); got != want {
				t.Errorf("%s speaks of %s: %t", file, folder, got)
			}
		}
	}
}

// TestSaysMore says which entries give words of a name, and not only letters of one.
func TestSaysMore(t *testing.T) {
	l := resolve(t, words)
	for path, files := range map[string]map[string]bool{
		"src/uses/use*.ts":                      {"useTides.ts": true, "user.ts": false, "tides.ts": false},
		"src/units/<unit>/<unit>.controller.ts": {"tides.controller.ts": true, "ListEndpoint.ts": true, "Endpoints.ts": false},
		"src/controllers/**/*.ts":               {"tides.ts": false},
		"src/view_models/*.ts":                  {"model.ts": false},
	} {
		e := l.Find(path)
		if e == nil {
			t.Fatalf("no entry %s", path)
		}
		for file, want := range files {
			if got := e.SaysMore(file, nil); got != want {
				t.Errorf("%s says more of %s: %t", path, file, got)
			}
		}
	}
}

// TestCalled holds that a folder is called so in the singular and the plural, in either case, and that
// a chain leads from the top to where an entry lies.
func TestCalled(t *testing.T) {
	l := resolve(t, words)
	e := l.Find("src/controllers/")
	for name, want := range map[string]bool{"controllers": true, "controller": true, "Controllers": true, "handler": true, "control": false, "": false} {
		if got := e.Called(name); got != want {
			t.Errorf("called %q: %t", name, got)
		}
	}
	if l.Find("src/uses/use*.ts").Called("uses") {
		t.Error("a file is called as a folder")
	}
	var chain string
	for _, c := range l.Find("src/units/<unit>/<unit>.controller.ts").Chain() {
		chain += c.Label()
	}
	if chain != "src/units/<unit>/" {
		t.Errorf("the chain is %s", chain)
	}
	if len(l.Root.Chain()) > 0 {
		t.Error("the top lies in something")
	}
}
