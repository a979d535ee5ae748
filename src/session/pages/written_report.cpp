#include "session/pages/written_report.h"

#include <QCoreApplication>
#include <QDate>
#include <QFile>
#include <QProcess>
#include <QStringList>
#include <QTemporaryFile>
#include <filesystem>

#include <fmt/format.h>

#include "core/values/personal_text.h"
#include "report/json/findings_json.h"
#include "report/markdown.h"
#include "report/slides.h"
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
  if (ending == ".md") return std::vector{path, beside(path, ".svg")};
  for (const char* known : {"", ".html", ".htm", ".svg", ".json", ".pdf", ".png", ".txt"})
    if (ending == known) return std::vector{path};
  return core::Error{core::ErrorKind::OutOfRange, "the report is not written as this", "--out " + path,
                     "Name it .html, .pdf, .md, .csv, .json, .svg, .png or .txt"};
}

core::Result<report::Source> reportSource(OpenStudy& open, const core::Record& record, const core::Judgement& judgement,
                                          const ReportWish& wish) {
  report::Source source{
      open.study(),     record, judgement, IRON_LEVER_VERSION, QDate::currentDate().toString(Qt::ISODate).toStdString(),
      wish.names_people};
  source.order = wish.order;
  if (!wish.has_pictures) return source;
  auto kept = keptPictures(open);
  if (!kept) return kept.error();
  for (KeptPicture& one : *kept)
    source.pictures.push_back({std::move(one.caption), std::move(one.media_type), std::move(one.base64)});
  return source;
}

bool isDrawnByWindow(const std::string& path) {
  const std::string ending = endingOf(path);
  return ending == ".pdf" || ending == ".png";
}

core::Status drawByWindow(const std::string& path, const std::string& study_path, const ReportWish& wish) {
  if (auto fine = checkForm(path, wish); !fine) return fine;
  const QString program = QCoreApplication::applicationDirPath() + QStringLiteral("/iron-lever");
  if (!QFile::exists(program))
    return core::Error{core::ErrorKind::Missing, "what draws it is not installed: the program with the window",
                       program.toStdString(), "Install it whole, or write .html, .md, .svg, .csv or .json"};
  QStringList words{QStringLiteral("--report"), QString::fromStdString(path)};
  if (wish.names_people) words << QStringLiteral("--name-people");
  if (wish.has_pictures) words << QStringLiteral("--pictures");
  if (wish.is_night) words << QStringLiteral("--theme") << QStringLiteral("night");
  if (wish.form == ReportWish::Form::Talk) words << QStringLiteral("--talk");
  if (wish.form == ReportWish::Form::Phone) words << QStringLiteral("--phone");
  words << QStringLiteral("--parts") << QString::fromStdString(report::namesOf(wish.order.parts));
  QTemporaryFile text;  // words are long, and nobody else's
  if (!wish.order.text.empty()) {
    if (!text.open() || text.write(wish.order.text.data(), static_cast<qint64>(wish.order.text.size())) < 0 ||
        !text.flush())
      return core::Error{core::ErrorKind::Io, "the page's own words could not be handed on",
                         text.fileName().toStdString(), "Free disk space"};
    words << QStringLiteral("--own-words") << text.fileName();
  }
  words << QStringLiteral("--") << QString::fromStdString(study_path);
  QProcess drawing;
  drawing.setProcessChannelMode(QProcess::SeparateChannels);
  drawing.start(program, words, QIODevice::ReadOnly);
  constexpr int kLongest_ms = 300'000;  // hundreds of cases are many pages
  if (drawing.waitForFinished(kLongest_ms) && drawing.exitStatus() == QProcess::NormalExit && drawing.exitCode() == 0)
    return core::Done{};
  const std::string said = drawing.readAllStandardError().trimmed().toStdString();
  return core::Error{core::ErrorKind::Io, said.empty() ? "what draws it ended without a word" : said, path,
                     "Write .html, .md, .svg, .csv or .json meanwhile"};
}

std::vector<std::pair<std::string, std::string>> wishedPictures(const std::string& path, const report::Source& source,
                                                                const ReportWish& wish) {
  if (wish.form == ReportWish::Form::Phone)
    return {{path, report::phoneSvg(source.study, source.judgement, wish.palette())}};
  std::vector<std::pair<std::string, std::string>> pictures;
  const std::string ending = endingOf(path);
  for (std::string& slide : report::talkSvgs(source.study, source.judgement, wish.palette()))
    pictures.emplace_back(beside(path, fmt::format("-{}{}", pictures.size() + 1, ending).c_str()), std::move(slide));
  return pictures;
}

core::Status checkForm(const std::string& path, const ReportWish& wish) {
  if (wish.form == ReportWish::Form::Page || endingOf(path) == ".svg" || endingOf(path) == ".png") return core::Done{};
  return core::Error{core::ErrorKind::OutOfRange, "pictures for a talk or a phone are .png or .svg", path,
                     "Name it .png"};
}

namespace {

core::Status writePictures(const std::string& path, const report::Source& source, const ReportWish& wish) {
  for (const auto& [file, svg] : wishedPictures(path, source, wish)) {
    if (auto free = checkOutput(file); !free) return free;
    if (auto written = writeOutput(file, svg); !written) return written;
  }
  return core::Done{};
}

}  // namespace

core::Status writeReport(const std::string& path, const report::Source& source, const std::string& name,
                         const ReportWish& wish) {
  const auto files = reportFiles(path);
  if (!files) return files.error();
  if (auto fine = report::checkReport(source.judgement); !fine) return fine;  // for every form alike
  if (auto fine = checkForm(path, wish); !fine) return fine;
  if (wish.form != ReportWish::Form::Page) return writePictures(path, source, wish);
  const std::string ending = endingOf(path);
  if (ending == ".svg") return writeOutput(path, report::chartSvg(source.study, source.judgement, wish.palette()));
  if (ending == ".txt") return writeOutput(path, report::captionText(source.study, source.judgement));
  if (ending != ".csv" && ending != ".json") {
    const auto page = report::htmlPage(source, wish.palette());
    if (!page) return page.error();
    if (ending != ".md") return writeOutput(path, *page);
    const std::string& picture = files->back();
    if (auto drawn = writeReport(picture, source, name, wish); !drawn) return drawn;
    return writeOutput(path, report::markdownOf(*page, std::filesystem::path(picture).filename().string()));
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
