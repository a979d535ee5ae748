#pragma once

#include <functional>
#include <string>

#include "session/bundle/nameless_study.h"

namespace session {

/// How a bundle's files were made: what they need to be made again.
struct BundleMaking {
  std::string program_version;
  std::string made_on;  ///< a date
  KeptPersonal kept;
};

/// Hands over every file of a bundle that follows from its study, with its name: the page, the same as plain text, the
/// chart, the numbers, the tables, what each visit's capture read and what each pass printed. The same study gives the
/// same bytes. `open`: read. Errors  of the study file; those of report::checkReport; what `take` returns
core::Status forEachBundleFile(
    OpenStudy& open, const BundleMaking& making,
    const std::function<core::Status(const std::string& name, const std::string& content)>& take);

}  // namespace session
