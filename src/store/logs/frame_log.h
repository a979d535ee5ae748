#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "core/values/result.h"

namespace store {

/// Is the log whole, or was its writer stopped in the middle of a line? Then a last line without its end is no frame.
enum class LogEnd { Whole, CutOff };

/// A log larger than this is no frame log of one pass: some forty million frames.
constexpr std::size_t kMostLogBytes = std::size_t{1} << 30;

/// The frame times of a pass's own log in ms, read as careful as a log from elsewhere. `column` is the column wanted; a
/// log without header has just that one.
/// Errors  TooFew for an empty log, Missing{column}, Malformed{line} for the first row that is bad: the pass is
///         rejected whole, and nothing is dropped in silence; OutOfRange for frames that are far too short to be in ms
[[nodiscard]] core::Result<std::vector<double>> parseFrameLog(std::string_view text, std::string_view column,
                                                              const std::string& log_name);

/// Reads the file block by block. Errors besides: Missing or Io for the file itself, OutOfRange for one that is no
/// plain file or larger than kMostLogBytes.
[[nodiscard]] core::Result<std::vector<double>> readFrameLog(const std::string& path, std::string_view column,
                                                             LogEnd end = LogEnd::Whole);

}  // namespace store
