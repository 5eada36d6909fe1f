#!/bin/sh
# The TypeScript types must be those of the contract document. That the document is
# the server's own is a Go test.
set -eu
cd "$(dirname "$0")/.."
fresh=$(mktemp)
trap 'rm -f "$fresh"' EXIT
ui/node_modules/.bin/openapi-typescript server/openapi.json -o "$fresh" >/dev/null
if ! cmp -s "$fresh" ui/src/api/schema.ts; then
	echo "ui/src/api/schema.ts is out of date; run: make contract" >&2
	exit 1
fi
