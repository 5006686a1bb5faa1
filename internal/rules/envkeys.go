package rules

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

var envKeys = &Rule{
	Name: "env-keys", Kind: finding.Disagrees, Level: finding.Warning, Always: true,
	Doc: "The keys that code reads from the environment and gives no default for are in the sample of the settings, where there is one.",
	Example: `- rule: env-keys
  except: ["CI_.*"]`,
	Options: []Option{{"except", Regexps, false, "keys that come from elsewhere", false}},
	Run:     runEnvKeys,
}

// keyReads are ways in which languages read a key of the environment: the first
// group is the key, and what follows, a comma in the call or more of the line, tells of a default.
var keyReads = []struct {
	endings string
	pattern *lazy.Regexp
}{
	{".py", lazy.New(`os\.environ\[\s*["']([A-Z][A-Z0-9_]+)["']\s*\]`)},
	{".py", lazy.New(`os\.(?:getenv|environ\.get)\(\s*["']([A-Z][A-Z0-9_]+)["']\s*[,)]`)},
	// What django-environ, environs and python-decouple give.
	{".py", lazy.New(`\b(?:env(?:\.\w+)?|config)\(\s*["']([A-Z][A-Z0-9_]+)["']\s*\)`)},
	{".js .ts .mjs .cjs .jsx .tsx", lazy.New(`process\.env\.([A-Z][A-Z0-9_]+)\b`)},
	{".js .ts .mjs .cjs .jsx .tsx", lazy.New(`process\.env\[\s*["']([A-Z][A-Z0-9_]+)["']\s*\]`)},
	{".js .ts .jsx .tsx .vue .svelte", lazy.New(`import\.meta\.env\.([A-Z][A-Z0-9_]+)\b`)},
	{".go", lazy.New(`os\.(?:Getenv|LookupEnv)\(\s*"([A-Z][A-Z0-9_]+)"\s*\)`)},
	// A function of the project's own that does nothing but read a key.
	{".go", lazy.New(`\b(?:must|require|read|get)(?:Env|env)\(\s*"([A-Z][A-Z0-9_]+)"\s*\)`)},
	{".rb", lazy.New(`ENV(?:\[|\.fetch\()\s*["']([A-Z][A-Z0-9_]+)["']\s*[\]),]`)},
	{".php", lazy.New(`\benv\(\s*["']([A-Z][A-Z0-9_]+)["']\s*[,)]`)},
	{".java .kt", lazy.New(`System\.getenv\(\s*"([A-Z][A-Z0-9_]+)"\s*\)`)},
	{".cs", lazy.New(`Environment\.GetEnvironmentVariable\(\s*"([A-Z][A-Z0-9_]+)"\s*\)`)},
	// What Nest's service for settings gives, which reads the environment.
	{".ts", lazy.New(`\b[cC]onfig(?:Service)?\.(?:get|getOrThrow)(?:<[^>\n]*>)?\(\s*["']([A-Z][A-Z0-9_]+)["']\s*\)`)},
	{".rs", lazy.New(`env::var\(\s*"([A-Z][A-Z0-9_]+)"\s*\)`)},
}

// fromElsewhere are keys that a system, a platform or a test run sets.
var fromElsewhere = lazy.New(`^(?:PATH|HOME|USER|USERNAME|LOGNAME|SHELL|PWD|TERM|TZ|LANG|LC_\w+|TMP|TEMP|TMPDIR|HOSTNAME|DISPLAY|EDITOR|VISUAL|PAGER|COLUMNS|NO_COLOR|FORCE_COLOR|CI|DEBUG|MODE|DEV|PROD|SSR|BASE_URL|PORT|HOST|NODE_ENV|PYTHON\w*|GO[A-Z]*|CGO_\w+|RAILS_ENV|RACK_ENV|HANAMI_ENV|FLASK_\w+|APP_ENV|APPDATA|LOCALAPPDATA|PROGRAMFILES|SYSTEMROOT|WINDIR|COMSPEC|USERPROFILE|XDG_\w+|SSH_\w+|GITHUB_\w+|GITLAB_\w+|CI_\w+|TRAVIS\w*|CIRCLE\w*|JENKINS\w*|BUILD_\w+|VERCEL\w*|NETLIFY\w*|HEROKU\w*|DYNO|K_\w+|KUBERNETES_\w+|AWS_\w+|NPM_\w+|npm_\w+|VIRTUAL_ENV|CONDA_\w+|DOCKER_\w+|HTTPS?_PROXY|NO_PROXY|OUT_DIR|CARGO\w*|JEST_\w+|VITEST\w*|TEST_\w+|GAE_\w+|FUNCTIONS?_\w+|WEBPACK_\w+|ELECTRON_\w+|DJANGO_SETTINGS_MODULE)$`)

// otherwise are marks on a line that a default is given, or none is needed.
var otherwise = lazy.New(`\|\||\?\?|\bor\b|\bif\b|===|!==|==|!=|\bin\b|\bdelete\b|\?|environ\.setdefault|Setenv|, ok\b`)

