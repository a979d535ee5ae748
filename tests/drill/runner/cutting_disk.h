#pragma once

#include <cstdint>

namespace drill {

/// Puts a disk under SQLite that can lose its power. Whatever was synced stays; of everything else any part may be
/// gone: single writes, and files that were made but never synced.
///   cut_at  the power goes at this act upon the disk, counted from 1; 0: never
///   seed    draws what is lost
void installCuttingDisk(std::int64_t cut_at, std::uint64_t seed);

/// How many acts there were so far.
std::int64_t actsOnDisk();

}  // namespace drill
