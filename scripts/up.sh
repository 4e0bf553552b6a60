# `up`, `worker` and `dev`. Sourced by ./rootcall.
. "$home/scripts/cluster.sh"

port=${ROOTCALL_PORT:-5180}
db_port=${ROOTCALL_DB_PORT:-5181}
data=${ROOTCALL_DATA:-$home/.data}
pids=()

prepare() {
  need_sdks
  need_debian postgresql libopenimageio-dev libdraco-dev libmeshoptimizer-dev libembree-dev g++
  . "$home/scripts/cluster.sh" # Once more: the package may just have come.
  if port_taken "$port"; then
    refuse "port $port is taken by another program (or Root Call runs already); set ROOTCALL_PORT to a free one."
  fi
  mkdir -p "$data" || refuse "the data folder $data cannot be made."
  data=$(cd "$data" && pwd)
  build_server
  build_cli
  if [ ! -e "$data/demo/arrived/potting_bench" ]; then
    say "making the demo"
    "$cli" demo "$data/demo" >/dev/null
  fi
  place=$(cluster_place "$data/postgres")
  trap 'exit 130' INT TERM
  trap stop_all EXIT
  start_cluster "$place" "$db_port"
}

build_server() {
  local stamp=$home/artifacts/.server-built
  is_fresh "$stamp" "$home/src" "$home/Directory.Build.props" "$home/Directory.Packages.props" && return
  say "building the application"
  quietly "dotnet build (is there a network?)" dotnet build "$home/src/RootCall.Web" -c Release -v quiet --nologo
  quietly "dotnet build (is there a network?)" dotnet build "$home/src/RootCall.Worker" -c Release -v quiet --nologo
  touch "$stamp"
}