// set is what follows a key that is set rather than read.
var set = lazy.New(`^\s*=[^=]`)

func runEnvKeys(c *Call) {
	sample, has := c.sampleKeys()
	if sample == "" {
		return
	}
	known := map[string]bool{}
	named := func(key string) bool {
		if sample == ".env" && !forPages.MatchString(key) { // which may have what is the same everywhere, alone
			return true
		}
		return known[key] || has[key] || fromElsewhere.MatchString(key) || c.excepted(key)
	}
	for _, f := range c.everything() {
		ending := path.Ext(f.path)
		if inSample(f.path) || !slices.Contains([]string{".py", ".js", ".ts", ".mjs", ".cjs", ".jsx", ".tsx", ".vue", ".svelte", ".go", ".rb", ".php", ".rs", ".java", ".kt", ".cs"}, ending) || strings.HasSuffix(f.path, "_test.go") || c.isOfTool(f.path) || c.lends(f.path) {
			continue
		}
		code := c.Graph.Code(f.path)
		for _, field := range fieldsAsked(ending, code) {
			if key := strings.ToUpper(field.Name); !named(key) {
				known[key] = true
				line, column := refs.Place(code, field.Span)
				told := c.report(f.path, line, column, &finding.Place{Path: sample}, "it asks the environment for %s, which %s does not name", key, sample)
				told.About, told.Fix = key, c.keysAdded(sample, []string{key})
			}
		}
		var found [][]int
		for _, read := range keyReads {
			if slices.Contains(strings.Fields(read.endings), ending) {
				found = append(found, read.pattern.FindAll(code)...)
			}
		}
		for _, re := range ownReaders(ending, code) {
			found = append(found, re.FindAllSubmatchIndex(code, -1)...)
		}
		for _, m := range found {
			key := string(code[m[2]:m[3]])
			before, rest := aroundRead(code, m[0], m[1])
			if set.Match(rest) || named(key) {
				continue
			}
			if given := code[m[1]-1] == ','; given || otherwise.Match(rest) || otherwise.Match(before) {
				c.tellNearKey(f.path, lang.At(m[2], m[3]), sample, key)
				continue
			}
			known[key] = true
			c.tellUnsampled(f.path, code, refs.Span{Start: int32(m[2]), End: int32(m[3])}, sample, key)
		}
	}
}

// tellNearKey tells of a key that has a default, and that is misspelt: the sample has nearly it, which nothing reads.
func (c *Call) tellNearKey(at string, span refs.Span, sample, key string) {
	near := only(c.keysIn(sample), func(one string) bool { return names.Near(one, key) == names.Typing })
	if near == "" || c.readsKey(near) {
		return
	}
	f := c.atName(at, span, sample, "it reads %s from the environment, and %s has %s, which nothing reads", key, sample, near)
	f.About = key
	f.Fix = []edit.Edit{c.edit(at, span, near)}
}

// isOfTool says whether a file is one of a tool's settings, or of its tests: one that is called a config lies beside
// the manifest then, and else is the application's own.
func (c *Call) isOfTool(at string) bool {
	dir := path.Dir(at)
	return settingsOfTools.MatchString(at) && !(strings.Contains(path.Base(at), ".config.") && dir != "." && c.node(dir+"/package.json") == nil)
}

// tellUnsampled tells of a key that code reads and the sample does not name.
func (c *Call) tellUnsampled(at string, code []byte, span refs.Span, sample, key string) {
	line, column := refs.Place(code, span)
	told := c.report(at, line, column, &finding.Place{Path: sample}, "it reads %s from the environment, which %s does not name", key, sample)
	told.About, told.Fix = key, c.keysAdded(sample, []string{key})
	if near := c.unreadKey(sample, key); near != "" {
		told.Message += "; it names " + near + ", which nothing reads"
		told.Fix = c.wordsAs(sample, near, key)
	}
}

// What a class of settings of Pydantic asks for: each field without a value, by its name in capitals
// unless the class says otherwise (Pydantic, "Settings Management").
var (
	settingsClass  = lazy.New(`(?m)^class \w+\([\w.]*BaseSettings\):[ \t]*\n((?:(?:[ \t]+.*)?\n)+)`)
	settingsField  = lazy.New(`(?m)^(?: {4}|\t)([A-Za-z]\w*)[ \t]*:[ \t]*[^=\n]+$`)
	namedOtherwise = lazy.New(`env_prefix|alias|secrets_dir|settings_customise|env_nested`)
)

// fieldsAsked lists the keys that a module asks the whole environment for at once.
func fieldsAsked(ending string, code []byte) []lang.Quoted {
	switch ending {
	case ".py":
		return settingsFields(code)
	case ".ts", ".js", ".mjs":
		return schemaFields(code)
	}
	return nil
}

