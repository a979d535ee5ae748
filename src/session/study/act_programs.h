#pragma once

#include <cstddef>
#include <map>
#include <optional>
#include <set>
#include <string>
#include <utility>
#include <vector>

#include "bench/bench_connection.h"
#include "core/study/study.h"

namespace session {

/// Something on the disk that decides what a command does: a program that it starts or names, a script that it hands to
/// one, the program that a script's first line names, what its environment has loaded.
struct ActProgram {
  std::string path;    ///< with every link followed; empty where there is no such program
  std::string digest;  ///< SHA-256 of its content; empty for the system's own and for ours, which lie beside us
};

/// Stands in the place of a digest for a folder from which code is loaded that nobody looked at.
inline constexpr const char* kNotLookedAt = "not looked at";

/// One that is known by its path.
[[nodiscard]] ActProgram programAt(const std::string& path);

/// What words without a folder name, by PATH and word: the commands of a study share most of theirs.
using ProgramsByWord = std::map<std::pair<std::string, std::string>, std::optional<std::string>>;

/// All that decides what `exact` does, as far as it can be told before it runs. `starts`: where a program's own words
/// begin, the first and each behind a level's prefix; those stand first, in their order, also where there is no such
/// program. Of the others only what is not the system's own. See docs/security.md for what this cannot tell.
[[nodiscard]] std::vector<ActProgram> programsOf(const core::ExactCommand& exact, const std::set<std::size_t>& starts,
                                                 const std::string& folder, const bench::BenchConnection& bench,
                                                 ProgramsByWord& known);

/// A path with every link followed, as far as it is there.
[[nodiscard]] std::string realPath(const std::string& path);

}  // namespace session
