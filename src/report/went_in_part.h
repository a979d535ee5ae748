#pragma once

#include "report/html.h"
#include "report/report.h"

namespace report {

/// The part of a page that tells what went into its findings: passes that failed, were skipped or left out, what was
/// changed on the way, what each case rests on, what people expected, and what was declared of the cases.
void writeWentIn(Html& page, const Source& source);

}  // namespace report
