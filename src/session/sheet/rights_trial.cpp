#include "session/sheet/rights_trial.h"

#include <algorithm>
#include <array>

namespace session {
namespace {

// As it was approved first: what yields nothing so proves nothing without. Then from the fewest rights on; never with
// more than were approved.
std::vector<core::Without> orderOf(const core::Without& approved) {
  constexpr std::array<core::Without, 4> kFromTheFewest{
      {{true, true, true}, {true, true, false}, {true, false, true}, {true, false, false}}};
  std::vector<core::Without> order{approved};
  for (core::Without one : kFromTheFewest) {
    one.network = one.network || approved.network;
    one.shared_temporary_folder = one.shared_temporary_folder || approved.shared_temporary_folder;
    if (std::find(order.begin(), order.end(), one) == order.end()) order.push_back(one);
  }
  return order;
}

}  // namespace

RightsTrial::RightsTrial(bench::BenchConnection& bench) : trial_(bench) {
  connect(&trial_, &Trial::finished, this, [this](const MeasuredPass& measured) {
    const core::Pass& pass = measured.pass;
    tried_.push_back({order_.at(tried_.size()), pass.value, pass.failure});
    next();
  });
}

void RightsTrial::start(const core::Case& a_case, const std::string& folder, const core::Study& study) {
  if (trial_.isRunning() || !canBeTried(a_case)) return;
  a_case_ = a_case;
  folder_ = folder;
  study_ = study;
  order_ = orderOf(a_case.without);
  tried_.clear();
  is_stopped_ = false;
  next();
}

void RightsTrial::stop() {
  is_stopped_ = true;
  trial_.stop();
}

void RightsTrial::next() {
  const bool has_all_failed = !tried_.empty() && !tried_.front().value;
  if (is_stopped_ || has_all_failed || proposed() || tried_.size() == order_.size()) return Q_EMIT finished();
  a_case_.without = order_.at(tried_.size());
  trial_.start(a_case_, folder_, study_.targets(), study_.plan.time_limit_s, core::setupOf(study_, study_.baseline()));
}

std::optional<RightsTrial::Tried> RightsTrial::proposed() const {
  return tried_.size() > 1 && tried_.back().value ? std::optional(tried_.back()) : std::nullopt;
}

}  // namespace session
