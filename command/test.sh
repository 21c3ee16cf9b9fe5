# test: everything that CI runs. One part alone: ./keg test unit | e2e, with arguments for its runner after it.

keg_test() {
  local part=${1:-all}
  [ $# -gt 0 ] && shift
  prepare
  case "$part" in
    all) need_chromium; test_static; test_build ;;
    unit) ;;
    e2e) need_chromium; need_build ;;
    long) need_chromium; need_build; export KEG_TEST_LONG=1 ;;
    *) fail "there is no part '$part' of the tests" "./keg test, ./keg test unit [file], ./keg test e2e [file], or ./keg test long" ;;
  esac
  cluster_forget test
  cluster_start test
  migrate
  rm -rf test-results
  mkdir -p test-results
  local failed=0
  [[ "$part" = e2e || "$part" = long ]] || test_unit "$@" || failed=1
  [ "$part" = unit ] || test_browser "$@" || failed=1
  node command/counts.mjs test-results/*.json || failed=1
  return "$failed"
}

# All of them, so that what is wrong is seen at once; lint takes one processor, the others the other.
test_static() {
  local lint log wrong=
  step "Formatting, types and dead code, and lint beside them"
  npm run --silent typegen || fail "the types of the routes" "mend what is listed above"
  log=$(log_file lint)
  npm run --silent lint >"$log" 2>&1 &
  lint=$!
  npm run --silent format:check || wrong="$wrong formatting (npm run format mends it),"
  npm run --silent types || wrong="$wrong types,"
  npm run --silent dead || wrong="$wrong dead code,"
  wait "$lint" || { cat "$log" >&2; wrong="$wrong lint,"; }
  [ -z "$wrong" ] || fail "the checks:${wrong%,}" "mend what is listed above"
}

test_build() {
  step "Building"
  quietly "$(log_file build)" "the build" npm run build
  touch build/.stamp
}

test_unit() {
  step "Unit and database tests"
  npx vitest run --reporter=default --reporter=json --outputFile.json=test-results/vitest.json "$@"
}

test_browser() {
  step "Browser tests"
  KEG_CHROMIUM=$(chromium_path) npx playwright test "$@"
}
