package app_test

import (
	"context"
	"maps"
	"path/filepath"
	"slices"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/catalogue"
	"dicaxon/internal/layout"
	"dicaxon/internal/scaffoldtest"
	"dicaxon/internal/treetest"
)

// several makes one repository with a project for each layout named, in the
// folders given, and says which layout check takes each folder for.
func several(t *testing.T, at map[string]string) map[string]string {
	t.Helper()
	root := t.TempDir()
	for _, folder := range slices.Sorted(maps.Keys(at)) {
		_, plan := scaffoldtest.Plan(t, at[folder], treetest.Answers[at[folder]])
		for _, item := range plan.Items {
			if path := filepath.Join(folder, item.Path); item.Entry.Folder && !item.Marker {
				treetest.Add(t, root, map[string]string{path + "/": ""})
			} else {
				treetest.Add(t, root, map[string]string{path: string(item.Text)})
			}
		}
	}
	r, err := app.Check(context.Background(), root, app.Options{})
	if err != nil {
		t.Fatal(err)
	}
	got := map[string]string{}
	for _, p := range r.Projects {
		if p.Known() {
			got[p.At] = p.Layout.Name
		}
		for _, f := range p.Findings {
			t.Errorf("%s: %s %s: %s", p.At, f.Kind, f.Path, f.Message)
		}
	}
	return got
}

func TestSeveralProjects(t *testing.T) {
	ten := map[string]string{}
	folderless := []string{"kotlin/plain", "ansible/role", "terraform/environments"} // have no file to be known by in a folder
	for i, name := range (catalogue.Catalogue{}).Names() {
		if l, err := (catalogue.Catalogue{}).Layout(name); err == nil && !l.Base && i%3 == 0 && !slices.Contains(folderless, name) {
			ten["parts/"+layout.Family(name)] = name
		}
	}
	if len(ten) < 10 {
		t.Fatalf("only %d", len(ten))
	}
	for name, at := range map[string]map[string]string{
		"a service beside a web client":      {"server": "fastapi/areas", "client": "vite/react"},
		"a web client inside a service":      {".": "go/service", "web": "vue/app"},
		"an application and what it runs on": {".": "rails/app", "deploy/chart": "helm/chart", "deploy/network": "terraform/module"},
		"two of one family":                  {"ferry": "flask/areas", "harbour": "flask/package"},
		"a repository of ten":                ten,
	} {
		t.Run(name, func(t *testing.T) {
			if got := several(t, at); !maps.Equal(got, at) {
				t.Errorf("taken for %v\nwant      %v", got, at)
			}
		})
	}
}
