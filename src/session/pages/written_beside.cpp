#include "session/pages/written_beside.h"

#include <QDate>
#include <QTemporaryDir>
#include <algorithm>
#include <array>
#include <string_view>

#include "report/beside_page.h"
#include "report/json/beside_json.h"
#include "session/pages/ending.h"
#include "session/pages/written_report.h"
#include "session/user/output_file.h"
#include "store/cabinet/beside_document.h"
#include "store/files/regular_file.h"
#include "store/json/json_text.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;
using nlohmann::ordered_json;

constexpr std::array<std::string_view, 5> kEndings{".html", ".pdf", ".svg", ".csv", ".json"};

// Where it lies decides how its studies are found again.
std::string documentOf(ordered_json answer, const core::BesideOrder& order, const std::filesystem::path& folder,
                       const std::string& path) {
  const std::filesystem::path home = std::filesystem::absolute(path).parent_path();
  for (ordered_json& one : answer["studies"]) {
    const std::filesystem::path study = std::filesystem::absolute(folder / one["path"].get<std::string>());
    const std::filesystem::path seen = study.lexically_relative(home);
    one["path"] = (seen.empty() ? study : seen).string();
  }
  store::addOrder(answer, order);
  return store::jsonText(answer, 1) + '\n';
}

// The window's program reads the studies by themselves: from a document that goes with this.
core::Status drawPdf(const std::string& path, const core::Beside& beside, std::span<const core::StudyAside> studies,
                     const core::BesideOrder& order, const std::filesystem::path& folder) {
  const QTemporaryDir place;
  const std::string document = place.filePath(QStringLiteral("asked")).toStdString() + store::kBesideEnding;
  if (auto written = writeBeside(document, beside, studies, order, folder); !written) return written;
  return drawByWindow(path, document, {});
}

}  // namespace

core::Status checkBesidePath(const std::string& path) {
  if (std::find(kEndings.begin(), kEndings.end(), endingOf(path)) != kEndings.end()) return core::Done{};
  return Error{ErrorKind::OutOfRange, "nothing is written with such an ending", path,
               std::string("Name it NAME") + store::kBesideEnding + ", or with .html, .pdf, .svg, .csv or .json"};
}

core::Status writeBeside(const std::string& path, const core::Beside& beside, std::span<const core::StudyAside> studies,
                         const core::BesideOrder& order, const std::filesystem::path& folder) {
  if (auto fine = checkBesidePath(path); !fine) return fine;
  const report::BesideSource source{beside, studies, order, IRON_LEVER_VERSION,
                                    QDate::currentDate().toString(Qt::ISODate).toStdString()};
  const std::string ending = endingOf(path);
  if (ending == ".html") return writeOutput(path, report::besidePage(source));
  if (ending == ".pdf") return drawPdf(path, beside, studies, order, folder);
  if (ending == ".svg") return writeOutput(path, report::besideSvg(source, report::kPaper));
  if (ending == ".csv") return writeOutput(path, report::besideCsv(source));
  ordered_json answer = report::besideJson(beside, studies, order);
  return writeOutput(path, path.ends_with(store::kBesideEnding) ? documentOf(std::move(answer), order, folder, path)
                                                                : store::jsonText(answer, 1) + '\n');
}

core::Result<core::BesideOrder> readBesideOrder(const std::string& path) {
  constexpr std::uintmax_t kLargest = 16 << 20;
  const auto text = store::contentsOf(path, kLargest);
  if (!text) return text.error();
  return store::besideDocumentFrom(*text, path);
}

}  // namespace session
