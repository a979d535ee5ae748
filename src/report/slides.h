#pragma once

#include <string>
#include <vector>

#include "report/report.h"

namespace report {

/// Pictures for a talk, 1920 x 1080 each with letters that are read from the last row: the claim, what more than two
/// configurations look like together, then one finding each, numbered. What is sealed is none.
[[nodiscard]] std::vector<std::string> talkSvgs(const core::Study& study, const core::Judgement& judgement,
                                                const Palette& palette);

/// The same findings one under the other, 1080 wide, for a phone.
[[nodiscard]] std::string phoneSvg(const core::Study& study, const core::Judgement& judgement, const Palette& palette);

/// What stands under the picture where pictures have captions: plain text, the claim first, then how it was measured.
[[nodiscard]] std::string captionText(const core::Study& study, const core::Judgement& judgement);

}  // namespace report
