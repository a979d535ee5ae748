#pragma once

#include <string>
#include <vector>

#include "core/machine/comparison.h"

namespace core {

/// A group of like differences in words: "memory configured speed dropped from 6000 to 4800 MT/s on both modules".
[[nodiscard]] std::vector<std::string> differenceSentences(const std::vector<Difference>& differences);

}  // namespace core
