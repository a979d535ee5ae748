#pragma once

#include "report/html.h"
#include "report/report.h"

namespace report {

/// The part of a page that tells of the bench at both levels: what moved as declared, what came along, what should not
/// have moved, what is held and what is released, what could not be read, what was measured, and what was said
/// afterwards. Nothing is claimed that a doubt denies.
void writeBench(Html& page, const Source& source);

}  // namespace report
