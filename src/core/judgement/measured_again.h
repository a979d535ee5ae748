// What is said of a visit that was left out once it stands measured again.
#pragma once

#include <cstdint>
#include <set>
#include <span>

#include "core/judgement/doubts.h"
#include "core/proof/step_proofs.h"

namespace core {

/// Which visits a person had set and measured once more because their passes are left out.
class MeasuredAgain {
 public:
  /// A repetition that is to be left out itself, by any of `steps`, does not stand in the visit's place.
  MeasuredAgain(const Study& study, const Record& record, std::span<const StepProof> steps);

  /// Makes a note of a doubt about visits (by id) that were all measured again: what each found stands in its place,
  /// and nothing else is left to be done. Any other doubt stays as it is.
  void settle(Doubt& doubt, std::span<const std::int64_t> visit_ids) const;

 private:
  [[nodiscard]] bool isReplaced(std::int64_t visit_id) const;

  const Record& record_;
  std::set<std::int64_t> left_out_;
};

}  // namespace core
