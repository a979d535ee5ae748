#pragma once

#include "report/html.h"
#include "report/report.h"

namespace report {

/// What a ladder, a crossing or a chain says: its picture, its contrasts with their verdicts for the suite and for each
/// case, every case at every configuration, and what has no result. Nothing for a pair. `picture` in place of the drawn
/// one.
void writeShape(Html& page, const Source& source, const Palette& palette, const std::string& picture);

}  // namespace report
