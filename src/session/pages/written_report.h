#pragma once

#include <string>

#include "report/report.h"
#include "session/study/open_study.h"

namespace session {

/// Shows the pictures that were kept of a study's visits. Errors of the study file
core::Status addPictures(report::Source& source, OpenStudy& open);

/// Writes what a study says, by the ending of `path`: a page (.html, .htm, or none), the chart (.svg), everything for
/// scripts (.json), or two tables (.csv): NAME-passes.csv and NAME-findings.csv in place of NAME.csv.
/// Shapes  `name`: of the study, as tables have it
/// Names nobody, and no home folder, whom the page would not. Errors  OutOfRange for another ending; those of
/// report::checkReport; those of writing
core::Status writeReport(const std::string& path, const report::Source& source, const std::string& name);

/// The files that would be written. Errors  OutOfRange for an ending that nothing is written with
[[nodiscard]] core::Result<std::vector<std::string>> reportFiles(const std::string& path);

}  // namespace session
