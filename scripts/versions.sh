#!/bin/sh
# Holds the table of versions that starters ask for against the registries that
# can be asked from here, and writes docs/versions.md, with the date.
#     scripts/versions.sh
set -eu
cd "$(dirname "$0")/.."
table=internal/versions/versions.txt
page=docs/versions.md

# newest REGISTRY NAME: the newest version there, or nothing where it cannot be asked.
newest() {
    case $1 in
    npm) npm view "$2" version 2>/dev/null | sed "s/.* '\(.*\)'$/\1/" | grep -v -- - | sort -V | tail -1 ;;
    go) go list -m -versions "$2" 2>/dev/null | tr ' ' '\n' | sed -n 's/^v//p' | grep -v -- - | tail -1 ;;
    pypi) python3 -m pip index versions "$2" 2>/dev/null | sed -n '1s/.*(\(.*\))/\1/p' ;;
    rubygems) gem info --remote --exact "$2" 2>/dev/null | sed -n "s/^$2 (\([^ ),]*\).*/\1/p" ;;
    packagist) composer show --available --latest "$2" 2>/dev/null | sed -n 's/^versions *: *\*\? *v\?\([0-9.]*\).*/\1/p' ;;
    esac || true
}

{
    echo "# Versions that starters ask for"
    echo
    echo "Written by \`scripts/versions.sh\` on $(date +%Y-%m-%d) from \`$table\`, the one table that all starters read. A name with"
    echo "a major version behind it is held there, for what still needs it. \"not asked\" is what could not be asked from the machine that"
    echo "ran the script: these versions stand as they were last known to a person."
    echo
    echo "| name | starters ask for | newest | |"
    echo "|---|---|---|---|"
    grep -v '^#' "$table" | while read -r name version; do
        found=$(newest "${name%%/*}" "${name#*/}")
        case $found in
        "") found="" remark="not asked" ;;
        "$version" | "$version".*) remark="current" ;;
        *) remark="**behind**" ;;
        esac
        echo "| \`$name\` | $version | $found | $remark |"
    done
} >"$page.new"
mv "$page.new" "$page"
grep -c "current" "$page" | sed 's/$/ current/'
grep "behind" "$page" || true
