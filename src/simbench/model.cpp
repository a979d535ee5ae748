#include "simbench/model.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <numeric>

#include "simbench/random.h"

namespace simbench {
namespace {

using Parts = std::array<double, 4>;  // processor, graphics, memory, link, ms

std::uint64_t hashOf(const std::string& text) {
  std::uint64_t hash = 0xcbf29ce484222325;  // FNV-1a; std::hash may differ between libraries
  for (const char c : text) hash = (hash ^ static_cast<unsigned char>(c)) * 0x100000001b3;
  return hash;
}

// The scene is heavy for one part here and for another there: each follows the path with a phase of its own.
double sceneWeight(double position, std::size_t part) {
  const double phase = 1.3 * static_cast<double>(part);
  const double turn = 2 * std::numbers::pi * position;
  return 1 + 0.12 * std::sin(turn + phase) + 0.05 * std::sin(3 * turn + 2 * phase);
}

// The slowest part decides; what the others take is hidden behind it but for the overlap.
double frameTime(const Parts& parts, double overlap) {
  const double slowest = *std::max_element(parts.begin(), parts.end());
  return slowest + overlap * (std::accumulate(parts.begin(), parts.end(), 0.0) - slowest);
}

Parts partsOf(const CaseTruth& a_case, const Factors& factors) {
  return {a_case.processor_ms * factors.processor, a_case.graphics_ms * factors.graphics,
          a_case.memory_ms * factors.memory, a_case.link_ms * factors.link};
}

// What the whole pass shares: the restart's luck, the pass's own, and heat.
double passFactor(const BenchState& state, const CaseTruth& a_case, Random& random) {
  Random restart(mixed(state.truth.seed, static_cast<std::uint64_t>(state.boots), 0x71517));
  const double heat = state.truth.heat_percent / 100 * (1 - std::exp(-state.warm_minutes / state.truth.heat_minutes));
  return std::exp(restart.normal(state.truth.visit_sd) + random.normal(a_case.pass_sd) + heat);
}

class Stutters {
 public:
  Stutters(const CaseTruth& a_case, double memory_factor, Random& random)
      : random_(random),
        mean_wait_ms_(a_case.stutters_per_minute > 0 ? 60000 / a_case.stutters_per_minute : 0),
        extra_ms_(a_case.stutter_ms * std::pow(memory_factor, a_case.stutter_memory_power)) {
    if (mean_wait_ms_ > 0) next_ms_ = random_.waiting(mean_wait_ms_);
  }
  /// What a frame that starts at `now_ms` takes longer.
  double extraAt(double now_ms) {
    if (mean_wait_ms_ <= 0 || now_ms < next_ms_) return 0;
    next_ms_ = now_ms + random_.waiting(mean_wait_ms_);
    return extra_ms_ * std::exp(random_.normal(0.12));
  }

 private:
  Random& random_;
  double mean_wait_ms_;
  double extra_ms_;
  double next_ms_ = 0;
};

}  // namespace

namespace {

// Drawn beside the frames, which stay what they are.
double loadSeconds(const BenchState& state, const CaseTruth& a_case, const std::string& case_name) {
  constexpr double kSd = 0.008;
  Random random(mixed(state.truth.seed, static_cast<std::uint64_t>(state.runs), hashOf(case_name + "/load")));
  return a_case.load_s * state.factors().memory * std::exp(random.normal(kSd));
}

PassResult simulateFrames(const BenchState& state, const CaseTruth& a_case, const std::string& case_name) {
  Random random(mixed(state.truth.seed, static_cast<std::uint64_t>(state.runs), hashOf(case_name)));
  const Factors factors = state.factors();
  const Parts parts = partsOf(a_case, factors);
  const double pass_factor = passFactor(state, a_case, random);
  constexpr int kBusiest = 99;
  const int busy = std::min(kBusiest, static_cast<int>(std::lround(100 * parts[1] / frameTime(parts, a_case.overlap))));
  if (a_case.is_time) return {{}, frameTime(parts, a_case.overlap) * pass_factor / 1000, 0, busy};

  PassResult result;
  result.graphics_busy_percent = busy;
  Stutters stutters(a_case, factors.memory, random);
  const double length_ms = a_case.seconds * 1000;
  const double fresh_sd = a_case.frame_sd * std::sqrt(1 - a_case.frame_rho * a_case.frame_rho);
  double noise = random.normal(a_case.frame_sd);
  for (double now_ms = 0; now_ms < length_ms;) {
    Parts here = parts;
    for (std::size_t i = 0; i < here.size(); ++i) here[i] *= sceneWeight(now_ms / length_ms, i);
    noise = a_case.frame_rho * noise + random.normal(fresh_sd);
    const double frame_ms = frameTime(here, a_case.overlap) * pass_factor * std::exp(noise) + stutters.extraAt(now_ms);
    // A log has four decimals: what is written is what the clock advances by.
    result.frame_ms.push_back(std::max(0.0001, std::round(frame_ms * 1e4) / 1e4));
    now_ms += result.frame_ms.back();
  }
  result.seconds = std::accumulate(result.frame_ms.begin(), result.frame_ms.end(), 0.0) / 1000;
  return result;
}

}  // namespace

PassResult simulatePass(const BenchState& state, const CaseTruth& a_case, const std::string& case_name) {
  PassResult result = simulateFrames(state, a_case, case_name);
  result.load_s = loadSeconds(state, a_case, case_name);
  return result;
}

}  // namespace simbench
