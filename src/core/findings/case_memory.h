#pragma once

#include <array>
#include <cstdint>
#include <functional>
#include <optional>
#include <span>
#include <tuple>
#include <vector>

#include "core/findings/findings.h"

namespace core {

/// The findings of each case and of their suite as they were last worked out, for a study that a person works on: most
/// acts touch one case of many, or none. A finding is taken again only where everything that it is made of is the same:
/// the study, the two configurations, the null study, the captures, and the passes that count, each by its id, the
/// visit that it counts for and its value; what else a filed pass holds never changes. Used by one thread, for one
/// study file.
class CaseMemory {
 public:
  /// Forgets everything where the study or what belongs to all cases has changed. What is asked for after it is as
  /// `excluded` has it: the two ways are remembered side by side.
  void begin(const Study& study, const Record& record, PairOf pair, ExcludedPasses excluded);
  /// What is known of a case, else what `find` finds.
  [[nodiscard]] CaseFinding get(std::size_t case_index, std::span<const CountedPass> counted,
                                std::span<const CountedPass> everywhere, const std::function<CaseFinding()>& find);
  /// What is known of the suite of these cases, once every case was asked for; else what `summarize` says.
  [[nodiscard]] std::optional<SuiteSummary> suite(std::vector<std::size_t> cases,
                                                  const std::function<std::optional<SuiteSummary>()>& summarize);

 private:
  using Key = std::vector<std::tuple<std::int64_t, std::int64_t, double>>;
  struct Known {
    Key key;
    CaseFinding finding;
  };
  struct Suite {
    std::vector<std::size_t> cases;
    std::optional<SuiteSummary> summary;
  };
  struct Way {
    std::vector<std::optional<Known>> cases;
    std::optional<Suite> suite;  ///< nothing once one of the cases was found anew
  };
  [[nodiscard]] Way& way() { return ways_[static_cast<std::size_t>(excluded_)]; }

  std::optional<Study> study_;
  PairOf pair_;
  std::optional<NullRecord> null_study_;
  std::size_t captures_ = 0;
  ExcludedPasses excluded_ = ExcludedPasses::StayOut;
  std::array<Way, 2> ways_;
};

}  // namespace core
