package rules

import (
	"slices"
	"testing"
)

// TestCompiledFiles follows compiled files back to their sources, by the settings of
// the compiler, and is silent where something else may write them.
func TestCompiledFiles(t *testing.T) {
	keys := "- {rule: names-file, name: package-paths, files: package.json, keys: [main, types, 'scripts.*', 'exports.**'], from-words: ['^(?:node )?((?:\\./)?[\\w./*-]+)$']}"
	tsc := func(main string) string {
		return "{\n\"main\": \"" + main + "\",\n\"scripts\": {\"build\": \"tsc -p .\"}}"
	}
	for _, c := range []struct {
		what  string
		files map[string]string
		want  []string
	}{
		{"below the folder of sources", map[string]string{"package.json": tsc("obj/a.js"), "tsconfig.json": `{"compilerOptions": {"outDir": "obj", "rootDir": "src"}}`, "src/a.ts": ""}, nil},
		{"settings that others extend", map[string]string{"package.json": tsc("obj/a.js"), "tsconfig.json": `{"compilerOptions": {"outDir": "obj", "rootDir": "."}}`, "tsconfig.build.json": `{"extends": "./tsconfig", "compilerOptions": {"rootDir": "src"}}`, "src/a.ts": ""}, nil},
		{"settings that others extend, and a source that is not there", map[string]string{"package.json": tsc("obj/b.js"), "tsconfig.json": `{"compilerOptions": {"outDir": "obj", "rootDir": "."}}`, "tsconfig.build.json": `{"extends": "./tsconfig", "compilerOptions": {"rootDir": "src"}}`, "src/a.ts": ""}, []string{"dangling package.json:2"}},
		{"a source that is not there", map[string]string{"package.json": tsc("obj/b.js"), "tsconfig.json": `{"compilerOptions": {"outDir": "obj", "rootDir": "src"}}`, "src/a.ts": ""}, []string{"dangling package.json:2"}},
		{"where the sources' folder is not said, with it or without", map[string]string{"package.json": tsc("obj/src/a.js"), "tsconfig.json": `{"compilerOptions": {"outDir": "./obj"}}`, "src/a.ts": ""}, nil},
		{"an ending that no compiler writes", map[string]string{"package.json": tsc("obj/a.dts"), "tsconfig.json": `{"compilerOptions": {"outDir": "obj", "rootDir": "src"}}`, "src/a.ts": ""}, []string{"dangling package.json:2"}},
		{"another folder than the compiler writes", map[string]string{"package.json": tsc("dist/a.js"), "tsconfig.json": `{"compilerOptions": {"outDir": "obj", "rootDir": "src"}}`, "src/a.ts": ""}, []string{"dangling package.json:2"}},
		{"to the top folder, which is that of the sources", map[string]string{"package.json": tsc("a.js"), "tsconfig.json": `{"compilerOptions": {"outDir": ".", "rootDir": "."}}`, "a.ts": ""}, nil},
		{"beside the sources", map[string]string{"package.json": tsc("lib/a.js"), "tsconfig.json": `{"compilerOptions": {"strict": true}}`, "lib/a.ts": ""}, nil},
		{"beside the sources, where there is none", map[string]string{"package.json": tsc("lib/b.js"), "tsconfig.json": `{"compilerOptions": {"strict": true}}`, "lib/a.ts": ""}, []string{"dangling package.json:2"}},
		{"nowhere", map[string]string{"package.json": tsc("lib/a.js"), "tsconfig.json": `{"compilerOptions": {"noEmit": true}}`, "lib/a.ts": ""}, []string{"dangling package.json:2"}},
		{"kinds of modules", map[string]string{"package.json": tsc("obj/a.mjs"), "tsconfig.json": `{"compilerOptions": {"outDir": "obj", "rootDir": "src"}}`, "src/a.mts": ""}, nil},
		{"a bundler beside the compiler", map[string]string{"package.json": "{\n\"main\": \"obj/b.js\",\n\"scripts\": {\"build\": \"tsc && vite build\"}}", "tsconfig.json": `{"compilerOptions": {"outDir": "obj", "rootDir": "src"}}`, "src/a.ts": ""}, nil},
		{"declarations in a folder of their own", map[string]string{"package.json": "{\n\"types\": \"types/a.d.ts\",\n\"scripts\": {\"build\": \"tsc -p .\"}}", "tsconfig.json": `{"compilerOptions": {"outDir": "obj", "declarationDir": "types", "rootDir": "src"}}`, "src/a.ts": ""}, nil},
		{"keys below keys", map[string]string{"package.json": "{\n\"exports\": {\".\": {\n\"import\": \"./a.js\",\n\"require\": \"./gone.cjs\"}}}", "a.js": ""}, []string{"dangling package.json:4"}},
		{"several of one folder are one", map[string]string{"package.json": "{\n\"exports\": {\n\"./a\": \"./pier/a.js\",\n\"./b\": \"./pier/b.js\",\n\"./c\": \"./pier/c.js\"}}"}, []string{"dangling package.json:3"}},
	} {
		got := checked(t, keys, c.files)
		if !slices.Equal(got, c.want) {
			t.Errorf("%s: told %q, not %q", c.what, got, c.want)
		}
	}
}
