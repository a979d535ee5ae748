#!/usr/bin/env bash
# Fuzzes the parsers of outside bytes: fuzz/run.sh [SECONDS] [FOLDER]; with --studies before them, study files whose
# fields are changed. --fast next: without the address sanitizer, several times as many a second; the library's own
# assertions stand for it, and a run without --fast begins with all that reached new code. Each begins with the corpus
# that is kept in fuzz/corpus; findings and the grown corpus stay in FOLDER.
# `fuzz/run.sh --keep [FOLDER]` packs what of a grown corpus reaches new code into fuzz/corpus.
set -euo pipefail
cd "$(dirname "$(readlink -f "$0")")/.."
keep() {  # keep FOLDER TARGET
  local least=$1/$2/least
  rm -rf "$least" && mkdir -p "$least" fuzz/corpus
  "build/fuzz/bin/$2_fuzzer" -merge=1 "$least" "$1/$2/corpus" 2>/dev/null
  tar --sort=name --mtime=@0 --owner=0 --group=0 -C "$least" -c . | gzip -9n >"fuzz/corpus/$2.tar.gz"
}
if [ "${1:-}" = --keep ]; then
  for each in parsers study; do [ ! -d "${2:-build/fuzz-found}/$each/corpus" ] || keep "${2:-build/fuzz-found}" "$each"; done
  exit
fi
target=parsers
[ "${1:-}" = --studies ] && target=study && shift
preset=fuzz
[ "${1:-}" = --fast ] && preset=fuzz-fast && shift
seconds=${1:-600}
folder=${2:-build/fuzz-found}/$target
mkdir -p "$folder/corpus"
[ ! -f "fuzz/corpus/$target.tar.gz" ] || tar -xzf "fuzz/corpus/$target.tar.gz" -C "$folder/corpus"
mkdir -p "build/$preset"
cmake --preset "$preset" >"build/$preset/configure.log" 2>&1 || { cat "build/$preset/configure.log" >&2; exit 1; }
cmake --build --preset "$preset" --target "${target}_fuzzer"
fuzzer=build/$preset/bin/${target}_fuzzer

# No stacks of allocations, and every input as likely as any other: three times as many a second.
export ASAN_OPTIONS=malloc_context_size=0:quarantine_size_mb=8
run() {  # run LENGTH: from the corpus on, for as long as was asked
  "$fuzzer" -entropic=0 -max_total_time="$seconds" -max_len="$1" -artifact_prefix="$folder/" -print_final_stats=1 "$folder/corpus" \
    2>"$folder/log" || { tail -40 "$folder/log"; exit 1; }
  grep -E "stat::(number_of_executed_units|average_exec_per_sec)" "$folder/log"
}
[ "$target" = parsers ] || { run 512; exit; }
# Seeds: the invented machine's tables and texts, each behind the byte that chooses its parser.
seed() { printf "\\x0$1" >"$folder/corpus/$2"; cat >>"$folder/corpus/$2"; }
python3 - "$folder" <<'PY'
import sys; sys.dont_write_bytecode = True
sys.path.insert(0, "tests/fixtures/dome-node")
import fakesys
tables = fakesys.Smbios()
tables.add(0, 0x1A, {4: ("B", 1), 5: ("B", 2), 8: ("B", 3)}, ["Maker", "D2-1.14", "03/18/2026"])
fakesys.memory_device(tables, 0, "DIMM_A1", "CHANNEL A", None)
with open(sys.argv[1] + "/corpus/smbios", "wb") as f: f.write(b"\0" + tables.finish()[0])
link = dict(speed="8.0", width=16, max_speed="16.0", max_width=16)
port = {"vendor": 1, "device": 2, "class": 0x060400, "port": "root", "primary": 0, "secondary": 1, "subordinate": 1}
import struct
header = struct.pack("<QIIQIIIIQ", 0x32474e49524c49, 384, 8, 6, 640, 480, 1, 0, 0)
ring = header + b"Vulkan".ljust(16, b"\0") + b"FIFO".ljust(32, b"\0") + b"device".ljust(160, b"\0")
ring += b"program".ljust(64, b"\0") + b":0".ljust(64, b"\0")
for i in range(8): ring += struct.pack("<6qIIQ", 1000 * i, 1000 * i + 5, 10, 20, 0, 0, 1, 0, 0)
with open(sys.argv[1] + "/corpus/ring", "wb") as f: f.write(b"\6" + ring)
with open(sys.argv[1] + "/corpus/config", "wb") as f: f.write(b"\1" + fakesys.config_space(port, link))
PY
seed 2 resource <<<"0x0000006000000000 0x00000063ffffffff 0x000000000014220c"
seed 3 list <<<"0-2,5"
seed 3 speed <<<"16.0 GT/s PCIe"
seed 3 levels <<<"1: 16.0GT/s, x16 619Mhz *"
seed 3 meminfo <<<"MemTotal:       32812340 kB"
seed 4 log <<<$'frame_ms\n16.6\n17.1'
{ echo time_s,frame_ms; for i in $(seq 90); do echo "$((i / 60)).$i,16.$i"; done; } | seed 5 plain
for i in $(seq 90); do printf '%s;16,%s\r\n' "$i" "$i"; done | seed 5 returns
seed 5 shape <<<$'run;t;power\n1;0,0;190\n1;16,5;191\n2;0;190\n2;17;1'
seed 5 lines <<<$'{"frame_ms":16.5,"load":97}\n{"frame_ms":17,"load":98}'
seed 7 design <examples/one-core-against-two.json
seed 8 capture <<<'{"format":"iron-lever-capture","version":1,"taken_ms":1,"boot_id":"b","readings":{"cpu/online":{"kind":"configuration","status":"read","value":"0-3"}}}'
seed 9 frames <<<""
printf '\x0aout\n{"result": {"seconds": 41.5}}\n' >"$folder/corpus/result"
printf '\x0a{"read_GBps": {"values": [1, 2.5]}}' >"$folder/corpus/readings"
printf '\x0b{"at_s":[1],"channels":[{"name":"t","unit":"C","role":0,"part":"p","values":[61]}]}' >"$folder/corpus/samples"
printf '\x0b{"text":"57","value":57,"resolution":1,"is_range":false,"person":"m","parts":{}}' >"$folder/corpus/typed"
printf '\x0ccaf\xe9 \x1b[2J' >"$folder/corpus/shown"
run 4096
