#pragma once

#include "report/html.h"
#include "report/report.h"

namespace report {

/// The pictures of how the bench was set up, visit by visit, drawn into the page; nothing where none was chosen.
void writePictures(Html& page, const Source& source);

}  // namespace report
