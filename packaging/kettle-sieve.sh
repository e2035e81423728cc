#!/bin/sh
# Kettle Sieve: the window, or one of its commands.
place=$(readlink -f "$0" 2>/dev/null || echo "$0")
bin=${place%/*}/bin
case ${1:-} in
  demo) shift; exec "$bin/kettle-sieve" --demo "$@" ;;
  open) shift; exec "$bin/kettle-sieve" "$@" ;;
  score | report | reel | sheet | answers | new | roundup | testpiece | run | bench | calibrate | help | --help | --version | -h)
    if [ -t 2 ]; then terminal=true; else terminal=false; fi
    KETTLE_TERMINAL=$terminal
    export KETTLE_TERMINAL
    exec "$bin/kettle-sieve-commands" "$@" ;;
  *) exec "$bin/kettle-sieve" "$@" ;;
esac
