# A private PostgreSQL cluster. Sourced by up.sh and test.sh. Debian's own cluster is never touched.

postgres_bin=$(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -1 || true)

# The user that owns the cluster: PostgreSQL refuses to run as root.
if [ "$(id -u)" -eq 0 ]; then
  as_owner() {
    setpriv --reuid=postgres --regid=postgres --clear-groups \
      env -i PATH="$postgres_bin:/usr/bin:/bin" LC_ALL=C.UTF-8 HOME=/tmp "$@"
  }
else
  as_owner() { env PATH="$postgres_bin:$PATH" LC_ALL=C.UTF-8 "$@"; }
fi

# cluster_place WANTED: a folder for the cluster that its owner can reach, WANTED where that is possible.
cluster_place() {
  local wanted=$1
  mkdir -p "$wanted"
  if [ "$(id -u)" -eq 0 ]; then chown postgres "$wanted"; fi
  if as_owner test -w "$wanted"; then echo "$wanted"; return; fi
  local other; other=/var/lib/rootcall/$(printf %s "$wanted" | sha256sum | cut -c1-12)
  mkdir -p "$other" && chown postgres "$other" && chmod 755 /var/lib/rootcall
  as_owner test -w "$other" || refuse "the user postgres can reach neither $wanted nor $other; set ROOTCALL_DATA to a folder it can reach."
  say "the database lies in $other, since the user postgres cannot reach $wanted" >&2
  echo "$other"
}

port_taken() { (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

# start_cluster PLACE PORT [SETTING...]: makes it when it is new, starts it, and sets $database to the connection string.
start_cluster() {
  local place=$1 port=$2; shift 2
  [ -n "$postgres_bin" ] || refuse "PostgreSQL is not installed under /usr/lib/postgresql."
  local secret=$place/secret log=$place/server.log
  if [ ! -s "$place/data/PG_VERSION" ]; then
    local free; free=$(df -Pk "$place" | awk 'NR==2{print $4}')
    [ "$free" -gt 200000 ] || refuse "the disk of $place has only $((free / 1024)) MB left; a database needs 200 MB."
    rm -rf "$place/data"
    as_owner sh -c "umask 077; head -c 24 /dev/urandom | base64 | tr -d '/+=\n' > '$secret'"
    as_owner initdb -D "$place/data" -U rootcall --auth=scram-sha-256 --pwfile="$secret" -E UTF8 --locale=C.UTF-8 >"$log.init" 2>&1 \
      || { tail -2 "$log.init" >&2; refuse "the database cluster could not be made in $place."; }
  fi
  if as_owner pg_ctl -D "$place/data" status >/dev/null 2>&1; then
    as_owner pg_ctl -D "$place/data" -m fast -w stop >/dev/null 2>&1 || true
  fi
  if port_taken "$port"; then refuse "port $port is taken by another program; set ROOTCALL_DB_PORT to a free one."; fi
  local options="-p $port -c listen_addresses=127.0.0.1 -c unix_socket_directories=''" setting
  for setting in "$@"; do options="$options -c $setting"; done
  as_owner pg_ctl -D "$place/data" -w -t 60 -l "$log" -o "$options" start >/dev/null 2>&1 \
    || { tail -3 "$log" >&2 || true; refuse "the database did not start; $log says why."; }
  database="Host=127.0.0.1;Port=$port;Username=rootcall;Password=$(cat "$secret" 2>/dev/null || as_owner cat "$secret");Database=rootcall"
  export PGPASSWORD; PGPASSWORD=$(as_owner cat "$secret")
  as_owner env PGPASSWORD="$PGPASSWORD" psql -h 127.0.0.1 -p "$port" -U rootcall -d postgres -Atq \
    -c "SELECT 1 FROM pg_database WHERE datname='rootcall'" | grep -q 1 \
    || as_owner env PGPASSWORD="$PGPASSWORD" createdb -h 127.0.0.1 -p "$port" -U rootcall rootcall
  unset PGPASSWORD
}

stop_cluster() { as_owner pg_ctl -D "$1/data" -m fast -w stop >/dev/null 2>&1 || true; }
