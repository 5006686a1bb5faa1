package reconcile_test

import (
	"slices"
	"testing"

	"dicaxon/internal/placement"
)

// regroup is a layout with a folder for each unit, and in it one for each kind of file.
const regroup = `asks:
  part: {question: Parts, shape: snake, default: main, several: true}
tree:
  app/:
    role: R.
    tree: {base.rb: {role: R.}, actions/: {role: R., tree: {home/: {role: R., tree: {"*.rb": {role: R.}}}}}, pages/: {role: R., tree: {layout.erb: {role: R.}}}}
  parts/:
    need: should
    role: R.
    tree:
      "<part:snake>/":
        unit: part
        role: R.
        tree:
          actions/: {role: R., tree: {"**/*.rb": {role: R.}}}
          pages/: {role: R., tree: {"**/*.erb": {role: R.}}}
          jobs/: {role: R., tree: {"**/*.rb": {role: R.}}}
`

// TestRegrouped says where files go that stand by what they are, by the words of their paths.
func TestRegrouped(t *testing.T) {
	named := placement.Input{Named: true}
	tellEach(t, regroup, "app/base.rb", []laid{
		{"nobody named the layout", placement.Input{}, "app/actions/quay/crew/show.rb parts/tide/actions/a.rb", "note extra app/actions/quay/"},
		{"the outer of two folders is the unit", named, "app/actions/quay/crew/show.rb parts/tide/actions/a.rb", "note misplaced app/actions/quay/crew/show.rb -> parts/quay/actions/crew/show.rb"},
		{"of one folder, it or the first unit", named, "app/pages/quay/show.erb", "note misplaced app/pages/quay/show.erb -> parts/quay/pages/show.erb or parts/main/pages/quay/show.erb"},
		{"of one folder, where there are units", named, "app/pages/quay/show.erb parts/tide/actions/a.rb", "note misplaced app/pages/quay/show.erb -> parts/quay/pages/show.erb"},
		{"a thing that users of it have folders for is no unit", named, "app/pages/quay/show.erb app/actions/harbour/quay/show.rb", "note misplaced app/actions/harbour/quay/show.rb -> parts/harbour/actions/quay/show.rb, note misplaced app/pages/quay/ -> parts/main/pages/quay/"},
		{"a kind that the folder around does not have", named, "app/jobs/quay/show.rb parts/tide/actions/a.rb", "note extra app/jobs/"},
		{"what the layout has there", named, "app/actions/home/show.rb app/pages/layout.erb parts/tide/actions/a.rb", ""},
	})
}

// TestRegroupedByName says where a file goes that is called after its unit, where in a unit it is
// called after its kind; a folder of a kind was taken for a unit then.
func TestRegroupedByName(t *testing.T) {
	tree := "tree:\n  app/: {role: R., tree: {main.py: {role: R.}, \"<area>/\": {unit: area, role: R., tree: {router.py: {role: R.}, \"*.py\": {role: R.}}}}}\n"
	files := map[string]string{"app/main.py": "", "app/routers/quays.py": "", "app/routers/__init__.py": "", "app/crews/router.py": ""}
	if got := runAs(t, placement.Input{Named: true}, tree, files); len(got) > 0 {
		t.Errorf("the folder is a unit: %q", got)
	}
	got := runAs(t, placement.Input{Named: true, Bring: true}, tree, files)
	if want := []string{"note misplaced app/routers/quays.py -> app/quays/router.py"}; !slices.Equal(got, want) {
		t.Errorf("%q, not %q", got, want)
	}
}
