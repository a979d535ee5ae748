#include "session/sheet/rights_trial.h"

#include <array>

namespace session {
namespace {

// All rights first: what yields nothing with them proves nothing without. Then from the fewest on.
constexpr std::array<core::Without, 5> kOrder{
    {{false, false, false}, {true, true, true}, {true, true, false}, {true, false, true}, {true, false, false}}};

}  // namespace

RightsTrial::RightsTrial(bench::BenchConnection& bench) : trial_(bench) {
  connect(&trial_, &Trial::finished, this, [this](const MeasuredPass& measured) {
    const core::Pass& pass = measured.pass;
    tried_.push_back({kOrder.at(tried_.size()), pass.value, pass.failure});
    next();
  });
}

void RightsTrial::start(const core::Case& a_case, const std::string& folder, const core::Study& study) {
  if (trial_.isRunning() || !canBeTried(a_case)) return;
  a_case_ = a_case;
  folder_ = folder;
  study_ = study;
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
  if (is_stopped_ || has_all_failed || proposed() || tried_.size() == kOrder.size()) return Q_EMIT finished();
  a_case_.without = kOrder.at(tried_.size());
  trial_.start(a_case_, folder_, study_.targets(), study_.plan.time_limit_s, core::setupOf(study_, study_.baseline()));
}

std::optional<RightsTrial::Tried> RightsTrial::proposed() const {
  return tried_.size() > 1 && tried_.back().value ? std::optional(tried_.back()) : std::nullopt;
}

}  // namespace session
