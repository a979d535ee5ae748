#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/study/case.h"
#include "core/values/result.h"

namespace core {

/// What is wrong with where a case's results stand, each with place and remedy; empty where nothing is. `where`: the
/// case, as a person knows it.
[[nodiscard]] std::vector<Error> resultProblems(const Case& a_case, const std::string& where);

/// Does a command say where its frame log goes, as "{log}"?
[[nodiscard]] bool namesLog(const Command& command);

/// The further results of all cases by name, each once, in the order in which they are listed. What is called alike is
/// one thing that several cases are asked.
[[nodiscard]] std::vector<std::string> furtherResultNames(const std::vector<Case>& cases);

/// Its place among a case's further results; nothing where it has none of that name.
[[nodiscard]] std::optional<std::size_t> furtherPlaceOf(const Case& a_case, const std::string& name);

}  // namespace core
