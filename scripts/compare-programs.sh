#!/usr/bin/env bash
# What two programs say differently of repositories that nobody here wrote: lines that begin with "-" the first
# alone says, with "+" the second. To be read by hand: is it true, would who keeps the repository nod?
# usage: compare-programs.sh OLD NEW FOLDER...   each folder holds one repository; LEVEL=note also tells of notes
set -euo pipefail
if [ $# -lt 3 ] || [ ! -x "$1" ] || [ ! -x "$2" ]; then
    echo "usage: $0 OLD NEW FOLDER...   OLD and NEW are programs" >&2
    exit 2
fi
old=$(realpath "$1") new=$(realpath "$2")
shift 2
apart=$(mktemp -d)
trap 'rm -rf "$apart"' EXIT

# said PROGRAM FOLDER: what a program says, a line each, without what moves when lines do.
said() {
    (cd "$2" && timeout "${SECONDS_EACH:-240}" "$1" check . --no-cache --format lines 2>&1 || true) |
        { if [ "${LEVEL:-}" = note ]; then cat; else grep -E ': (error|warning): ' || true; fi; } |
        sed -E 's/:[0-9]+:[0-9]+: /: /' | sort
}

for folder in "$@"; do
    said "$old" "$folder" >"$apart/old"
    said "$new" "$folder" >"$apart/new"
    differs=$(diff "$apart/old" "$apart/new" | sed -nE 's/^< /- /p; s/^> /+ /p' || true)
    if [ -n "$differs" ]; then printf '## %s\n%s\n' "$folder" "$differs"; fi
done
