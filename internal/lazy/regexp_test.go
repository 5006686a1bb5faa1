package lazy

import "testing"

func TestRegexp(t *testing.T) {
	r := New("^tide")
	if r.re != nil || !r.MatchString("tides") || r.re == nil || r.Match([]byte("berths")) || r.String() != "^tide" {
		t.Errorf("%+v", r)
	}
	if _, err := Compile("("); err == nil {
		t.Error("a wrong expression is taken")
	}
	if r, err := Compile("s$"); err != nil || !r.MatchString("tides") {
		t.Error(r, err)
	}
}
