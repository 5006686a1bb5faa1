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
	t.Parallel()
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
		{"angular/app", map[string]string{"src/app/more/more.ts": "import { Component } from '@angular/core';\n@Component({ selector: 'x', templateUrl: './moer.html', styleUrl: './more.css' })\nexport class More {}\n", "src/app/more/more.html": "", "src/app/more/more.css": ""}, []string{"src/app/more/more.ts:2"}},
		{"vite/react", map[string]string{"src/bootstrap.tsx": "document.getElementById('rot')\ndocument.getElementById('root')\n"}, []string{"src/bootstrap.tsx:1"}},
		{"ansible/role", map[string]string{"tasks/more.yml": "- include_tasks: nowhere.yml\n- name: x\n  ansible.builtin.template:\n    src: nowhere.j2\n    dest: /x\n", "templates/x.j2": ""}, []string{"tasks/more.yml:1", "tasks/more.yml:4"}},
		{"helm/chart", map[string]string{"templates/other.yaml": "apiVersion: apps/v1\nkind: Deploymnet\nmetadata:\n  annotations:\n    helm.sh/hook: pre-upgarde\n", "templates/fine.yaml": "kind: Deployment\n"},
			[]string{"templates/other.yaml:2", "templates/other.yaml:5"}},
		{"sveltekit/app", map[string]string{
			"src/routes/berths/+page.svelte":           "<a href=\"/berth\">x</a>\n<a href=\"/berths\">x</a>\n<form action=\"?/reserved\"></form>\n<img src=\"/ship.svgs\" alt=\"\">\n",
			"src/routes/berths/+page.server.ts":        "export const actions = {\n\treserve: async () => {}\n};\n",
			"src/routes/crews/[crew]/cards/+page.ts":   "export const ssr = false;\n",
			"src/routes/crews/[crew]/cards/+server.ts": "import { redirect } from '@sveltejs/kit';\nexport const GET = () => redirect(303, '/crews/7/card');\n"},
			[]string{"src/routes/berths/+page.svelte:1", "src/routes/berths/+page.svelte:3", "src/routes/crews/[crew]/cards/+server.ts:2"}},
		{"nuxt/app", map[string]string{
			"app/pages/crews.vue":             "<script setup lang=\"ts\">\ndefinePageMeta({ middleware: 'offices', layout: 'nowhere' })\nconst { data } = await useFetch('/api/crew')\nconst x = useTide()\n</script>\n<template><CrewCards /><NuxtLink to=\"/crew\">x</NuxtLink></template>\n",
			"app/middleware/office.ts":        "export default defineNuxtRouteMiddleware(() => {})\n",
			"app/layouts/office.vue":          "<template><slot /></template>\n",
			"app/components/crew/Card.vue":    "<template><p /></template>\n",
			"app/composables/useTides.ts":     "export const useTides = () => 1\n",
			"server/api/crews/index.get.ts":   "export default defineEventHandler(() => [])\n",
			"app/components/crew/CrewBox.vue": "<template><CrewCard /><CrewBox /></template>\n"},
			[]string{"app/pages/crews.vue:2", "app/pages/crews.vue:2", "app/pages/crews.vue:3", "app/pages/crews.vue:4", "app/pages/crews.vue:6", "app/pages/crews.vue:6"}},
		{"fastify/plugins", map[string]string{
			"plugins/fares.js":   "import fp from 'fastify-plugin'\nexport default fp(async (fastify) => { fastify.decorate('fares', 1) }, { name: 'fares', dependencies: ['tide'] })\n",
			"plugins/tides.js":   "import fp from 'fastify-plugin'\nexport default fp(async (fastify) => { fastify.log.info(fastify.fare) }, { name: 'tides' })\n",
			"test/fares.test.js": "app.inject({ url: '/nowhere' })\n"},
			[]string{"plugins/fares.js:2", "plugins/tides.js:2"}},
		{"php/library", map[string]string{"src/More.php": "<?php\n\nnamespace Gannet\\More;\n\nclass More extends Mores\n{\n}\n", ".gitattributes": "/test export-ignore\n"}, []string{".gitattributes:1", "src/More.php:5"}},
		{"ruby/gem", map[string]string{"Rakefile": "require \"bundler/gem_task\"\ntask :tides\n", ".github/workflows/a.yml": "x: rake tide\ny: rake tides\n", ".rspec": "--require spec_helpers\n", "spec/spec_helper.rb": ""}, []string{".github/workflows/a.yml:1", ".rspec:1", "Rakefile:1"}},
		{"rust/workspace", map[string]string{".github/workflows/a.yml": "x: cargo test -p nowhere\n", "Dockerfile": "FROM scratch\nCOPY target/release/nowhere /x\n"}, nil},
		{"terraform/module", map[string]string{"more.tf": "locals {\n  tags = {}\n}\n\nresource \"null_resource\" \"x\" {\n  triggers = local.tag\n  provider = null.north\n}\n\nprovider \"null\" {\n  alias = \"south\"\n}\n"}, []string{"more.tf:6", "more.tf:7"}},
		{"nextjs/app", map[string]string{
			"app/crews/page.tsx":        "import Link from 'next/link'\nexport default () => <Link href=\"/crew/7\">x</Link>\n",
			"app/crews/[id]/page.tsx":   "import { redirect } from 'next/navigation'\nexport default () => redirect('/crews')\n",
			"app/(port)/quays/page.tsx": "export default () => <a href=\"/quay\">x</a>\n"},
			[]string{"app/(port)/quays/page.tsx:1", "app/crews/page.tsx:2"}},
		{"astro/site", map[string]string{
			"src/content.config.ts":   "import { defineCollection } from 'astro:content'\nconst notices = defineCollection({})\nconst ports = defineCollection({})\nexport const collections = { notices }\n",
			"src/pages/notices.astro": "---\nimport { getCollection } from 'astro:content'\nconst a = await getCollection('notices')\nconst b = await getCollection('ports')\n---\n<a href=\"/notice\">x</a>\n"},
			[]string{"src/pages/notices.astro:4", "src/pages/notices.astro:6"}},
		{"docs/site", map[string]string{"mkdocs.yml": "site_name: x\ntheme:\n  name: material\n  custom_dir: override\nplugins:\n  - redirect\nnavs:\n  - index.md\n", "overrides/main.html": "{% include \"parts/notes.html\" %}\n", "overrides/parts/note.html": ""},
			[]string{"mkdocs.yml:4", "mkdocs.yml:6", "mkdocs.yml:7", "overrides/main.html:1"}},
		{"swift/package", map[string]string{"Sources/More/Guide.md": "``Board`` and ``Boards``\n", "Sources/More/Board.swift": "struct Board: ParsableCommand {\n    static let c = CommandConfiguration(subcommands: [Lists.self, Other.self])\n}\nstruct List {}\n"},
			[]string{"Sources/More/Board.swift:2", "Sources/More/Guide.md:1"}},
		{"dbt/layers", map[string]string{"packages.yml": "packages:\n  - package: gannet/tide_tools\n    version: 1.0.0\n", "models/warehouse/more.sql": "{{ config(materialized='tabel') }}\nselect {{ tide_tool.height('a') }}, {{ tide_tools.height('a') }} from {{ ref('sailings') }}\n", "dbt_project.yml.more": ""},
			[]string{"models/warehouse/more.sql:1", "models/warehouse/more.sql:2"}},
		{"flask/areas", map[string]string{"tests/sailings/test_more.py": "def test_more(client):\n    client.get('/quay/7')\n    client.get('/quays/')\n", "ferry/sailings/data.py": "from flask import Blueprint\nclass Sailing(db.Model):\n    crews = db.relationship('Crews', back_populates='sailing')\n\n\nclass Crew(db.Model):\n    sailings = db.relationship('Sailing', back_populates='crews')\n\n\nquays = Blueprint('quays', __name__, url_prefix='/quays')\n"},
			[]string{"ferry/sailings/data.py:3", "ferry/sailings/data.py:3", "tests/sailings/test_more.py:2"}},
		{"ansible/collection", map[string]string{"meta/runtime.yml": "require_ansible: '>=2.16'\n", "roles/more/tasks/main.yml": "- ansible.builtin.debug:\n    msg: \"{{ more_prot }}\"\n", "roles/more/defaults/main.yml": "more_port: 1\n"},
			[]string{"meta/runtime.yml:1", "roles/more/tasks/main.yml:2"}},
		{"vite/react", map[string]string{
			"src/more/Menu.tsx":        "import styles from './Menu.module.css'\nexport const Menu = () => <NavLink className={styles.menus} to=\"/berth\">x</NavLink>\nexport const routes = [{ path: '/berths' }]\n",
			"src/more/Menu.module.css": ".menu { color: red }\n"},
			[]string{"src/more/Menu.tsx:2", "src/more/Menu.tsx:2"}},
		{"electron/app", map[string]string{"src/shell.js": "const { ipcMain } = require('electron')\nipcMain.handle('tides:load', () => 1)\n", "src/preload.js": "const { contextBridge, ipcRenderer } = require('electron')\ncontextBridge.exposeInMainWorld('x', { a: () => ipcRenderer.invoke('tide:load'), b: () => ipcRenderer.invoke('other') })\n"}, []string{"src/preload.js:2"}},
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