// What a schema asks of the environment that is read by it whole: each key without a value of its own.
var (
	readWhole   = lazy.New(`\b(?:parse|safeParse|cleanEnv|envsafe)\(\s*process\.env\b`)
	schemaField = lazy.New(`(?m)^[ \t]+([A-Z][A-Z0-9_]+)[ \t]*:[ \t]*\w+[.(][^\n]*$`)
	hasValue    = lazy.New(`\b(?:default|devDefault|optional|nullish|nullable|catch)\b`)
)

func schemaFields(code []byte) (all []lang.Quoted) {
	if !readWhole.Match(code) {
		return nil
	}
	for _, m := range schemaField.FindAll(code) {
		if !hasValue.Match(code[m[0]:m[1]]) {
			all = append(all, lang.Quoted{Name: string(code[m[2]:m[3]]), Span: lang.At(m[2], m[3])})
		}
	}
	return all
}

// settingsFields lists those fields of a module.
func settingsFields(code []byte) (all []lang.Quoted) {
	if !bytes.Contains(code, []byte("BaseSettings")) || namedOtherwise.Match(code) {
		return nil
	}
	for _, class := range settingsClass.Get().FindAllSubmatchIndex(code, -1) {
		for _, m := range settingsField.Get().FindAllSubmatchIndex(code[class[2]:class[3]], -1) {
			name := code[class[2]+m[2] : class[2]+m[3]]
			if string(name) != "model_config" {
				all = append(all, lang.Quoted{Name: string(name), Span: lang.At(class[2]+m[2], class[2]+m[3])})
			}
		}
	}
	return all
}

// field is where another field of an object begins, or the object itself.
var field = lazy.New(`[{};]|,\s*["']?\w+["']?\s*:`)

// aroundRead gives what stands before and behind a place in its line and in the same field of an object.
func aroundRead(code []byte, from, to int) (before, rest []byte) {
	before = code[bytes.LastIndexByte(code[:from], '\n')+1 : from]
	rest = code[to : to+lang.LineLength(code[to:])]
	if all := field.Get().FindAllIndex(before, -1); all != nil {
		before = before[all[len(all)-1][1]:]
	}
	if at := field.Get().FindIndex(rest); at != nil {
		rest = rest[:at[0]]
	}
	return before, rest
}

// unreadKey gives the one key of a sample that resembles another and that nothing reads, "" where
// there is none.
func (c *Call) unreadKey(sample, key string) string {
	near := only(c.keysIn(sample), func(one string) bool {
		return beginAlike(one, key) || firstPart(one, "_") == firstPart(key, "_") || names.Near(one, key) != names.Apart
	})
	if near == "" || c.readsKey(near) {
		return ""
	}
	return near
}

// keysIn lists the keys that a file of settings gives.
func (c *Call) keysIn(at string) []string { return namesIn(c.refsOf(at).Of(refs.Key)) }

// readsKey says whether any text of the project but those of its environment says a key.
func (c *Call) readsKey(key string) bool {
	return slices.ContainsFunc(c.everything(), func(f file) bool {
		return !strings.Contains(path.Base(f.path), "env") && lang.HasWord(c.textOf(f.path), key)
	})
}

func (c *Call) excepted(key string) bool {
	for _, re := range c.regexps["except"] {
		if re.MatchString(key) {
			return true
		}
	}
	return false
}

// sampleKeys gives the sample of the settings at the top, or settings for pages that are committed themselves, and
// every key that it or another file of settings beside it names, also those that stand in a comment.
func (c *Call) sampleKeys() (sample string, has map[string]bool) {
	has = map[string]bool{}
	for _, name := range []string{".env.example", ".env.sample", ".env.dist", ".env.template", "env.example", ".env", ".flaskenv", ".env.development", ".env.test", "compose.yaml", "compose.yml", "docker-compose.yml", "docker-compose.yaml", "Dockerfile"} {
		if n := c.node(name); n == nil || n.Folder != nil {
			continue
		}
		if sample == "" && strings.Contains(name, "env.") && !strings.Contains(name, "development") && !strings.Contains(name, "test") {
			sample = name
		}
		for _, word := range bytes.FieldsFunc(passedOn.Get().ReplaceAll(c.textOf(name), nil), func(r rune) bool { return r != '_' && (r < 'A' || r > 'Z') && (r < '0' || r > '9') }) {
			has[string(word)] = true
		}
	}
	if n := c.node(".env"); sample == "" && n != nil && !n.Ignored && forPages.Match(c.textOf(".env")) {
		sample = ".env"
	}
	return sample, has
}

// passedOn is how a compose file hands a key on that it takes from the same sample's settings.
var passedOn = lazy.New(`(?m)^\s*(?:-\s*)?[A-Z][A-Z0-9_]*\s*[:=]\s*["']?\$\{[A-Z][A-Z0-9_]*\}["']?\s*$`)

// forPages are keys that a bundler puts into a page, so that their values are no secret and may be committed.
var forPages = lazy.New(`(?m)^(?:REACT_APP|VITE|NEXT_PUBLIC|VUE_APP|EXPO_PUBLIC|GATSBY)_`)
