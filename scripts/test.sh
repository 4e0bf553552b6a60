# `test` and `faults`. Sourced by ./rootcall.

first=(tests/RootCall.Core.Tests)
beside=(tests/RootCall.{Browser,Web}.Tests)
alone=(tests/faults/RootCall.Faults.Tests)
front_end=yes

# Everything that takes minutes: kills, mutated inputs, costly inputs.
run_faults() {
  first=() beside=() front_end=no
  export ROOTCALL_FAULTS=full
  run_tests "$@"
}

# run_tests [FILTER]: everything, or only the tests whose full name contains FILTER.
run_tests() {
  need_sdks
  need_debian postgresql libopenimageio-dev libdraco-dev libmeshoptimizer-dev libembree-dev g++ chromium chromium-driver openimageio-tools \
    assimp-utils assimp-testmodels unzip curl
  . "$home/scripts/cluster.sh"
  . "$home/scripts/corpus.sh"
  cd "$home"
  # Short lives: counting how code runs, to compile it better later, costs more than it gives; one compiler serves all projects.
  export DOTNET_TieredPGO=0 UseSharedCompilation=true
  local out; out=$(mktemp)
  : >"$out.web" && : >"$out.beside"
  say "building"
  # Packages come over the network, machine code is linked by one processor: the front end goes on beside both.
  (whole_front_end) &
  local front_end_job=$!
  (fetch_corpus) &
  local corpus_job=$!
  quietly "dotnet build (is there a network?)" dotnet build RootCall.slnx -c Release -v quiet --nologo
  (build_cli) &
  local cli_build=$!
  say "checking format and style"
  quietly "dotnet tool restore" dotnet tool restore
  quietly "CSharpier (dotnet csharpier format .)" dotnet csharpier check .
  check_width
  print_share
  wait "$cli_build" || exit 1
  wait "$corpus_job" || exit 1
  quietly "ending the compiler" dotnet build-server shutdown --vbcscompiler
  local status=0
  wait "$front_end_job" || exit 1
  # With the compilers done: its processes wait a minute for each other and no longer.
  [ "$front_end" = no ] || npm --prefix web run --silent test >"$out.web" 2>&1 || status=1
  cat "$out.web"
  check_schema

  place=/var/tmp/rootcall-tests-$(id -u)-$$ port=${ROOTCALL_TEST_DB_PORT:-5189}
  trap 'stop_cluster "$place"; rm -rf "$place"' EXIT
  trap 'exit 130' INT TERM
  mkdir -p "$place"
  place=$(cluster_place "$place")
  while port_taken "$port"; do port=$((port + 1)); done
  # Nothing in here outlives the tests, so it need not survive a power cut.
  start_cluster "$place" "$port" fsync=off synchronous_commit=off full_page_writes=off max_connections=200
  export ROOTCALL_TEST_DB=${database%;Database=*}
  export ROOTCALL_TEST_CLUSTER=$place

  say "testing"
  local filter=()
  [ $# -gt 0 ] && filter=(--filter "FullyQualifiedName~$1")
  # Those in the browser mostly wait; the core's take what is left of the processors meanwhile.
  test_projects "$out.beside" ${beside[@]} >"$out.shown" &
  local waiting=$!
  test_projects "$out" ${first[@]} || status=1
  wait "$waiting" || status=1
  cat "$out.shown" && cat "$out.beside" >>"$out"
  # Kills and crowds want the machine for themselves.
  test_projects "$out" ${alone[@]} || status=1
  print_reports
  local passed failed skipped
  # xUnit: "Passed!  - Failed: 0, Passed: 9, Skipped: 0, …"; Vitest: "Tests  1 failed | 9 passed (10)".
  passed=$(($(sum_of 'Passed: *\K[0-9]+' "$out") + $(sum_of '^ *Tests .*?\K[0-9]+(?= passed)' "$out.web")))
  failed=$(($(sum_of 'Failed: *\K[0-9]+' "$out") + $(sum_of '^ *Tests .*?\K[0-9]+(?= failed)' "$out.web")))
  skipped=$(sum_of 'Skipped: *\K[0-9]+' "$out")
  rm -f "$out" "$out".{web,beside,shown}
  [ "$status" -eq 0 ] || [ "$failed" -gt 0 ] || { say "a test run broke off" >&2; failed=1; }
  echo "$passed passed, $failed failed, $skipped skipped"
  [ "$failed" -eq 0 ]
}

# The front end built, and its style.
whole_front_end() {
  build_front_end
  [ "$front_end" = yes ] || return 0
  quietly "ESLint" npm --prefix web run lint
  quietly "Prettier" npm --prefix web run format
}

# test_projects OUT PROJECT...: one after the other; all that they say goes into OUT, what is worth reading is shown.
test_projects() {
  local out=$1 status=0 project; shift
  for project in "$@"; do
    dotnet test "$project" -c Release --no-build --nologo "${filter[@]}" 2>&1 \
      | tee -a "$out" | { grep -vE '^(Test run for|A total of|\[xUnit|  Determining)' || true; } || status=1
  done
  return "$status"
}

sum_of() { sed 's/\x1b\[[0-9;]*m//g' "$2" | { grep -oP "$1" || true; } | awk '{n += $1} END {print n + 0}'; }

# The types in the front end are those that the server describes now.
check_schema() {
  local made; made=$(mktemp --suffix=.d.ts)
  . "$home/scripts/schema.sh"
  write_schema "$made"
  cmp -s "$made" "$home/web/src/api/schema.d.ts" \
    || refuse "web/src/api/schema.d.ts is not what the server describes; run ./rootcall schema."
  rm -f "$made"
}

# The law's own count: sequences by format and kind of edit.
print_reports() {
  local report
  for report in law corpus generated; do
    cat "$home/artifacts/bin/RootCall.Core.Tests/release/$report.txt" 2>/dev/null || true
  done
}

# Code that people wrote.
code_files() { git ls-files | grep -E '\.(cs|ts|tsx|css|cpp|h)$' | grep -vE 'Migrations/|schema\.d\.ts$'; }

# A line is read without scrolling: 140 columns, in whatever language.
check_width() {
  local long
  long=$({ code_files; git ls-files scripts rootcall .ci; } | LC_ALL=C.UTF-8 xargs -d '\n' grep -nP '^.{141,}' | cut -d: -f1,2) || true
  [ -z "$long" ] || refuse "longer than 140 columns: $(echo $long)"
}

# lines: how many of the named files' lines are not blank.
lines() { xargs -d '\n' cat | grep -cvE '^\s*$'; }

print_share() {
  local all tests
  all=$(code_files | lines)
  tests=$(code_files | grep -E '^(tests|bench|web/src/testing)/|\.test\.tsx?$' | lines)
  say "tests are $tests of $all code lines, $((100 * tests / all)) %"
}
