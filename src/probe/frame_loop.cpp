#include "probe/frame_loop.h"

#include <chrono>
#include <csignal>
#include <cstdio>
#include <memory>

#include <fmt/format.h>

namespace probe {
namespace {

using Clock = std::chrono::steady_clock;
using core::Error;
using core::ErrorKind;

double secondsSince(Clock::time_point begin) { return std::chrono::duration<double>(Clock::now() - begin).count(); }

struct CloseFile {
  void operator()(std::FILE* file) const { std::fclose(file); }
};
using LogFile = std::unique_ptr<std::FILE, CloseFile>;

Error logError(const std::string& path) {
  return {ErrorKind::DiskFull, "the frame log could not be written", path, "Check the folder and the free space"};
}

core::Status checkLoop(const FrameLoop& loop, const char* what) {
  constexpr double kMostSeconds = 86400;
  const bool is_time = !loop.seconds || (*loop.seconds > 0 && *loop.seconds <= kMostSeconds);
  const bool is_count = !loop.frames || (*loop.frames >= 1 && *loop.frames <= 100'000'000);
  if (loop.seconds.has_value() != loop.frames.has_value() && is_time && is_count) return core::Done{};
  return Error{ErrorKind::OutOfRange, "the options do not fit", what,
               "Use either --seconds above 0 to 86400 or --frames 1 to 100000000"};
}

// Asked to end, it finishes its log.
volatile std::sig_atomic_t is_asked_to_end = 0;

}  // namespace

core::Result<FrameCount> runFrames(const FrameLoop& loop, const char* what,
                                   const std::function<core::Status(double position)>& draw) {
  if (auto checked = checkLoop(loop, what); !checked) return checked.error();
  LogFile log(loop.log_path.empty() ? nullptr : std::fopen(loop.log_path.c_str(), "w"));
  if (!loop.log_path.empty() && (!log || std::fputs("frame_ms\n", log.get()) < 0)) return logError(loop.log_path);
  FrameCount count;
  const auto begin = Clock::now();
  auto flushed = begin;
  auto frame_begin = begin;
  std::signal(SIGTERM, [](int) { is_asked_to_end = 1; });
  for (bool is_over = false; !is_over;) {
    const double passed = std::chrono::duration<double>(frame_begin - begin).count();
    const auto drawn = draw(loop.seconds ? passed / *loop.seconds : static_cast<double>(count.frames) / *loop.frames);
    if (!drawn) return drawn.error();
    const auto frame_end = Clock::now();
    const double frame_ms = std::chrono::duration<double, std::milli>(frame_end - frame_begin).count();
    if (log && std::fputs(fmt::format("{:.6f}\n", frame_ms).c_str(), log.get()) < 0) return logError(loop.log_path);
    if (log && frame_end - flushed > std::chrono::milliseconds(500)) {  // so that a watcher sees the pass advance
      std::fflush(log.get());
      flushed = frame_end;
    }
    frame_begin = frame_end;  // writing the log belongs to the next frame, as it would in a real program
    ++count.frames;
    is_over =
        is_asked_to_end != 0 || (loop.seconds ? secondsSince(begin) >= *loop.seconds : count.frames >= *loop.frames);
  }
  count.seconds = std::chrono::duration<double>(frame_begin - begin).count();
  count.average_fps = count.frames / count.seconds;
  if (log && (std::fflush(log.get()) != 0 || std::ferror(log.get()) != 0)) return logError(loop.log_path);
  return count;
}

}  // namespace probe
