package rules

import (
	"encoding/json"

	"dicaxon/internal/layout"
)

// Schema is the JSON Schema of the layout language with every rule in it: its name, its
// options with how each is written, and which of them it needs.
func Schema() ([]byte, error) {
	var doc map[string]any
	if err := json.Unmarshal(layout.Schema, &doc); err != nil {
		return nil, err
	}
	rule := doc["$defs"].(map[string]any)["rule"].(map[string]any)
	said := rule["properties"].(map[string]any)
	var each, whole []any
	for _, r := range All {
		properties := map[string]any{}
		needed := []string{"rule"}
		for key := range said {
			properties[key] = true
		}
		for _, o := range r.Options {
			properties[o.Name] = o.schema()
			if o.Needed {
				needed = append(needed, o.Name)
			}
		}
		each = append(each, map[string]any{
			"if":   map[string]any{"properties": map[string]any{"rule": map[string]any{"const": r.Name}}, "required": []string{"rule"}},
			"then": map[string]any{"properties": properties, "additionalProperties": false, "description": r.Doc},
		})
		whole = append(whole, map[string]any{
			"if":   map[string]any{"properties": map[string]any{"rule": map[string]any{"const": r.Name}}, "required": []string{"rule"}},
			"then": map[string]any{"required": needed},
		})
	}
	// A layout that builds on another may say less: what it leaves out is taken over.
	doc["$defs"].(map[string]any)["whole-rule"] = map[string]any{"$ref": "#/$defs/rule", "allOf": whole}
	doc["then"].(map[string]any)["properties"].(map[string]any)["rules"] = map[string]any{"items": map[string]any{"$ref": "#/$defs/whole-rule"}}
	said["rule"] = map[string]any{"enum": Names(), "description": "Which rule it is."}
	rule["allOf"] = each
	return json.MarshalIndent(doc, "", "  ")
}

// schema says how the option's value is written.
func (o *Option) schema() map[string]any {
	is := map[string]any{"description": o.Doc}
	switch o.Form {
	case Count:
		is["type"], is["minimum"] = "integer", 1
	case Flag:
		is["type"] = "boolean"
	case Text:
		is["type"] = []string{"string", "number", "boolean"}
	default:
		is["$ref"] = "#/$defs/values"
	}
	return is
}
