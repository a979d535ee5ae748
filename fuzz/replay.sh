#!/usr/bin/env bash
# Reads each input of a kept corpus once: fuzz/replay.sh FUZZER TARGET
set -euo pipefail
folder=$(mktemp -d)
trap 'rm -rf "$folder"' EXIT
tar -xzf "$(dirname "$(readlink -f "$0")")/corpus/$2.tar.gz" -C "$folder"
cd "$folder"
find . -type f -print0 | xargs -0 "$1" 2>replay.log || { tail -40 replay.log; exit 1; }
