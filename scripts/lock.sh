#!/bin/sh
# Recompile the hash-locked requirement files (needs uv on the PATH). Lock files carry no registry address.
set -eu
cd "$(dirname "$0")/../requirements"
for name in bootstrap node places runtime dev; do
  uv pip compile --quiet --universal --python-version 3.11 --generate-hashes --no-emit-index-url --no-emit-find-links --no-header \
    "$@" "$name.in" -o "$name.txt"
done
