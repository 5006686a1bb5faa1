package output

import (
	"crypto/sha256"
	"encoding/hex"
	"io"
	"net/url"

	"dicaxon/internal/app"
	"dicaxon/internal/finding"
)

// The part of the Static Analysis Results Interchange Format, version 2.1.0,
// that a check's answer needs. A test holds it against the published schema.
type (
	sarifLog struct {
		Schema  string     `json:"$schema"`
		Version string     `json:"version"`
		Runs    []sarifRun `json:"runs"`
	}
	sarifRun struct {
		Tool        sarifTool         `json:"tool"`
		Invocations []sarifInvocation `json:"invocations,omitempty"`
		ColumnKind  string            `json:"columnKind"`
		Results     []sarifResult     `json:"results"`
	}
	sarifInvocation struct {
		Successful    bool                `json:"executionSuccessful"`
		Notifications []sarifNotification `json:"toolExecutionNotifications"`
	}
	sarifNotification struct {
		Level   string    `json:"level"`
		Message sarifText `json:"message"`
	}
	sarifTool struct {
		Driver sarifDriver `json:"driver"`
	}
	sarifDriver struct {
		Name    string      `json:"name"`
		Version string      `json:"version"`
		Rules   []sarifRule `json:"rules"`
	}
	sarifRule struct {
		ID    string    `json:"id"`
		Short sarifText `json:"shortDescription"`
		Full  sarifText `json:"fullDescription"`
		Help  sarifText `json:"help"`
	}
	sarifText   struct{ Text string } // written as {"text": …}
	sarifResult struct {
		RuleID       string            `json:"ruleId"`
		Level        string            `json:"level"`
		Message      sarifText         `json:"message"`
		Locations    []sarifLocation   `json:"locations"`
		Related      []sarifLocation   `json:"relatedLocations,omitempty"`
		Fingerprints map[string]string `json:"partialFingerprints"`
		Properties   map[string]any    `json:"properties,omitempty"`
	}
	sarifLocation struct {
		ID       int        `json:"id,omitempty"`
		Message  *sarifText `json:"message,omitempty"`
		Physical sarifPlace `json:"physicalLocation"`
	}
	sarifPlace struct {
		Artifact struct {
			URI string `json:"uri"`
		} `json:"artifactLocation"`
		Region *sarifRegion `json:"region,omitempty"`
	}
	sarifRegion struct {
		StartLine   int `json:"startLine"`
		StartColumn int `json:"startColumn,omitempty"`
	}
)

// MarshalJSON writes the text under its key.
func (t sarifText) MarshalJSON() ([]byte, error) {
	return marshal(map[string]string{"text": t.Text})
}

const sarifSchema = "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json"

// SARIF writes a check's answer in that format: every kind is a rule; a move is
// a fix as data under the property "fix", since the format's own fixes change
// texts and move nothing.
func SARIF(out io.Writer, r *app.Report, version string) error {
	run := sarifRun{Tool: sarifTool{sarifDriver{Name: "dicaxon", Version: version}}, ColumnKind: "unicodeCodePoints", Results: []sarifResult{}}
	for _, k := range finding.Kinds {
		run.Tool.Driver.Rules = append(run.Tool.Driver.Rules, sarifRule{string(k.Kind), sarifText{k.Means}, sarifText{k.Why}, sarifText{k.Mend}})
	}
	for _, p := range r.Projects {
		for _, f := range p.Findings {
			run.Results = append(run.Results, sarifOf(printable(f)))
		}
	}
	if len(r.Troubles) > 0 {
		var all []sarifNotification
		for _, t := range unread(r) {
			all = append(all, sarifNotification{"error", sarifText{t}})
		}
		run.Invocations = []sarifInvocation{{false, all}}
	}
	return JSON(out, sarifLog{sarifSchema, "2.1.0", []sarifRun{run}})
}

func sarifOf(f finding.Finding) sarifResult {
	text := f.Message
	if f.Why != "" {
		text += ": " + f.Why
	}
	// The fingerprint stays when lines move.
	sum := sha256.Sum256([]byte(f.Key()))
	one := sarifResult{RuleID: string(f.Kind), Level: f.Level.String(), Message: sarifText{text},
		Locations: []sarifLocation{located(f.Path, f.Line, f.Column)}, Properties: map[string]any{},
		Fingerprints: map[string]string{"dicaxon/1": hex.EncodeToString(sum[:16])}}
	if f.Other != nil && f.Other.Path != "" {
		other := located(f.Other.Path, f.Other.Line, 0)
		other.ID, other.Message = 1, &sarifText{"the other side"}
		one.Related = []sarifLocation{other}
	}
	if f.Home != "" {
		one.Properties["fix"] = map[string]string{"move": f.Path, "to": f.Home}
	}
	if f.Rule != "" {
		one.Properties["rule"] = f.Rule
	}
	if f.Entry != "" {
		one.Properties["entry"] = f.Entry
	}
	return one
}

func located(path string, line, column int) sarifLocation {
	if path == "" {
		path = "."
	}
	var l sarifLocation
	l.Physical.Artifact.URI = (&url.URL{Path: path}).String()
	if line > 0 {
		l.Physical.Region = &sarifRegion{line, column}
	}
	return l
}
