#pragma once

#include <algorithm>
#include <cstdint>
#include <string>
#include <vector>

namespace core {

/// A level whose passes were measured for an earlier study of the same bench, and taken over in place of measuring it
/// again. What that study says of the levels which both measure is copied with it, so that how far the bench moved
/// between the two can be told from this study alone.
struct TakenLevel {
  std::string study;        ///< the file's name, without folder
  std::string identity;     ///< of that study, the same in each of its copies
  std::string level;        ///< how the level is called there
  std::vector<int> visits;  ///< as they are numbered in this study's file

  /// Another level that both studies measure, of one case.
  struct Shared {
    std::string level;                ///< as this study calls it
    std::string case_title;           ///< as this study calls it
    std::vector<double> visit_means;  ///< in the earlier study, in the metric's own unit
    bool operator==(const Shared&) const = default;
  };
  std::vector<Shared> shared;

  [[nodiscard]] bool hasVisit(std::int64_t id) const {
    return std::any_of(visits.begin(), visits.end(), [&](int one) { return one == id; });
  }
  bool operator==(const TakenLevel&) const = default;
};

}  // namespace core
