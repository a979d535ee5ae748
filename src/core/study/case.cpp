#include "core/study/case.h"

#include <algorithm>

namespace core {

std::string Companion::called() const {
  if (!name.empty() || command.empty()) return name;
  return command.front().substr(command.front().rfind('/') + 1);
}

std::string Case::variant() const {
  const std::string beside = companion.isAsked() ? "beside " + companion.called() : std::string();
  return preset.empty() || beside.empty() ? preset + beside : preset + ", " + beside;
}

std::string Case::title() const {
  const std::string rest = variant();
  return rest.empty() ? workload : workload + ", " + rest;
}

std::string Case::declaredFact(std::string_view key) const {
  const auto found = std::find_if(declared.begin(), declared.end(), [&](const auto& one) { return one.first == key; });
  return found == declared.end() ? "" : found->second;
}

}  // namespace core
