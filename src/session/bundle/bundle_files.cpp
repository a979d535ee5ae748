#include "session/bundle/bundle_files.h"

#include <QByteArray>

#include <fmt/format.h>

#include "report/json/findings_json.h"
#include "report/markdown.h"
#include "report/report.h"
#include "report/study_csv.h"
#include "session/study/visit_pictures.h"
#include "store/json/capture_json.h"
#include "store/json/json_text.h"

namespace session {
namespace {

using Take = std::function<core::Status(const std::string&, const std::string&)>;

core::Status takePages(const report::Source& source, const core::Judgement& judgement, const Take& take) {
  const auto page = report::htmlPage(source);
  if (!page) return page.error();
  const auto findings = report::findingsJson(source.study, source.record, judgement);
  constexpr const char* kName = "study";
  const std::pair<const char*, std::string> files[] = {
      {"report.html", *page},
      {"report.md", report::markdownOf(*page, "chart.svg")},
      {"chart.svg", report::chartSvg(source.study, source.judgement, report::kPaper)},
      {"findings.json", store::jsonText(findings, 1) + '\n'},
      {"findings.csv", report::findingsCsv(findings, kName)},
      {"passes.csv", report::passesCsv(source.study, source.record, judgement, kName)}};
  for (const auto& [name, content] : files)
    if (auto taken = take(name, content); !taken) return taken;
  return core::Done{};
}

std::string_view fileWord(core::CaptureMoment moment) {
  switch (moment) {
    case core::CaptureMoment::Start: return "start";
    case core::CaptureMoment::UnderLoad: return "under-load";
    case core::CaptureMoment::End: break;
  }
  return "end";
}

core::Status takeCaptures(const OpenStudy& open, const Take& take) {
  for (const core::VisitCapture& one : open.recorded().captures) {
    const std::string name = fmt::format("captures/visit-{}-{}.json", one.visit_id, fileWord(one.moment));
    if (auto taken = take(name, store::captureToJson(one.capture, 1) + '\n'); !taken) return taken;
  }
  return core::Done{};
}

core::Status takeLogs(OpenStudy& open, const Take& take) {
  for (const core::Pass& pass : open.recorded().passes) {
    const auto printed = open.file().output(pass.id);
    if (!printed) return printed.error();
    for (const auto& [what, text] : {std::pair("output", &printed->output),
                                     {"error-output", &printed->error_output},
                                     {"of-companion", &printed->of_companion}})
      if (!text->empty())
        if (auto taken = take(fmt::format("logs/pass-{}-{}.txt", pass.id, what), *text); !taken) return taken;
  }
  return core::Done{};
}

core::Status takePictures(OpenStudy& open, const Take& take) {
  const auto pictures = keptPictures(open);
  if (!pictures) return pictures.error();
  std::size_t number = 0;
  for (const KeptPicture& one : *pictures) {
    const char* ending = one.media_type == "image/png" ? "png" : "jpg";
    const auto bytes = QByteArray::fromBase64(QByteArray::fromStdString(one.base64)).toStdString();
    if (auto taken = take(fmt::format("pictures/{}.{}", ++number, ending), bytes); !taken) return taken;
  }
  return core::Done{};
}

}  // namespace

core::Status forEachBundleFile(OpenStudy& open, const BundleMaking& making, const Take& take) {
  const core::Record record = store::recordOf(open.recorded());
  const core::Judgement judgement = core::judgementOf(open.study(), record);
  report::Source source{open.study(),           record,         judgement,
                        making.program_version, making.made_on, true};  // who is not to be named has a number already
  if (making.kept.has_pictures) {
    auto kept = keptPictures(open);
    if (!kept) return kept.error();
    for (KeptPicture& one : *kept)
      source.pictures.push_back({std::move(one.caption), std::move(one.media_type), std::move(one.base64)});
  }
  if (auto taken = takePages(source, judgement, take); !taken) return taken;
  if (auto taken = takeCaptures(open, take); !taken) return taken;
  if (auto taken = takeLogs(open, take); !taken) return taken;
  return takePictures(open, take);
}

}  // namespace session
