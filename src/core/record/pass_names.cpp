#include "core/record/pass_names.h"

#include <algorithm>

namespace core {

PassNames::PassNames(std::vector<Slot> schedule, std::span<const Pass> passes) : schedule_(std::move(schedule)) {
  slots_.reserve(passes.size());
  for (const Pass& pass : passes)
    if (pass.slot < schedule_.size()) slots_.emplace_back(pass.id, pass.slot);
  std::sort(slots_.begin(), slots_.end());
}

std::string PassNames::of(std::int64_t id) const {
  const auto at = std::lower_bound(slots_.begin(), slots_.end(), std::pair(id, std::size_t{0}));
  return at == slots_.end() || at->first != id ? "a pass" : passName(schedule_[at->second]);
}

}  // namespace core
