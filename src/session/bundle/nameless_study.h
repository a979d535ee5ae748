#pragma once

#include <map>
#include <set>
#include <string>

#include "core/values/personal_text.h"
#include "session/study/open_study.h"

namespace session {

/// What a study says of persons and their machines, and whoever seals it may choose to keep.
struct KeptPersonal {
  std::set<core::PersonalKind> kinds;
  bool has_pictures = false;  ///< of visits and of screens: nobody can search them
};

/// How a person names what is kept: "host", "serials", "people", "paths", "pictures".
[[nodiscard]] std::vector<std::string> keptNames(const KeptPersonal& kept);
/// The inverse. Errors  Malformed for another word
[[nodiscard]] core::Result<KeptPersonal> keptFrom(const std::vector<std::string>& names);

/// "1 person, 5 serial numbers or addresses"; empty where nothing was.
[[nodiscard]] std::string leftOutText(const std::map<std::string, int>& left_out);

/// Names that are looked for in a study: who worked on it, whose homes it names, and this computer.
[[nodiscard]] core::Result<core::KnownNames> namesIn(OpenStudy& open);

/// Makes a copy of a study in which everything else is called by number. Gives how many things of each kind those are,
/// and how many pictures were left out, by name. Errors of the study file
[[nodiscard]] core::Result<std::map<std::string, int>> copyNameless(OpenStudy& open, const std::string& path,
                                                                    const KeptPersonal& kept);

}  // namespace session
