#pragma once

#include "report/html.h"
#include "report/report.h"

namespace report {

/// The part of a page that holds the numbers: every case, the costliest presets that hold the target, the suite read in
/// several ways, and what the frames say beside the average.
void writeResults(Html& page, const Source& source);

}  // namespace report
