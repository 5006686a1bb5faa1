package rules

import (
	"fmt"
	"path"
	"slices"
	"strings"
	"sync"
	"unicode"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

var secrets = &Rule{
	Name: "secrets", Kind: finding.Exposed, Level: finding.Error, Always: true,
	Doc: "Settings that version control keeps hold no credential. The credential itself is never shown.",
	Example: `- rule: secrets
  files: ["*.yml", "config/**/*.yml"]`,
	Options: []Option{{"files", Paths, false, "the settings; if left out, those of the top folders", false}},
	Run: func(c *Call) {
		if c.paths["files"] != nil {
			for _, f := range c.files("files") {
				c.credentials(f.path, refs.Credentials(c.textOf(f.path)))
				c.passwords(f.path, c.refsOf(f.path))
			}
			return
		}
		for _, f := range c.find(settingsFiles(), c.env) {
			if !refs.Reads(f.path) {
				c.credentials(f.path, refs.Credentials(c.textOf(f.path)))
			}
		}
		c.Graph.Look().Each(func(at string) {
			if refs.Reads(at) {
				says := c.Graph.InPassing(at)
				c.credentials(at, says.Credentials)
				c.passwords(at, says)
			}
		})
	},
}

// credentials tells of what a file holds; where it serves tests or is an example, as a
// note.
func (c *Call) credentials(at string, all []lang.Credential) {
	for _, one := range all {
		f := c.report(at, one.Line, 0, nil, "it looks like %s; take it out, and make it void where it came from", one.What)
		if _, test := names.Testee(path.Base(at)); test || inSample(at) {
			f.Level, f.Message = finding.Note, fmt.Sprintf("it looks like %s; see that it opens nothing real", one.What)
		}
	}
}

// secretKey is the last part of a key whose value is a secret, and password one
// among the parts of a connection.
var (
	secretKey = lazy.New(`(?i)(^|[._-])(password|passwd|pwd|secret|client_?secret|secret_?key|api_?key|access_?key|auth_?token)$`)
	password  = lazy.New(`(?i)(?:^|;)\s*(?:password|pwd)\s*=\s*([^;]+)`)
	// settingsName is what a file of settings is called.
	settingsName = lazy.New(`(?i)^(appsettings|config|settings|secrets).*\.json$`)
	hashed       = lazy.New(`(?i)hash|salt|digest`)
	// plainSecret is what such a value looks like: one word, and no place for one.
	plainSecret = lazy.New(`^[^\s<>{}$%]{6,}$`)
)

// passwords tells of settings that hold a password in plain sight. It is no more than
// likely; in a file that is not called as settings are, the value must look so too.
func (c *Call) passwords(at string, says *refs.File) {
	if refs.IsCode(at) || worded(at) {
		return
	}
	named := settingsName.MatchString(path.Base(at))
	for _, k := range says.Of(refs.Key) {
		value := k.Value
		if m := password.Get().FindStringSubmatch(value); m != nil {
			value = strings.TrimSpace(m[1])
		} else if !secretKey.MatchString(k.Name) || hashed.MatchString(k.Name) || !named && !mixed(value) {
			continue
		}
		if plainSecret.MatchString(value) && !refs.Harmless(value) && !strings.EqualFold(value, k.Name) && refs.Credential(value) == "" {
			f := c.atRef(at, k, nil, "the value of %s looks like a password; take it out, and make it void where it came from", k.Name)
			f.Level = max(f.Level, finding.Warning)
			if inSample(at) {
				f.Level, f.Message = finding.Note, fmt.Sprintf("the value of %s looks like a password; see that it opens nothing real", k.Name)
			}
		}
	}
}

// mixed says whether a value has what words have not: letters and digits, and more than
// a number at the end of a word.
func mixed(value string) bool {
	word := strings.TrimRight(value, "0123456789")
	return strings.ContainsAny(word, "0123456789") && strings.ContainsFunc(word, unicode.IsLetter)
}

// worded says whether a file holds words for people to read, such as translations.
func worded(at string) bool {
	return slices.ContainsFunc(strings.Split(path.Dir(at), "/"), func(folder string) bool {
		return slices.Contains([]string{"locales", "locale", "i18n", "lang", "langs", "translations", "messages", "l10n", "schemas", "schema"}, strings.ToLower(folder))
	})
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
	add("**/", ".env*", "*.env", "*.pem", "*.key", "*.p8", "id_rsa", "id_ed25519", "id_ecdsa", "*.tfvars", ".npmrc", "*.properties", "*.ini", "*.cfg", "*.conf", "appsettings*.json", "config*.json", "settings*.json", "secrets*.json", "auth.json")
	for _, folder := range []string{"", "*/"} {
		add(folder, "*.yml", "*.yaml", "*.toml", "*.json", "*.xml")
	}
	return all
})
