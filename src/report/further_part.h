#pragma once

#include "report/html.h"
#include "report/report.h"

namespace report {

/// The part of a page that tells at which levels cases run at all. Nothing where no case says so.
void writePossible(Html& page, const Source& source);

/// The part of a page that holds cases with a companion against the same alone. Nothing where the study has none.
void writeCompanions(Html& page, const Source& source);

/// The part of a page that tells what the passes say beside the headlines: every further result of every case. Nothing
/// where no case has any.
void writeFurther(Html& page, const Source& source);

}  // namespace report
