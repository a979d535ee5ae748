#!/usr/bin/env bash
# Our reading and measuring of a log of five million frames beside R's data.table, NumPy and SciPy, on this machine:
# benchmarks/peers/run.sh [ROWS]. Needs Debian's r-base-core, r-cran-data.table, python3-numpy and python3-scipy.
set -euo pipefail
cd "$(dirname "$(readlink -f "$0")")/../.."
rows=${1:-5000000}
for package in r-base-core r-cran-data.table python3-numpy python3-scipy; do
  dpkg-query -W -f '${Status}' "$package" 2>/dev/null | grep -q 'install ok installed' \
    || { echo "$package is missing: apt-get install $package" >&2; exit 1; }
done
cmake --preset release >/dev/null
cmake --build --preset release --target frames_benchmark >/dev/null
log=build/peers-$rows.csv
[ -f "$log" ] || /usr/bin/python3 benchmarks/peers/make_log.py "$log" "$rows"
# Turn by turn: on a shared machine one minute is not like the next.
for turn in 1 2 3; do
  build/release/bin/frames_benchmark "$log"
  Rscript benchmarks/peers/peers.R "$log"
done
/usr/bin/python3 benchmarks/peers/peers.py "$log"
