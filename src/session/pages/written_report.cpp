#include "session/pages/written_report.h"

#include <filesystem>

#include "core/values/personal_text.h"
#include "report/json/findings_json.h"
#include "report/study_csv.h"
#include "session/pages/ending.h"
#include "session/study/visit_pictures.h"
#include "session/user/output_file.h"
#include "store/json/json_text.h"

namespace session {
namespace {

// NAME-passes.csv of NAME.csv.
std::string beside(const std::string& path, const char* what) {
  std::filesystem::path named(path);
  return named.replace_filename(named.stem().string() + what).string();
}

// As a page does with every text on its way in.
void hideHomes(nlohmann::ordered_json& value) {
  if (value.is_string()) value = core::withoutHomes(value.get<std::string>());
  if (value.is_structured())
    for (auto& one : value) hideHomes(one);
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

core::Status addPictures(report::Source& source, OpenStudy& open) {
  auto kept = keptPictures(open);
  if (!kept) return kept.error();
  for (KeptPicture& one : *kept)
    source.pictures.push_back({std::move(one.caption), std::move(one.media_type), std::move(one.base64)});
  return core::Done{};
}

core::Status writeReport(const std::string& path, const report::Source& source, const std::string& name) {
  const auto files = reportFiles(path);
  if (!files) return files.error();
  if (auto fine = report::checkReport(source.judgement); !fine) return fine;  // for every form alike
  const std::string ending = endingOf(path);
  if (ending == ".svg") return writeOutput(path, report::chartSvg(source.study, source.judgement, report::kPaper));
  if (ending != ".csv" && ending != ".json") {
    const auto page = report::htmlPage(source);
    return page ? writeOutput(path, *page) : page.error();
  }
  const core::Judgement judgement = source.names_people ? source.judgement : report::withoutNames(source.judgement);
  auto findings = report::findingsJson(source.study, source.record, judgement);
  hideHomes(findings);
  if (ending == ".json") return writeOutput(path, store::jsonText(findings, 1) + '\n');
  if (auto written = writeOutput(files->front(), report::passesCsv(source.study, source.record, judgement, name));
      !written)
    return written;
  return writeOutput(files->back(), report::findingsCsv(findings, name));
}

}  // namespace session
