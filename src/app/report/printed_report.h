#pragma once

#include <QPagedPaintDevice>
#include <string>

#include "report/report.h"
#include "session/pages/written_report.h"

namespace app {

/// Puts a report on paper. Errors  those of report::checkReport
core::Status printReport(const report::Source& source, QPagedPaintDevice& paper);

/// Writes a report as PDF (.pdf), or its one picture, 1920 wide, as PNG (.png). Needs an application, and no display.
/// Errors  those of report::checkReport and of writing; OutOfRange for another ending
core::Status writePrinted(const std::string& path, const report::Source& source);

/// The same of a study's file: what `iron-lever --report` does. Errors besides: those of the study file
core::Status writePrintedOf(const std::string& study_path, const std::string& path, session::ReportWish wish);

}  // namespace app
