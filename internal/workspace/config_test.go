package workspace

import (
	"context"
	"strings"
	"testing"

	"dicaxon/internal/treetest"
)

func TestRead(t *testing.T) {
	if w, err := Open(context.Background(), t.TempDir(), Options{}); err != nil || len(w.Configs) > 0 {
		t.Errorf("without a file: %v", err)
	}
	root := treetest.Make(t, map[string]string{
		"web/ferry/":        "",
		"house/layout.yaml": "dicaxon: 1\nlayout: gannet/x\ntitle: T\nasks: {area: {question: Q, default: home, shape: snake, several: true}}\n",
		FileName: `dicaxon: 1
projects:
  - {layout: ./house, answers: {area: [tides, crews]}}
  - {at: web/ferry/, layout: flask/areas, answers: {project: ferry}}
levels: {crowded: note, wired: "off"}
waivers:
  - {paths: "web/**/*.html", kinds: [misplaced, shared], reason: Moves with the new berths., until: 2027-03-31}
`})
	w, err := Open(context.Background(), root, Options{})
	if err != nil {
		t.Fatal(err)
	}
	file := w.Configs[0]
	all := file.Projects
	if w := file.Waivers; len(w) != 1 || w[0].Until.Day() != 31 || w[0].Line != 7 || file.Levels["wired"] != "off" {
		t.Errorf("%+v", file)
	}
	if len(all) != 2 || all[0].At != "." || all[0].Layout.Name != "gannet/x" || all[0].Answers["area"] != "tides,crews" ||
		all[1].At != "web/ferry" || all[1].Layout.Name != "flask/areas" || all[1].Answers["project"] != "ferry" {
		t.Errorf("%+v", all)
	}
}

// TestComplaints shows each text beside what is said about it.
func TestComplaints(t *testing.T) {
	for text, says := range map[string]string{
		"projects: []\n":                                                `the file begins with dicaxon: 1`,
		"dicaxon: 2\nprojects: []\n":                                    `the file begins with dicaxon: 1`,
		"dicaxon: 1\n":                                                  `"projects" lists the projects`,
		"dicaxon: 1\nlevels: {crowded: loud}\n":                         `"loud" is no level; the levels are error, warning, note, off`,
		"dicaxon: 1\nwaivers: [{reason: x}]\n":                          `a waiver says for which "paths" it holds`,
		"dicaxon: 1\nwaivers: [{paths: x, kinds: misplased}]\n":         `"misplased" is no kind of finding; did you mean "misplaced"?`,
		"dicaxon: 1\nwaivers: [{paths: x, until: soon}]\n":              `until is a day, such as`,
		"dicaxon: 1\nwaivers: [{path: x}]\n":                            `did you mean "paths"?`,
		"dicaxon: 1\nprojects: []\n":                                    `"projects" lists the projects`,
		"dicaxon: 1\nproject: []\n":                                     `"project" is no key of this file; did you mean "projects"?`,
		"dicaxon: 1\nmoods: []\n":                                       `"moods" is no key of this file; it has dicaxon, projects, levels, waivers`,
		"[1]\n":                                                         `this file is written as keys with values`,
		"dicaxon: 1\nprojects: [x]\n":                                   `a project is written as keys with values`,
		"dicaxon: 1\nprojects: [{at: in}]\n":                            `a project names its "layout"`,
		"dicaxon: 1\nprojects: [{layout: [a]}]\n":                       `layout is a text`,
		"dicaxon: 1\nprojects: [{layout: go/servce}]\n":                 `dicaxon.yaml:2:21: there is no layout go/servce; did you mean go/service?`,
		"dicaxon: 1\nprojects: [{layout: gannet/none}]\n":               "`dicaxon layouts` lists them",
		"dicaxon: 1\nprojects: [{layout: ./in}]\n":                      `there is no layout in ./in`,
		"dicaxon: 1\nprojects: [{at: /etc, layout: go/service}]\n":      `"/etc" is no folder of the repository`,
		"dicaxon: 1\nprojects: [{at: a/../../b, layout: go/service}]\n": `is no folder of the repository`,
		"dicaxon: 1\nprojects: [{at: '', layout: go/service}]\n":        `is no folder of the repository`,
		"dicaxon: 1\nprojects: [{at: none, layout: go/service}]\n":      `there is no folder "none"`,
		"dicaxon: 1\nprojects: [{at: in, layout: go/service}, {at: ./in, layout: go/service}]\n": `the project at "in" stands here twice`,
		"dicaxon: 1\nprojects: [{layout: go/service, answers: [a]}]\n":                           `answers is written as keys with values`,
		"dicaxon: 1\nprojects: [{layout: flask/areas, answers: {project: My-App}}]\n":            `project is written in snake case`,
	} {
		root := treetest.Make(t, map[string]string{"in/": "", FileName: text})
		if _, err := Open(context.Background(), root, Options{}); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q\n got  %v\n want %s", text, err, says)
		}
	}
}
