#pragma once

#include <string>

#include "report/report.h"
#include "session/study/open_study.h"

namespace session {

/// What whoever sends a report on has to choose.
struct ReportWish {
  bool names_people = false;
  bool has_pictures = false;  ///< those that were kept of its visits
  report::PageOrder order = report::fullOrder();
  bool is_night = false;  ///< the dark page
  enum class Form {
    Page,
    Talk,  ///< pictures of 1920 x 1080, one finding each: NAME-1.png, NAME-2.png of NAME.png
    Phone  ///< one picture, 1080 wide
  };
  Form form = Form::Page;

  [[nodiscard]] const report::Palette& palette() const { return is_night ? report::kNight : report::kPaper; }
};
/// What a report of a study is made of, today; it looks into what it is given. Errors of the study file
[[nodiscard]] core::Result<report::Source> reportSource(OpenStudy& open, const core::Record& record,
                                                        const core::Judgement& judgement, const ReportWish& wish);

/// Writes what a study says, by the ending of `path`: a page (.html, .htm, or none), the same as plain text with its
/// chart beside it (.md and NAME.svg), the chart (.svg), everything for scripts (.json), or two tables (.csv):
/// NAME-passes.csv and NAME-findings.csv in place of NAME.csv.
/// .txt is the caption of its picture. For a talk or a phone .svg and .png only.
/// Shapes  `name`: of the study, as tables have it
/// Names nobody, and no home folder, whom the page would not. Errors  OutOfRange for another ending; those of
/// report::checkReport; those of writing
core::Status writeReport(const std::string& path, const report::Source& source, const std::string& name,
                         const ReportWish& wish);

/// Errors  OutOfRange where pictures for a talk or a phone are to go into a file of another ending than .svg and .png
[[nodiscard]] core::Status checkForm(const std::string& path, const ReportWish& wish);

/// The pictures that somebody asked for in place of a page, with the files that they belong into.
[[nodiscard]] std::vector<std::pair<std::string, std::string>> wishedPictures(const std::string& path,
                                                                              const report::Source& source,
                                                                              const ReportWish& wish);

/// Is it drawn by the window's program: .pdf and .png?
[[nodiscard]] bool isDrawnByWindow(const std::string& path);
/// Has the window's program write it, without a display. Errors  Missing where that program is not installed; those of
/// checkForm; what it said
core::Status drawByWindow(const std::string& path, const std::string& study_path, const ReportWish& wish);

/// The files that would be written. Errors  OutOfRange for an ending that nothing is written with
[[nodiscard]] core::Result<std::vector<std::string>> reportFiles(const std::string& path);

}  // namespace session
