package output

import (
	"encoding/xml"
	"fmt"
	"io"
	"strings"

	"dicaxon/internal/app"
	"dicaxon/internal/finding"
	"dicaxon/internal/tree"
)

// The form that test runners share: a suite for each project, a case for each
// finding. Notes do not fail.
type (
	junitSuites struct {
		XMLName  xml.Name     `xml:"testsuites"`
		Name     string       `xml:"name,attr"`
		Tests    int          `xml:"tests,attr"`
		Failures int          `xml:"failures,attr"`
		Suites   []junitSuite `xml:"testsuite"`
	}
	junitSuite struct {
		Name     string      `xml:"name,attr"`
		Tests    int         `xml:"tests,attr"`
		Failures int         `xml:"failures,attr"`
		Cases    []junitCase `xml:"testcase"`
	}
	junitCase struct {
		Class   string        `xml:"classname,attr"`
		Name    string        `xml:"name,attr"`
		Failure *junitFailure `xml:"failure,omitempty"`
		Out     string        `xml:"system-out,omitempty"`
	}
	junitFailure struct {
		Message string `xml:"message,attr"`
		Type    string `xml:"type,attr"`
		Text    string `xml:",chardata"`
	}
)

// JUnit writes a check's findings as the outcome of tests.
func JUnit(out io.Writer, r *app.Report) error {
	suites := junitSuites{Name: "dicaxon check"}
	for _, p := range r.Projects {
		suite := junitSuite{Name: tree.Printable(p.At) + " " + p.Layout.Name}
		for _, f := range p.Findings {
			f = printable(f)
			one := junitCase{Class: string(f.Kind), Name: withLine(f.Path, f.Line)}
			if f.Level == finding.Note {
				one.Out = sentence(f)
			} else {
				one.Failure = &junitFailure{Message: f.Message, Type: f.Level.String(), Text: told(f)}
				suite.Failures++
			}
			suite.Cases = append(suite.Cases, one)
		}
		if len(suite.Cases) == 0 {
			suite.Cases = []junitCase{{Class: "layout", Name: "everything is in its place"}}
		}
		suite.Tests = len(suite.Cases)
		suites.Suites = append(suites.Suites, suite)
		suites.Tests += suite.Tests
		suites.Failures += suite.Failures
	}
	if all := unreadSuite(r); len(all.Cases) > 0 {
		suites.Suites = append(suites.Suites, all)
		suites.Tests += all.Tests
		suites.Failures += all.Failures
	}
	if _, err := io.WriteString(out, xml.Header); err != nil {
		return err
	}
	e := xml.NewEncoder(out)
	e.Indent("", "  ")
	if err := e.Encode(suites); err != nil {
		return err
	}
	_, err := io.WriteString(out, "\n")
	return err
}

// unreadSuite gives what could not be read as tests that fail.
func unreadSuite(r *app.Report) junitSuite {
	suite := junitSuite{Name: "what could not be read"}
	for _, said := range unread(r) {
		suite.Cases = append(suite.Cases, junitCase{Class: "unread", Name: said, Failure: &junitFailure{Message: said, Type: "error", Text: said}})
	}
	suite.Tests, suite.Failures = len(suite.Cases), len(suite.Cases)
	return suite
}

// told gives a finding in lines: what, where to, what the other side is.
func told(f finding.Finding) string {
	lines := []string{fmt.Sprintf("%s %s %s", f.Level, f.Kind, withLine(f.Path, f.Line)), sentence(f)}
	if f.Home != "" {
		lines = append(lines, "belongs at "+f.Home)
	}
	for _, h := range f.Homes {
		lines = append(lines, "might belong at "+h)
	}
	if f.Other != nil && f.Other.Path != "" {
		lines = append(lines, "see "+withLine(f.Other.Path, f.Other.Line))
	}
	return strings.Join(lines, "\n")
}
