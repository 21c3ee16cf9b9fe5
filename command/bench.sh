# bench: a large shop in a database of its own, a server before it, and a table.

keg_bench() {
  prepare
  need_build
  if [ "${1:-}" = chaos ]; then
    need_postgresql
    step "Three minutes of trouble, then a failover; about four minutes"
    run_ts bench/chaos-run.ts || fail "something was lost, doubled or did not come back" "read the table above"
    return
  fi
  if [ "${1:-}" = patroni ]; then bench_patroni; return; fi
  if [ "${1:-}" = shops ]; then bench_shops; return; fi
  if [ "${1:-}" = live ]; then bench_live; return; fi
  if [ "${1:-}" = offline ]; then bench_offline; return; fi
  if [ "${1:-}" = watch ]; then run_ts bench/watch.ts; return; fi
  if [ "${1:-}" = vacuum ]; then run_ts bench/vacuum.ts; return; fi
  if [ "${1:-}" = running ]; then run_ts bench/running.ts; return; fi
  if [ "${1:-}" = truth ]; then run_ts bench/truth.ts; return; fi
  if [ "${1:-}" = left ]; then run_ts bench/left.ts; return; fi
  cluster_forget bench
  cluster_start bench
  migrate
  step "Loading a large shop; about a minute"
  export KEG_PORT=${KEG_PORT:-4698} KEG_HOST=127.0.0.1 NODE_ENV=production KEG_LOG=warn KEG_RATE_APPEND=100000/60
  run_server >"$STATE/server.log" 2>&1 &
  local server=$!
  wait_for_server "$STATE/server.log"
  run_ts bench/bench.ts || { kill -TERM "$server"; fail "the benchmark" "read the lines above"; }
  kill -TERM "$server"
  wait "$server" || true
}

# Its own server before an empty shop, a browser, and a script that looks at both.
bench_before_server() {
  local name=$1 port=$2 script=$3
  need_chromium
  cluster_forget "$name"
  cluster_start "$name"
  migrate
  export KEG_PORT=${KEG_PORT:-$port} KEG_HOST=127.0.0.1 NODE_ENV=production KEG_LOG=warn
  run_server >"$STATE/server.log" 2>&1 &
  local server=$!
  wait_for_server "$STATE/server.log"
  KEG_SERVER_PID=$server KEG_CHROMIUM=$(chromium_path) run_ts "$script" || { kill -TERM "$server"; fail "the benchmark" "read the lines above"; }
  kill -TERM "$server"
  wait "$server" || true
}

# What a device keeps of a middling shop, and how long pages take on a slow phone, with signal and without.
bench_offline() { bench_before_server bench 4696 bench/offline.ts; }

# Many shops on one machine, faster and faster, until it ends.
bench_shops() { KEG_RATE_APPEND=1000000/60 bench_before_server shops 4694 bench/shops.ts; }

# Five minutes of live instruments; this database keeps what it confirms, as one of a shop does.
bench_live() {
  step "100 devices, 50 listeners, ${KEG_BENCH_SECONDS:-300} s"
  bench_before_server live 4697 bench/live.ts
}

# Three database servers, two processes, nginx with TLS before them: about six minutes. Debian's packages, and root, since
# each server is a host of its own.
bench_patroni() {
  as_root || fail "bench patroni makes network namespaces, and needs root" "run it as root on a machine for trials"
  local package
  for package in postgresql patroni etcd-server nginx-light iproute2 openssl; do
    dpkg -s "$package" >/dev/null 2>&1 || debian_package "$package" "the trial of several machines"
  done
  KEG_TLS=$(mktemp -d)
  export KEG_TLS
  openssl req -x509 -newkey rsa:2048 -nodes -days 2 -subj /CN=localhost -addext subjectAltName=DNS:localhost \
    -keyout "$KEG_TLS/key.pem" -out "$KEG_TLS/cert.pem" 2>/dev/null
  NODE_EXTRA_CA_CERTS=$KEG_TLS/cert.pem run_ts bench/patroni-run.ts ||
    fail "something was lost, doubled or did not come back" "read the table above"
}
