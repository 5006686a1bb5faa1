package rules

import (
	"bytes"
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
	Options: []Option{{"files", Paths, false, "the settings; if left out, all that are read, and files that are called as keys are", false},
		{"by", Finders, false, "finds a secret in such a file: its first group", false},
		{"plain", Flag, false, "true where whatever stands there is one, even a word", false},
		{"except", Regexps, false, "what only looks like one", false},
		{"aside", Regexps, false, "parts of such a file that hold none, such as keys that are sent to browsers", false}},
	Run: runSecrets,
}

func runSecrets(c *Call) {
	e := exposures{Call: c}
	if c.paths["files"] != nil {
		for _, f := range c.files("files") {
			if len(c.regexps["by"]) > 0 { // what is known by its look is told anyhow
				e.told(f.path)
				continue
			}
			e.credentials(f.path, refs.Credentials(c.textOf(f.path)))
			e.passwords(f.path, c.refsOf(f.path))
		}
	} else {
		for _, f := range c.find(keyFiles(), c.env) {
			if !refs.Reads(f.path) {
				e.credentials(f.path, refs.Credentials(c.textOf(f.path)))
			}
		}
		c.Graph.Look().Each(func(at string) {
			switch {
			case refs.IsCode(at):
				e.credentials(at, c.Graph.Noted(at).Credentials)
			case refs.Reads(at):
				says := c.Graph.InPassing(at)
				e.credentials(at, says.Credentials)
				e.passwords(at, says)
			}
		})
	}
	e.ofSamples()
}

// told tells of the secrets of a file that the rule describes.
func (e *exposures) told(at string) {
	if inSample(at) || len(e.regexps["by"]) == 0 {
		return
	}
	code := e.withoutAside(e.Graph.Code(at))
	for _, re := range e.regexps["by"] {
		for _, m := range re.FindAll(code) {
			secret := string(code[max(m[2], 0):max(m[3], 0)])
			if !e.flag("plain") && (!mixed(secret) || refs.Harmless(secret)) || anyFits(e.regexps["except"], []byte(secret)) {
				continue
			}
			line, column := refs.Place(code, refs.Span{Start: int32(m[0])})
			e.report(at, line, column, nil, "it holds a secret in plain sight; take it out, and make it void where it came from")
		}
	}
}

// exposures are the credentials of a project. Those that serve tests or are examples are
// told once for all of them, as a note.
type exposures struct {
	*Call
	samples []exposure
	keys    map[string]bool // see onlyTestsName: whether tests alone name one
}

// An exposure is one credential in what only looks so.
type exposure struct {
	at   string
	line int
	what string
}

// credentials tells of what a file holds.
func (e *exposures) credentials(at string, all []lang.Credential) {
	for _, one := range all {
		if one.What == refs.InCode && strings.Contains(path.Base(at), ".min.") {
			continue // its names are those of letters
		}
		if sampleOfSettings.MatchString(path.Base(at)) && e.besideIt(at, one) {
			continue // who fills the sample in starts what it opens
		}
		if _, test := names.Testee(path.Base(at)); test || inSample(at) || saysTest(at) || one.What == refs.PrivateKey && e.onlyTestsName(at) || ofPipeline(at) && e.besideIt(at, one) {
			e.samples = append(e.samples, exposure{at, one.Line, "it looks like " + one.What})
			continue
		}
		f := e.report(at, one.Line, 0, nil, "it looks like %s; take it out, and make it void where it came from", one.What)
		if one.What == refs.InCode {
			f.Level = max(f.Level, finding.Warning)
		}
	}
}

// keyNamed is how code names a file with a key in a folder.
var keyNamed = lazy.New(`[\w.-]+/(?:[\w.-]+\.(?:pem|key|p8)|id_(?:rsa|ed25519|ecdsa))\b`)

// onlyTestsName says whether code names a file with a key, and all that does is tests.
func (e *exposures) onlyTestsName(at string) bool {
	if e.Files > mostTurned {
		return false
	}
	if e.keys == nil {
		e.keys = map[string]bool{}
		e.Graph.Look().Each(func(by string) {
			if !refs.IsCode(by) || isDocument(by) {
				return
			}
			tries := isTest(by) || inSample(by)
			for _, name := range keyNamed.Get().FindAll(e.textOf(by), -1) {
				known, named := e.keys[string(name)]
				e.keys[string(name)] = tries && (known || !named)
			}
		})
	}
	return e.keys[path.Base(path.Dir(at))+"/"+path.Base(at)]
}

// onThisMachine is the end of an address of what runs beside the program.
var onThisMachine = lazy.New(`@(?:localhost|127\.0\.0\.1|0\.0\.0\.0|host\.docker\.internal)(?:[:/?]|$)`)

// besideIt says whether a password is one of what runs on the same machine.
func (e *exposures) besideIt(at string, one lang.Credential) bool {
	lines := bytes.Split(e.textOf(at), []byte("\n"))
	return one.Line <= len(lines) && onThisMachine.Match(lines[one.Line-1])
}

// ofPipeline says whether a file is one of a pipeline, which starts things for itself, and lets them go at its end.
func ofPipeline(at string) bool {
	return strings.HasPrefix(at, ".github/workflows/") || path.Base(at) == ".gitlab-ci.yml"
}

// sampleOfSettings is what samples of the settings of a machine are called.
var sampleOfSettings = lazy.New(`^\.?env[\w-]*\.(?:example|sample|dist|template)$|^\.(?:example|sample)\.env$`)

