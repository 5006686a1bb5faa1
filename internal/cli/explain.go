package cli

import (
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/check"
	"dicaxon/internal/explain"
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
			if root == "" {
				root = rootOf(args)
			}
			r, err := p.run(root, o)
			if err != nil {
				return err
			}
			places, err := catalogue.Catalogue{}.Commonplace()
			if err != nil {
				return err
			}
			p.troubles(r.Troubles)
			if len(args) == 0 {
				return p.explainTrees(page, r, func(pr *check.Project) []explain.Line { return explain.Tree(pr, places, depth) })
			}
			var answers []explain.Answer
			for _, arg := range args {
				below, err := belowRoot(r.Root, arg)
				if err != nil {
					return err
				}
				answers = append(answers, explain.Path(r, places, below))
			}
			if p.format == "json" {
				return report.JSON(p.out, map[string]any{"schema": "dicaxon.explanations/1", "root": tree.Printable(r.Root), "paths": answers})
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
	cmd.Flags().StringVar(&root, "root", "", "the repository (if left out, the one around the first PATH)")
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

// rootOf gives the repository that a path lies in: the nearest folder at or
// above the working folder, or the path's own where it lies elsewhere, that
// holds a dicaxon.yaml or a ".git"; else the working folder, or the path's.
func rootOf(args []string) string {
	start, err := os.Getwd()
	if err != nil {
		return "."
	}
	if len(args) > 0 {
		full, _ := filepath.Abs(args[0])
		if rel, err := filepath.Rel(start, full); err != nil || rel == ".." || strings.HasPrefix(rel, ".."+string(filepath.Separator)) {
			if start = full; !isFolder(start) {
				start = filepath.Dir(start)
			}
		}
	}
	for dir := start; ; dir = filepath.Dir(dir) {
		for _, mark := range []string{project.FileName, ".git"} {
			if _, err := os.Stat(filepath.Join(dir, mark)); err == nil {
				return dir
			}
		}
		if dir == filepath.Dir(dir) {
			return start
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
