package refs

import (
	"bytes"
	"slices"
	"strings"
	"unicode"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

// A look is how one kind of credential is known.
type look struct {
	what    string
	has     []string // one of these stands in every one, and is looked for first
	pattern *lazy.Regexp
	token   bool // only a service gives it out, so that it is one in code, too
}

// looks are credentials that are known by their look. They are told by what they are,
// never shown.
var looks = []look{
	{PrivateKey, []string{"PRIVATE KEY"}, lazy.New(`-----BEGIN (?:[A-Z]+ )?PRIVATE KEY-----`), false},
	{"an access key of Amazon Web Services", []string{"AKIA", "ASIA"}, lazy.New(`\b(?:AKIA|ASIA)[0-9A-Z]{16}\b`), true},
	{"a token of GitHub", []string{"ghp_", "gho_", "ghu_", "ghs_", "ghr_", "github_pat_"}, lazy.New(`\b(?:gh[pousr]_[A-Za-z0-9]{36,}|github_pat_[A-Za-z0-9_]{50,})\b`), true},
	{"a token of GitLab", []string{"glpat-"}, lazy.New(`\bglpat-[A-Za-z0-9_-]{20,}\b`), true},
	{"a token of Slack", []string{"xox"}, lazy.New(`\bxox[abprs]-[A-Za-z0-9-]{10,}\b`), true},
	{"a secret key of Stripe", []string{"k_live_"}, lazy.New(`\b[sr]k_live_[A-Za-z0-9]{16,}\b`), true},
	{"a key of Google's interfaces", []string{"AIza"}, lazy.New(`\bAIza[0-9A-Za-z_-]{35}\b`), true},
	{"a token of npm", []string{"npm_"}, lazy.New(`\bnpm_[A-Za-z0-9]{36}\b`), true},
	{"a signed token", []string{"eyJ"}, lazy.New(`\beyJ[A-Za-z0-9_-]{10,}\.eyJ[A-Za-z0-9_-]{10,}\.[A-Za-z0-9_-]{10,}`), false},
	{"a password in an address", []string{"://"}, lazy.New(`\b[a-z][a-z0-9+.-]*://([^\s:/@"'$]+):([^\s:/@"'$<>{}]{6,})@`), false},
}

// PrivateKey is what a private key looks like.
const PrivateKey = "a private key"

// keyBody is a private key with the beginning of what is in it (RFC 7468), also where
// the lines are those of a quoted text: code often names the first line alone.
var keyBody = lazy.New(`-----BEGIN (?:[A-Z]+ )?PRIVATE KEY-----(?:\\[nr]|["'+,.\s\x60])*[A-Za-z0-9+/=]{40}`)

// placeOfKey is what samples have in the place of a key, on the line below its first.
var placeOfKey = lazy.New(`\A[\s#/*]*(?:[<.${*\[]|(?i:your|xxx))`)

// harmless are passwords of examples.
var harmless = lazy.New(`(?i)^(pass|password\d{0,3}|passwd|secret|example|change[-_]?(me|this|it).*|replace[-_]?(me|this|with).*|insecure.*|postgres|x+|\*+|your.*|my.*|test.*|dummy.*|.*example.*)$`)

// Harmless says whether a password is one of an example.
func Harmless(password string) bool { return harmless.MatchString(password) }

// Credential says what kind of credential stands in a line, or "".
func Credential(line string) string { return credential(line, looks) }

func credential(line string, among []look) string {
	for _, s := range among {
		if !slices.ContainsFunc(s.has, func(has string) bool { return strings.Contains(line, has) }) {
			continue
		}
		m := s.pattern.Get().FindStringSubmatch(line)
		if m == nil || len(m) > 2 && (Harmless(m[2]) || strings.EqualFold(m[1], m[2])) || strings.Contains(strings.ToUpper(m[0]), "EXAMPLE") {
			continue
		}
		return s.what
	}
	return ""
}

// Credentials finds the credentials in the text of settings.
func Credentials(text []byte) []lang.Credential {
	return credentials(text, looks, func(line, after []byte, what string) bool { return what != PrivateKey || !placeOfKey.Match(after) })
}

// credentials finds those of some looks in a text, of which a line, what follows it and what it is are asked.
func credentials(text []byte, among []look, is func(line, after []byte, what string) bool) (all []lang.Credential) {
	if !slices.ContainsFunc(among, func(l look) bool {
		return slices.ContainsFunc(l.has, func(has string) bool { return bytes.Contains(text, []byte(has)) })
	}) {
		return nil
	}
	n, end := 0, 0
	for line := range bytes.Lines(text) {
		n, end = n+1, end+len(line)
		if what := credential(string(line), among); what != "" && is(line, text[end:], what) {
			all = append(all, lang.Credential{What: what, Line: n})
		}
	}
	return all
}

// InCode is what a password that a program itself gives to a name looks like.
const InCode = "a password in code"

// secretGiven finds a text that code gives to what is called as a secret is: its second group.
var secretGiven = lazy.New(`(?i)(?:password|passwd|pwd|secret|secret_?key|api_?key|access_?key|auth_?token)["'\x60]?\]?\s*(?::\s*(?:str|string)\s*)?(?:=>|:=|=|:)\s*(["'\x60])([^"'\x60\s{}<>$%/\\]{10,80})["'\x60]`)

// veiled is what stands in the name of a password that was made unreadable.
var veiled = lazy.New(`(?i)crypt|hash|obscur`)

// passwordsIn finds the passwords in the text of a program: what is called so and holds letters,
// digits and signs, as no word does.
func passwordsIn(text []byte) (all []lang.Credential) {
	for at := 0; ; at++ {
		i := bytes.IndexAny(text[at:], quotes)
		if i < 0 {
			return all
		}
		at += i
		// Only a text that something is given is looked at closely: few are.
		before := bytes.TrimRight(text[max(0, at-farthestName):at], " \t\r\n")
		if len(before) == 0 || bytes.IndexByte([]byte("=:>"), before[len(before)-1]) < 0 || !secretName(before) {
			continue
		}
		start := at - len(text[max(0, at-farthestName):at])
		m := secretGiven.Get().FindSubmatchIndex(text[start:min(len(text), at+longestSecret)])
		if m == nil || start+m[3] != at+1 {
			continue
		}
		from, to := start+m[0], start+m[5]
		if veiled.Match(text[max(0, from-16):from]) {
			continue // nobody who reads it has it
		}
		value, name := string(text[start+m[4]:to]), bytes.ToLower(text[from:min(len(text), from+8)])
		ofSecret := bytes.HasPrefix(name, []byte("secret")) || bytes.HasPrefix(name, []byte("passw"))
		if (unlikeWords(value) || ofSecret && unlikeNames(value)) && !Harmless(value) {
			all = append(all, lang.Credential{What: InCode, Line: 1 + bytes.Count(text[:from], []byte("\n"))})
		}
		at = to
	}
}

const (
	quotes = "\"'`"
	// farthestName is how far before a secret its name begins, longestSecret how far the secret goes on.
	farthestName, longestSecret = 60, 84
)

// secretName says whether a text may end with what a secret is called.
func secretName(text []byte) bool {
	text = bytes.ToLower(text)
	return slices.ContainsFunc([]string{"passw", "pwd", "secret", "key", "token"}, func(part string) bool { return bytes.Contains(text, []byte(part)) })
}

// unlikeWords says whether a text has letters, digits and a sign that no name has.
func unlikeWords(text string) bool {
	return strings.ContainsFunc(text, unicode.IsLetter) && strings.ContainsAny(text, "0123456789") && strings.ContainsAny(text, "!@#^&*+=?~|;,")
}

// unlikeNames says whether a text is long and goes to and fro between letters and digits, as what a
// generator of secrets makes does.
func unlikeNames(text string) bool {
	turns, before := 0, false
	for i, c := range text {
		digit := unicode.IsDigit(c)
		if i > 0 && digit != before && c != '-' && c != '_' {
			turns++
		}
		before = digit
	}
	return len(text) >= 24 && turns >= 8
}

// tokens are the looks of what only a service gives out.
var tokens = slices.DeleteFunc(slices.Clone(looks), func(l look) bool { return !l.token })

// tokensIn finds tokens in the text of a program: not in remarks, which show what one looks like.
func tokensIn(text []byte) []lang.Credential {
	return credentials(text, tokens, func(line, _ []byte, _ string) bool {
		line = bytes.TrimLeft(line, " \t")
		return !bytes.HasPrefix(line, []byte("//")) && !bytes.HasPrefix(line, []byte("#")) && !bytes.HasPrefix(line, []byte("*"))
	})
}

// keysIn finds private keys in the text of a program or a document.
func keysIn(text []byte) []lang.Credential {
	if !bytes.Contains(text, []byte("PRIVATE KEY-----")) {
		return nil
	}
	var all []lang.Credential
	for _, at := range keyBody.Get().FindAllIndex(text, -1) {
		all = append(all, lang.Credential{What: PrivateKey, Line: 1 + bytes.Count(text[:at[0]], []byte("\n"))})
	}
	return all
}
