#!/usr/bin/env bash
# What the tests need of Debian's packages: Chromium without a window of its own, which drives the interface, and Redis, by which listeners are called.
# Its build for no monitor takes half the processor time of the whole of Chromium, which stands in where that is there already and cannot be had.
set -euo pipefail
missing=()
[ -x /usr/bin/chromium-headless-shell ] || missing+=(chromium-headless-shell)
[ -x /usr/bin/redis-server ] || missing+=(redis-server)
[ ${#missing[@]} = 0 ] && exit 0
if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
  (apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null) || true
fi
if [ -x /usr/bin/redis-server ] && { [ -x /usr/bin/chromium-headless-shell ] || [ -x /usr/bin/chromium ]; }; then
  exit 0
fi
echo "The tests need ${missing[*]}; install first: sudo apt-get install ${missing[*]}" >&2
exit 1
