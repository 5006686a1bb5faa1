package rules

import (
	"path"
	"regexp"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
)

var testsRun = &Rule{
	Name: "tests-run", Kind: finding.Unwired, Level: finding.Warning,
	Doc: "A file of tests is among those that the test commands of its manifest name by patterns, where one of them is.",
	Example: `- rule: tests-run
  manifests: "**/package.json"
  keys: ["scripts.*"]`,
	Options: []Option{
		{"manifests", Paths, true, "the manifests", false},
		{"keys", Texts, true, "the keys of the commands", false},
		{"unless-in", Paths, false, "settings that may name other files", true},
	},
	Run: runTestsRun,
}

var (
	// runsByPattern finds a command that runs tests and what it is given (Node.js, "Test runner"; Mocha, "spec").
	runsByPattern = lazy.New(`(?:^|[;&|"]|\s)(?:node\s[^;&|]*?--test|mocha)\b([^;&|]*)`)
	// runsOtherwise finds runners that look for tests by themselves or by settings of their own.
	runsOtherwise = lazy.New(`\b(?:jest|vitest|ava|tap|tape|karma|cypress|playwright|jasmine|uvu|bun|lab|qunit|borp|japa|web-test-runner|wtr)\b`)
	oneArg        = lazy.New(`"([^"]+)"|'([^']+)'|(\S+)`)
	testNamed     = lazy.New(`[.-](?:test|spec)\.[cm]?[jt]s$`)
	testBegins    = lazy.New(`(?m)^(?:await\s+)?(?:describe|it|test|suite)\s*\(`)
)

func runTestsRun(c *Call) {
	if len(c.files("unless-in")) > 0 {
		return
	}
	for _, f := range c.files("manifests") {
		var patterns []string
		sure := true
		for _, k := range c.keysOf(f.path, "keys") {
			sure = sure && !runsOtherwise.MatchString(k.Value)
			for _, m := range runsByPattern.Get().FindAllStringSubmatch(k.Value, -1) {
				patterns = append(patterns, c.patternsIn(path.Dir(f.path), m[1])...)
			}
		}
		if sure && len(patterns) > 0 {
			c.tellNotRun(f.path, patterns)
		}
	}
}

// patternsIn gives the patterns that a command is given, those of a folder for one.
func (c *Call) patternsIn(dir, args string) (all []string) {
	for _, m := range oneArg.Get().FindAllStringSubmatch(args, -1) {
		arg := strings.TrimPrefix(strings.Join(m[1:], ""), "./")
		if strings.Contains(arg, "*") && !strings.HasPrefix(arg, "-") {
			all = append(all, arg)
		} else if c.isFolder(path.Join(dir, arg)) && arg != "" {
			all = append(all, strings.TrimSuffix(arg, "/")+"/**")
		}
	}
	return all
}

// tellNotRun tells of tests below a manifest that none of the patterns names, where something is that one does.
func (c *Call) tellNotRun(manifest string, patterns []string) {
	var runs []*regexp.Regexp
	for _, p := range patterns {
		base := path.Join(path.Dir(manifest), path.Dir(p[:strings.IndexByte(p, '*')]+"x"))
		if n := c.node(base); base != "." && (n == nil || n.Ignored) {
			return // what a compiler writes
		}
		re, err := regexp.Compile("^" + ofPattern(p) + "$")
		if err != nil || strings.Contains(p, "!") {
			return
		}
		runs = append(runs, re)
	}
	named := false
	var lost []string
	for _, f := range c.everything() {
		below, within := belowFolderOf(manifest, f.path)
		if _, nearest := c.Graph.Look().Nearest(f.path, "package.json"); !within || nearest != manifest || f.node.Ignored || !isTest(f.path) || c.lends(f.path) {
			continue
		}
		fits := slices.ContainsFunc(runs, func(re *regexp.Regexp) bool { return re.MatchString(below) })
		if named = named || fits; !fits && testNamed.MatchString(f.path) && testBegins.Match(c.Graph.Code(f.path)) && c.idle(f.path) {
			lost = append(lost, f.path)
		}
	}
	if !named || len(lost) > mostForgotten {
		return
	}
	for _, at := range lost {
		c.report(at, 0, 0, &finding.Place{Path: manifest}, "no command runs its tests: %s names %s", manifest, strings.Join(patterns, " "))
	}
}

// ofPattern gives a pattern of paths as an expression: two stars go over folders, one does not.
func ofPattern(p string) string {
	p = regexp.QuoteMeta(p)
	for _, as := range [][2]string{{`\*\*/`, "(?:.*/)?"}, {`\*\*`, ".*"}, {`\*`, "[^/]*"}, {`\?`, "[^/]"}, {`\{`, "(?:"}, {`\}`, ")"}, {`,`, "|"}, {`\(`, "(?:"}, {`\)`, ")"}, {`\|`, "|"}, {`\+`, ""}, {`\[`, "["}, {`\]`, "]"}} {
		p = strings.ReplaceAll(p, as[0], as[1])
	}
	return p
}
