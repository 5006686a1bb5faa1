package app_test

import (
	"strings"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/finding"
	"dicaxon/internal/treetest"
)

// TestGiveAndTake shows what realign writes where something is taken or handed by nearly its name, and what it leaves,
// since nobody knows what was meant.
func TestGiveAndTake(t *testing.T) {
	const settings = "from pydantic_settings import BaseSettings\n\n\nclass Settings(BaseSettings):\n    tide_url: str\n\n\nsettings = Settings()\n"
	const store = "import { defineStore } from 'pinia'\n\nexport const useTides = defineStore('tides', {\n  state: () => ({ tides: [] }),\n  actions: { load() {} },\n})\n"
	const card = "<script setup lang=\"ts\">\ndefineProps<{ berth: string }>()\n</script>\n\n<template><p>{{ berth }}</p></template>\n"
	page := func(handed string) string {
		return "<script setup lang=\"ts\">\nimport BerthCard from './BerthCard.vue'\n</script>\n\n<template><BerthCard " + handed + " /></template>\n"
	}
	for _, c := range []struct {
		what, from, module string
		files              map[string]string // beside
		use, text, want    string
	}{
		{"a setting, mistyped", "app/config.py", settings, map[string]string{"app/__init__.py": ""}, "app/a.py", "from app.config import settings\n\nprint(settings.tide_ulr)\n", "from app.config import settings\n\nprint(settings.tide_url)\n"},
		{"a setting that nobody knows", "app/config.py", settings, map[string]string{"app/__init__.py": ""}, "app/a.py", "from app.config import settings\n\nprint(settings.crew)\n", "from app.config import settings\n\nprint(settings.crew)\n"},
		{"what a store does, mistyped", "tides.ts", store, nil, "a.ts", "import { useTides } from './tides'\n\nconst tides = useTides()\ntides.laod()\n", "import { useTides } from './tides'\n\nconst tides = useTides()\ntides.load()\n"},
		{"what a store remembers, taken apart", "tides.ts", store, nil, "a.ts", "import { useTides } from './tides'\n\nconst { tieds: all } = useTides()\nprint(all)\n", "import { useTides } from './tides'\n\nconst { tides: all } = useTides()\nprint(all)\n"},
		{"what no store has", "tides.ts", store, nil, "a.ts", "import { useTides } from './tides'\n\nuseTides()\nconst { crews } = useTides()\nprint(crews)\n", "import { useTides } from './tides'\n\nuseTides()\nconst { crews } = useTides()\nprint(crews)\n"},
		{"a module that is given by default alone", "app.js", "const app = make()\n\nexport default app\n", nil, "a.js", "import { app } from './app.js'\n\napp()\n", "import { app } from './app.js'\n\napp()\n"},
		{"what a component takes, mistyped", "src/BerthCard.vue", card, nil, "src/App.vue", page(`:bearth="one"`), page(`:berth="one"`)},
		{"what a component does not take", "src/BerthCard.vue", card, nil, "src/App.vue", page(`:crew="one"`), page(`:crew="one"`)},
	} {
		tree := map[string]string{"package.json": `{"dependencies": {"vue": "3", "pinia": "3", "vite": "6"}}` + "\n", "requirements.txt": "pydantic-settings\n", "index.html": "<!doctype html>\n<div id=\"app\"></div>\n", c.from: c.module, c.use: c.text}
		for at, text := range c.files {
			tree[at] = text
		}
		after := realigned(t, treetest.Make(t, tree))
		if got := after[c.use]; got != c.want {
			t.Errorf("%s: it becomes\n%s", c.what, got)
		}
	}
}

// TestExportedBesideTheDefault shows that a script which gives something by default alone gives it by its name, too, once
// another takes it so.
func TestExportedBesideTheDefault(t *testing.T) {
	root := treetest.Make(t, map[string]string{"package.json": "{}\n", "app.js": "function app() {}\n\nexport default app\n", "a.js": "import { app } from './app.js'\n\napp()\n", "b.js": "import app from './app.js'\n\napp()\n"})
	if got, want := realigned(t, root)["app.js"], "export function app() {}\n\nexport default app\n"; got != want {
		t.Errorf("it becomes\n%s", got)
	}
}

// TestCalledAsNeighbours shows that the one file which is called otherwise than its neighbours gets their spelling, and that
// who imports it follows; of two such files nobody knows which is right.
func TestCalledAsNeighbours(t *testing.T) {
	for _, c := range []struct{ name, other, want string }{
		{"tide.controller.js", "crewController.js", "tideController.js"},
		{"tide.js", "crewController.js", "tideController.js"},
		{"tide.js", "crew.js", "tide.js"},
	} {
		tree := map[string]string{
			"package.json":  `{"name": "quays", "type": "module", "dependencies": {"express": "5"}}` + "\n",
			".gitignore":    "node_modules/\n.env\n",
			"README.md":     "# Quays\n",
			"src/server.js": "import app from './app.js'\n\napp.listen(3000)\n",
			"src/app.js":    "import express from 'express'\nimport { list } from './controllers/" + c.name + "'\n\nconst app = express()\napp.get('/', list)\n\nexport default app\n",
		}
		for _, name := range []string{c.name, c.other, "berthController.js", "quayController.js"} {
			tree["src/controllers/"+name] = "export function list(req, res) {\n  res.json([])\n}\n"
		}
		root := treetest.Make(t, tree)
		r, err := app.Realign(t.Context(), root, app.RealignOptions{Least: finding.Note})
		if err != nil {
			t.Fatal(err)
		}
		if !r.Empty() {
			if _, err := r.Plan.Plan.Write(t.Context(), root, realigning); err != nil {
				t.Fatal(err)
			}
		}
		after := texts(t, root)
		if _, there := after["src/controllers/"+c.want]; !there {
			t.Errorf("%s beside %s: there is no %s", c.name, c.other, c.want)
		}
		if want := "import { list } from './controllers/" + c.want + "'"; !strings.Contains(after["src/app.js"], want) {
			t.Errorf("%s beside %s: who imports it says\n%s", c.name, c.other, after["src/app.js"])
		}
	}
}
