# demo, start, dev: a database, migrations, a server.

run_ts() { node --import tsx "$@"; }

# The server alone, for tests and measurements, as server/supervise.ts starts it.
run_server() {
  exec node --max-semi-space-size=64 --min-semi-space-size=64 --heap-growing-percent=50 --import tsx server/listen.ts
}

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
  # The stand-ins begin anew with it, too.
  if [ "${1:-}" = --fresh ]; then cluster_forget demo; rm -rf "$STATE/gateway"; fi
  cluster_start demo
  migrate "a changed migration needs a new database: ./keg demo --fresh"
  load_demo || fail "loading the demo data" "./keg demo --fresh starts over"
  keep_gateway
  keep_vehicle_data
  serve "$STATE/greeting"
}

# A scenario of the simulated plant, as CSV: nothing but Node is needed.
keg_rig() {
  prepare >&2
  KEG_FROM=$KEG_FROM run_ts command/rig.ts "$@"
}

keg_start() {
  prepare
  need_build
  if [ -z "${KEG_DATABASE_URL:-}" ]; then cluster_start start; else cluster_lock start; fi
  migrate "see README, Running it for real"
  serve ""
}

keg_dev() {
  prepare
  cluster_start demo
  migrate "./keg demo --fresh"
  load_demo || fail "loading the demo data" "./keg demo --fresh starts over"
  SERVE_WITH=server/listen.ts KEG_DEV=1 NODE_ENV=development serve "$STATE/greeting"
}

# load_demo: the demo data and a token for programs, both once; what the greeting says of them.
load_demo() (
  umask 077
  [ -f "$STATE/api-token" ] || printf 'keg_%s' "$(random_word)" >"$STATE/api-token"
  KEG_DEMO_TOKEN=$(cat "$STATE/api-token") KEG_GATEWAY_FILE=$STATE/gateway.json run_ts demo/load.ts || return 1
  { cat demo/sign-ins.txt; printf '  API token: %s\n' "$(cat "$STATE/api-token")"; } >"$STATE/greeting"
)

# keep_beside NAME COMMAND...: a stand-in beside the server, started again whenever it ends, and gone with this process. It
# gets no address of the database.
keep_beside() {
  local keeper=$$ name=$1
  shift
  (
    exec 9>&-
    trap - EXIT INT TERM
    while kill -0 "$keeper" 2>/dev/null && [ ! -f "$STATE/leaving" ]; do
      env -u KEG_DATABASE_URL -u KEG_OWNER_DATABASE_URL -u KEG_ADMIN_DATABASE_URL -u KEG_DEMO_TOKEN \
        "$@" >>"$STATE/$name.log" 2>&1 &
      beside=$!
      printf '%s\n' "$beside" >"$STATE/$name-pid"
      while kill -0 "$beside" 2>/dev/null; do
        if ! kill -0 "$keeper" 2>/dev/null || [ -f "$STATE/leaving" ]; then kill -TERM "$beside" 2>/dev/null || true; fi
        sleep 0.5
      done
      sleep 1
    done
  ) &
}

# keep_gateway: the stand-in gateway. It knows the public address and its own tokens only.
keep_gateway() {
  [ -f "$STATE/gateway.json" ] || return 0
  keep_beside gateway env "KEG_GATEWAY_SERVER=http://${KEG_HOST:-127.0.0.1}:${KEG_PORT:-4600}" \
    node --import tsx instruments/main.ts "$STATE/gateway.json"
}

# keep_vehicle_data: the stand-in for a service that knows vehicles, where none is named.
keep_vehicle_data() {
  [ -z "${KEG_VEHICLE_DATA:-}" ] || return 0
  local port=${KEG_VEHICLE_DATA_PORT:-$((${KEG_PORT:-4600} + 10000))}
  export KEG_VEHICLE_DATA=http://127.0.0.1:$port
  keep_beside vehicle-data node --import tsx instruments/vehicle-data.ts "$port"
}

# serve FILE: runs the server, supervised, until Ctrl-C; FILE is printed once it answers. What supervises is started
# again, too, if somebody ends it hard.
serve() {
  export NODE_ENV=${NODE_ENV:-production} KEG_PORT=${KEG_PORT:-4600} KEG_HOST=${KEG_HOST:-127.0.0.1}
  local code
  keep_cluster_up
  keep_backups
  trap 'leave_with 130' INT
  trap 'leave_with 143' TERM
  while :; do
    KEG_GREETING=$1 without_passwords node --import tsx "${SERVE_WITH:-server/supervise.ts}" &
    SERVED=$!
    printf '%s\n' "$SERVED" >"$STATE/server-pid"
    code=0
    wait "$SERVED" || code=$?
    [ "$code" = 137 ] || exit "$code"
    step "What supervised the server was ended: starting it again"
    sleep 1
  done
}

leave_with() {
  kill -TERM "$SERVED" 2>/dev/null || true
  wait "$SERVED" || true
  exit "$1"
}

# without_passwords command...: the server knows the application's address only, and that from a file.
without_passwords() {
  local address=$STATE/app-address
  (
    umask 077
    printf '%s' "$KEG_DATABASE_URL" >"$address"
  )
  KEG_DATABASE_URL_FILE=$address exec \
    env -u KEG_DATABASE_URL -u KEG_OWNER_DATABASE_URL -u KEG_ADMIN_DATABASE_URL "$@"
}

# wait_for_server LOG: until it answers on KEG_PORT.
wait_for_server() {
  # However busy the machine is.
  local until=$((SECONDS + 300))
  while [ "$SECONDS" -lt "$until" ]; do
    node -e 'fetch("http://127.0.0.1:"+process.env.KEG_PORT+"/healthz").then(r=>process.exit(r.ok?0:1),()=>process.exit(1))' && return
    sleep 0.5
  done
  fail "the server did not answer on port $KEG_PORT in five minutes" "read $1"
}

keg_rebuild_summaries() {
  local mode=start
  if [ "${1:-}" = --demo ]; then mode=demo; shift; fi
  prepare
  [ -n "${KEG_DATABASE_URL:-}" ] || cluster_join "$mode"
  run_ts command/rebuild-summaries.ts
}
