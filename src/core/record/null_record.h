#pragma once

#include <algorithm>
#include <string>
#include <vector>

namespace core {

/// The null study that a study with one visit a level rests on. It is copied into the study before its first pass, so
/// that the numbers stay the study's own.
struct NullRecord {
  struct OfCase {
    std::string title;                        ///< as core::noiseTitle
    std::vector<std::vector<double>> visits;  ///< the counted values of each visit, in the metric's own unit
    bool operator==(const OfCase&) const = default;
  };
  std::string date;  ///< on which it ended, as 2026-11-25
  std::vector<OfCase> cases;

  [[nodiscard]] const OfCase* find(const std::string& title) const {
    const auto found = std::find_if(cases.begin(), cases.end(), [&](const OfCase& one) { return one.title == title; });
    return found == cases.end() ? nullptr : &*found;
  }
  bool operator==(const NullRecord&) const = default;
};

}  // namespace core
