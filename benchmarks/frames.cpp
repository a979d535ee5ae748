// What five million frames cost: reading their log, and all that they say. Prints rows, seconds and memory, one line each.
#include <sys/resource.h>

#include <array>
#include <chrono>
#include <cstdio>
#include <string>

#include "core/frames/frame_metrics.h"
#include "core/frames/stutter.h"
#include "store/logs/log_shape.h"

namespace {

constexpr int kTakes = 5;

// The best of a few takes: whatever disturbs only makes it longer.
template <class Work>
double bestSeconds(Work&& work) {
  double best = 1e9;
  for (int take = 0; take < kTakes; ++take) {
    const auto begin = std::chrono::steady_clock::now();
    work();
    best = std::min(best, std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count());
  }
  return best;
}

double peakMegabytes() {
  rusage usage{};
  ::getrusage(RUSAGE_SELF, &usage);
  return static_cast<double>(usage.ru_maxrss) / 1024;
}

}  // namespace

int main(int count, char** words) {
  if (count != 2) {
    std::fprintf(stderr, "frames_benchmark LOG.csv\n");
    return 2;
  }
  const std::string path = words[1];
  const auto head = store::headOfLog(path);
  const auto shape = head ? store::detectShape(*head, path) : core::Result<store::LogShape>(head.error());
  if (!shape) {
    std::fprintf(stderr, "%s\n", shape.error().sentence().c_str());
    return 1;
  }
  const double before = peakMegabytes();
  std::vector<double> frame_ms;
  const auto once = store::importLogFile(path, *shape);
  if (!once) {
    std::fprintf(stderr, "%s\n", once.error().sentence().c_str());
    return 1;
  }
  const double used = peakMegabytes() - before;
  frame_ms.assign(once->front().frame_ms.begin(), once->front().frame_ms.end());
  const double numbers = static_cast<double>(frame_ms.size() * 3 * sizeof(double)) / 1024 / 1024;
  const double read_s = bestSeconds([&] { (void)store::importLogFile(path, *shape); });
  std::printf("read     %zu rows of 3 columns in %.3f s; memory %.2f times the numbers\n", frame_ms.size(), read_s, used / numbers);
  constexpr std::array kLows{1.0, 0.1};
  const double metrics_s = bestSeconds([&] { (void)core::frameMetrics(frame_ms, kLows); });
  const double stutters_s = bestSeconds([&] { (void)core::stutterFrames(frame_ms); });
  std::printf("metrics  %zu frames in %.3f s, and their stutters in %.3f s\n", frame_ms.size(), metrics_s - stutters_s,
              stutters_s);
}
