package app_test

import (
	"context"
	"fmt"
	"slices"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/scaffoldtest"
	"dicaxon/internal/treetest"
)

// TestNamesThatFrameworksLookUp breaks, in what scaffold makes, names that only the
// framework follows: pages, routes, actions, models, modules of settings. Each is
// told in its file, and the files that are added beside are in order.
func TestNamesThatFrameworksLookUp(t *testing.T) {
	for _, c := range []struct {
		layout string
		add    map[string]string
		want   []string
	}{
		{"flask/areas", map[string]string{"ferry/sailings/more.py": "from flask import render_template, url_for\n\ndef f():\n    render_template('sailings/nowhere.html')\n    return url_for('sailing.index')\n"},
			[]string{"ferry/sailings/more.py:4", "ferry/sailings/more.py:5"}},
		{"flask/package", map[string]string{"ferry/templates/a.html": "{% extends 'bse.html' %}\n{% include \"b.html\" %}\n{{ url_for('static', filename='x') }}\n", "ferry/templates/b.html": "{% extends 'base.html' %}\n", ".flaskenv": "FLASK_APP=rnu.py\n"},
			[]string{".flaskenv:1", "ferry/templates/a.html:1", "ferry/templates/a.html:3"}},
		{"django/project", map[string]string{"crews/more.py": "from django.shortcuts import render\n\ndef f(request):\n    return render(request, 'crews/nowhere.html')\n\nclass V:\n    template_name = 'admin/base.html'\n", "crews/templates/crews/more.html": "{% include 'crews/lst.html' %}\n"},
			[]string{"crews/more.py:4", "crews/templates/crews/more.html:1"}},
		{"laravel/models-folder", map[string]string{"app/Http/Controllers/MoreController.php": "<?php\n\nnamespace App\\Http\\Controllers;\n\nclass MoreController\n{\n    public function f() { return view('no.where'); }\n    public function g() { return view('pkg::page'); }\n}\n"},
			[]string{"app/Http/Controllers/MoreController.php:7"}},
		{"rails/app", map[string]string{"config/routes/more.rb": "resources :nowheres\nget '/x', to: 'nothing#show'\nget '/y', to: 'rails/health#show'\n"},
			[]string{"config/routes/more.rb:1", "config/routes/more.rb:2"}},
		{"hanami/slices", map[string]string{"config/slices/berth_plans.rb": "module BerthPlans\n  class Slice < Hanami::Slice\n    export [\"actions.nowhere\", \"persistence\"]\n    import keys: [\"a.b\"], from: :nowhere\n  end\nend\n"},
			[]string{"config/slices/berth_plans.rb:3", "config/slices/berth_plans.rb:4"}},
		{"dbt/layers", map[string]string{"models/marts/more.yml": "models:\n  - name: nowhere\n"}, []string{"models/marts/more.yml:2"}},
		{"angular/app", map[string]string{"src/app/more/more.ts": "@Component({ selector: 'x', templateUrl: './moer.html', styleUrl: './more.css' })\nexport class More {}\n", "src/app/more/more.html": "", "src/app/more/more.css": ""}, []string{"src/app/more/more.ts:1"}},
		{"vite/react", map[string]string{"src/bootstrap.tsx": "document.getElementById('rot')\ndocument.getElementById('root')\n"}, []string{"src/bootstrap.tsx:1"}},
		{"ansible/role", map[string]string{"tasks/more.yml": "- include_tasks: nowhere.yml\n- name: x\n  ansible.builtin.template:\n    src: nowhere.j2\n    dest: /x\n", "templates/x.j2": ""}, []string{"tasks/more.yml:1", "tasks/more.yml:4"}},
		{"helm/chart", map[string]string{"templates/more.yaml": "{{ include \"nowhere.labels\" . }}\n{{ include \"common.names\" . }}\n"}, []string{"templates/more.yaml:1"}},
	} {
		_, plan := scaffoldtest.Plan(t, c.layout, treetest.Answers[c.layout])
		root := scaffoldtest.Write(t, plan)
		treetest.Add(t, root, c.add)
		r, err := app.Check(context.Background(), root, app.Options{Layout: c.layout, Only: []string{"dangling"}})
		if err != nil {
			t.Fatal(err)
		}
		var got []string
		for _, f := range r.Projects[0].Findings {
			got = append(got, fmt.Sprintf("%s:%d", f.Path, f.Line))
		}
		slices.Sort(got)
		if !slices.Equal(got, c.want) {
			t.Errorf("%s: told %q, not %q: %+v", c.layout, got, c.want, r.Projects[0].Findings)
		}
	}
}
