#pragma once

#include <optional>
#include <vector>

#include "core/study/study.h"
#include "core/values/result.h"

namespace core {

/// The price of a configuration: that of its levels together. Nothing where one of them has none, in a variable of
/// which any level has one; nothing without any price.
[[nodiscard]] std::optional<Price> priceOf(const Study& study, ConfigurationId configuration);

/// What is wrong with the prices of a study's levels, each with place and remedy; empty where nothing is.
[[nodiscard]] std::vector<Error> priceProblems(const Study& study);

}  // namespace core
