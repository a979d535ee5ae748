// What five million frames cost: reading their log, and all that they say. Prints rows, seconds and memory, one line each.
#include <fcntl.h>
#include <sys/resource.h>
#include <unistd.h>

#include <array>
#include <chrono>
#include <cstdio>
#include <string>
#include <vector>

#include "core/frames/frame_metrics.h"
#include "core/frames/stutter.h"
#include "store/logs/frame_log.h"
#include "store/logs/log_shape.h"

namespace {

constexpr int kTakes = 5;

template <class Work>
double secondsOf(Work&& work) {
  const auto begin = std::chrono::steady_clock::now();
  work();
  return std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
}

// The best of a few takes: whatever disturbs only makes it longer.
template <class Work>
double bestSeconds(Work&& work) {
  double best = 1e9;
  for (int take = 0; take < kTakes; ++take) best = std::min(best, secondsOf(work));
  return best;
}

// What any reader pays: every byte of the file, once through a buffer.
void readBytes(const std::string& path) {
  std::vector<char> buffer(std::size_t{1} << 19);
  const int file = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
  while (::read(file, buffer.data(), buffer.size()) > 0) continue;
  ::close(file);
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
  double bytes_s = 1e9;
  double read_s = 1e9;
  double pass_s = 1e9;
  const std::string column = shape->columns[shape->time.column];
  for (int take = 0; take < kTakes; ++take) {  // turn by turn
    bytes_s = std::min(bytes_s, secondsOf([&] { readBytes(path); }));
    read_s = std::min(read_s, secondsOf([&] { (void)store::importLogFile(path, *shape); }));
    pass_s = std::min(pass_s, secondsOf([&] { (void)store::readFrameLog(path, column); }));
  }
  std::printf("read     %zu rows of 3 columns in %.3f s, its bytes alone in %.3f s (%.1f times); memory %.2f times the numbers\n",
              frame_ms.size(), read_s, bytes_s, read_s / bytes_s, used / numbers);
  std::printf("pass     its frames alone, as the log of a pass is read, in %.3f s (%.1f times)\n", pass_s, pass_s / bytes_s);
  constexpr std::array kLows{1.0, 0.1};
  const double metrics_s = bestSeconds([&] { (void)core::frameMetrics(frame_ms, kLows); });
  const double stutters_s = bestSeconds([&] { (void)core::stutterFrames(frame_ms); });
  std::printf("metrics  %zu frames in %.3f s, and their stutters in %.3f s\n", frame_ms.size(), metrics_s - stutters_s,
              stutters_s);
}
