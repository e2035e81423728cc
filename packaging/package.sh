#!/usr/bin/env bash
# Makes target/package: a .deb and an archive of the program with a Java runtime of its own.
# Called by ./kettle package when everything is built. See docs/installing.md.
set -euo pipefail
cd "$(dirname "$0")/.."
home=$PWD
out=$home/target/package
say() { printf 'kettle: %s\n' "$*" >&2; }
fail() {
  say "$*"
  exit 1
}

version=$(sed -n 's/^version=//p' core/target/classes/kettlesieve/core/version.properties)
machine=$(uname -s)-$(uname -m)
case $machine in
  Linux-x86_64) natives=linux debian=amd64 ;;
  Linux-aarch64) natives=linux-aarch64 debian=arm64 ;;
  Darwin-*) natives=mac debian= ;;
  MINGW* | MSYS*) natives=win debian= ;;
  *) fail "packages are made on Linux, macOS and Windows, not on $machine" ;;
esac

# The runtime: of the JDK that KETTLE_JDK names, else of the newest that is found here.
newest_jdk() {
  local place version best=0 found=
  for place in "${KETTLE_JDK:-}" "${JAVA_HOME:-}" /usr/lib/jvm/* /Library/Java/JavaVirtualMachines/*/Contents/Home; do
    [ -n "$place" ] && [ -x "$place/bin/jlink" ] && [ -x "$place/bin/jpackage" ] || continue
    version=$(sed -nE 's/^JAVA_VERSION="([0-9]+).*/\1/p' "$place/release")
    if [ "$place" = "${KETTLE_JDK:-}" ]; then
      found=$place
      break
    fi
    if [ "${version:-0}" -gt "$best" ]; then best=$version found=$place; fi
  done
  printf '%s' "$found"
}
jdk=$(newest_jdk)
[ -n "$jdk" ] || fail "a JDK with jlink and jpackage is needed; name one in KETTLE_JDK"
java_version=$(sed -nE 's/^JAVA_VERSION="([0-9]+).*/\1/p' "$jdk/release")
say "the runtime is that of $jdk (Java $java_version)"

rm -rf "$out"
mkdir -p "$out/input" "$out/javafx"

