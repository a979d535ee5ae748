#pragma once

#include "report/html.h"
#include "report/report.h"

namespace report {

/// What people noticed beside what is measured, in the order in which they wrote it down; nothing where nobody did.
void writeObserved(Html& page, const Source& source);

}  // namespace report
