#pragma once

#include <algorithm>
#include <vector>

#include "core/estimate/units.h"

namespace core {

/// What a list with an entry a configuration has of one; nothing where it has none.
template <class Entry>
[[nodiscard]] const Entry* atConfiguration(const std::vector<Entry>& entries, ConfigurationId configuration) {
  const auto found = std::find_if(entries.begin(), entries.end(),
                                  [&](const Entry& one) { return one.configuration == configuration; });
  return found == entries.end() ? nullptr : &*found;
}

}  // namespace core
