#!/usr/bin/env bash
# Installs what is missing, builds, brings the tables up to date, seeds the demo jobs and starts Hollow Finch on this machine.
# Running it again keeps everything that a person made. PORT and HOLLOW_FINCH_DB may be set.
set -euo pipefail
source "$(dirname "$0")/common.sh"
need_node
need_packages
export HOST=127.0.0.1 PORT="${PORT:-4321}" HOLLOW_FINCH_DB="${HOLLOW_FINCH_DB:-file:$PWD/var/hollow-finch.db}"
echo "Building…"
log=$(npm run build --silent -w web 2>&1) || { echo "$log"; exit 1; }
npm run seed --silent -w web
exec node web/start.mjs
