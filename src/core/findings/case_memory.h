#pragma once

#include <cstdint>
#include <functional>
#include <optional>
#include <span>
#include <tuple>
#include <vector>

#include "core/findings/findings.h"

namespace core {

struct CountedPass;

/// The findings of each case as they were last worked out, for a study that a person works on: most acts touch one case
/// of many, or none. A finding is taken again only where everything that it is made of is the same: the study, the two
/// configurations, the null study, the captures, and the passes that count, each by its id, the visit that it counts
/// for and its value; what else a filed pass holds never changes. Used by one thread, for one study file.
class CaseMemory {
 public:
  /// Forgets everything where the study or what belongs to all cases has changed.
  void begin(const Study& study, const Record& record, PairOf pair);
  /// What is known of a case, else what `find` finds.
  [[nodiscard]] CaseFinding get(std::size_t case_index, std::span<const CountedPass> counted,
                                std::span<const CountedPass> everywhere, const std::function<CaseFinding()>& find);

 private:
  using Key = std::vector<std::tuple<std::int64_t, std::int64_t, double>>;
  struct Known {
    Key key;
    CaseFinding finding;
  };
  std::optional<Study> study_;
  PairOf pair_;
  std::optional<NullRecord> null_study_;
  std::size_t captures_ = 0;
  std::vector<std::optional<Known>> known_;
};

}  // namespace core
