# screenshots: docs/screenshots again, from the demo data, at a fixed time.

keg_screenshots() {
  prepare
  need_chromium
  need_build
  export KEG_NOW=2026-11-24T10:40:00Z KEG_PORT=${KEG_PORT:-4695} KEG_HOST=127.0.0.1 NODE_ENV=production KEG_LOG=warn
  cluster_forget screenshots
  cluster_start screenshots
  migrate
  run_ts demo/load.ts
  node --import tsx server/listen.ts >"$STATE/server.log" 2>&1 &
  local server=$!
  wait_for_server "$STATE/server.log"
  step "Taking pictures"
  KEG_CHROMIUM=$(chromium_path) run_ts e2e/screenshots.ts || { kill -TERM "$server"; fail "the pictures" "read the lines above"; }
  kill -TERM "$server"
  wait "$server" || true
}
