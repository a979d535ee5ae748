#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "report/report.h"

namespace report {

/// What a null study or a pilot said of one case's noise.
struct NoiseSeen {
  std::int64_t at_ms = 0;
  std::optional<double> pass_sd;  ///< ln scale, from pass to pass within a visit
  std::optional<double> flip_sd;  ///< what a flip adds; nothing of a pilot
};

/// The noise of one bench over time, percent: a dot for each case of each null study or pilot, and a mark where
/// something of the bench changed. Empty without any. `changed_ms`: when an entry of the bench's history began
[[nodiscard]] std::string noiseSvg(const std::vector<NoiseSeen>& seen, const std::vector<std::int64_t>& changed_ms,
                                   const Palette& palette, int width, int height);

}  // namespace report
