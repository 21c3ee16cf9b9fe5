# Installing what is missing: Debian packages and npm packages.

as_root() { [ "$(id -u)" = 0 ]; }

pg_bin() {
  local newest
  newest=$(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n 1)
  [ -n "$newest" ] && [ -x "$newest/initdb" ] && printf '%s' "$newest"
}

# The one without windows is lighter.
chromium_path() { command -v chromium-headless-shell || command -v chromium || command -v chromium-browser || true; }

# debian_package NAME "what for"
debian_package() {
  as_root || fail "the Debian package '$1' is missing ($2)" "run: sudo apt-get update && sudo apt-get install -y $1"
  step "Installing Debian's $1 ($2); this can take a few minutes"
  if [ "$1" = postgresql ] && [ ! -e /etc/postgresql-common/createcluster.conf ]; then
    # Keg makes a private cluster of its own and wants no other.
    mkdir -p /etc/postgresql-common
    printf 'create_main_cluster = false\n' >/etc/postgresql-common/createcluster.conf
  fi
  quietly "$(log_file apt-update)" "apt-get update" apt-get update
  quietly "$(log_file "apt-$1")" "apt-get install $1" \
    env DEBIAN_FRONTEND=noninteractive apt-get install -y --no-install-recommends -o Dpkg::Options::=--force-confold "$1"
}

need_postgresql() { [ -n "$(pg_bin)" ] || debian_package postgresql "the database server"; }

need_chromium() { [ -n "$(chromium_path)" ] || debian_package chromium-headless-shell "the browser that tests drive"; }

need_node() {
  command -v node >/dev/null || fail "Node.js is missing" "install Node.js 20.19 or later, with npm"
  node -e 'const [a,b]=process.versions.node.split(".").map(Number);process.exit(a>20||(a===20&&b>=19)?0:1)' ||
    fail "Node.js $(node -v) is too old" "install Node.js 20.19 or later"
}

need_npm_packages() {
  local want have=
  want=$(cat package-lock.json patches/* | sha256sum | cut -d' ' -f1)
  [ -f node_modules/.keg-lock ] && have=$(cat node_modules/.keg-lock)
  [ "$want" = "$have" ] && return
  step "Installing npm packages (npm ci); about a minute"
  quietly "$(log_file npm)" "npm ci" npm ci --no-audit --no-fund
  printf '%s' "$want" >node_modules/.keg-lock
}

need_build() {
  if [ -f build/.stamp ] &&
    [ -z "$(find app core db server shell public package-lock.json vite.config.ts vite.shell.config.ts vite.threads.config.ts vite.aliases.ts react-router.config.ts -newer build/.stamp -print -quit)" ]; then
    return
  fi
  step "Building"
  quietly "$(log_file build)" "the build" npm run build
  touch build/.stamp
}
