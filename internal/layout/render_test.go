package layout

import (
	"strings"
	"testing"
	"time"
)

var plainMarks = [2]string{"{{", "}}"}

// TestRenderBounds renders what makes too much of itself.
func TestRenderBounds(t *testing.T) {
	data := map[string]any{"areas": []string{"berths", "crews", "tides"}, "project": "ferry"}
	for text, want := range map[string]string{
		`{{range 100000000000}}{{end}}`:                                           "loops",
		`{{range $i := 1000000}}{{end}}`:                                          "loops",
		`{{with .areas}}{{range 200000}}{{end}}{{end}}`:                           "loops",
		`{{if .project}}{{range 200000}}{{end}}{{end}}`:                           "loops",
		`{{range .none}}{{else}}{{range 200000}}{{end}}{{end}}`:                   "no entry",
		strings.Repeat(`{{range $.areas}}`, 15) + strings.Repeat(`{{end}}`, 15):   "loops",
		`{{define "a"}}{{template "a"}}{{end}}{{template "a"}}`:                   "depth",
		`{{range 90000}}` + strings.Repeat("x", 100) + `{{end}}`:                  "bytes",
		`{{$x := "x"}}` + strings.Repeat(`{{$x = print $x $x}}`, 40) + `{{$x}}`:   "longer",
		`{{$x := "x"}}` + strings.Repeat(`{{$x = join $.areas $x}}`, 40):          "longer",
		`{{$x := "<"}}` + strings.Repeat(`{{$x = urlquery $x $x}}`, 40):           "longer",
		`{{$x := "x"}}` + strings.Repeat(`{{$x = println $x $x}}`, 40) + `{{$x}}`: "longer",
		strings.Repeat("x", mostStarter+1):                                        "too long",
		`{{.Secret}}`:                                                             "Secret",
		`{{`:                                                                      "unclosed",
	} {
		began := time.Now()
		made, err := Render("a.tmpl", text, plainMarks, data)
		if err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%.60s: %d bytes, %v", text, len(made), err)
		}
		if took := time.Since(began); took > 10*time.Second {
			t.Errorf("%.60s takes %v", text, took)
		}
	}
	made, err := Render("a.tmpl", `{{range .areas}}{{pascal .}} {{printf "%03d" 7}}{{html "<"}}{{end}}{{join .areas ", "}}`, plainMarks, data)
	if err != nil || string(made) != "Berths 007&lt;Crews 007&lt;Tides 007&lt;berths, crews, tides" {
		t.Errorf("%q %v", made, err)
	}
}

// FuzzRender renders anything: it ends, and gives no more than it may.
func FuzzRender(f *testing.F) {
	for _, text := range []string{`{{range .areas}}{{.}}{{end}}`, `{{define "a"}}{{end}}{{template "a" .}}`, `{{$x := 3}}{{range $x}}{{end}}`, `{{printf "%*d" 99 1}}`, `{{slice .project 1 2}}{{index .areas 0}}`, `{{break}}`} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		if len(text) > 4096 {
			return
		}
		if made, err := Render("a.tmpl", text, plainMarks, map[string]any{"areas": []string{"berths"}, "project": "ferry"}); err == nil && len(made) > mostRendered {
			t.Errorf("%d bytes", len(made))
		}
	})
}
