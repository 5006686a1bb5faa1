#!/bin/sh
# Checks packages that others published, fetched by name and version, and holds
# what is said of them against the verdicts in internal/cli/testdata/world.yaml.
# A finding that nobody has judged fails, and so does a package taken for what it
# is not:
#     scripts/prove-world.sh              all of them
#     scripts/prove-world.sh always       those that the pipeline proves
#     scripts/prove-world.sh NAME         those whose names hold it
set -eu
cd "$(dirname "$0")/.."
command -v npm >/dev/null || { apt-get update -qq; DEBIAN_FRONTEND=noninteractive apt-get install -y -qq npm >/dev/null; }
WORLD=${1:-} exec go test -count=1 -tags registries -run TestWorld -timeout 30m -v ./internal/cli
