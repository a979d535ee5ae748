#include "cli/commands/named_level.h"

namespace cli {

core::Result<core::ConfigurationId> namedLevel(const core::Study& study, const std::string& name,
                                               const std::string& where) {
  if (const auto found = core::findConfiguration(study, name)) return *found;
  const auto all = core::configurationsOf(study);
  std::string names;
  for (const core::ConfigurationId one : all)
    names += (names.empty() ? "'" : one == all.back() ? "' or '" : "', '") + study.nameOf(one);
  return core::Error{core::ErrorKind::Missing, "the study has no level '" + name + "'", where, "Use " + names + "'"};
}

}  // namespace cli
