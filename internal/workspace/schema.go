package workspace

import _ "embed"

// Schema is the JSON Schema (draft 2020-12) of dicaxon.yaml, so that editors can
// complete and check it. Reading checks more than it says.
//
//go:embed schema.json
var Schema []byte
