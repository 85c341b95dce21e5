#!/usr/bin/env bash
# Debian's Chromium, which drives the interface in the tests.
set -euo pipefail
[ -x /usr/bin/chromium ] && exit 0
if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
  apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends chromium >/dev/null
else
  echo "The interface tests need Chromium; install it first: sudo apt-get install chromium" >&2
  exit 1
fi
