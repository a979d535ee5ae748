#!/usr/bin/env bash
# Fuzzes the parsers of outside bytes: fuzz/run.sh [SECONDS] [FOLDER]. Findings and the grown corpus stay in FOLDER.
set -euo pipefail
cd "$(dirname "$(readlink -f "$0")")/.."
seconds=${1:-600}
folder=${2:-build/fuzz}
mkdir -p "$folder/corpus"
sources=(fuzz/parsers_fuzz.cpp src/bench/smbios.cpp src/bench/pci_config.cpp src/bench/sysfs_text.cpp src/core/result.cpp
  src/core/device_path.cpp src/core/fact.cpp src/core/fact_title.cpp src/core/links.cpp src/core/number_text.cpp
  src/recorder/frame_ring.cpp src/store/frame_log.cpp src/store/log_rows.cpp
  src/store/log_reader.cpp src/store/log_shape.cpp src/store/log_blocks.cpp src/store/log_file.cpp
  src/store/row_parser.cpp src/store/plain_rows.cpp)
newest=$(ls -t "${sources[@]}" src/bench/*.h src/store/*.h | head -1)
if [ ! -x "$folder/parsers_fuzz" ] || [ "$newest" -nt "$folder/parsers_fuzz" ]; then
  clang++ -std=c++20 -O1 -g1 -Isrc -DFMT_HEADER_ONLY -fsanitize=fuzzer,address,undefined -fno-sanitize-recover=undefined \
    "${sources[@]}" -o "$folder/parsers_fuzz"
fi
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
header = struct.pack("<QIIQIIII", 0x31474e49524c49, 312, 8, 6, 640, 480, 1, 0) + b"Vulkan".ljust(16, b"\0") + b"FIFO".ljust(32, b"\0")
ring = header + b"device".ljust(160, b"\0") + b"program".ljust(64, b"\0")
ring += struct.pack("<8q", *range(0, 8000, 1000))
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
"$folder/parsers_fuzz" -max_total_time="$seconds" -max_len=4096 -artifact_prefix="$folder/" -print_final_stats=1 "$folder/corpus" 2>"$folder/log" \
  || { tail -40 "$folder/log"; exit 1; }
grep -E "stat::(number_of_executed_units|average_exec_per_sec)" "$folder/log"
