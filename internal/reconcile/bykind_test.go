package reconcile_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/layout"
	"dicaxon/internal/placement"
	"dicaxon/internal/reconcile"
	"dicaxon/internal/tree"
	"dicaxon/internal/treetest"
)

// kinds is a layout with folders for kinds of files beside a place for any.
const kinds = `tree:
  code/:
    need: must
    role: R.
    tree:
      main.ts: {role: R.}
      controllers/: {role: R., tree: {"**/*.ts": {role: R.}}}
      view_models/: {need: should, role: R., tree: {"*.ts": {role: R.}}}
      uses/: {role: R., tree: {"**/use*.ts": {role: R.}}}
      parts/: {role: R., tree: {"<part>/": {unit: part, role: R., tree: {"<part>.module.ts": {role: R.}, "*.ts": {role: R.}}}}}
      "*.ts": {role: R.}
  checks/: {role: R., tree: {"*.ts": {role: R.}}}
`

// TestKinds says where files go whose names say of what kind they are: where somebody named the
// layout, and into folders that nobody waits for only where the project is to become it whole.
func TestKinds(t *testing.T) {
	named, bring := placement.Input{Named: true}, placement.Input{Named: true, Bring: true}
	tellEach(t, kinds, "code/main.ts", []laid{
		{"nobody named it", placement.Input{}, "code/TideController.ts code/controllers/A.ts", ""},
		{"its folder is there", named, "code/TideController.ts code/controllers/A.ts", "note misplaced code/TideController.ts -> code/controllers/TideController.ts"},
		{"its folder may be made", named, "code/TideController.ts", ""},
		{"its folder is to be made", bring, "code/TideController.ts", "note misplaced code/TideController.ts -> code/controllers/TideController.ts"},
		{"its folder is waited for", named, "code/tide_view_model.ts", "note misplaced code/tide_view_model.ts -> code/view_models/tide_view_model.ts"},
		{"a dot before the kind", named, "code/tides.controller.ts code/controllers/A.ts", "note misplaced code/tides.controller.ts -> code/controllers/tides.controller.ts"},
		{"a word that only begins so", bring, "code/user.ts code/Controllers.ts code/controller.ts", ""},
		{"a word before it", bring, "code/useTides.ts", "note misplaced code/useTides.ts -> code/uses/useTides.ts"},
		{"among its own kind", bring, "code/controllers/deep/TideController.ts code/controllers/useTides.ts", ""},
		{"the kind of another folder beside", bring, "code/view_models/TideController.ts", ""},
		{"a test", bring, "code/TideController.test.ts code/controllers/A.ts", ""},
		{"a part that is still to be made", bring, "code/parts/tides/a.ts code/crews.module.ts", "note misplaced code/crews.module.ts -> code/parts/crews/crews.module.ts"},
		{"a folder of that name elsewhere", named, "code/view_models/A.ts code/view_models/controllers/TideController.ts", "note misplaced code/view_models/controllers/ -> code/controllers/"},
		{"each of its files, where it is to become so", bring, "code/view_models/A.ts code/view_models/controllers/TideController.ts", "note misplaced code/view_models/controllers/TideController.ts -> code/controllers/TideController.ts"},
		{"its files, where the kind has a folder", named, "code/view_models/A.ts code/view_models/controllers/TideController.ts code/controllers/A.ts", "note misplaced code/view_models/controllers/TideController.ts -> code/controllers/TideController.ts"},
		{"a tool's settings", bring, "code/house.controller.config.ts code/controllers/A.ts", ""},
		{"at the top, where it has no place", named, "TideController.ts code/main.ts", "note misplaced TideController.ts -> code/controllers/TideController.ts"},
	})
}

// TestWithinPart holds that what lies in a part with a manifest of its own goes no further than
// that part, and there only where the layout describes it.
func TestWithinPart(t *testing.T) {
	tree := "tree:\n  parts/: {role: R., tree: {<part>/: {role: R., tree: {package.json: {role: R.}, pages/: {role: R., tree: {\"*_page.html\": {role: R.}}}}}}}\n  pages/: {role: R., tree: {\"*_page.html\": {role: R.}}}\n"
	files := map[string]string{"parts/quay/package.json": "{}", "parts/quay/moon_page.html": "", "parts/quay/pages/first_page.html": "", "pages/first_page.html": ""}
	if got := run(t, tree, files); !slices.Equal(got, []string{"warning misplaced parts/quay/moon_page.html -> parts/quay/pages/moon_page.html"}) {
		t.Errorf("a part that is described: %q", got)
	}
	files = map[string]string{"quay/package.json": "{}", "quay/moon_page.html": "", "pages/first_page.html": ""}
	if got := run(t, tree, files); slices.ContainsFunc(got, func(line string) bool { return strings.Contains(line, "->") }) {
		t.Errorf("a part that is not: %q", got)
	}
}

