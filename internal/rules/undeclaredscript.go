package rules

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
)

// builtIn are the modules of Node.js: module.builtinModules of version 22.
var builtIn = strings.Fields(`assert async_hooks buffer child_process cluster console constants crypto dgram diagnostics_channel dns domain events fs http http2 https inspector module net os path perf_hooks process punycode querystring readline repl stream string_decoder sys timers tls trace_events tty url util v8 vm wasi worker_threads zlib`)

// atHand are modules that a program gives to the code that it runs.
var atHand = strings.Fields(`electron vscode bun astro cloudflare server-only client-only next react react-dom k6 obsidian original-fs atom jest @jest/globals photoshop uxp sketch @env @storybook/addons @docusaurus @theme @theme-original @theme-init @generated`)

// settingsOfTools are files in which a tool's own modules are at hand.
var settingsOfTools = lazy.New(`(?:^|/)(?:[\w.-]+\.config(?:\.\w+)*\.\w+|\.[\w-]+rc\.\w+|[Gg]runt[Ff]ile.*|[Gg]ulp[Ff]ile.*|.*\.d\.ts|.*[._-](?:test|spec|stories|bench)\.\w+)$`)

func undeclaredScript(c *Call, e *refs.Edge) (name, manifest string, sure bool) {
	written := e.Ref.Name
	if written == "" || strings.ContainsAny(written, ":!$#~ ") || strings.HasPrefix(written, ".") || strings.HasPrefix(written, "/") || strings.HasPrefix(written, "@/") {
		return "", "", false
	}
	for i, folder := range strings.Split(path.Dir(e.From), "/") {
		if i > 0 && folder == "lib" && strings.HasPrefix(e.From, "src/") {
			continue
		}
		if slices.Contains([]string{"public", "static", "assets", "www", "lib", "libs", "vendor", "dist", "build", "cypress", "scripts", "benchmarks", "benchmark", "bench"}, folder) {
			return "", "", false
		}
	}
	name = packageOf(written)
	scope, _, _ := strings.Cut(name, "/")
	if slices.Contains(builtIn, strings.TrimSuffix(name, "/")) || slices.Contains(atHand, name) || slices.Contains(atHand, scope) {
		return "", "", false
	}
	if first, _, _ := strings.Cut(written, "/"); len(c.Graph.Look().FoldersEnding(first)) > 0 || len(first) > 1 && first[0] == '@' && len(c.Graph.Look().FoldersEnding(first[1:])) > 0 {
		return "", "", false // a setting may stand for it
	}
	manifest, kin := c.asking(e.From, name, "@types/"+name)
	brought := kin && !c.isMember(name) && (!c.byOwner(name, manifest) || forTypes(c.Graph.Code(e.From), int(e.Ref.Span.Start)))
	return name, manifest, !brought && !settingsOfTools.MatchString(e.From)
}

// forTypes says whether what is imported at a place of a script is there for the compiler alone.
func forTypes(code []byte, at int) bool {
	i := max(bytes.LastIndex(code[:at], []byte("import")), bytes.LastIndex(code[:at], []byte("export")))
	return i >= 0 && bytes.HasPrefix(bytes.TrimLeft(code[i+len("import"):at], " \t"), []byte("type "))
}

// asking gives the manifest around a file that should ask for a package and does
// not; "" where one around it does, or may by one of the other names. Kin says that one
// asks for another package of the same owner, which may bring it.
func (c *Call) asking(from, name string, others ...string) (manifest string, kin bool) {
	scope, _, scoped := strings.Cut(name, "/")
	first := ""
	for dir := path.Dir(c.Top.Path() + from); ; dir = path.Dir(dir) {
		at := strings.TrimPrefix(path.Join(dir, "package.json"), "./")
		if f := c.manifestAt(at); f != nil {
			if f.Broken != "" || f.Get("name") == nil && first == "" && f.Get("dependencies") == nil {
				return "", false
			}
			if own := f.Get("name"); own != nil && own.Value == name {
				return "", false
			}
			for _, k := range f.Of(refs.Key) {
				for _, list := range []string{"dependencies.", "devDependencies.", "peerDependencies.", "optionalDependencies."} {
					if asked, ok := strings.CutPrefix(k.Name, list); ok && (asked == name || slices.Contains(others, asked)) {
						return "", false
					} else if ok && scoped && strings.HasPrefix(asked, scope+"/") {
						kin = true
					}
				}
			}
			if first == "" {
				first = strings.TrimPrefix(at, c.Top.Path())
			}
		}
		if dir == "." || dir == "/" {
			break
		}
	}
	if first == "" || c.ambient(name) {
		return "", false
	}
	return first, kin
}

// byOwner says whether a manifest asks for another package of the same owner, and not for that one: it may be
// brought, which nobody promises.
func (c *Call) byOwner(name, manifest string) bool {
	scope, _, scoped := strings.Cut(name, "/")
	return scoped && !c.isMember(name) && c.asks(manifest, func(list, asked string) bool { return list == "dependencies" && strings.HasPrefix(asked, scope+"/") })
}

// forTests says whether a script that tests others imports a package that nobody asks for and that no owner of
// another may bring. What runs the tests may have it at hand, so that it is no more than worth a look.
func (c *Call) forTests(e *refs.Edge, name, manifest string) bool {
	if path.Base(manifest) != "package.json" || !isTest(path.Base(e.From)) || inFolder(e.From, oneOf("fixtures", "__fixtures__", "examples", "example", "e2e", "cypress")) {
		return false
	}
	scope, _, scoped := strings.Cut(name, "/")
	kin := func(_, asked string) bool { return strings.HasPrefix(asked, scope+"/") || asked == scope[1:] }
	forWork := func(list, _ string) bool { return list == "devDependencies" }
	return c.asks(manifest, forWork) && !(scoped && c.asks(manifest, kin)) && !strings.HasPrefix(name, "@types/")
}

// asks says whether a manifest asks for a package that fits, by its name and that of the list in which it stands.
func (c *Call) asks(manifest string, fits func(list, name string) bool) bool {
	f := c.manifestAt(c.Top.Path() + manifest)
	return f != nil && slices.ContainsFunc(f.Of(refs.Key), func(k refs.Ref) bool {
		list, name, below := strings.Cut(k.Name, ".")
		return below && strings.HasSuffix(list, "ependencies") && fits(list, name)
	})
}

// isMember says whether a package of the repository has a name, in whichever of its projects.
func (c *Call) isMember(name string) bool {
	if c.members == nil {
		c.members = map[string]bool{}
		for _, at := range c.anywhere()["package.json"] {
			if strings.Contains(at, "node_modules/") {
				continue
			}
			if own := c.manifestAt(at); own != nil && own.Get("name") != nil {
				c.members[own.Get("name").Value] = true
			}
		}
	}
	return c.members[name]
}
