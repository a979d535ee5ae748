#!/usr/bin/env bash
# Fuzzes whatever takes bytes from outside, and prints what was done:
#   fuzz/run.sh NUMBER          so many executions, shared out among all targets; the corpora in fuzz/corpus come first
#   fuzz/run.sh --night         a million after the other, until it is stopped (Ctrl+C) or finds something
#   fuzz/run.sh --keep          packs what of the grown corpora reaches new code into fuzz/corpus
# Before these: --fast: without the address sanitizer, several times as many a second, the library's own assertions stand
# for it; --only TARGET: parsers, study, design, compute, captures, numbers, desk, beside, bundle or far. Findings and the grown corpora stay in
# build/fuzz-found. An execution may take 5 s and 768 MiB.
set -euo pipefail
cd "$(dirname "$(readlink -f "$0")")/.."
preset=fuzz
targets=(parsers numbers compute captures design study desk beside bundle far)
# How many in a hundred executions are whose: a study takes as long as hundreds of numbers.
declare -A share=([parsers]=33 [numbers]=25 [compute]=12 [captures]=7 [design]=4 [study]=3 [desk]=7 [beside]=6 [bundle]=2 [far]=1)
while [ $# -gt 0 ]; do
  case "$1" in
    --fast) preset=fuzz-fast ;;
    --only) targets=("$2"); share[$2]=100; shift ;;
    *) break ;;
  esac
  shift
done
[ $# -eq 1 ] || { sed -n '2,9s/^# \{0,1\}//p' "$0"; exit 2; }
found=build/fuzz-found

if [ "$1" = --keep ]; then
  for target in "${targets[@]}"; do
    [ -d "$found/$target/corpus" ] || continue
    rm -rf "$found/$target/least" && mkdir -p "$found/$target/least"
    "build/$preset/bin/${target}_fuzzer" -merge=1 -timeout=5 "$found/$target/least" "$found/$target/corpus" 2>/dev/null
    tar --sort=name --mtime=@0 --owner=0 --group=0 -C "$found/$target/least" -c . | gzip -9n >"fuzz/corpus/$target.tar.gz"
  done
  exit
fi

for target in "${targets[@]}"; do
  mkdir -p "$found/$target/corpus"
  [ ! -f "fuzz/corpus/$target.tar.gz" ] || tar -xzf "fuzz/corpus/$target.tar.gz" -C "$found/$target/corpus"
done
mkdir -p "build/$preset"
cmake --preset "$preset" >"build/$preset/configure.log" 2>&1 || { cat "build/$preset/configure.log" >&2; exit 1; }
cmake --build --preset "$preset" --target "${targets[@]/%/_fuzzer}"

# No stacks of allocations, and every input as likely as any other: three times as many a second.
export ASAN_OPTIONS=malloc_context_size=0:quarantine_size_mb=8
run() {  # run TARGET EXECUTIONS
  local folder=$found/$1 longest=512
  [ "$1" = parsers ] && longest=4096
  [ "$1" = numbers ] && longest=48
  "build/$preset/bin/$1_fuzzer" -entropic=0 -runs="$2" -max_len=$longest -timeout=5 -rss_limit_mb=2048 -malloc_limit_mb=768 \
    -artifact_prefix="$folder/" -print_final_stats=1 "$folder/corpus" 2>"$folder/log" || { tail -40 "$folder/log"; return 1; }
  awk -v target="$1" '/stat::number_of_executed_units/ {n = $2} /stat::average_exec_per_sec/ {s = $2} /stat::new_units_added/ {u = $2}
    END {printf "%-9s %9d executions, %6d a second, %d inputs that reach new code\n", target, n, s, u}' "$folder/log"
}
all() {  # all EXECUTIONS: two targets at a time
  printf '%s\n' "${targets[@]}" | while read -r target; do echo "$target $(($1 * ${share[$target]} / 100 + 1))"; done |
    xargs -P "$(nproc)" -L 1 bash -c 'run "$@"' run
}
export -f run
export preset found
if [ "$1" = --night ]; then
  while all 1000000; do :; done
  exit 1
fi
[[ "$1" =~ ^[1-9][0-9]*$ ]] || { echo "'$1' is no number of executions." >&2; exit 2; }
all "$1"
