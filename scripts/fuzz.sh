#!/bin/sh
# Fuzzes everything that parses, by hand: each fuzz of the code gets so many tries, ten
# thousand where none are named. What breaks it is kept under testdata/fuzz, and runs as
# a test from then on. The pipeline runs only what is kept, so that one commit has one
# answer.
#
#   scripts/fuzz.sh [TRIES] [NAME]
set -eu
cd "$(dirname "$0")/.."
tries=${1:-10000}

failed=
for at in $(grep -rlE '^func Fuzz' --include='*_test.go' internal | sort); do
    for name in $(sed -n 's/^func \(Fuzz[A-Za-z]*\)(.*/\1/p' "$at"); do
        [ "${2:-$name}" = "$name" ] || continue
        echo "$name, $tries tries"
        go test -run xxx -fuzz "^$name\$" -fuzztime "${tries}x" -fuzzminimizetime 10x "./$(dirname "$at")" >fuzz.out 2>&1 || { failed="$failed $name"; cat fuzz.out; }
    done
done
rm -f fuzz.out
[ -z "$failed" ] || { echo "fuzz: something was found by$failed" >&2; exit 1; }
echo "fuzz: nothing was found"
