package manifest

import (
	"cmp"
	"strconv"
	"strings"

	"dicaxon/internal/lazy"
)

// A Demand asks for a dependency and, where it says so, for some of its versions:
// "laravel/framework >= 11".
type Demand struct {
	Name    string // in small letters
	sign    string // "" for any version
	version []int
}

var demandForm = lazy.New(`^(\S+)(?:\s*(>=|<=|>|<|=)\s*v?(\d+(?:\.\d+)*))?$`)

// ParseDemand reads a demand; ok is false where it is none.
func ParseDemand(text string) (d Demand, ok bool) {
	m := demandForm.Get().FindStringSubmatch(strings.TrimSpace(text))
	if m == nil || strings.ContainsAny(m[1], "<>=") {
		return d, false
	}
	return Demand{strings.ToLower(m[1]), m[2], numbers(m[3])}, true
}

// Meets says whether a dependency meets the demand. Of the versions that a manifest takes
// the lowest counts, as far as the demand says: "^11.2" is 11 where 11 is asked for.
// Where none is written, none is known, and a demand for one is not met.
func (d *Demand) Meets(of Dependency) bool {
	if of.Name != d.Name {
		return false
	}
	if d.sign == "" {
		return true
	}
	m := firstVersion.Get().FindString(of.Version)
	if m == "" {
		return false
	}
	have := numbers(m)
	order := 0
	for i := range d.version {
		n := 0
		if i < len(have) {
			n = have[i]
		}
		if order = cmp.Compare(n, d.version[i]); order != 0 {
			break
		}
	}
	switch d.sign {
	case ">=":
		return order >= 0
	case "<=":
		return order <= 0
	case ">":
		return order > 0
	case "<":
		return order < 0
	}
	return order == 0
}

var firstVersion = lazy.New(`\d+(?:\.\d+)*`)

func numbers(version string) []int {
	var all []int
	for part := range strings.SplitSeq(version, ".") {
		if n, err := strconv.Atoi(part); err == nil {
			all = append(all, n)
		}
	}
	return all
}
