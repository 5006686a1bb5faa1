package app_test

import (
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/finding"
	"dicaxon/internal/treetest"
)

// TestFoldersGoBack misspells the folder of parts of Ruby: one finding tells of it, realign gives the folder its name
// back, and nothing is left to do then.
func TestFoldersGoBack(t *testing.T) {
	rails := map[string]string{"Gemfile": "gem \"rails\", \"~> 8.0\"\n", "Rakefile": "require_relative \"config/application\"\n", "config.ru": "run Rails.application\n", "config/application.rb": "module Harbour\n  class Application < Rails::Application\n  end\nend\n",
		"config/routes.rb": "Rails.application.routes.draw do\nend\n", "app/models/application_record.rb": "class ApplicationRecord < ActiveRecord::Base\nend\n",
		"app/models/tides/high.rb":  "module Tides\n  class High < ApplicationRecord\n  end\nend\n",
		"app/models/tides/low.rb":   "module Tides\n  class Low < ApplicationRecord\n    def high = Tides::High.first\n  end\nend\n",
		"app/models/tides/table.rb": "module Tides\n  class Table\n  end\nend\n"}
	for _, c := range []struct {
		layout, folder, misspelt string
		files                    map[string]string
	}{
		{"hanami/slices", "slices/desk", "slices/deks", readExample(t, "../catalogue/layouts/hanami/slices/examples/desk.txtar").files},
		{"rails/app", "app/models/tides", "app/models/tisde", rails},
	} {
		files, before := map[string]string{}, 0
		for at, text := range c.files {
			if below, in := strings.CutPrefix(at, c.folder+"/"); in {
				at = c.misspelt + "/" + below
			}
			files[at] = text
		}
		before += ofWhatIsThere(t, treetest.Make(t, c.files), c.layout)
		root := treetest.Make(t, files)
		r, _ := said(t, root, app.Options{Layout: c.layout})
		var told []string
		for _, p := range r.Projects {
			for _, f := range p.Findings {
				if f.Level < finding.Note && f.Kind != finding.Missing {
					told = append(told, string(f.Kind)+" "+f.Path+" "+f.Home)
				}
			}
		}
		if want := []string{"misnamed " + c.misspelt + "/ " + c.folder + "/"}; !slices.Equal(told, want) {
			t.Errorf("%s: told %q, and not %q", c.layout, told, want)
		}
		plan, err := app.Realign(t.Context(), root, app.RealignOptions{Options: app.Options{Layout: c.layout}, Least: finding.Warning, Findings: true})
		if err != nil {
			t.Fatal(err)
		}
		if moves := movesOf(plan); !slices.Equal(moves, []string{c.misspelt + "/ > " + c.folder + "/"}) || len(plan.Edits) > 0 {
			t.Errorf("%s: moves %q, %d edits", c.layout, moves, len(plan.Edits))
		}
		if _, err := plan.Plan.Plan.Write(t.Context(), root, realigning); err != nil {
			t.Fatal(err)
		}
		if ofWhatIsThere(t, root, c.layout) != before {
			t.Errorf("%s: afterwards something else is told than of the right project", c.layout)
		}
	}
}

// ofWhatIsThere counts what is told of files and folders that are there.
func ofWhatIsThere(t *testing.T, root, layout string) (n int) {
	t.Helper()
	r, _ := said(t, root, app.Options{Layout: layout})
	for _, p := range r.Projects {
		for _, f := range p.Findings {
			if f.Kind != finding.Missing {
				n++
			}
		}
	}
	return n
}
