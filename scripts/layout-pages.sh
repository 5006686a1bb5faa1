#!/bin/sh
# Writes the page of every layout into docs/layouts/, that of the rules, and the list of
# living examples; a test holds the pages current.
set -eu
cd "$(dirname "$0")/.."
mkdir -p docs/layouts
for name in $(go run ./cmd/dicaxon layouts --format json | grep -v '"name": "\.' | sed -n 's/^ *"name": "\(.*\)",$/\1/p'); do
    go run ./cmd/dicaxon layouts "$name" --format markdown > "docs/layouts/$(echo "$name" | tr / -).md"
done
go run ./cmd/dicaxon layouts --rules --format markdown > docs/rules.md

# The list of living examples, at the end of the overview.
list=docs/layouts/README.md
sed '/^them are ours:$/q' "$list" >"$list.new"
echo >>"$list.new"
for example in internal/catalogue/layouts/*/*/examples/*.txtar; do
    layout=$(echo "$example" | cut -d/ -f4,5)
    echo "- $layout, $(grep -c '^-- .* --$' "$example") files, $(grep -c '^Slip: ' "$example") slips: $(sed -n 's/^From: //p' "$example")"
done >>"$list.new"
mv "$list.new" "$list"
