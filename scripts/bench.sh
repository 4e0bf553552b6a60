# `bench`. Sourced by ./rootcall.

# Measurements beside a yardstick of the same run, as ratios; below 1 Root Call is faster.
run_bench() {
  need_debian openimageio-tools assimp-utils
  [ -d "$home/web/node_modules" ] || quietly "npm ci (is there a network?)" npm --prefix "$home/web" ci --no-progress
  cd "$home"
  quietly "dotnet build" dotnet build bench/RootCall.Bench -c Release -v quiet --nologo
  build_cli
  exec artifacts/bin/RootCall.Bench/release/RootCall.Bench
}
