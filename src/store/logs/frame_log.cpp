#include "store/logs/frame_log.h"

#include <sys/mman.h>

#include <algorithm>
#include <filesystem>

#include <fmt/format.h>

#include "core/values/median.h"
#include "store/logs/log_reader.h"
#include "store/logs/log_shape.h"

namespace store {
namespace {

using core::Error;
using core::ErrorKind;

// The numbers change their place piece by piece, and each piece gives its memory back: a large log is not held twice.
std::vector<double> moved(Numbers&& from) {
  constexpr std::size_t kPiece = std::size_t{1} << 20;
  std::vector<double> to;
  to.reserve(from.size());
  wishForHugePages(to.data(), from.size() * sizeof(double));
  for (std::size_t at = 0; at < from.size(); at += kPiece) {
    double* const piece = from.data() + at;
    const std::size_t count = std::min(kPiece, from.size() - at);
    to.insert(to.end(), piece, piece + count);
    // Only memory of whole large pages is known to be aligned so.
    if (from.size() >= kPiece) (void)::madvise(piece, count * sizeof(double), MADV_DONTNEED);
  }
  return to;
}

// A column that was asked for by name is in ms; seconds under that name would be frames that no display shows.
core::Status checkUnit(const std::vector<double>& frame_ms, std::string_view column, const std::string& log_name) {
  constexpr double kShortestTypicalMs = 0.02;
  constexpr std::size_t kLooked = 1000;
  const std::vector<double> first(frame_ms.begin(),
                                  frame_ms.begin() + static_cast<std::ptrdiff_t>(std::min(kLooked, frame_ms.size())));
  const double typical_ms = core::medianOf(first);
  if (typical_ms >= kShortestTypicalMs) return core::Done{};
  return Error{ErrorKind::OutOfRange, fmt::format("frames of {:g} ms are too short to be frames", typical_ms),
               fmt::format("{}, column '{}'", log_name, column), "Write how long each frame took in ms"};
}

core::Result<std::vector<double>> framesIn(const LogBlocks& log, std::string_view column, const std::string& log_name) {
  auto head = headOf(log);
  if (!head) return head.error();
  auto shape = shapeOfColumn(*head, column, log_name);
  if (!shape) return shape.error();
  shape->keeps_others = false;
  auto runs = importRuns(log, *shape, log_name);
  if (!runs) return runs.error();
  std::vector<double> frame_ms = moved(std::move(runs->front().frame_ms));
  if (auto checked = checkUnit(frame_ms, column, log_name); !checked) return checked.error();
  return frame_ms;
}

}  // namespace

core::Result<std::vector<double>> parseFrameLog(std::string_view text, std::string_view column,
                                                const std::string& log_name) {
  return framesIn(LogBlocks::ofText(text), column, log_name);
}

core::Result<std::vector<double>> readFrameLog(const std::string& path, std::string_view column, LogEnd end) {
  std::error_code code;
  if (std::filesystem::is_symlink(path, code))
    return Error{ErrorKind::Malformed, "the frame log is a link", path, "Write the log itself where {log} says"};
  auto log = LogBlocks::ofFile(path);
  if (!log) {
    if (log.error().kind == ErrorKind::Missing)
      return Error{ErrorKind::Missing, "the workload wrote no frame log", path,
                   "Check that its command takes the path from {log}"};
    return log.error();
  }
  if (log->bytes() > kMostLogBytes)
    return Error{ErrorKind::OutOfRange,
                 fmt::format("the log has {} MiB, more than any pass writes", log->bytes() >> 20), path,
                 fmt::format("Write frames only; {} MiB are read at most", kMostLogBytes >> 20)};
  if (end == LogEnd::CutOff)
    if (auto cut = log->endAtLastLine(); !cut) return cut.error();
  return framesIn(*log, column, path);
}

}  // namespace store
