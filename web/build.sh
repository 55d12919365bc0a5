#!/bin/sh
# Called by Maven: fetches packages when the lock file changed, then checks and builds the web part when its sources did.
set -eu
cd "$(dirname "$0")"
if ! cmp -s package-lock.json node_modules/.lock-installed; then
  npm ci --no-fund --no-audit --loglevel=error
  cp package-lock.json node_modules/.lock-installed
fi
stamp=$(cat package-lock.json build.sh ../docs/openapi.json biome.json imports.mjs tsconfig.json vite.config.ts pocketpage.ts index.html $(find src public -type f -not -path '*/generated/*' 2>/dev/null | sort) | sha1sum)
[ "$(cat dist/.stamp 2>/dev/null || true)" != "$stamp" ] || exit 0
npm run --silent types
npm run --silent check
VITE_BUILD=$(printf %s "$stamp" | cut -c1-12) npm run --silent build
# Compressed once here instead of at every request.
find dist/assets \( -name '*.js' -o -name '*.css' \) -exec gzip -9 -k -n {} +
printf %s "$stamp" >dist/.stamp
