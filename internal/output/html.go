package output

import (
	_ "embed"
	"html/template"
	"io"
	"sync"

	"dicaxon/internal/app"
	"dicaxon/internal/explain"
	"dicaxon/internal/finding"
	"dicaxon/internal/tree"
)

//go:embed page.html
var pageText string

var pageTemplate = sync.OnceValue(func() *template.Template {
	return template.Must(template.New("page").Funcs(template.FuncMap{"place": withLine, "sentence": sentence}).Parse(pageText))
})

// A ProjectPage is a project as the page shows it.
type ProjectPage struct {
	At, Layout, Title string
	Files, Folders    int
	Findings          []finding.Finding
	Tree              []explain.Line
}

// HTML writes a check's answer as one page that needs nothing else. Trees holds
// the annotated tree of each project, in their order.
func HTML(out io.Writer, r *app.Report, trees [][]explain.Line) error {
	page := struct {
		Root     string
		Totals   finding.Totals
		Summary  string
		LeftOut  string
		Unread   []string
		Projects []ProjectPage
		Kinds    []finding.Meaning
	}{Root: tree.Printable(r.Root), Totals: r.Totals, Summary: new(Page).totals(r), LeftOut: leftOut(r), Unread: unread(r)}
	used := map[finding.Kind]bool{}
	for i, p := range r.Projects {
		one := ProjectPage{At: tree.Printable(p.At), Layout: p.Layout.Name, Title: p.Layout.Title, Files: p.Files, Folders: p.Folders, Tree: trees[i]}
		for _, f := range gravestFirst(p.Findings) {
			used[f.Kind] = true
			one.Findings = append(one.Findings, printable(f))
		}
		page.Projects = append(page.Projects, one)
	}
	for _, k := range finding.Kinds {
		if used[k.Kind] {
			page.Kinds = append(page.Kinds, k)
		}
	}
	return pageTemplate().Execute(out, page)
}
