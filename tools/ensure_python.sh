#!/usr/bin/env bash
# A virtual environment in .venv; Debian keeps the module for it in a package of its own.
set -euo pipefail
python=${PYTHON:-python3}
if ! "$python" -c 'import sys; sys.exit(sys.version_info < (3, 11))'; then
  echo "Valley needs Python 3.11 or newer; $("$python" --version) was found. Set PYTHON=… to another one." >&2
  exit 1
fi
if ! node --version 2>/dev/null | grep -qE '^v(2[0-9]|[3-9][0-9])\.'; then
  echo "Valley needs Node 20 or newer with npm; $(node --version 2>/dev/null || echo none) was found." >&2
  exit 1
fi
[ -x .venv/bin/python ] && exit 0
if "$python" -m venv .venv 2>/dev/null; then exit 0; fi
rm -rf .venv
if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
  apt-get update -qq && apt-get install -y -qq python3-venv
  "$python" -m venv .venv
else
  echo "Python cannot make virtual environments here; install it first: sudo apt-get install python3-venv" >&2
  exit 1
fi
