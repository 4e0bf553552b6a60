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
  # Workers on other machines reach it where ROOTCALL_DB_LISTEN says, by the same password.
  local listen=${ROOTCALL_DB_LISTEN:-127.0.0.1}
  if [ "$listen" != 127.0.0.1 ]; then
    as_owner grep -q samenet "$place/data/pg_hba.conf" \
      || as_owner sh -c "echo 'host rootcall rootcall samenet scram-sha-256' >> '$place/data/pg_hba.conf'"
    [[ ",$listen," == *,127.0.0.1,* ]] || listen=127.0.0.1,$listen
  fi
  local options="-p $port -c listen_addresses=$listen -c unix_socket_directories=''" setting
  for setting in "$@"; do options="$options -c $setting"; done
  as_owner pg_ctl -D "$place/data" -w -t 60 -l "$log" -o "$options" start >/dev/null 2>&1 \
    || { tail -3 "$log" >&2 || true; refuse "the database did not start; $log says why."; }
  database=$(connection "$place" "$port")
  export PGPASSWORD; PGPASSWORD=$(as_owner cat "$secret")
  as_owner env PGPASSWORD="$PGPASSWORD" psql -h 127.0.0.1 -p "$port" -U rootcall -d postgres -Atq \
    -c "SELECT 1 FROM pg_database WHERE datname='rootcall'" | grep -q 1 \
    || as_owner env PGPASSWORD="$PGPASSWORD" createdb -h 127.0.0.1 -p "$port" -U rootcall rootcall
  unset PGPASSWORD
}

# connection PLACE PORT: how a process of this machine reaches it.
connection() {
  local secret=$1/secret
  echo "Host=127.0.0.1;Port=$2;Username=rootcall;Password=$(cat "$secret" 2>/dev/null || as_owner cat "$secret");Database=rootcall"
}

# cluster_lives PLACE: its first process is there.
cluster_lives() {
  local pid; pid=$(as_owner head -1 "$1/data/postmaster.pid" 2>/dev/null) || return
  [ -n "$pid" ] && [ -d "/proc/$pid" ] && grep -q postgres "/proc/$pid/comm" 2>/dev/null
}

stop_cluster() { as_owner pg_ctl -D "$1/data" -m fast -w stop >/dev/null 2>&1 || true; }
