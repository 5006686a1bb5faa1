#!/bin/sh
# Builds and tests what the starters make, where that needs packages from a
# registry: npm's and that of Go modules. All of it takes some minutes; name
# layouts to prove only those:
#     scripts/prove-starters.sh vue/app react/roles
set -eu
cd "$(dirname "$0")/.."
command -v npm >/dev/null || { apt-get update -qq; DEBIAN_FRONTEND=noninteractive apt-get install -y -qq npm >/dev/null; }
if [ $# = 0 ]; then
    exec go test -count=1 -tags registries -run Registry -timeout 40m -v ./internal/cli ./internal/refs
fi
for layout; do
    go test -count=1 -tags registries -run "RegistryNpm/$layout" -timeout 40m -v ./internal/cli
done
