#pragma once

#include <QPagedPaintDevice>
#include <string>

#include "report/report.h"
#include "session/pages/written_report.h"

namespace app {

/// Puts a report on paper. Errors  those of report::checkReport
core::Status printReport(const report::Source& source, QPagedPaintDevice& paper);

/// Writes a report as PDF (.pdf), or its one picture, 1920 wide, as PNG (.png), or those for a talk or a phone. Needs
/// an application, and no display. Errors  those of report::checkReport and of writing; OutOfRange for another ending
core::Status writePrinted(const std::string& path, const report::Source& source, const session::ReportWish& wish);

/// The same of a study's file: what `iron-lever --report` does. Errors besides: those of the study file
core::Status writePrintedOf(const std::string& study_path, const std::string& path, const session::ReportWish& wish);

/// Writes studies beside each other, as a NAME.beside.json asks for them, as PDF. Errors  of reading document and
/// studies, of laying them, and of writing; OutOfRange for another ending
core::Status writePrintedBeside(const std::string& document_path, const std::string& path);

}  // namespace app
