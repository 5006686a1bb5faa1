package report

import (
	"crypto/sha256"
	"encoding/hex"
	"io"
	"net/url"

	"github.com/owenrumney/go-sarif/v3/pkg/report/v210/sarif"

	"dicaxon/internal/check"
	"dicaxon/internal/finding"
)

// SARIF builds a check's answer in the Static Analysis Results Interchange
// Format, version 2.1.0: every kind is a rule, a move is a fix as data under the
// properties "from" and "to", since the format's own fixes change texts only.
func SARIF(r *check.Report, version string) *sarif.Report {
	out := sarif.NewReport()
	run := sarif.NewRun()
	driver := sarif.NewToolComponent().WithName("dicaxon").WithVersion(version)
	for _, k := range finding.Kinds {
		driver.AddRule(sarif.NewRule(string(k.Kind)).
			WithShortDescription(sarif.NewMultiformatMessageString().WithText(k.Means)).
			WithFullDescription(sarif.NewMultiformatMessageString().WithText(k.Why)).
			WithHelp(sarif.NewMultiformatMessageString().WithText(k.Mend)))
	}
	run.Tool = sarif.NewTool().WithDriver(driver)
	for _, p := range r.Projects {
		for _, f := range p.Match.Findings {
			run.AddResult(result(printable(f)))
		}
	}
	return out.AddRun(run)
}

// WriteSARIF writes it.
func WriteSARIF(out io.Writer, r *check.Report, version string) error {
	return JSON(out, SARIF(r, version))
}

func result(f finding.Finding) *sarif.Result {
	text := f.Message
	if f.Why != "" {
		text += ": " + f.Why
	}
	one := sarif.NewRuleResult(string(f.Kind)).WithLevel(f.Level.String()).WithMessage(sarif.NewTextMessage(text))
	one.AddLocation(location(f.Path, f.Line, f.Column))
	if f.Other != nil && f.Other.Path != "" {
		other := location(f.Other.Path, f.Other.Line, 0)
		other.WithID(1).WithMessage(sarif.NewTextMessage("the other side"))
		one.AddRelatedLocation(other)
	}
	sum := sha256.Sum256([]byte(f.Key()))
	one.WithPartialFingerprints(map[string]string{"dicaxon/1": hex.EncodeToString(sum[:16])})
	properties := sarif.NewPropertyBag()
	if f.Home != "" {
		properties.Add("fix", map[string]string{"move": f.Path, "to": f.Home})
	}
	if f.Rule != "" {
		properties.Add("rule", f.Rule)
	}
	if f.Entry != "" {
		properties.Add("entry", f.Entry)
	}
	return one.WithProperties(properties)
}

func location(path string, line, column int) *sarif.Location {
	if path == "" {
		path = "."
	}
	place := sarif.NewPhysicalLocation().WithArtifactLocation(sarif.NewArtifactLocation().WithURI((&url.URL{Path: path}).String()))
	if line > 0 {
		region := sarif.NewRegion().WithStartLine(line)
		if column > 0 {
			region.WithStartColumn(column)
		}
		place.WithRegion(region)
	}
	return sarif.NewLocationWithPhysicalLocation(place)
}
