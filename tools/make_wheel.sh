#!/usr/bin/env bash
# One wheel with the page, the demo songs, fonts, samples and networks inside: tools/make_wheel.sh FOLDER
# Built from a copy, so that the working copy stays as it is.
set -euo pipefail
root=$(cd "$(dirname "$0")/.." && pwd)
out=$(mkdir -p "$1" && cd "$1" && pwd)
[ -f "$root/frontend/dist/index.html" ] || { echo "The page is not built yet; run: make build" >&2; exit 1; }
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
mkdir "$work/src"
cp -r "$root/src/valley" "$root/src/valley_web" "$work/src/"
cp -r "$root/frontend/dist" "$work/src/valley_web/page"
mkdir "$work/src/valley_web/demo"
cp -r "$root/demo/audio" "$root/demo/charts" "$work/src/valley_web/demo/"
cp "$root/pyproject.toml" "$root/README.md" "$root/LICENSE" "$work/"
find "$work/src" -name __pycache__ -type d -prune -exec rm -rf {} +
"$root/.venv/bin/python" -m pip wheel --quiet --no-deps --no-build-isolation --wheel-dir "$out" "$work"
ls "$out"/valley-*.whl
