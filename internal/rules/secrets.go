package rules

import (
	"path"
	"strings"
	"sync"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
)

// shapes are credentials that are known by their look. They are told by what
// they are, never shown.
var shapes = []struct {
	what    string
	has     string // stands in every one, and is looked for first
	pattern *lazy.Regexp
}{
	{"a private key", "PRIVATE KEY", lazy.New(`-----BEGIN (?:[A-Z]+ )?PRIVATE KEY-----`)},
	{"an access key of Amazon Web Services", "IA", lazy.New(`\b(?:AKIA|ASIA)[0-9A-Z]{16}\b`)},
	{"a token of GitHub", "gh", lazy.New(`\b(?:gh[pousr]_[A-Za-z0-9]{36,}|github_pat_[A-Za-z0-9_]{50,})\b`)},
	{"a token of GitLab", "glpat-", lazy.New(`\bglpat-[A-Za-z0-9_-]{20,}\b`)},
	{"a token of Slack", "xox", lazy.New(`\bxox[abprs]-[A-Za-z0-9-]{10,}\b`)},
	{"a secret key of Stripe", "k_live_", lazy.New(`\b[sr]k_live_[A-Za-z0-9]{16,}\b`)},
	{"a key of Google's interfaces", "AIza", lazy.New(`\bAIza[0-9A-Za-z_-]{35}\b`)},
	{"a token of npm", "npm_", lazy.New(`\bnpm_[A-Za-z0-9]{36}\b`)},
	{"a signed token", "eyJ", lazy.New(`\beyJ[A-Za-z0-9_-]{10,}\.eyJ[A-Za-z0-9_-]{10,}\.[A-Za-z0-9_-]{10,}`)},
	{"a password in an address", "://", lazy.New(`\b[a-z][a-z0-9+.-]*://[^\s:/@"']+:([^\s:/@"'$<>{}]{6,})@`)},
}

// harmless are passwords of examples.
var harmless = lazy.New(`(?i)^(password|passwd|secret|example|changeme|change-me|postgres|x+|\*+|your.*|my.*|test.*|dummy.*|.*example.*)$`)

// credential says what kind of credential stands in a line, or "".
func credential(line string) string {
	for _, s := range shapes {
		if !strings.Contains(line, s.has) {
			continue
		}
		m := s.pattern.Get().FindStringSubmatch(line)
		if m == nil || len(m) > 1 && harmless.MatchString(m[1]) {
			continue
		}
		if strings.Contains(strings.ToUpper(m[0]), "EXAMPLE") {
			continue
		}
		return s.what
	}
	return ""
}

var secrets = &Rule{
	Name: "secrets", Kind: finding.Exposed, Level: finding.Error, Always: true,
	Doc: "Settings that version control keeps hold no credential. The credential itself is never shown.",
	Example: `- rule: secrets
  files: ["*.yml", "config/**/*.yml"]`,
	Options: []Option{{"files", Paths, false, "the settings; if left out, those of the top folders", false}},
	Run: func(c *Call) {
		files := c.files("files")
		if c.paths["files"] == nil {
			files = c.find(settingsFiles(), c.env)
		}
		for _, f := range files {
			if inSample(f.path) {
				continue
			}
			c.passwords(f.path)
			text := string(c.textOf(f.path))
			for i, line := range strings.Split(text, "\n") {
				if what := credential(line); what != "" {
					c.report(f.path, i+1, 0, nil, "it looks like %s; take it out, and make it void where it came from", what)
				}
			}
		}
	},
}

// secretKey is the last part of a key whose value is a secret, and password one
// among the parts of a connection.
var (
	secretKey = lazy.New(`(?i)(^|[._-])(password|passwd|pwd|secret|client_?secret|secret_?key|api_?key|access_?key|auth_?token)$`)
	password  = lazy.New(`(?i)(?:^|;)\s*(?:password|pwd)\s*=\s*([^;]+)`)
	// plainSecret is what such a value looks like: one word, and no place for one.
	plainSecret = lazy.New(`^[^\s<>{}$%]{6,}$`)
)

// passwords tells of settings of a program, known by the file's name, that hold a
// password in plain sight. It is no more than likely.
func (c *Call) passwords(at string) {
	name := strings.ToLower(path.Base(at))
	if path.Ext(name) != ".json" || !strings.HasPrefix(name, "appsettings") && !strings.HasPrefix(name, "config") && !strings.HasPrefix(name, "settings") && !strings.HasPrefix(name, "secrets") {
		return
	}
	for _, k := range c.refsOf(at).Of(refs.Key) {
		value := k.Value
		if m := password.Get().FindStringSubmatch(value); m != nil {
			value = strings.TrimSpace(m[1])
		} else if !secretKey.MatchString(k.Name) {
			continue
		}
		if plainSecret.MatchString(value) && !harmless.MatchString(value) && !strings.EqualFold(value, k.Name) {
			f := c.atRef(at, k, nil, "the value of %s looks like a password; take it out, and make it void where it came from", k.Name)
			f.Level = max(f.Level, finding.Warning)
		}
	}
}

// settingsFiles are where settings usually stand: by these names anywhere, and by
// these endings near the top.
var settingsFiles = sync.OnceValue(func() []place {
	var all []place
	add := func(folder string, names ...string) {
		for _, name := range names {
			p, err := layout.ParsePath(folder + name)
			if err != nil {
				panic(err) // the lists below are at fault
			}
			all = append(all, place{PathPattern: p, reached: make([]map[*layout.Entry]bool, len(p.Segments()))})
		}
	}
	add("**/", ".env*", "*.env", "*.pem", "*.key", "*.tfvars", ".npmrc", "*.properties", "*.ini", "*.cfg", "*.conf", "appsettings*.json", "config*.json", "settings*.json", "secrets*.json", "auth.json")
	for _, folder := range []string{"", "*/"} {
		add(folder, "*.yml", "*.yaml", "*.toml", "*.json", "*.xml")
	}
	return all
})
