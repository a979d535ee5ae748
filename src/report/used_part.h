#pragma once

#include "report/html.h"
#include "report/report.h"

namespace report {

/// The part of a page that tells what the two levels used beside what they gave: what surely moved, in sentences and
/// numbers. Nothing where nothing was sampled.
void writeUsed(Html& page, const Source& source);

}  // namespace report
