# Shared by demo.sh and test.sh: installs what is missing, the same way everywhere.
export ASTRO_TELEMETRY_DISABLED=1 ASTRO_DISABLE_UPDATE_CHECK=true npm_config_fund=false npm_config_audit=false
cd "$(dirname "${BASH_SOURCE[0]}")/.."

need_node() {
  if ! command -v node >/dev/null || ! node -e 'process.exit(Number(process.versions.node.split(".")[0]) >= 20 ? 0 : 1)'; then
    echo "Hollow Finch needs Node.js 20 or newer with npm." >&2
    exit 1
  fi
}

# Installs the packages of the lock file when they are not there, or when the lock file has changed since.
need_packages() {
  local stamp=node_modules/.hollow-finch-lock
  if [ ! -f "$stamp" ] || ! cmp -s package-lock.json "$stamp"; then
    echo "Installing packages…"
    npm ci --loglevel=error
    cp package-lock.json "$stamp"
  fi
}

# Chromium from Debian's packages, for the interface tests.
need_chromium() {
  [ -x "${CHROMIUM:-/usr/bin/chromium}" ] && return
  echo "Installing Chromium…"
  local sudo=""
  [ "$(id -u)" = 0 ] || sudo=sudo
  $sudo apt-get update -qq
  $sudo env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends chromium fonts-dejavu-core >/dev/null
}
