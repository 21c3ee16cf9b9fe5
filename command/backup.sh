# backup and restore. Backups work while Keg runs; a restore wants it stopped.

keg_backup() {
  local mode=start every= keep= file=
  while [ $# -gt 0 ]; do
    case "$1" in
      --demo) mode=demo ;;
      --every) every=${2:-}; shift ;;
      --keep) keep=${2:-}; shift ;;
      -*) fail "backup does not know '$1'" "./keg backup FILE, or ./keg backup --every 6h DIR --keep 28" ;;
      *) file=$(from_where_one_stands "$1") ;;
    esac
    shift || break
  done
  if [ -n "$every" ]; then backup_every "$mode" "$every" "$file" "${keep:-28}"; return; fi
  [ -n "$file" ] || fail "backup needs a file" "./keg backup keg-$(date +%F).dump"
  prepare
  [ -n "${KEG_ADMIN_DATABASE_URL:-}" ] || cluster_join "$mode"
  backup_to "$file"
  step "Wrote $file ($(du -h "$file" | cut -f1)), and read its contents back. Keep it somewhere else than this machine."
}

# backup_to FILE: written beside it, read back, and only then put in its place; a failing one leaves the good one.
backup_to() (
  umask 077
  part=$1.part-$$
  pass=$(mktemp)
  trap 'rm -f "$part" "$pass"' EXIT
  address=$(node command/address.mjs KEG_ADMIN_DATABASE_URL "$pass") || exit 1
  [ -d "$(dirname "$1")" ] || fail "the backup: there is no folder $(dirname "$1")" "make it first, or choose another"
  PGPASSFILE=$pass "$(pg_bin)/pg_dump" --format=custom --file="$part" --dbname="$address" ||
    fail "the backup; what was there before stays" "read the line above: is there room, and does a database exist? (./keg start makes one)"
  contents=$("$(pg_bin)/pg_restore" --list "$part") && [[ "$contents" == *'TABLE DATA public movement '* ]] ||
    fail "the backup: what was written cannot be read back; what was there before stays" "is the disk full?"
  mv -f "$part" "$1"
)

# backup_every MODE EVERY DIR KEEP: the process that supervises the server does it from now on.
backup_every() {
  local mode=$1 every=$2 dir=$3 keep=$4
  STATE=$(state_folder "$mode")
  mkdir -p "$STATE"
  if [ "$every" = never ]; then
    rm -f "$STATE/backup-schedule"
    step "No more backups by themselves."
    return
  fi
  [[ "$every" =~ ^[1-9][0-9]*[hm]$ ]] || fail "'$every' is no time between backups" "say it in hours or minutes, such as 6h, or never"
  [[ "$keep" =~ ^[1-9][0-9]*$ ]] || fail "'$keep' is no number of backups to keep" "./keg backup --every 6h DIR --keep 28"
  [ -d "$dir" ] || fail "there is no folder '$dir' for the backups" "make it first: ./keg backup --every $every DIR --keep $keep"
  printf '%s\n%s\n%s\n' "$every" "$keep" "$dir" >"$STATE/backup-schedule"
  step "While ./keg $mode runs, a backup every $every in $dir, the last $keep kept. The first one within a minute."
}

# keep_backups: while we serve, what backup_every was told. A failing one is tried again a minute later.
keep_backups() {
  (
    exec 9>&-
    trap - EXIT INT TERM
    look=0
    while sleep 2 && runs "$$"; do
      # Once a minute; the short sleep is for whoever waits for all of us to end.
      look=$(((look + 1) % 30))
      [ "$look" = 1 ] && [ -f "$STATE/backup-schedule" ] || continue
      backup_if_due || step "The backup failed, the ones before stay: trying again in a minute"
    done
  ) &
  WATCHERS="${WATCHERS:-} $!"
}

backup_if_due() {
  local every keep dir minutes newest
  { read -r every; read -r keep; read -r dir; } <"$STATE/backup-schedule"
  case "$every" in *h) minutes=$((60 * ${every%h})) ;; *) minutes=${every%m} ;; esac
  newest=$(find "$dir" -maxdepth 1 -name 'keg-*.dump' -mmin "-$minutes" -print -quit)
  [ -n "$newest" ] && return 0
  backup_to "$dir/keg-$(date -u +%Y%m%dT%H%M%SZ).dump" || return 1
  find "$dir" -maxdepth 1 -name 'keg-*.dump' | sort -r | tail -n +$((keep + 1)) | while read -r old; do rm -f "$old"; done
}

keg_restore() {
  local mode=start check=
  while [ $# -gt 0 ]; do
    case "$1" in
      --demo) mode=demo ;;
      --check) check=--check ;;
      *) break ;;
    esac
    shift
  done
  local file
  file=$(from_where_one_stands "${1:-}")
  [ -f "$file" ] || fail "restore needs a file that ./keg backup wrote" "./keg restore FILE, or ./keg restore --check FILE"
  prepare
  if [ -z "${KEG_ADMIN_DATABASE_URL:-}" ]; then
    if [ -n "$check" ]; then cluster_join "$mode"; else cluster_start "$mode"; fi
  fi
  run_ts command/restore.ts $check "$file" "$(pg_bin)" || fail "the restore; nothing was changed" "read the lines above"
}

# Names are from where one stands, not from where Keg lies.
from_where_one_stands() {
  case "$1" in '' | /*) printf '%s' "$1" ;; *) printf '%s/%s' "$KEG_FROM" "$1" ;; esac
}
