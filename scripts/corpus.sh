# Scenes that nobody here made, for the tests alone: packages of the registries, unpacked into artifacts/corpus and never committed.
# Sourced by test.sh.

corpus_debian=(bouncy dart-doc neverball-common)
corpus_npm=@webxr-input-profiles/assets@1.0.20

# Downloads what is not there yet.
fetch_corpus() {
  local corpus=$home/artifacts/corpus package work
  mkdir -p "$corpus"
  for package in "${corpus_debian[@]}"; do
    [ ! -d "$corpus/$package" ] || continue
    work=$(mktemp -d "$corpus/.XXXXXX")
    (cd "$work" && { apt-get download -qq "$package" || { apt-get update -qq && apt-get download -qq "$package"; }; }) >/dev/null 2>&1 \
      || refuse "the package $package could not be downloaded; is there a network?"
    dpkg-deb -x "$work"/*.deb "$work/files" && mv "$work/files" "$corpus/$package" && rm -rf "$work"
  done
  [ -d "$corpus/input-profiles" ] && return
  work=$(mktemp -d "$corpus/.XXXXXX")
  npm pack --silent --pack-destination "$work" "$corpus_npm" >/dev/null 2>&1 \
    || refuse "the package $corpus_npm could not be downloaded; is there a network?"
  mkdir "$work/files" && tar -xzf "$work"/*.tgz -C "$work/files" && mv "$work/files" "$corpus/input-profiles" && rm -rf "$work"
}
