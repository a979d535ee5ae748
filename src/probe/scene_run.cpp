#include "probe/scene_run.h"

#include <atomic>
#include <barrier>
#include <chrono>
#include <csignal>
#include <cstdio>
#include <memory>
#include <thread>
#include <vector>

#include <fmt/format.h>

#include "probe/scene.h"

namespace probe {
namespace {

using Clock = std::chrono::steady_clock;
using core::Error;
using core::ErrorKind;

/// Threads that draw one picture together: each takes the next few rows until none are left.
class Painters {
 public:
  Painters(Scene& scene, int threads) : scene_(scene), gate_(threads) {
    for (int i = 1; i < threads; ++i) helpers_.emplace_back([this] { help(); });
  }
  ~Painters() {
    is_done_ = true;
    gate_.arrive_and_wait();
    for (std::thread& helper : helpers_) helper.join();
  }
  void paint(double position) {
    position_ = position;
    next_row_ = 0;
    gate_.arrive_and_wait();  // all start together
    takeRows();
    gate_.arrive_and_wait();  // and the frame is done when the last one is
  }

 private:
  void help() {
    for (;;) {
      gate_.arrive_and_wait();
      if (is_done_) return;
      takeRows();
      gate_.arrive_and_wait();
    }
  }
  void takeRows() {
    constexpr int kRows = 8;
    for (int row = next_row_.fetch_add(kRows); row < scene_.rows(); row = next_row_.fetch_add(kRows))
      scene_.drawRows(position_, row, std::min(row + kRows, scene_.rows()));
  }

  Scene& scene_;
  std::barrier<> gate_;
  std::atomic<int> next_row_{0};
  std::atomic<double> position_{0};
  std::atomic<bool> is_done_{false};
  std::vector<std::thread> helpers_;
};

double secondsSince(Clock::time_point begin) { return std::chrono::duration<double>(Clock::now() - begin).count(); }

struct CloseFile {
  void operator()(std::FILE* file) const { std::fclose(file); }
};
using LogFile = std::unique_ptr<std::FILE, CloseFile>;

Error logError(const std::string& path) {
  return {ErrorKind::DiskFull, "the frame log could not be written", path, "Check the folder and the free space"};
}

core::Status checkOptions(const SceneOptions& options) {
  const Error wrong{ErrorKind::OutOfRange, "the options do not fit", "scene",
                    "Use --threads 1 to 1024, and either --seconds above 0 to 86400 or --frames 1 to 100000000"};
  if (options.threads < 1 || options.threads > 1024 || options.seconds.has_value() == options.frames.has_value())
    return wrong;
  constexpr double kMostSeconds = 86400;
  const bool is_time = !options.seconds || (*options.seconds > 0 && *options.seconds <= kMostSeconds);
  const bool is_count = !options.frames || (*options.frames >= 1 && *options.frames <= 100'000'000);
  return is_time && is_count ? core::Status(core::Done{}) : core::Status(wrong);
}

// Asked to end, it finishes its log.
volatile std::sig_atomic_t is_asked_to_end = 0;

}  // namespace

core::Result<SceneSummary> runScene(const SceneOptions& options) {
  if (auto checked = checkOptions(options); !checked) return checked.error();
  LogFile log(options.log_path.empty() ? nullptr : std::fopen(options.log_path.c_str(), "w"));
  if (!options.log_path.empty() && (!log || std::fputs("frame_ms\n", log.get()) < 0)) return logError(options.log_path);

  Scene scene(options.size);
  Painters painters(scene, options.threads);
  SceneSummary summary;
  const auto begin = Clock::now();
  auto flushed = begin;
  auto frame_begin = begin;
  std::signal(SIGTERM, [](int) { is_asked_to_end = 1; });
  for (bool is_over = false; !is_over;) {
    const double passed = std::chrono::duration<double>(frame_begin - begin).count();
    // By time or by number of frames: either way every pass sees the same path from 0 to 1.
    painters.paint(options.seconds ? passed / *options.seconds : static_cast<double>(summary.frames) / *options.frames);
    const auto frame_end = Clock::now();
    const double frame_ms = std::chrono::duration<double, std::milli>(frame_end - frame_begin).count();
    if (log && std::fputs(fmt::format("{:.6f}\n", frame_ms).c_str(), log.get()) < 0) return logError(options.log_path);
    if (log && frame_end - flushed > std::chrono::milliseconds(500)) {  // so that a watcher sees the pass advance
      std::fflush(log.get());
      flushed = frame_end;
    }
    frame_begin = frame_end;  // writing the log belongs to the next frame, as it would in a real program
    ++summary.frames;
    is_over = is_asked_to_end != 0 ||
              (options.seconds ? secondsSince(begin) >= *options.seconds : summary.frames >= *options.frames);
  }
  summary.seconds = std::chrono::duration<double>(frame_begin - begin).count();
  summary.average_fps = summary.frames / summary.seconds;
  summary.checksum = scene.checksum();
  if (log && (std::fflush(log.get()) != 0 || std::ferror(log.get()) != 0)) return logError(options.log_path);
  return summary;
}

}  // namespace probe