# What the program is made of. JavaFX goes into the runtime, the rest onto the class path.
for jar in app/target/lib/*.jar cli/target/lib/*.jar app/target/kettle-app-*.jar cli/target/kettle-cli-*.jar; do
  case $(basename "$jar") in
    javafx-*-"$natives".jar) cp "$jar" "$out/javafx/" ;;
    javafx-*) ;;
    *-tests.jar | *-sources.jar) ;;
    *) cp "$jar" "$out/input/" ;;
  esac
done

modules=$("$jdk/bin/jdeps" --print-module-deps --ignore-missing-deps --multi-release 17 -q \
  --module-path "$out/javafx" --class-path "$out/input/*" "$out"/input/*.jar 2>/dev/null | tail -n 1 |
  tr ',' '\n' | grep -v '^javafx' | paste -sd, -)
[ -n "$modules" ] || fail "what modules the program needs could not be told"
say "modules: $modules"
"$jdk/bin/jlink" --module-path "$out/javafx" --add-modules "$modules,javafx.controls,jdk.localedata" \
  --include-locales=en --strip-debug --no-header-files --no-man-pages --output "$out/runtime"

"$jdk/bin/java" packaging/Icons.java "$out/icons"

# Two starters beside one runtime: the window, and the commands.
common=(--enable-native-access=ALL-UNNAMED,javafx.graphics -Xmx1g)
[ "$java_version" -ge 22 ] || common=(-Xmx1g)
options() { for word in "$@"; do printf -- '--java-options\n%s\n' "$word"; done; }
cat >"$out/commands.properties" <<END
main-class=kettlesieve.cli.Kettle
main-jar=kettle-cli-$version.jar
java-options=${common[*]} -Xmn96m -XX:+UseSerialGC -Dkettle.name=kettle-sieve
END
mapfile -t words < <(options "${common[@]}")
"$jdk/bin/jpackage" --type app-image --name kettle-sieve --app-version "$version" \
  --runtime-image "$out/runtime" --input "$out/input" --dest "$out" \
  --main-jar "kettle-app-$version.jar" --main-class kettlesieve.app.Launcher \
  --icon "$out/icons/hicolor/256x256/apps/kettle-sieve.png" --add-launcher "kettle-sieve-commands=$out/commands.properties" "${words[@]}" >/dev/null
tree=$out/kettle-sieve

# Where a runtime can, it remembers one start: classes are then found loaded and linked.
remember() {
  local launcher=$1
  shift
  local config=$tree/lib/app/$launcher.cfg cache=$tree/lib/app/$launcher.aot
  sed -i "s|^\[JavaOptions\]$|[JavaOptions]\njava-options=-XX:AOTCacheOutput=$cache|" "$config"
  "$@" >"$out/$launcher.log" 2>&1 || {
    tail -n 20 "$out/$launcher.log" >&2
    fail "$launcher could not be started once to be remembered"
  }
  for _ in $(seq 120); do [ -s "$cache" ] && break || sleep 1; done
  [ -s "$cache" ] || fail "$launcher left nothing that could be remembered; see $out/$launcher.log"
  sed -i "s|^java-options=-XX:AOTCacheOutput=.*|java-options=-XX:AOTCache=\$APPDIR/$launcher.aot|" "$config"
}
if [ "$java_version" -ge 25 ] && [ "$natives" = linux ]; then
  scratch=$(mktemp -d)
  trap 'rm -rf "$scratch"' EXIT
  export KETTLE_STATE=$scratch/state KETTLE_CACHE=$scratch/cache
  display=()
  if [ -z "${DISPLAY:-}" ]; then display=(xvfb-run -a -s "-screen 0 1600x1000x24 -r"); fi
  say "remembering a start of the window"
  remember kettle-sieve "${display[@]}" "$tree/bin/kettle-sieve" --shots "$scratch/shots" measure listen decide
  say "remembering a command"
  remember kettle-sieve-commands "$tree/bin/kettle-sieve-commands" score "$scratch/state/demo/keepers-log.sieve" --json "$scratch/scores.json"
else
  say "no start is remembered: that takes a JDK 25 or later on Linux"
fi

# The one command, its pages, completion, and what a desktop wants to know.
install -m 755 packaging/kettle-sieve.sh "$tree/kettle-sieve"
mkdir -p "$tree/share"
cp -r "$out/icons" "$tree/share/icons"
install -Dm 644 packaging/kettle-sieve.desktop "$tree/share/applications/kettle-sieve.desktop"
install -Dm 644 packaging/kettle-sieve.mime.xml "$tree/share/mime/packages/kettle-sieve.xml"
sed "s/@VERSION@/$version/; s/@DATE@/$(git log -1 --format=%cs 2>/dev/null || date -u +%F)/" \
  packaging/kettle-sieve.metainfo.xml >"$out/metainfo.xml"
install -Dm 644 "$out/metainfo.xml" "$tree/share/metainfo/kettle-sieve.metainfo.xml"
"$tree/bin/kettle-sieve-commands" manual "$tree/share" 
mkdir -p "$tree/share/doc/kettle-sieve"
cp LICENSE README.md "$tree/share/doc/kettle-sieve/"
cp -r docs "$tree/share/doc/kettle-sieve/docs"
rm -rf "$tree/share/doc/kettle-sieve/docs/calibration"
cp app/target/classes/META-INF/THIRD-PARTY.txt "$tree/share/doc/kettle-sieve/" 2>/dev/null || true

# The archive: unpacked anywhere, it runs.
stamp=$(git log -1 --format=%ct 2>/dev/null || echo 0)
tar -C "$out" --sort=name --owner=0 --group=0 --numeric-owner --mtime="@$stamp" -cf - kettle-sieve |
  xz -T0 -6 >"$out/kettle-sieve-$version-$machine.tar.xz"

# The Debian package: the tree under /opt, and links where the system looks.
if [ -n "$debian" ] && command -v dpkg-deb >/dev/null; then
  deb=$out/deb
  mkdir -p "$deb/DEBIAN" "$deb/opt" "$deb/usr/bin" "$deb/usr/share"
  cp -r "$tree" "$deb/opt/kettle-sieve"
  mv "$deb/opt/kettle-sieve/share"/* "$deb/usr/share/"
  rmdir "$deb/opt/kettle-sieve/share"
  gzip -9n "$deb"/usr/share/man/man1/*.1
  ln -s /opt/kettle-sieve/kettle-sieve "$deb/usr/bin/kettle-sieve"
  size=$(du -sk "$deb" | cut -f1)
  sed "s/@VERSION@/$version/; s/@ARCH@/$debian/; s/@SIZE@/$size/" packaging/control >"$deb/DEBIAN/control"
  find "$deb" -type d -exec chmod 755 {} +
  SOURCE_DATE_EPOCH=$stamp dpkg-deb --root-owner-group -Zxz -b "$deb" \
    "$out/kettle-sieve_${version}_$debian.deb" >/dev/null
  rm -rf "$deb"
fi
rm -rf "$out/input" "$out/javafx" "$out/runtime" "$out/icons" "$out/commands.properties" "$out/metainfo.xml"
du -sh "$tree" "$out"/*.deb "$out"/*.tar.xz 2>/dev/null | sed "s|$home/||" >&2
