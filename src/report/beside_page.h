#pragma once

#include <span>
#include <string>

#include "core/beside/beside.h"
#include "report/report.h"

namespace report {

/// Several studies beside each other, ready to be shown.
struct BesideSource {
  const core::Beside& beside;
  std::span<const core::StudyAside> studies;
  const core::BesideOrder& order;
  std::string program_version;
  std::string made_on;  ///< date, as it is to stand on the page
};

/// As one self-contained page: the claim, what differs between the benches, the picture, every row, numbers from
/// elsewhere, what it is not. `picture`: markup in place of the drawn one.
[[nodiscard]] std::string besidePage(const BesideSource& source, const Palette& palette = kPaper,
                                     const std::string& picture = {});

/// A row a case: a beam for each study on one fulcrum, and in words what the last says over the first; of levels one
/// beam. Of a table a line for each row. `width` units wide.
[[nodiscard]] std::string besideSvg(const BesideSource& source, const Palette& palette, int width = 960);

/// A row for each case and study, or for each cell; numbers in full.
[[nodiscard]] std::string besideCsv(const BesideSource& source);

}  // namespace report
