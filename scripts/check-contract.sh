#!/bin/sh
# The TypeScript types and ranges must be those of the contract document. That the document is
# the server's own is a Go test.
set -eu
cd "$(dirname "$0")/.."
fresh=$(mktemp -d)
trap 'rm -rf "$fresh"' EXIT
ui/node_modules/.bin/openapi-typescript server/openapi.json -o "$fresh/schema.ts" >/dev/null
node ui/scripts/ranges.mjs server/openapi.json "$fresh/ranges.ts"
for file in schema.ts ranges.ts; do
	if ! cmp -s "$fresh/$file" "ui/src/api/$file"; then
		echo "ui/src/api/$file is out of date; run: make contract" >&2
		exit 1
	fi
done
