package rules

import (
	"cmp"
	"maps"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
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

// compareKeys tells of the keys that one of two files has alone: those of the real settings at once, for
// who writes them down does so in one go, and so those of the sample. A key that is near one that the
// other file has alone is that one, misspelt.
func (c *Call) compareKeys(sample, real string) {
	has, needs := c.settingsOf(sample), c.settingsOf(real)
	var unsaid []refs.Ref
	unset := onlyIn(has, needs)
	for _, k := range onlyIn(needs, has) {
		i := slices.IndexFunc(unset, func(other refs.Ref) bool { return names.Near(k.Name, other.Name) < names.Apart })
		if i < 0 {
			unsaid = append(unsaid, k)
			continue
		}
		c.atRef(sample, unset[i], &finding.Place{Path: real, Line: k.Line}, "it has %s, and %s has %s: one of the two is misspelt", unset[i].Name, real, k.Name)
		unset = slices.Delete(unset, i, i+1)
	}
	if len(unsaid) > 0 {
		told := c.report(sample, 0, 0, &finding.Place{Path: real, Line: unsaid[0].Line}, "it lacks %s, which %s has", inOneSentence(namesIn(unsaid)), real)
		told.Fix = c.keysAdded(sample, namesIn(unsaid))
	}
	if len(unset) > 0 {
		c.atRef(sample, unset[0], &finding.Place{Path: real}, "it has %s, which %s lacks", inOneSentence(namesIn(unset)), real).Level = finding.Warning
	}
	for _, k := range c.refsOf(sample).Of(refs.Key) {
		if r, ok := needs[k.Name]; ok && len(k.Value) > 5 && k.Value == r.Value && secretName.MatchString(k.Name) && !refs.Harmless(k.Value) {
			c.atRef(sample, k, &finding.Place{Path: real, Line: r.Line}, "the value of %s is the one that %s has; a sample holds none", k.Name, real).Kind = finding.Exposed
		}
	}
}

// settingsOf gives the keys that a file of settings sets, with where it does so last.
func (c *Call) settingsOf(at string) map[string]refs.Ref {
	all := map[string]refs.Ref{}
	for _, k := range c.refsOf(at).Of(refs.Key) {
		all[k.Name] = k
	}
	return all
}

// namesIn gives what references name.
func namesIn(all []refs.Ref) (names []string) {
	for _, r := range all {
		names = append(names, r.Name)
	}
	return names
}

// onlyIn gives the keys that are among some and not among others, in the order of their lines.
func onlyIn(some, others map[string]refs.Ref) []refs.Ref {
	alone := maps.Clone(some)
	maps.DeleteFunc(alone, func(name string, _ refs.Ref) bool { _, ok := others[name]; return ok })
	return slices.SortedFunc(maps.Values(alone), func(a, b refs.Ref) int { return cmp.Compare(a.Span.Start, b.Span.Start) })
}

// keysAdded gives the edit that names keys in a sample of settings for an environment, without a value.
// A sample is for people, so that no program depends on what it lacked.
func (c *Call) keysAdded(sample string, keys []string) []edit.Edit {
	if !strings.Contains(path.Base(sample), "env") {
		return nil
	}
	lines := make([]string, len(keys))
	for i, key := range keys {
		lines[i] = key + "="
	}
	text := c.textOf(sample)
	return []edit.Edit{c.edit(sample, lang.At(len(text), len(text)), atEnd(text, lines))}
}

// inOneSentence says names one after the other: "A, B and C".
func inOneSentence(all []string) string {
	last := len(all) - 1
	if last < 1 {
		return strings.Join(all, "")
	}
	return strings.Join(all[:last], ", ") + " and " + all[last]
}

var (
	secretName = lazy.New(`(?i)(secret|password|passwd|token|api_?key|private_?key|credential)`)
	randomText = lazy.New(`^[A-Za-z0-9+/_=-]{20,}$`)
)

// suspicious says what the value of a sample's key looks like, or "".
func suspicious(k refs.Ref) string {
	if what := refs.Credential(k.Value); what != "" && !onThisMachine.MatchString(k.Value) {
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
