# `schema`. Sourced by ./rootcall.

# write_schema [FILE]: the front end's types, made from the API description. No database is contacted.
write_schema() {
  local target=${1:-$home/web/src/api/schema.d.ts} description
  description=$(mktemp --suffix=.json)
  quietly "dotnet build" dotnet build "$home/src/RootCall.Web" -c Release -v quiet --nologo
  quietly "writing the API description" env RootCall__Database=Host=none \
    "$home/artifacts/bin/RootCall.Web/release/RootCall.Web" openapi "$description"
  (cd "$home/web" && quietly "generating the types" npx --no-install openapi-typescript "$description" -o "$target")
  rm -f "$description"
}
