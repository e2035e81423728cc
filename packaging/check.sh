#!/usr/bin/env bash
# Tries the package where there is neither JDK nor Maven nor project: ./kettle package --check.
# The package is unpacked into a folder of its own; with root's rights and KETTLE_INSTALL=1 it is
# installed and removed by dpkg instead.
set -euo pipefail
cd "$(dirname "$0")/.."
home=$PWD
out=$home/target/package
fail() {
  printf 'kettle: package: %s\n' "$*" >&2
  exit 1
}
archive=$(ls "$out"/kettle-sieve-*.tar.xz 2>/dev/null | head -n 1)
[ -n "$archive" ] || fail "there is none yet; make it with ./kettle package"
scratch=$(mktemp -d)
trap 'rm -rf "$scratch"' EXIT

# A path with a shell and nothing of Java.
mkdir -p "$scratch/path" "$scratch/home"
for tool in sh readlink env; do ln -s "$(command -v "$tool")" "$scratch/path/$tool"; done
alone() {
  env -i PATH="$scratch/path" HOME="$scratch/home" LC_ALL=C.UTF-8 ${DISPLAY:+DISPLAY="$DISPLAY"} ${XAUTHORITY:+XAUTHORITY="$XAUTHORITY"} "$@"
}
if alone sh -c 'command -v java || command -v mvn' >/dev/null; then fail "the emptied path still finds Java"; fi

deb=$(ls "$out"/kettle-sieve_*.deb 2>/dev/null | head -n 1)
if [ "${KETTLE_INSTALL:-}" = 1 ] && [ -n "$deb" ]; then
  dpkg -i "$deb" >/dev/null
  program=/usr/bin/kettle-sieve
else
  tar -C "$scratch" -xf "$archive"
  program=$scratch/kettle-sieve/kettle-sieve
fi
alone "$program" --version | grep -q '^Kettle Sieve ' || fail "--version says nothing"

# The window stands, and its sheet is there.
cd "$scratch"
alone "$program" demo >"$scratch/window.log" 2>&1 &
window=$!
for _ in $(seq 1200); do
  grep -rqs "first sheet" "$scratch/home/.local/state/kettle-sieve/log" && break
  kill -0 "$window" 2>/dev/null || fail "the window did not come up: $(tail -n 5 "$scratch/window.log")"
  sleep 0.1
done
grep -rqs "first sheet" "$scratch/home/.local/state/kettle-sieve/log" || fail "no sheet came up in two minutes"
kill "$window" 2>/dev/null || true
wait "$window" 2>/dev/null || true

# The same figures as the program that was built here.
demo=$scratch/home/.local/state/kettle-sieve/demo/keepers-log.sieve
alone "$program" score "$demo" --again --json "$scratch/packaged.json"
KETTLE_CACHE=$scratch/cache KETTLE_STATE=$scratch/state "$home/kettle" score "$demo" --again --json "$scratch/built.json"
cmp "$scratch/packaged.json" "$scratch/built.json" || fail "the packaged program scores otherwise"

# Removing it leaves what is the person's.
if [ "$program" = /usr/bin/kettle-sieve ]; then dpkg -r kettle-sieve >/dev/null; else rm -rf "$scratch/kettle-sieve"; fi
[ -e "$demo" ] || fail "removing it took the person's files along"
printf 'kettle: the package starts, scores as the built program does, and goes without a trace in your files\n' >&2
