#!/bin/sh
# The night plan as a shell script: the questions stand in nightplan.toml, the answers come back as variables.
plan=$(wesperon fill --to=shell "$(dirname "$0")/nightplan.toml" "$@") || exit
eval "$plan"
echo "$target through $(echo "$filters" | wc -l) filters, $seconds s each, on $night"
