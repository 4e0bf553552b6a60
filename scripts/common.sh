# Shared by the verbs of ./rootcall. Sourced, never run.

say() { printf 'rootcall: %s\n' "$*"; }
refuse() { printf 'rootcall: %s\n' "$*" >&2; exit 2; }

need_sdks() {
  command -v dotnet >/dev/null || refuse "the .NET 10 SDK is not installed; install it and try again."
  command -v npm >/dev/null || refuse "Node.js 20 is not installed; install it and try again."
}

# Installs the Debian packages among "$@" that are missing. Not root: prints the one command to run.
need_debian() {
  # The .NET runtime needs ICU for Unicode; machines with an SDK usually have it.
  ldconfig -p 2>/dev/null | grep -q libicuuc || set -- "$@" libicu-dev
  local missing=() package
  for package in "$@"; do
    dpkg-query -W -f '${Status}' "$package" 2>/dev/null | grep -q 'ok installed' || missing+=("$package")
  done
  [ ${#missing[@]} -eq 0 ] && return
  if [ "$(id -u)" -ne 0 ]; then
    refuse "these packages are missing; run: sudo apt-get update && sudo apt-get install -y ${missing[*]}"
  fi
  say "installing ${missing[*]}"
  # PostgreSQL's package would start a cluster of its own; ours is private.
  mkdir -p /etc/postgresql-common
  [ -e /etc/postgresql-common/createcluster.conf ] || echo 'create_main_cluster = false' > /etc/postgresql-common/createcluster.conf
  local log; log=$(mktemp)
  if ! { apt-get update -qq \
    && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}"; } >"$log" 2>&1; then
    tail -3 "$log" >&2
    refuse "Debian's packages could not be installed (is there a network?): ${missing[*]}"
  fi
  rm -f "$log"
}

# Runs a build step quietly; shows its end only when it fails.
quietly() {
  local what=$1 log; shift
  log=$(mktemp)
  if ! "$@" >"$log" 2>&1; then
    grep -E 'error|ERR!' "$log" | sort -u | head -20 >&2 || true
    tail -5 "$log" >&2
    rm -f "$log"
    refuse "$what failed; the lines above say why."
  fi
  rm -f "$log"
}

# True when nothing under the given paths is newer than the stamp.
is_fresh() {
  local stamp=$1; shift
  [ -e "$stamp" ] || return
  [ -z "$(find "$@" -newer "$stamp" -type f -not -path '*/node_modules/*' -not -path '*/dist/*' -print -quit 2>/dev/null)" ]
}

# The command line as it is delivered: machine code.
cli_folder=$home/artifacts/rootcall
cli=$cli_folder/RootCall.Cli

build_cli() {
  local stamp=$home/artifacts/.cli-built
  is_fresh "$stamp" "$home"/src/RootCall.{Core,Cli,Demo,Native} "$home"/Directory.{Build,Packages}.props && return
  command -v dotnet >/dev/null || refuse "the .NET 10 SDK is not installed; install it and try again."
  say "building the command line" >&2
  # The same code is looked at by the analyzers where it is built to be run.
  quietly "dotnet publish (is there a network?)" \
    dotnet publish "$home/src/RootCall.Cli" -c Release -r "linux-$(uname -m | sed 's/x86_64/x64/; s/aarch64/arm64/')" \
    -o "$cli_folder" -v quiet --nologo -p:RunAnalyzers=false
  touch "$stamp"
}

build_front_end() {
  if [ ! -d "$home/web/node_modules" ] || ! is_fresh "$home/web/node_modules/.package-lock.json" "$home/web/package-lock.json"; then
    say "installing the front end's packages"
    quietly "npm ci (is there a network?)" npm --prefix "$home/web" ci --no-progress
  fi
  is_fresh "$home/web/dist/index.html" "$home"/web/{src,index.html,package-lock.json,vite.config.ts} && return
  say "building the front end"
  quietly "building the front end" npm --prefix "$home/web" run build
}
