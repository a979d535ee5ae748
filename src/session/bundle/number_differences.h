#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "session/bundle/bundle.h"

namespace session {

/// Holds a file of a bundle against what follows from its study: number for number, then byte for byte. A number that
/// differs by less than 10^-9 of itself, as another processor rounds, is the same. Adds at most so many differences
/// that there are `most` in all. Gives how many numbers were compared.
std::size_t addDifferences(const std::string& name, std::string_view printed, std::string_view recomputed,
                           std::size_t most, std::vector<BundleDifference>& differences);

}  // namespace session
