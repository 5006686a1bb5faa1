#!/bin/sh
# Builds and tests what the starters make, where that needs packages from a
# registry: npm's and that of Go modules. All of it takes some minutes; name
# layouts to prove only those:
#     scripts/prove-starters.sh vue/app react/roles
set -eu
cd "$(dirname "$0")/.."
command -v npm >/dev/null || { apt-get update -qq; DEBIAN_FRONTEND=noninteractive apt-get install -y -qq npm >/dev/null; }
# Some frameworks need a newer Node.js than a distribution may bring.
wanted=$(sed -n 's|^tool/node ||p' internal/versions/versions.txt)
if [ "$(node -p 'process.versions.node.split(".")[0]')" -lt "$wanted" ]; then
    newer=$(mktemp -d)
    trap 'rm -rf "$newer"' EXIT
    (cd "$newer" && npm install --no-audit --no-fund --loglevel=error "node@$wanted")
    PATH=$newer/node_modules/.bin:$PATH
fi
if [ $# = 0 ]; then
    go test -count=1 -tags registries -run Registry -timeout 40m -v ./internal/cli ./internal/refs
    exit
fi
for layout; do
    go test -count=1 -tags registries -run "RegistryNpm/^${layout%/*}$/^${layout#*/}$" -timeout 40m -v ./internal/cli
done
