#include "session/sheet/bench_rest.h"

#include <algorithm>

#include <fmt/format.h>

#include "bench/sampler.h"
#include "bench/updates.h"
#include "core/estimate/wording.h"
#include "core/judgement/pass_doubts.h"

namespace session {
namespace {

constexpr int kLookMs = 1000;

}  // namespace

void BenchRest::settle(const bench::BenchConnection& bench, const core::Plan& plan, Then then) {
  wants_quiet_ = false;
  wanted_c_ = plan.settle_to_c > 0 ? std::optional(plan.settle_to_c) : std::nullopt;
  begin(bench, plan.settle_s, wanted_c_ ? std::max(plan.settle_s, plan.most_settle_s) : plan.settle_s, std::move(then));
}

void BenchRest::untilQuiet(const bench::BenchConnection& bench, const core::Plan& plan, Then then) {
  wants_quiet_ = true;
  wanted_c_.reset();
  before_ = bench::processorTime(bench);
  begin(bench, kLookMs / 1000.0, plan.quiet_wait_s, std::move(then));
}

void BenchRest::begin(const bench::BenchConnection& bench, double least_s, double most_s, Then then) {
  bench_ = &bench;
  least_s_ = least_s;
  most_s_ = most_s;
  then_ = std::move(then);
  clock_.start();
  timer_.disconnect(this);
  connect(&timer_, &QTimer::timeout, this, &BenchRest::look);
  timer_.setSingleShot(true);
  timer_.start(std::min(kLookMs, static_cast<int>(1000 * least_s)));
}

void BenchRest::look() {
  const double elapsed_s = static_cast<double>(clock_.elapsed()) / 1000;
  const auto again = [&](double rest_s) { timer_.start(std::clamp(static_cast<int>(1000 * rest_s) + 1, 1, kLookMs)); };
  if (elapsed_s < least_s_) return again(least_s_ - elapsed_s);
  if (isCool() && (!wants_quiet_ || isQuiet())) return end({});
  if (elapsed_s < most_s_) return again(kLookMs / 1000.0);  // less would be too short a time to judge by
  const std::string update = wants_quiet_ ? bench::runningUpdate(*bench_) : std::string();
  end(!update.empty() ? update + " was still installing after " + core::durationText(most_s_)
      : wants_quiet_  ? "other programs did not keep still in " + core::durationText(most_s_)
                      : fmt::format("the bench did not cool to {:.0f} °C in {}", wanted_c_.value_or(0),
                                    core::durationText(most_s_)));
}

bool BenchRest::isCool() const {
  if (!wanted_c_) return true;
  const auto hottest = bench::hottestC(*bench_);
  return !hottest || *hottest <= *wanted_c_;  // where nothing can be read, time alone decides
}

bool BenchRest::isQuiet() {
  const auto before = before_;
  before_ = bench::processorTime(*bench_);
  if (!bench::runningUpdate(*bench_).empty()) return false;
  if (!before || !before_) return true;
  return bench::othersBusyPercent(*before, *before_, 0).value_or(0) <= core::kQuietPercent;
}

void BenchRest::end(const std::string& remark) {
  timer_.stop();
  const Then then = std::move(then_);
  then(remark);
}

void BenchRest::stop() {
  timer_.stop();
  then_ = nullptr;
}

double BenchRest::secondsLeft() const {
  return isWaiting() ? std::max(0.0, most_s_ - static_cast<double>(clock_.elapsed()) / 1000) : 0;
}

}  // namespace session
