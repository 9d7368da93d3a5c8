#!/bin/sh
# Make the client's types anew from the application's own OpenAPI document; fail when they differ from the committed ones.
# With --write they are replaced instead. Run it through: ./hearth exec scripts/check-types.sh
set -eu
cd "$(dirname "$0")/.."
scratch=$(mktemp -d)
trap 'rm -rf "$scratch"' EXIT
python scripts/openapi.py "$scratch/openapi.json"
(cd web && npx openapi-typescript "$scratch/openapi.json" -o "$scratch/schema.d.ts" >/dev/null)
if [ "${1:-}" = "--write" ]; then
  cp "$scratch/schema.d.ts" web/src/api/schema.d.ts
elif ! cmp -s "$scratch/schema.d.ts" web/src/api/schema.d.ts; then
  echo "web/src/api/schema.d.ts differs from the application; run: ./hearth exec scripts/check-types.sh --write" >&2
  exit 1
else
  echo "client types are current"
fi
