#!/usr/bin/env bash
# What the tests need of Debian's packages: Chromium, which drives the interface, and Redis, by which listeners are called.
set -euo pipefail
missing=()
[ -x /usr/bin/chromium ] || missing+=(chromium)
[ -x /usr/bin/redis-server ] || missing+=(redis-server)
[ ${#missing[@]} = 0 ] && exit 0
if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
  apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
else
  echo "The tests need ${missing[*]}; install first: sudo apt-get install ${missing[*]}" >&2
  exit 1
fi