// saysTest says whether a folder on the way to a file, or the file itself, has a word in its name that says
// that it is tried out alone, or the file says what others look like.
func saysTest(at string) bool {
	trial := func(word string) bool {
		return slices.Contains([]string{"test", "tests", "testing", "example", "examples", "sample", "samples", "demo", "dummy", "mock", "benchmark"}, word)
	}
	return inFolder(at, func(name string) bool {
		words := names.Words(name)
		return len(words) > 1 && slices.ContainsFunc(words, trial)
	}) || slices.ContainsFunc(names.Words(names.BeforeDot(path.Base(at))), trial) || strings.Contains(path.Base(at), ".schema.")
}

// ofSamples tells of what tests and examples hold.
func (e *exposures) ofSamples() {
	if len(e.samples) == 0 {
		return
	}
	first := e.samples[0]
	f := e.report(first.at, first.line, 0, nil, "%s; see that it opens nothing real", first.what)
	f.Level = finding.Note
	for _, s := range e.samples[1:] {
		f.AlsoAt(e.Top.Path() + s.at)
	}
}

// secretKey is the last part of a key whose value is a secret, and password one
// among the parts of a connection.
var (
	secretKey = lazy.New(`(?i)(^|[._-])(password|passwd|pwd|secret|client_?secret|secret_?key|api_?key|access_?key|auth_?token)$`)
	password  = lazy.New(`(?i)(?:^|;)\s*(?:password|pwd)\s*=\s*([^;]+)`)
	// keyOfService is what the environment calls a key to something, and longKey what such a
	// key looks like: nobody would write so much as the place of one.
	keyOfService = lazy.New(`(?i)_(key|token|secret)$`)
	longKey      = lazy.New(`^[A-Za-z0-9+/_=-]{24,}$`)
	// settingsName is what a file of settings is called.
	settingsName = lazy.New(`(?i)^(appsettings|config|settings|secrets).*\.json$`)
	hashed       = lazy.New(`(?i)hash|salt|digest`)
	// plainSecret is what such a value looks like: one word, and no place for one.
	plainSecret = lazy.New(`^[^\s<>{}$%]{6,}$`)
)

// passwordIn gives the password among the parts of a connection, "" for none.
func passwordIn(value string) string {
	if !strings.Contains(value, "=") {
		return ""
	}
	if m := password.Get().FindStringSubmatch(value); m != nil {
		return strings.TrimSpace(m[1])
	}
	return ""
}

// mayBeSecret leaves out most keys at once: those that end as no secretKey does.
func mayBeSecret(key string) bool {
	return key != "" && strings.ContainsRune("dtyn", rune(key[len(key)-1]|0x20))
}

// passwords tells of settings that hold a password in plain sight. It is no more than
// likely; in a file that is not called as settings are, the value must look so too.
func (e *exposures) passwords(at string, says *refs.File) {
	if refs.IsCode(at) || worded(at) {
		return
	}
	named, inEnv := settingsName.MatchString(path.Base(at)), strings.HasPrefix(path.Base(at), ".env")
	for _, k := range says.Of(refs.Key) {
		value := k.Value
		if m := passwordIn(value); m != "" {
			value = m
		} else if inEnv && keyOfService.MatchString(k.Name) && longKey.MatchString(value) && mixed(value) {
			// whatever the service
		} else if !mayBeSecret(k.Name) || !secretKey.MatchString(k.Name) || hashed.MatchString(k.Name) || !named && !mixed(value) || oneOfMany(says, k) {
			continue
		}
		if plainSecret.MatchString(value) && !refs.Harmless(value) && !strings.EqualFold(value, k.Name) && refs.Credential(value) == "" {
			if inSample(at) {
				e.samples = append(e.samples, exposure{at, k.Line, fmt.Sprintf("the value of %s looks like a password", k.Name)})
				continue
			}
			f := e.atRef(at, k, nil, "the value of %s looks like a password; take it out, and make it void where it came from", k.Name)
			f.Level = max(f.Level, finding.Warning)
		}
	}
}

// alikeFrom is how many characters values begin with that are of one series, and many how many there are.
const alikeFrom, many = 6, 3

// oneOfMany says whether other keys beside one, which are not called as secrets are, have values that
// begin alike: they are names of things, in a list that has one for secrets, too.
func oneOfMany(says *refs.File, k refs.Ref) bool {
	n := 0
	for _, other := range says.Of(refs.Key) {
		if keyAbove(other.Name) == keyAbove(k.Name) && len(k.Value) > alikeFrom && strings.HasPrefix(other.Value, k.Value[:alikeFrom]) && !secretKey.MatchString(other.Name) {
			n++
		}
	}
	return n >= many
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

// keyFiles are files without a reader that hold keys or settings, by their names.
var keyFiles = sync.OnceValue(func() []place {
	var all []place
	for _, name := range []string{".env*", "*.pem", "*.key", "*.p8", "id_rsa", "id_ed25519", "id_ecdsa", "*.tfvars", ".npmrc", "*.properties", "*.ini", "*.cfg", "*.conf"} {
		p, err := layout.ParsePath("**/" + name)
		if err != nil {
			panic(err) // the list above is at fault
		}
		all = append(all, place{PathPattern: p, reached: make([]map[*layout.Entry]bool, len(p.Segments()))})
	}
	return all
})
