#pragma once

#include <cstddef>
#include <optional>
#include <string>
#include <vector>

#include "core/study/case.h"
#include "core/values/result.h"

namespace core {

struct Study;

/// What is wrong with what runs beside a case, each with place and remedy; empty where nothing is, or where nothing
/// runs. `where`: the case, as a person knows it.
[[nodiscard]] std::vector<Error> companionProblems(const Case& a_case, const std::string& where);

/// The case that differs in nothing but that nothing runs beside it; nothing where the study has none, and for a case
/// that runs alone itself.
[[nodiscard]] std::optional<std::size_t> sameCaseAlone(const Study& study, std::size_t case_index);

}  // namespace core
