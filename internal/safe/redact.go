package safe

import "dicaxon/internal/lazy"

var (
	inAddress = lazy.New(`(?i)\b([a-z][a-z0-9+.-]*://[^\s:/?#@]*):\S*@`)
	inSetting = lazy.New(`(?i)\b([a-z_]*(?:password|passwd|passfile|pwd|pass|secret|token|api_?key)\s*=\s*)('(?:[^'\\]|\\.)*'?|"[^"]*"?|[^\s&;,)'"]+)`)
)

var (
	scheme  = lazy.New(`^[A-Za-z][A-Za-z0-9+.-]*://`)
	keyword = lazy.New(`(?i)^\s*(?:host|hostaddr|port|dbname|user|password|service|sslmode)\s*=`)
)

// IsAddress says whether a text is the address of something on a network or of a
// database, in either form that PostgreSQL has (libpq, connection strings), and no path.
func IsAddress(text string) bool { return scheme.MatchString(text) || keyword.MatchString(text) }

// Redacted gives a text without the passwords of addresses and connection strings in it,
// in every form: after the name of who asks, as a parameter, as key and value.
func Redacted(text string) string {
	text = inAddress.Get().ReplaceAllString(text, "$1:…@")
	return inSetting.Get().ReplaceAllString(text, "$1…")
}