settings() {
  export RootCall__Database=$database RootCall__Data=$data
  # Colours of the house: the same for pictures of every worker.
  export RootCall__ColourConfig=${ROOTCALL_OCIO:+$(realpath "$ROOTCALL_OCIO")} RootCall__ColourView=${ROOTCALL_OCIO_VIEW:-}
  local added=
  [ -s "$data/folders" ] && added=$(paste -sd ';' "$data/folders")
  export RootCall__Folders="The Tin Orchard=$data/demo${added:+;$added}${ROOTCALL_FOLDERS:+;$ROOTCALL_FOLDERS}"
  export RootCall__FirstRoots=$data/demo/library
  local name first=
  # The watering can comes twice: as it was made, to be compared with, and as it arrived.
  # A scene lies in a folder of its own name; what is opened last stands on top.
  for name in clean/watering_can.usda arrived/{tool_wall.obj,lean_to.usda,seed_tins.mtlx,brass_gardener.gltf,potting_bench.gltf} \
    arrived/{dew_drop.ply,pebble.stl,garden_gate.fbx,moth_jar.dae,seed_drawer.mtlx,tin_pear.usdz,tin_lantern.usdc,watering_can.usda} \
    arrived/{brass_lamp.glb,enamel_sign.obj,glasshouse_corner.gltf}; do
    name=${name%.*}/${name##*/}
    first="$first${first:+;}$data/demo/$name"
  done
  export RootCall__FirstScenes=$first
  export ASPNETCORE_URLS=http://127.0.0.1:$port DOTNET_ENVIRONMENT=${DOTNET_ENVIRONMENT:-Production}
  export ASPNETCORE_ENVIRONMENT=$DOTNET_ENVIRONMENT
}

# Runs in a session of its own, so that Ctrl+C reaches only this script, which then ends everything in order.
start() {
  local name=$1; shift
  setsid "$@" >>"$data/$name.log" 2>&1 &
  pids+=($!)
}

stop_all() {
  trap - EXIT
  trap '' INT TERM # A second Ctrl+C must not cut this short.
  # Each leads a group of its own, so what it started ends with it.
  for pid in "${pids[@]}"; do kill -TERM -- "-$pid" 2>/dev/null || true; done
  # Five seconds are enough for all of ours; a development tool that stays is ended.
  for _ in $(seq 1 50); do
    kill -0 "${pids[@]}" 2>/dev/null || break
    sleep 0.1
  done
  for pid in "${pids[@]}"; do kill -KILL -- "-$pid" 2>/dev/null || true; done
  stop_cluster "$place"
  say "stopped"
}

wait_for_web() {
  for _ in $(seq 1 240); do
    if curl -fs -o /dev/null "http://127.0.0.1:$port/health" 2>/dev/null; then return; fi
    kill -0 "${pids[0]}" 2>/dev/null || { tail -5 "$data/web.log" >&2; refuse "the application did not start; $data/web.log says why."; }
    sleep 0.25
  done
  refuse "the application does not answer after a minute; $data/web.log says more."
}

# `--folder NAME=PATH` is remembered: it is there again the next time, and for workers on this machine.
take_folders() {
  mkdir -p "$data" || refuse "the data folder $data cannot be made."
  local known=$data/folders pair path
  touch "$known"
  while [ $# -gt 0 ]; do
    [ "$1" = --folder ] && [ $# -gt 1 ] || refuse "$1 is not understood; ./rootcall up takes --folder NAME=PATH."
    pair=$2
    path=${pair#*=}
    [[ $pair == ?*=?* && $pair != *';'* ]] || refuse "“$pair” names no folder; write NAME=PATH, without a semicolon."
    [ -d "$path" ] || refuse "there is no folder $path."
    pair=${pair%%=*}=$(realpath "$path")
    grep -qxF "$pair" "$known" || printf '%s\n' "$pair" >>"$known"
    shift 2
  done
}

up() {
  take_folders "$@"
  prepare
  build_front_end
  settings
  cd "$data"
  local web=$home/artifacts/bin/RootCall.Web/release
  start web "$web/RootCall.Web" --contentRoot "$web" --webroot "$home/web/dist"
  wait_for_web
  start_worker
  say "Root Call is at http://127.0.0.1:$port (Ctrl+C stops it)"
  watch_over
}

# Whoever looks at a screen comes before what is made behind it.
start_worker() {
  local worker=$home/artifacts/bin/RootCall.Worker/release
  start worker nice -n 10 "$worker/RootCall.Worker" --contentRoot "$worker"
}

# Restarts a worker and a database that crashed; ends when the web process does.
watch_over() {
  while kill -0 "${pids[0]}" 2>/dev/null; do
    if ! cluster_lives "$place"; then
      say "the database ended; it is started again"
      start_cluster "$place" "$db_port"
    fi
    if ! kill -0 "${pids[1]}" 2>/dev/null; then
      say "the worker ended; another one takes up its work"
      unset 'pids[1]'
      start_worker
      pids=("${pids[@]}")
    fi
    sleep 1 & wait $! || true
  done
  refuse "the application ended; $data/web.log says why."
}

# Another worker, on this machine or on one that reaches the same database and folders; started again when it ends.
worker() {
  need_sdks
  need_debian libopenimageio-dev libdraco-dev libmeshoptimizer-dev libembree-dev g++
  mkdir -p "$data"
  data=$(cd "$data" && pwd)
  if [ -n "${ROOTCALL_DATABASE:-}" ]; then
    database=$ROOTCALL_DATABASE
  else
    . "$home/scripts/cluster.sh"
    place=$(cluster_place "$data/postgres")
    cluster_lives "$place" || refuse "there is no running database in $place; start ./rootcall up first, or set ROOTCALL_DATABASE."
    database=$(connection "$place" "$db_port")
  fi
  build_server
  settings
  cd "$data"
  trap 'kill -TERM "$worker_pid" 2>/dev/null; wait "$worker_pid" 2>/dev/null; say "stopped"; exit 0' INT TERM
  say "a worker for ${data}; Ctrl+C stops it"
  while true; do
    "$home/artifacts/bin/RootCall.Worker/release/RootCall.Worker" --contentRoot "$home/artifacts/bin/RootCall.Worker/release" \
      >>"$data/worker-$(hostname)-$$.log" 2>&1 &
    worker_pid=$!
    wait "$worker_pid" || say "the worker ended; another one takes up its work"
    sleep 1
  done
}

# The same with the front end's development server, which passes /api, /hub and /openapi on.
dev() {
  prepare
  [ -d "$home/web/node_modules" ] || quietly "npm ci (is there a network?)" npm --prefix "$home/web" ci --no-progress
  settings
  start web dotnet watch --project "$home/src/RootCall.Web" --non-interactive --no-launch-profile
  wait_for_web
  start worker dotnet watch --project "$home/src/RootCall.Worker" --non-interactive --no-launch-profile
  say "front end with live reload at http://127.0.0.1:5183"
  ROOTCALL_PORT=$port setsid npm --prefix "$home/web" run dev &
  pids+=($!)
  wait $!
}
