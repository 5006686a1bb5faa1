#!/bin/sh
# Writes the page of every layout into docs/layouts/, and that of the rules; a test
# holds them current.
set -eu
cd "$(dirname "$0")/.."
mkdir -p docs/layouts
for name in $(go run ./cmd/dicaxon layouts --format json | grep -v '"name": "\.' | sed -n 's/^ *"name": "\(.*\)",$/\1/p'); do
    go run ./cmd/dicaxon layouts "$name" --format markdown > "docs/layouts/$(echo "$name" | tr / -).md"
done
go run ./cmd/dicaxon layouts --rules --format markdown > docs/rules.md
