#pragma once

#include <string>

#include <CLI/CLI.hpp>

namespace cli {

/// A number within a range, ends included; no text that is another thing to some reader of numbers, "nan" among them.
[[nodiscard]] CLI::Validator numberWithin(double least, double most, const std::string& unit);

/// The name that was most likely meant; empty where none is near.
[[nodiscard]] std::string nearestName(const std::string& typed, const std::vector<std::string>& names);

}  // namespace cli
