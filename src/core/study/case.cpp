#include "core/study/case.h"

#include <algorithm>

namespace core {

std::string Companion::called() const {
  if (!name.empty() || command.empty()) return name;
  return command.front().substr(command.front().rfind('/') + 1);
}

std::string Case::title() const {
  std::string title = preset.empty() ? workload : workload + ", " + preset;
  if (companion.isAsked()) title += ", beside " + companion.called();
  return title;
}

std::string Case::declaredFact(std::string_view key) const {
  const auto found = std::find_if(declared.begin(), declared.end(), [&](const auto& one) { return one.first == key; });
  return found == declared.end() ? "" : found->second;
}

}  // namespace core
