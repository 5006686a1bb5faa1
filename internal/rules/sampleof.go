package rules

import (
	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
	"slices"
	"strings"
)

var sampleOf = &Rule{
	Name: "sample-of", Kind: finding.Disagrees, Level: finding.Error, Arrangement: true,
	Doc: "A sample of settings has the keys that the real ones have, and no real value of a secret.",
	Example: `- rule: sample-of
  sample: .env.example
  real: .env`,
	Options: []Option{
		{"sample", Paths, true, "the sample, which is committed", false},
		{"real", Text, true, "the real settings, which are not", false},
	},
	Run: func(c *Call) {
		for _, f := range c.files("sample") {
			real := fill(c.text("real"), f.env, c.env)
			if n := c.node(real); n != nil && n.Folder == nil {
				c.compareKeys(f.path, real)
			}
			for _, k := range c.refsOf(f.path).Of(refs.Key) {
				if what := suspicious(k); what != "" {
					c.atRef(f.path, k, nil, "the value of %s looks like %s; a sample holds none", k.Name, what).Kind = finding.Exposed
				}
			}
		}
	},
}

func (c *Call) compareKeys(sample, real string) {
	keys := func(path string) map[string]refs.Ref {
		all := map[string]refs.Ref{}
		for _, k := range c.refsOf(path).Of(refs.Key) {
			all[k.Name] = k
		}
		return all
	}
	has, needs := keys(sample), keys(real)
	for _, k := range c.refsOf(real).Of(refs.Key) {
		if _, ok := has[k.Name]; !ok {
			c.report(sample, 0, 0, &finding.Place{Path: real, Line: k.Line}, "it lacks %s, which %s has", k.Name, real)
		}
	}
	for _, k := range c.refsOf(sample).Of(refs.Key) {
		if r, ok := needs[k.Name]; ok && len(k.Value) > 5 && k.Value == r.Value && secretName.MatchString(k.Name) && !refs.Harmless(k.Value) {
			c.atRef(sample, k, &finding.Place{Path: real, Line: r.Line}, "the value of %s is the one that %s has; a sample holds none", k.Name, real).Kind = finding.Exposed
		}
		if _, ok := needs[k.Name]; !ok {
			c.atRef(sample, k, &finding.Place{Path: real}, "it has %s, which %s lacks", k.Name, real).Level = finding.Warning
		}
	}
}

var (
	secretName = lazy.New(`(?i)(secret|password|passwd|token|api_?key|private_?key|credential)`)
	randomText = lazy.New(`^[A-Za-z0-9+/_=-]{20,}$`)
)

// suspicious says what the value of a sample's key looks like, or "".
func suspicious(k refs.Ref) string {
	if what := refs.Credential(k.Value); what != "" {
		return what
	}
	if !secretName.MatchString(k.Name) || refs.Harmless(k.Value) || !randomText.MatchString(k.Value) {
		return ""
	}
	digits, letters := 0, 0
	for _, c := range k.Value {
		switch {
		case '0' <= c && c <= '9':
			digits++
		case 'a' <= c && c <= 'z' || 'A' <= c && c <= 'Z':
			letters++
		}
	}
	if digits >= 3 && letters >= 5 {
		return "a real secret"
	}
	return ""
}

// secretive says whether settings have a key that is called like a secret and is
// set, or a value that looks like one.
func (c *Call) secretive(at string) bool {
	return slices.ContainsFunc(c.refsOf(at).Of(refs.Key), func(k refs.Ref) bool {
		return k.Value != "" && (secretName.MatchString(k.Name) || strings.Contains(strings.ToUpper(k.Name), "KEY") || refs.Credential(k.Value) != "")
	})
}
