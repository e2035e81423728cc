#!/usr/bin/env bash
# Starts a bare window and the program in turn, and prints how long each took to be shown, and the
# ratio of each pair. ./kettle bench --start [PAIRS]; the packaged program where there is one.
set -euo pipefail
cd "$(dirname "$0")/.."
pairs=${1:-20}
scratch=$(mktemp -d)
trap 'rm -rf "$scratch"' EXIT
export KETTLE_STATE=$scratch/state KETTLE_CACHE=$scratch/cache
java=${JAVA_HOME:+$JAVA_HOME/bin/}java

modules=
for jar in app/target/lib/javafx-*-linux*.jar; do modules=$modules${modules:+:}$PWD/$jar; done
"${java}c" --module-path "$modules" --add-modules javafx.controls -d "$scratch" packaging/BareWindow.java
others=$PWD/app/target/kettle-app-$(sed -n 's/^version=//p' core/target/classes/kettlesieve/core/version.properties).jar
for jar in app/target/lib/*.jar; do case $jar in */javafx-*) ;; *) others=$others:$PWD/$jar ;; esac; done
packaged=$PWD/target/package/kettle-sieve/kettle-sieve

bare() {
  "$java" -Dprism.order=sw --module-path "$modules" --add-modules javafx.controls -cp "$scratch" BareWindow 2>/dev/null
}
built() {
  exec "$java" -Xmx1g -Dprism.order=sw --module-path "$modules" --add-modules javafx.controls -cp "$others" kettlesieve.app.Launcher "$@"
}
shipped() { exec "$packaged" "$@"; }

# How many milliseconds the log says of something; nothing yet if it does not.
told() { { cat "$scratch"/state/log/* 2>/dev/null || true; } | sed -nE "s/.*$1 ([0-9]+) ms.*/\1/p" | tail -n 1; }

# One start: until the program says that its window stands and that its sheet is there.
start() {
  local how=$1 log=$scratch/state/log
  rm -rf "$log"
  ("$how" "$scratch/demo/keepers-log.sieve" >/dev/null 2>&1) &
  local process=$! shown= sheet=
  for _ in $(seq 600); do
    shown=$(told 'window shown')
    sheet=$(told 'first sheet')
    [ -n "$shown" ] && [ -n "$sheet" ] && break
    sleep 0.1
  done
  pkill -P "$process" 2>/dev/null || true
  kill "$process" 2>/dev/null || true
  wait "$process" 2>/dev/null || true
  echo "${shown:-NaN} ${sheet:-NaN}"
}

ways=(built)
[ ! -x "$packaged" ] || ways+=(shipped)
# The demo is made and measured first, as a person would have done.
demo() { "$java" -Xmx1g -Dprism.order=sw -Dkettle.demo="$scratch/demo" --module-path "$modules" --add-modules javafx.controls -cp "$others" kettlesieve.app.Launcher --demo; }
demo >/dev/null 2>&1 &
for _ in $(seq 1200); do
  grep -qs "first sheet" -r "$scratch/state/log" && break
  sleep 0.1
done
sleep 1
pkill -P $! 2>/dev/null || true
[ -e "$scratch/demo/keepers-log.sieve" ] || { echo "the demo could not be made" >&2; exit 1; }
for way in "${ways[@]}"; do start "$way" >/dev/null; done
for ((i = 0; i < pairs; i++)); do
  least=$(bare | sed -nE 's/.*shown ([0-9]+).*/\1/p')
  for way in "${ways[@]}"; do
    echo "$way $least $(start "$way")"
  done
done >"$scratch/table"
awk '
  { n[$1]++; b[$1, n[$1]] = $2; w[$1, n[$1]] = $3; s[$1, n[$1]] = $4; r[$1, n[$1]] = $3 / $2 }
  function middle(a, way, m,   i, j, t, v) {
    for (i = 1; i <= m; i++) v[i] = a[way, i]
    for (i = 1; i <= m; i++) for (j = i + 1; j <= m; j++) if (v[j] < v[i]) { t = v[i]; v[i] = v[j]; v[j] = t }
    least = v[1]; most = v[m]
    return m % 2 ? v[(m + 1) / 2] : (v[m / 2] + v[m / 2 + 1]) / 2
  }
  END {
    print "program  pairs  bare window  window shown  ratio (least to most)  sheet after the window"
    for (way in n) {
      bare = middle(b, way, n[way]); shown = middle(w, way, n[way]); sheet = middle(s, way, n[way])
      ratio = middle(r, way, n[way])
      printf "%-8s %5d  %8.0f ms  %9.0f ms  %.2f (%.2f to %.2f)  %.0f ms\n", way, n[way], bare, shown, ratio, least, most, sheet
    }
  }' "$scratch/table"
