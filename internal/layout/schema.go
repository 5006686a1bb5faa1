package layout

import _ "embed"

// Schema is the JSON Schema (draft 2020-12) of the layout language, so that
// editors can complete and check layouts. The parser checks more than it says.
//
//go:embed schema.json
var Schema []byte
