#include "session/pages/written_report.h"

#include <filesystem>

#include "report/json/findings_json.h"
#include "report/study_csv.h"
#include "session/pages/ending.h"
#include "session/user/output_file.h"
#include "store/json/json_text.h"

namespace session {
namespace {

// NAME-passes.csv of NAME.csv.
std::string beside(const std::string& path, const char* what) {
  std::filesystem::path named(path);
  return named.replace_filename(named.stem().string() + what).string();
}

}  // namespace

core::Result<std::vector<std::string>> reportFiles(const std::string& path) {
  const std::string ending = endingOf(path);
  if (ending == ".csv") return std::vector{beside(path, "-passes.csv"), beside(path, "-findings.csv")};
  for (const char* known : {"", ".html", ".htm", ".svg", ".json"})
    if (ending == known) return std::vector{path};
  return core::Error{core::ErrorKind::OutOfRange, "the report is not written as this", "--out " + path,
                     "Name it .html, .svg, .csv or .json; the window saves a PDF of it"};
}

core::Status writeReport(const std::string& path, const report::Source& source, const std::string& name) {
  const auto files = reportFiles(path);
  if (!files) return files.error();
  const auto page = report::htmlPage(source);  // what enters no page enters nothing else
  if (!page) return page.error();
  const std::string ending = endingOf(path);
  if (ending == ".svg") return writeOutput(path, report::chartSvg(source.study, source.judgement, report::kPaper));
  if (ending != ".csv" && ending != ".json") return writeOutput(path, *page);
  const auto findings = report::findingsJson(source.study, source.record, source.judgement);
  if (ending == ".json") return writeOutput(path, store::jsonText(findings, 1) + '\n');
  if (auto written =
          writeOutput(files->front(), report::passesCsv(source.study, source.record, source.judgement, name));
      !written)
    return written;
  return writeOutput(files->back(), report::findingsCsv(findings, name));
}

}  // namespace session
