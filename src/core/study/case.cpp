#include "core/study/case.h"

#include <algorithm>

namespace core {

std::string Case::title() const { return preset.empty() ? workload : workload + ", " + preset; }

std::string Case::declaredFact(std::string_view key) const {
  const auto found = std::find_if(declared.begin(), declared.end(), [&](const auto& one) { return one.first == key; });
  return found == declared.end() ? "" : found->second;
}

}  // namespace core
