#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "core/study/study.h"

namespace core {

/// What a file's name says about its pass.
struct NamedPass {
  std::size_t case_index = 0;
  ConfigurationId configuration = ConfigurationId::Baseline;
};

/// Reads a file's name by a pattern such as "{case}_{level}_{any}": {case} and {level} stand for one of the study's (a
/// case by its title, or by its workload where that is enough), {any} for any text. Letter case, blanks and punctuation
/// are of no account. A study's only case need not be named. Errors  Malformed for a pattern without {level}, or one
/// that the name does not fit; Missing for an unknown case or level
[[nodiscard]] Result<NamedPass> readName(std::string_view name, std::string_view pattern, const Study& study);

}  // namespace core