// TestOtherWords holds that a folder with a name that is a word is no slip for one that may stand.
func TestOtherWords(t *testing.T) {
	tree := "tree:\n  code/: {need: must, role: R., tree: {modules/: {role: R., tree: {\"*.ts\": {role: R.}}}, main.ts: {role: R.}}}\n"
	for name, want := range map[string]string{
		"models":  "note extra code/models/",
		"moduels": "warning misnamed code/moduels/ -> code/modules/",
		"module":  "warning misnamed code/module/ -> code/modules/",
	} {
		if got := run(t, tree, map[string]string{"code/main.ts": "", "code/" + name + "/a.ts": ""}); !slices.Equal(got, []string{want}) {
			t.Errorf("%s: %q, not %q", name, got, want)
		}
	}
}

// TestPartsOfUnits holds that a package within a unit is one of its parts, and not a unit that went
// astray, unless it has what makes one.
func TestPartsOfUnits(t *testing.T) {
	tree := "tree:\n  \"<app>/\": {unit: app, role: R., tree: {init.py: {need: must, role: R.}, models.py: {need: should, role: R.}, views.py: {role: R.}}}\n"
	whole := []string{"tides/init.py", "tides/models.py", "crews/init.py", "crews/models.py"}
	for more, want := range map[string]string{
		"tides/forms/init.py tides/forms/views.py":                       "note extra tides/forms/",
		"tides/quays/init.py tides/quays/views.py tides/quays/models.py": "warning misplaced tides/quays/ -> quays/",
	} {
		files := map[string]string{}
		for _, name := range append(strings.Fields(more), whole...) {
			files[name] = ""
		}
		if got := run(t, tree, files); !slices.Equal(got, []string{want}) {
			t.Errorf("%s: %q, not %q", more, got, want)
		}
	}
}

// BenchmarkKinds takes a folder of very many files whose names say of what kind they are, for a project
// that is to become what its layout describes; the time should grow with their number and not with its
// square.
func BenchmarkKinds(b *testing.B) {
	for what, named := range map[string]string{"of a kind": "code/Tide%dController.ts", "of units": "code/parts/controllers/tide_%d.ts", "of none": "code/tide_%d.ts"} {
		for _, n := range []int{5_000, 20_000} {
			files := map[string]string{"code/main.ts": "", "code/controllers/First.ts": ""}
			for i := range n {
				files[fmt.Sprintf(named, i)] = ""
			}
			l, err := layout.Resolve(one(kinds), "t/t")
			if err != nil {
				b.Fatal(err)
			}
			r, err := tree.Read(treetest.Make(b, files), tree.Options{})
			if err != nil {
				b.Fatal(err)
			}
			b.Run(fmt.Sprintf("%s/%d", what, n), func(b *testing.B) {
				for b.Loop() {
					reconcile.Run(placement.Pair(placement.Input{Repository: r, Top: r.Top, Layout: l, Named: true, Bring: true}))
				}
			})
		}
	}
}

// TestKindsApart holds that a file whose name says one kind, among files of another, has its home
// told: surely where both folders hold their kinds, as a note where one does.
func TestKindsApart(t *testing.T) {
	const roles = `tree:
  src/:
    role: Sources.
    tree:
      controllers/: {role: Controllers., tree: {"**/*.js": {role: One.}}}
      services/: {role: Services., tree: {"**/*.js": {role: One.}}}
      hooks/: {role: Hooks., tree: {"**/use*.js": {role: One.}, "**/*.js": {role: Others.}}}
      utils/: {role: Helpers., tree: {"**/*.js": {role: One.}}}
`
	tellEach(t, roles, "", []laid{
		{what: "both folders hold their kinds", files: "src/controllers/tideController.js src/services/crewService.js src/services/berthController.js", want: "warning misplaced src/services/berthController.js -> src/controllers/berthController.js"},
		{what: "the other folder is absent", files: "src/services/crewService.js src/services/berthController.js", want: "note misplaced src/services/berthController.js -> src/controllers/berthController.js"},
		{what: "the folder holds anything", files: "src/controllers/tideController.js src/utils/dates.js src/utils/berthController.js", want: "note misplaced src/utils/berthController.js -> src/controllers/berthController.js"},
		{what: "neither does", files: "src/controllers/tides.js src/services/crews.js src/services/berthController.js"},
		{what: "the layout has them called so", files: "src/utils/useTides.js src/utils/dates.js", want: "note misplaced src/utils/useTides.js -> src/hooks/useTides.js"},
		{what: "its folder's own kind", files: "src/controllers/tideController.js src/services/crewService.js src/services/controllerService.js"},
	})
}

// TestKindInUse holds that a folder is for the kind of files that its own name says, and not for those of
// other names that its entry may have.
func TestKindInUse(t *testing.T) {
	const either = "tree:\n  code/: {need: must, role: R., tree: {main.ts: {role: R.}, pages/ | routes/: {role: R., tree: {\"**/*.ts\": {role: R.}}}, parts/: {role: R., tree: {\"**/*.ts\": {role: R.}}}}}\n"
	const beside = "code/parts/Row.ts code/parts/Crew.ts code/parts/GuardedRoute.ts "
	tellEach(t, either, "code/main.ts", []laid{
		{"called otherwise", placement.Input{}, beside + "code/pages/FirstPage.ts code/pages/LastPage.ts", ""},
		{"called so", placement.Input{}, beside + "code/routes/FirstRoute.ts code/routes/LastRoute.ts", "note misplaced code/parts/GuardedRoute.ts -> code/routes/GuardedRoute.ts"},
	})
}
