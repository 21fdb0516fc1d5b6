#!/usr/bin/env bash
# npm for the front end: with the Node on this machine where it is 20 or newer, else with one that comes into .venv.
# Installs the locked packages first where that is still to be done.
set -euo pipefail
root=$(cd "$(dirname "$0")/.." && pwd)
cd "$root"
major=$( (node --version 2>/dev/null || echo v0) | sed 's/^v\([0-9]*\).*/\1/')
if [ "$major" -lt 20 ] || ! command -v npm >/dev/null; then
  [ -x .venv/bin/node ] || .venv/bin/uv pip install --quiet --require-hashes -r requirements/node.txt
  export PATH="$root/.venv/bin:$PATH"
fi
cd web
if [ ! -e node_modules/.installed ] || [ package-lock.json -nt node_modules/.installed ]; then
  npm ci --silent --no-audit --no-fund
  touch node_modules/.installed
fi
exec npm --silent "$@"
