#!/usr/bin/env bash
# Writes the hashed lock files anew from pyproject.toml. Needs the set-up environment (make setup).
set -euo pipefail
cd "$(dirname "$0")/.."
compile() { .venv/bin/uv pip compile --quiet --universal --python-version 3.11 --generate-hashes --no-emit-index-url --no-header --no-annotate "$@"; }
compile pyproject.toml -o requirements/run.txt
compile pyproject.toml --extra dev -c requirements/run.txt --override requirements/overrides.txt -o requirements/dev.txt
compile requirements/bootstrap.in -o requirements/bootstrap.txt
compile requirements/node.in -o requirements/node.txt
