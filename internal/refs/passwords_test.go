package refs

import (
	"bytes"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/refs/lang"
)

// passwordsAnywhere is passwordsIn as it reads best: the expression goes over the whole text.
func passwordsAnywhere(text []byte) (all []lang.Credential) {
	for _, m := range secretGiven.Get().FindAllSubmatchIndex(text, -1) {
		value, name := string(text[m[4]:m[5]]), bytes.ToLower(text[m[0]:min(m[1], m[0]+8)])
		ofSecret := bytes.HasPrefix(name, []byte("secret")) || bytes.HasPrefix(name, []byte("passw"))
		if !veiled.Match(text[max(0, m[0]-16):m[0]]) && (unlikeWords(value) || ofSecret && unlikeNames(value)) && !Harmless(value) {
			all = append(all, lang.Credential{What: InCode, Line: 1 + bytes.Count(text[:m[0]], []byte("\n"))})
		}
	}
	return all
}

// TestPasswords holds what is looked for at quotes alone against what the expression finds in whole texts: in all
// that is here, and in what was made to be told.
func TestPasswords(t *testing.T) {
	var texts [][]byte
	err := filepath.WalkDir("../..", func(at string, entry os.DirEntry, err error) error {
		if err != nil || entry.IsDir() || !slices.Contains([]string{".go", ".md", ".yaml", ".txtar"}, filepath.Ext(at)) {
			return err
		}
		text, err := os.ReadFile(at)
		texts = append(texts, text)
		return err
	})
	if err != nil || len(texts) < 500 {
		t.Fatal(len(texts), err)
	}
	secret, more := "gull-86!"+"quay.tern", strings.Repeat("a1b2", 7)
	for _, text := range []string{
		"password = \"" + secret + "\"\n", "x\ny\nself.passwd: str = '" + secret + "'\n", "{\"api_key\": \"" + secret + "\"}\n", "$config['secret'] => '" + secret + "';\n",
		"SECRET_KEY := `" + secret + "`\n", "pwd=\"" + secret + "\", token=\"" + secret + "\"\n", "auth_token = \"" + secret + "\"\n", "secret = '" + more + "'\n",
		"password =\n    \"" + secret + "\"\n", "hashed_password = \"" + secret + "\"\n", "password = \"changeme\"\n", "passwords = [\"" + secret + "\"]\n",
		"key = \"" + secret + "\"\n", "password(\"" + secret + "\")\n", "password = \"" + secret + "\nnot closed", "password == \"" + secret + "\"\n", "\"", "password = \"",
	} {
		texts = append(texts, []byte(text))
	}
	told := 0
	for _, text := range texts {
		want, got := passwordsAnywhere(text), passwordsIn(text)
		if told += len(got); !slices.Equal(got, want) {
			t.Errorf("%.60q: got %v, want %v", text, got, want)
		}
	}
	if told < 10 {
		t.Errorf("%d are found in all: the texts show nothing", told)
	}
}
