package cli

import (
	"cmp"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/check"
	"dicaxon/internal/explain"
	"dicaxon/internal/identify"
	"dicaxon/internal/layout"
	"dicaxon/internal/project"
	"dicaxon/internal/report"
	"dicaxon/internal/tree"
)

func (p *program) explain() *cobra.Command {
	var o check.Options
	var root string
	depth := 0
	cmd := &cobra.Command{
		Use:   "explain [PATH…]",
		Short: "Say what a folder or file is for",
		Long: `Explain says what each PATH is for, who makes it, whether it is committed, what belongs
there and what does not, and which entry of which layout says so. A PATH need not be there.

Without a PATH it draws the project as a tree with the role of everything in it.`,
		Example: `  dicaxon explain
  dicaxon explain --depth 2
  dicaxon explain app/templates node_modules`,
		Args: cobra.ArbitraryArgs,
		RunE: func(_ *cobra.Command, args []string) error {
			page, err := p.page()
			if err != nil {
				return err
			}
			places, err := catalogue.Catalogue{}.Commonplace()
			if err != nil {
				return err
			}
			if len(args) == 0 {
				r, err := p.run(cmp.Or(root, rootOf(".")), o)
				if err != nil {
					return err
				}
				p.troubles(r.Troubles)
				return p.explainTrees(page, r, func(pr *check.Project) []explain.Line { return explain.Tree(pr, places, depth) })
			}
			answers, err := p.answers(args, root, o, places)
			if err != nil {
				return err
			}
			if p.format == "json" {
				return report.JSON(p.out, map[string]any{"schema": "dicaxon.explanations/1", "paths": answers})
			}
			for i := range answers {
				if i > 0 {
					_, _ = p.out.WriteString("\n")
				}
				page.Answer(&answers[i])
			}
			return nil
		},
	}
	layoutFlag(cmd, &o.Layout)
	cmd.Flags().StringVar(&root, "root", "", "the repository (if left out, the one around each PATH)")
	cmd.Flags().IntVar(&depth, "depth", 0, "how many folders deep to draw; 0 for all")
	p.formatFlag(cmd)
	return cmd
}

func (p *program) explainTrees(page *report.Page, r *check.Report, draw func(*check.Project) []explain.Line) error {
	type projectTree struct {
		At     string         `json:"at"`
		Layout string         `json:"layout"`
		Tree   []explain.Line `json:"tree"`
	}
	var all []projectTree
	for i := range r.Projects {
		pr := &r.Projects[i]
		lines := draw(pr)
		if p.format == "json" {
			all = append(all, projectTree{pr.At, pr.Layout.Name, lines})
			continue
		}
		if i > 0 {
			_, _ = p.out.WriteString("\n")
		}
		page.Tree(pr, lines)
	}
	if p.format == "json" {
		return report.JSON(p.out, map[string]any{"schema": "dicaxon.trees/1", "root": tree.Printable(r.Root), "projects": all})
	}
	return nil
}

// answers explains paths, each in the repository around it; a repository is
// read once.
func (p *program) answers(args []string, root string, o check.Options, places *layout.Layout) ([]explain.Answer, error) {
	reports := map[string]*check.Report{}
	var all []explain.Answer
	for _, arg := range args {
		at := cmp.Or(root, rootOf(arg))
		r := reports[at]
		if r == nil {
			var err error
			if r, err = p.run(at, o); err != nil {
				return nil, err
			}
			p.troubles(r.Troubles)
			reports[at] = r
		}
		below, err := belowRoot(r.Root, arg)
		if err != nil {
			return nil, err
		}
		answer := explain.Path(r, places, below)
		answer.Root = tree.Printable(r.Root)
		all = append(all, answer)
	}
	return all, nil
}

// rootOf gives the repository that a path lies in: the nearest folder around
// it with a dicaxon.yaml or a ".git", else the nearest with a file by which
// projects are known, else the nearest folder that is there.
func rootOf(path string) string {
	start, err := filepath.Abs(path)
	if err != nil {
		return "."
	}
	for !isFolder(start) && start != filepath.Dir(start) {
		start = filepath.Dir(start)
	}
	id, err := identify.New(catalogue.Catalogue{})
	if err != nil {
		return start
	}
	known := ""
	for dir := start; ; dir = filepath.Dir(dir) {
		entries, _ := os.ReadDir(dir)
		for _, e := range entries {
			switch name := e.Name(); {
			case name == project.FileName || name == ".git":
				return dir
			case known == "" && id.Watch(name):
				known = dir
			}
		}
		if dir == filepath.Dir(dir) {
			return cmp.Or(known, start)
		}
	}
}

func isFolder(path string) bool {
	info, err := os.Stat(path)
	return err == nil && info.IsDir()
}

// belowRoot gives a path as seen from the root, with "/".
func belowRoot(root, arg string) (string, error) {
	full, err := filepath.Abs(arg)
	if err != nil {
		return "", err
	}
	rel, err := filepath.Rel(root, full)
	if err != nil || rel == ".." || strings.HasPrefix(rel, ".."+string(filepath.Separator)) {
		return "", callf("%s is not in %s; --root names another repository", arg, root)
	}
	if rel == "." {
		return "", nil
	}
	return filepath.ToSlash(rel), nil
}
