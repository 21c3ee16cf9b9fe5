# demo, start, dev: a database, migrations, a server.

run_ts() { node --import tsx "$@"; }

# The server: a larger nursery for what lives for one request only makes pages a fifth quicker.
run_server() { exec node --max-semi-space-size=64 --import tsx server/listen.ts; }

prepare() {
  need_node
  need_npm_packages
}

migrate() {
  step "Bringing the database up to date"
  run_ts command/migrate.ts || fail "the migration" "${1:-read the lines above}"
}

keg_demo() {
  prepare
  need_build
  if [ "${1:-}" = --fresh ]; then cluster_forget demo; fi
  cluster_start demo
  migrate "a changed migration needs a new database: ./keg demo --fresh"
  load_demo || fail "loading the demo data" "./keg demo --fresh starts over"
  serve "$STATE/greeting"
}

keg_start() {
  prepare
  need_build
  if [ -z "${KEG_DATABASE_URL:-}" ]; then cluster_start start; fi
  migrate "see README, Running it for real"
  serve ""
}

keg_dev() {
  prepare
  cluster_start demo
  migrate "./keg demo --fresh"
  load_demo || fail "loading the demo data" "./keg demo --fresh starts over"
  KEG_DEV=1 NODE_ENV=development serve "$STATE/greeting"
}

# load_demo: the demo data and a token for programs, both once; what the greeting says of them.
load_demo() (
  umask 077
  [ -f "$STATE/api-token" ] || printf 'keg_%s' "$(random_word)" >"$STATE/api-token"
  KEG_DEMO_TOKEN=$(cat "$STATE/api-token") run_ts demo/load.ts || return 1
  { cat demo/sign-ins.txt; printf '  API token: %s\n' "$(cat "$STATE/api-token")"; } >"$STATE/greeting"
)

# serve FILE: runs the server until Ctrl-C; FILE is printed once it answers.
serve() {
  export NODE_ENV=${NODE_ENV:-production} KEG_PORT=${KEG_PORT:-4600} KEG_HOST=${KEG_HOST:-127.0.0.1}
  KEG_GREETING=$1 run_server &
  local server=$!
  trap 'kill -TERM '"$server"' 2>/dev/null || true; wait '"$server"' || true; exit 130' INT
  trap 'kill -TERM '"$server"' 2>/dev/null || true; wait '"$server"' || true; exit 143' TERM
  wait "$server"
}

# wait_for_server LOG: until it answers on KEG_PORT.
wait_for_server() {
  local try
  for try in $(seq 60); do
    node -e 'fetch("http://127.0.0.1:"+process.env.KEG_PORT+"/healthz").then(r=>process.exit(r.ok?0:1),()=>process.exit(1))' && return
    sleep 0.5
  done
  fail "the server did not answer on port $KEG_PORT (try $try)" "read $1"
}

# Backup works while Keg runs; restore wants it stopped.
keg_backup() {
  local mode=start
  if [ "${1:-}" = --demo ]; then mode=demo; shift; fi
  [ -n "${1:-}" ] || fail "backup needs a file" "./keg backup keg-$(date +%F).dump"
  prepare
  [ -n "${KEG_ADMIN_DATABASE_URL:-}" ] || cluster_join "$mode"
  "$(pg_bin)/pg_dump" --format=custom --file="$1" "$KEG_ADMIN_DATABASE_URL" ||
    fail "the backup" "is there room for $1, and does a database exist? (./keg start makes one)"
  step "Wrote $1 ($(du -h "$1" | cut -f1)). Keep it somewhere else than this machine."
}

keg_restore() {
  local mode=start
  if [ "${1:-}" = --demo ]; then mode=demo; shift; fi
  [ -f "${1:-}" ] || fail "restore needs a file that ./keg backup wrote" "./keg restore FILE"
  prepare
  [ -n "${KEG_ADMIN_DATABASE_URL:-}" ] || cluster_start "$mode"
  migrate
  step "Putting $1 back"
  # One transaction: either all of it is back or nothing has changed.
  "$(pg_bin)/pg_restore" --clean --if-exists --single-transaction \
    --dbname="$KEG_ADMIN_DATABASE_URL" "$1" || fail "the restore; nothing was changed" "is $1 a file that ./keg backup wrote?"
  migrate
}

keg_rebuild_summaries() {
  local mode=start
  if [ "${1:-}" = --demo ]; then mode=demo; shift; fi
  prepare
  [ -n "${KEG_DATABASE_URL:-}" ] || cluster_join "$mode"
  run_ts command/rebuild-summaries.ts
}
