#include "core/record/pass_names.h"

#include <algorithm>
#include <map>
#include <set>

#include <fmt/format.h>
#include <fmt/ranges.h>

namespace core {
namespace {

// "2", "1 and 2", "1 to 5", "1 to 3, 5 and 7".
std::string numbersText(const std::vector<int>& numbers) {
  std::vector<std::string> parts;
  for (std::size_t i = 0; i < numbers.size();) {
    std::size_t end = i + 1;
    while (end < numbers.size() && numbers[end] == numbers[end - 1] + 1) ++end;
    if (end - i >= 3)
      parts.push_back(fmt::format("{} to {}", numbers[i], numbers[end - 1]));
    else
      for (std::size_t k = i; k < end; ++k) parts.push_back(std::to_string(numbers[k]));
    i = end;
  }
  if (parts.size() < 2) return parts.empty() ? "" : parts.front();
  const std::string last = parts.back();
  parts.pop_back();
  return fmt::format("{} and {}", fmt::join(parts, ", "), last);
}

/// Numbers of passes, or of warm-ups, by visit.
using NumbersByVisit = std::map<int, std::set<int>>;

// Visits that follow one another and have the same numbers are told at once. `one`: what is numbered.
void tell(const NumbersByVisit& numbers, const char* one, const char* several, std::vector<std::string>& parts) {
  for (auto at = numbers.begin(); at != numbers.end();) {
    std::vector<int> visits{at->first};
    const std::set<int>& same = at->second;
    for (++at; at != numbers.end() && at->first == visits.back() + 1 && at->second == same; ++at)
      visits.push_back(at->first);
    parts.push_back(fmt::format("{} {}, {} {}{}", visits.size() == 1 ? "visit" : "visits", numbersText(visits),
                                same.size() == 1 ? one : several, numbersText({same.begin(), same.end()}),
                                visits.size() == 1 ? "" : " of each"));
  }
}

}  // namespace

PassNames::PassNames(std::vector<Slot> schedule, std::span<const Pass> passes) : schedule_(std::move(schedule)) {
  slots_.reserve(passes.size());
  for (const Pass& pass : passes)
    if (pass.slot < schedule_.size()) slots_.emplace_back(pass.id, pass.slot);
  std::sort(slots_.begin(), slots_.end());
}

const Slot* PassNames::slotOf(std::int64_t id) const {
  const auto at = std::lower_bound(slots_.begin(), slots_.end(), std::pair(id, std::size_t{0}));
  return at == slots_.end() || at->first != id ? nullptr : &schedule_[at->second];
}

std::string PassNames::of(std::int64_t id) const {
  const Slot* slot = slotOf(id);
  return slot == nullptr ? "a pass" : passName(*slot);
}

std::string PassNames::ofSeveral(std::span<const std::int64_t> ids) const {
  NumbersByVisit passes;
  NumbersByVisit warm_ups;
  for (const std::int64_t id : ids)
    if (const Slot* slot = slotOf(id)) (slot->is_warm_up ? warm_ups : passes)[slot->visit].insert(slot->number);
  std::vector<std::string> parts;
  tell(passes, "pass", "passes", parts);
  tell(warm_ups, "warm-up", "warm-ups", parts);
  return fmt::format("{}", fmt::join(parts, "; "));
}

}  // namespace core
