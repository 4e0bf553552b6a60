# `bench`. Sourced by ./rootcall.

# run_bench [PART...]: all of them, or some: mustering, hashing, audit, swatches, frames, session, trial, list, delivery,
# load (minutes), reading, start.
# Measurements beside a yardstick of the same run, as ratios; below 1 Root Call is faster.
run_bench() {
  need_debian postgresql chromium chromium-driver libopenimageio-dev libdraco-dev libmeshoptimizer-dev libembree-dev g++ \
    openimageio-tools assimp-utils imagemagick
  [ -d "$home/web/node_modules" ] || quietly "npm ci (is there a network?)" npm --prefix "$home/web" ci --no-progress
  cd "$home"
  quietly "dotnet build" dotnet build RootCall.slnx -c Release -v quiet --nologo
  build_cli
  build_front_end
  . "$home/scripts/cluster.sh"
  place=/var/tmp/rootcall-bench-$(id -u)-$$ port=${ROOTCALL_TEST_DB_PORT:-5189}
  trap 'stop_cluster "$place"; rm -rf "$place"' EXIT
  mkdir -p "$place"
  place=$(cluster_place "$place")
  while port_taken "$port"; do port=$((port + 1)); done
  start_cluster "$place" "$port"
  export ROOTCALL_TEST_DB=${database%;Database=*}
  artifacts/bin/RootCall.Bench/release/RootCall.Bench "$@"
}
