package app_test

import (
	"context"
	"maps"
	"path/filepath"
	"slices"
	"strings"
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
	// These have no file to be known by in a folder.
	folderless := []string{"kotlin/plain", "ansible/role", "terraform/environments", "docs/site"}
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
		"an application of Xcode beside one": {"api": "go/service", "apps/ios": "swift/xcode"},
		"a repository of ten":                ten,
	} {
		t.Run(name, func(t *testing.T) {
			if got := several(t, at); !maps.Equal(got, at) {
				t.Errorf("taken for %v\nwant      %v", got, at)
			}
		})
	}
}

// TestSunkenManifests tells a manifest that was put into a folder of its own project from a project
// that lies in such a folder.
func TestSunkenManifests(t *testing.T) {
	page, settings := "export default function Page() { return null }\n", "export default {}\n"
	needs := `{ "name": "board", "dependencies": { "next": "15.1.0", "react": "19.0.0", "react-dom": "19.0.0" } }`
	layout := "export default function Layout({ children }) { return children }\n"
	for what, c := range map[string]struct {
		files map[string]string
		at    string
	}{
		"the manifest alone lies below": {map[string]string{"next.config.js": settings, "tsconfig.json": "{}", "middleware.js": settings, "app/package.json": needs, "app/page.tsx": page, "app/layout.tsx": layout}, "."},
		"all of it lies below":          {map[string]string{"README.md": "# Board\n", "tsconfig.json": "{}", "next.config.js": settings, "middleware.js": settings, "app/package.json": needs, "app/next.config.js": settings, "app/src/app/page.tsx": page, "app/src/app/layout.tsx": layout}, "app"},
		"another manifest lies above":   {map[string]string{"package.json": "{}", "next.config.js": settings, "tsconfig.json": "{}", "middleware.js": settings, "app/package.json": needs, "app/page.tsx": page, "app/layout.tsx": layout}, "app"},
		"nothing of it lies above":      {map[string]string{"README.md": "# Board\n", "app/package.json": needs, "app/page.tsx": page, "app/layout.tsx": layout}, "app"},
	} {
		r, err := app.Check(t.Context(), treetest.Make(t, c.files), app.Options{})
		if err != nil {
			t.Fatal(err)
		}
		var at []string
		for _, p := range r.Projects {
			if p.Layout.Name == "nextjs/app" {
				at = append(at, p.At)
			}
		}
		if strings.Join(at, " ") != c.at {
			t.Errorf("%s: %v", what, at)
		}
	}
}
