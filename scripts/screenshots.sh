#!/bin/sh
# Takes one picture of each main command's output on the demo data, in a
# terminal window on a screen that nobody sees, into docs/screenshots/.
# It needs Xvfb, xterm, ImageMagick and the DejaVu fonts, and installs them.
set -eu
cd "$(dirname "$0")/.."
root=$(pwd)
for tool in Xvfb xterm import; do
    command -v "$tool" >/dev/null || { apt-get update -qq; DEBIAN_FRONTEND=noninteractive apt-get install -y -qq xvfb xterm imagemagick fonts-dejavu-core >/dev/null; }
done
work=$(mktemp -d)
trap 'kill "$screen" 2>/dev/null; rm -rf "$work"' EXIT
CGO_ENABLED=0 go build -o "$work/bin/dicaxon" ./cmd/dicaxon
PATH="$work/bin:$PATH"
dicaxon demo "$work/gannet" --format json >/dev/null
Xvfb :93 -screen 0 1280x800x24 >/dev/null 2>&1 &
screen=$!
sleep 2

# shot NAME COMMAND: shows the command and its output and takes the picture.
shot() {
    DISPLAY=:93 LC_ALL=C.UTF-8 xterm -geometry 141x41+0+0 -fa 'DejaVu Sans Mono' -fs 11 -bg '#101418' -fg '#d8dee4' \
        -xrm 'XTerm*color6: #7cc7d8' -xrm 'XTerm*color1: #f07070' -xrm 'XTerm*color3: #e5c07b' -xrm 'XTerm*color2: #98c379' \
        -e sh -c "cd $work/gannet; printf '\$ %s\n\n' '$2'; $2 2>&1 | head -36; touch $work/shown; sleep 60" &
    window=$!
    until [ -e "$work/shown" ]; do sleep 0.2; done
    rm "$work/shown"
    sleep 1 # until it is drawn
    DISPLAY=:93 import -window root "$root/docs/screenshots/$1.png"
    kill "$window" 2>/dev/null || true
    wait "$window" 2>/dev/null || true
}

mkdir -p docs/screenshots
shot check 'dicaxon check ferry --color always'
shot explain-tree 'dicaxon explain --root ferry --color always'
shot explain-path 'dicaxon explain ferry/ferry/berths ferry/ferry/sailings/templates --color always'
shot identify 'dicaxon identify . --color always'
shot compare 'dicaxon compare flask/package flask/areas --color always'
shot layouts 'dicaxon layouts --color always'
shot layout 'dicaxon layouts go/service --color always'
shot scaffold 'dicaxon scaffold flask/areas crews-app --yes --answer area=crews,tides --color always'
shot realign 'dicaxon realign ferry --color always | head -42'
shot place 'dicaxon place --root ferry berths/card.html "routes for tides" --color always; echo; dicaxon place --root ferry ferry/berths/view.py --color always'
shot add 'dicaxon add --root crews-app --color always; echo; dicaxon add area manifests --root crews-app --color always; echo; dicaxon undo crews-app --list --color always'
shot rules 'dicaxon layouts --rules --color always'
shot meaning 'dicaxon check --explain tangled --color always; echo; dicaxon check ferry --only unwired,tangled,disagrees --color always'

# The page is taken in a browser without a window.
command -v chromium >/dev/null || { apt-get update -qq; DEBIAN_FRONTEND=noninteractive apt-get install -y -qq chromium >/dev/null; }
(cd "$work/gannet" && dicaxon check ferry --format html | sed "s#$work/##" >"$work/page.html") || true
chromium --headless --no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking --disable-component-update \
    --disable-sync --user-data-dir="$work/browser" --window-size=1280,800 --screenshot="$root/docs/screenshots/page.png" "file://$work/page.html" >/dev/null 2>&1
