# What the command says while it works.

say() { printf '%s\n' "$*"; }

# step "what happens now": one line for each slow step.
step() { printf '\033[2m[keg]\033[0m %s\n' "$*"; }

# fail "what failed" "what to do"
fail() {
  printf '\n[keg] FAILED: %s\n' "$1" >&2
  [ -n "${2:-}" ] && printf '[keg] What to do: %s\n' "$2" >&2
  exit 1
}

# log_file NAME: where a slow step's output goes; each user and checkout has its own.
log_file() { printf '%s/keg-%s-%s-%s.log' "${TMPDIR:-/tmp}" "$(id -u)" "$(printf '%s' "$PWD" | sha256sum | cut -c1-8)" "$1"; }

# quietly LOG "what" command...: runs it, shows the end of its output only when it fails.
quietly() {
  local log=$1 what=$2
  shift 2
  mkdir -p "$(dirname "$log")"
  if ! "$@" >"$log" 2>&1; then
    tail -n 25 "$log" >&2
    fail "$what" "read the lines above (all of it is in $log), mend it, and start the same command again"
  fi
}

keg_help() {
  cat <<'HELP'
Keg, a weighed logbook for refrigeration and vehicle-AC technicians.

  ./keg demo [--fresh]   everything on this machine with made-up data; prints the address and sign-ins
  ./keg start            the real thing: an empty database, a first-run page guarded by a one-time code
  ./keg dev              the demo with live reload, for working on the code
  ./keg test             lint, types, build, all tests; closes with the counts
  ./keg test long        what takes long for its own sake, before a release
  ./keg bench            loads a large shop and prints a table of speeds and sizes
  ./keg bench live       100 devices and 50 listeners for five minutes; prints a table
  ./keg bench offline    what a device keeps of a shop, and how long pages take on a slow phone, with and without signal
  ./keg bench watch      what is said of a thousand simulated recoveries, against what the plant knows
  ./keg bench patroni    three database servers, two processes, nginx with TLS: killed, cut, mended (as root)
  ./keg bench shops      200 shops with 20 people each on this machine: where it ends
  ./keg bench chaos      ends sessions, database and server while people write; says what was lost
  ./keg rig FILE.json    runs a scenario of the simulated plant, prints it as CSV (docs/rig.md)
  ./keg screenshots      makes docs/screenshots again from the demo data
  ./keg backup FILE      writes the database of ./keg start (--demo: of the demo) to FILE, while Keg runs
  ./keg backup --every 6h DIR --keep 28   the same by itself while ./keg start runs (--every never: no more)
  ./keg restore FILE     puts FILE back, of this version or an earlier one (stop Keg first)
  ./keg restore --check FILE   restores FILE beside the database, compares its books, and changes nothing
  ./keg rebuild-summaries [--demo]   folds every job again into the job list

  KEG_PORT           port to serve on (default 4600)         KEG_HOST  address (default 127.0.0.1)
  KEG_ORIGIN         the address browsers use, when behind another server
  KEG_TRUST_PROXY    which servers in front are believed about addresses: loopback, 10.0.0.0/8, ...
  KEG_DATABASE_URL   an existing PostgreSQL for ./keg start (with KEG_OWNER_DATABASE_URL for migrations); several
                     servers as host:port,host:port: the one that takes writes is used (docs/deploy.md)
  KEG_NOW            fixes the clock, for pictures and tests
  KEG_RATE_SIGN_IN   sign-in tries for one name from one address, as count/seconds (default 10/300)
HELP
}
