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

// open is a layout with places where anything may stand beside names that something looks for.
const open = `tree:
  code/:
    role: R.
    not-here:
      - {what: Checks, goes-to: checks/, like: "*_check.rb"}
      - {what: Programs, goes-to: tools/, like: main.rb}
    tree:
      settings.rb: {role: R.}
      "**/layout.rb | route.rb": {role: R.}
      "<part>/": {role: R., tree: {"**/layout.rb | route.rb": {role: R.}, "**/*.rb": {role: R.}}}
      "**/*.rb": {role: R.}
  checks/: {role: R., tree: {"*_check.rb": {role: R.}, helper.rb: {role: R.}, models/: {role: R., others: may, tree: {"*_check.rb": {role: R.}}}, "**/*.rb": {role: R.}}}
  tools/: {role: R., others: may}
  units/: {role: R., tree: {<unit>/: {unit: unit, role: R., tree: {<unit>.entity.rb: {role: R.}, "**/*.entity.rb": {role: R.}, "*.rb": {role: R.}}}}}
  steps/: {role: R., others: may, tree: {upward/: {role: R., tree: {"*.sql": {role: R.}}}}}
`

// TestLoose tells of names that nobody can have meant where anything may stand, and of nothing else.
func TestLoose(t *testing.T) {
	for _, c := range []struct{ what, files, want string }{
		{"all is well", "code/settings.rb code/a.rb code/quay/deep/layout.rb code/quay/deep/b.rb checks/a_check.rb checks/helper.rb steps/upward/1.sql", ""},
		{"two letters that changed places", "code/setitngs.rb", "warning misnamed code/setitngs.rb -> code/settings.rb"},
		{"a letter that is left out of a long name", "code/setings.rb", "warning misnamed code/setings.rb -> code/settings.rb"},
		{"a plural of a unit that is one of several", "units/quays/quay.entity.rb", ""},
		{"a unit's name mistyped", "units/quays/qauys.entity.rb", "warning misnamed units/quays/qauys.entity.rb -> units/quays/quays.entity.rb"},
		{"another word", "code/sittings.rb code/setting.rb code/layouts.rb", ""},
		{"a name that stands is not meant", "code/settings.rb code/setitngs.rb", ""},
		{"a name for any depth", "code/quay/deep/layuot.rb", "warning misnamed code/quay/deep/layuot.rb -> code/quay/deep/layout.rb"},
		{"one for any depth that stands", "code/quay/deep/layuot.rb code/quay/deep/layout.rb", ""},
		{"a folder where anything may stand", "steps/upwadr/1.sql", "warning misnamed steps/upwadr/ -> steps/upward/"},
		{"beside the folder of nearly its name", "steps/upward/1.sql steps/upwadr/2.sql", "warning misplaced steps/upwadr/2.sql -> steps/upward/2.sql"},
		{"beside it, with what that does not hold", "steps/upward/1.sql steps/upwadr/2.txt", ""},
		{"a check among the code", "code/a_check.rb", "warning misplaced code/a_check.rb -> checks/a_check.rb"},
		{"a check in a part of the code", "code/quay/deep/a_check.rb", "warning misplaced code/quay/deep/a_check.rb -> checks/a_check.rb"},
		{"a check in the checks of a part", "code/quay/checks/a_check.rb", ""},
		{"a whole name holds no further than its folder", "code/quay/deep/main.rb", ""},
	} {
		files := map[string]string{}
		for _, f := range strings.Fields(c.files) {
			files[f] = ""
		}
		got := run(t, open, files)
		got = slices.DeleteFunc(got, func(line string) bool { return strings.Contains(line, " missing ") })
		if strings.Join(got, ", ") != c.want {
			t.Errorf("%s: %q, not %q", c.what, got, c.want)
		}
	}
}

// BenchmarkEntriesAnywhere takes a folder of very many files that nothing but an ending describes: none
// of them is weighed as a slip for what is described there.
func BenchmarkEntriesAnywhere(b *testing.B) {
	files := map[string]string{"code/settings.rb": ""}
	for i := range 20_000 {
		files[fmt.Sprintf("code/quay_%d.rb", i)] = ""
	}
	l, err := layout.Resolve(one(open), "t/t")
	if err != nil {
		b.Fatal(err)
	}
	r, err := tree.Read(treetest.Make(b, files), tree.Options{})
	if err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		reconcile.Run(placement.Pair(placement.Input{Repository: r, Top: r.Top, Layout: l}))
	}
}

// TestPartners holds that two spellings of one file are two things where one uses the other, and else one too many.
func TestPartners(t *testing.T) {
	const starts = "tree:\n  package.json: {role: R.}\n  main.js | server.js: {need: should, role: R.}\n"
	for _, c := range []struct{ main, want string }{
		{"import server from './server.js'\nserver.listen(1)\n", ""},
		{"console.log(1)\n", "warning extra server.js"},
	} {
		if got := strings.Join(run(t, starts, map[string]string{"package.json": "{}", "main.js": c.main, "server.js": "export default 1\n"}), ", "); got != c.want {
			t.Errorf("%q: %q, not %q", c.main, got, c.want)
		}
	}
}

// TestThroughout holds that one folder in the singular is a slip, and several side by side are a habit.
func TestThroughout(t *testing.T) {
	const roles = "tree:\n  views/: {role: R., tree: {a: {role: R.}}}\n  models/: {role: R., tree: {a: {role: R.}}}\n  routes/: {role: R., tree: {a: {role: R.}}}\n"
	for _, c := range []struct{ files, want string }{
		{"view/a models/a routes/a", "warning misnamed view/ -> views/"},
		{"view/a model/a route/a", "note misnamed model/ -> models/, note misnamed route/ -> routes/, note misnamed view/ -> views/"},
	} {
		files := map[string]string{}
		for name := range strings.FieldsSeq(c.files) {
			files[name] = ""
		}
		if got := strings.Join(run(t, roles, files), ", "); got != c.want {
			t.Errorf("%s: %q, not %q", c.files, got, c.want)
		}
	}
}

// TestUndivided holds that a project of few things needs no folder for each, where its layout asks for none.
func TestUndivided(t *testing.T) {
	const jobs = `tree:
  jobs/:
    role: R.
    tree:
      common/: {role: R., others: may}
      <use>/: {unit: use, role: R., tree: {"*.py": {role: R., shows: '^job\('}}}
`
	for _, c := range []struct {
		what  string
		files map[string]string
		want  string
	}{
		{"none has a folder", map[string]string{"jobs/daily.py": "job(1)", "jobs/common/a.py": ""}, ""},
		{"another kind of file", map[string]string{"jobs/daily.py": "x = 1"}, "note extra jobs/daily.py"},
		{"others have", map[string]string{"jobs/daily.py": "job(1)", "jobs/tides/weekly.py": "job(2)"}, "note extra jobs/daily.py"},
	} {
		if got := strings.Join(run(t, jobs, c.files), ", "); got != c.want {
			t.Errorf("%s: %s, not %s", c.what, got, c.want)
		}
	}
}
