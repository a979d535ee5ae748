#pragma once

#include <string>

#include "report/html.h"

namespace report {

/// A person's own words on a page: lines that begin with "# " are headings, with "- " items of a list, an empty line
/// ends a paragraph. Nothing in it is markup.
void writeOwnWords(Html& page, const std::string& text);

}  // namespace report
