// What a person does at a visit: points ticked, pictures kept, the sheet on paper.
#include <QByteArray>
#include <algorithm>
#include <filesystem>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/commands/with_session.h"
#include "core/values/shown_text.h"
#include "report/paper_sheet.h"
#include "session/study/checklist.h"
#include "session/study/visit_pictures.h"
#include "session/user/output_file.h"
#include "store/json/json_text.h"

namespace cli {
namespace {

int plannedVisitOf(const session::Session& session, std::int64_t id) {
  for (const core::Visit& one : session.recorded().visits)
    if (one.id == id) return one.planned;
  return 0;
}

}  // namespace

core::Status tickCommand(const std::string& study_path, const std::string& point, bool is_taken_back) {
  return withSession(study_path,
                     [&](session::Session& session) { return session::tick(session.open(), point, !is_taken_back); });
}

core::Status printSheetCommand(const std::string& study_path, const std::string& out_path) {
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    if (const auto problems = core::problemsOf(session.study()); !problems.empty()) return problems.front();
    return session::writeOutput(out_path, report::paperSheet(session.study()));
  });
}

core::Status pictureCommand(const std::string& study_path, const std::string& visit, const std::string& picture_path) {
  const auto number = visitNumber(visit);
  if (!number) return number.error();
  return withSession(study_path, [&](session::Session& session) {
    return session::keepVisitPicture(session.open(), *number, picture_path);
  });
}

namespace {

/// A picture of the study's, and what it is of.
struct PictureLine {
  std::optional<int> visit;  ///< none: of what somebody noticed
  std::string name;
  std::string digest;
  std::string person;
};

core::Result<std::vector<PictureLine>> pictureLines(session::Session& session) {
  std::vector<PictureLine> lines;
  const auto all = session.open().file().visitPictures();
  if (!all) return all.error();
  for (const auto& one : *all)
    lines.push_back({plannedVisitOf(session, one.visit_id), one.name, one.digest, one.person});
  for (const store::Event& event : session.recorded().events)
    if (const auto* observed = std::get_if<core::Observed>(&event.act); observed && !observed->picture.empty())
      lines.push_back({{}, observed->text, observed->picture, event.person});
  return lines;
}

// Who took it may have named it anything; beside another of its name it gets its number.
std::string fileNameOf(const PictureLine& picture, std::size_t number, const std::string& bytes) {
  if (!picture.visit)
    return fmt::format("noticed-{}.{}", number, session::mediaTypeOf(bytes) == "image/png" ? "png" : "jpg");
  const std::string name = std::filesystem::path(picture.name).filename().string();
  return fmt::format("visit-{}-{}-{}", *picture.visit, number, name.empty() ? "picture" : name);
}

core::Status writePicture(store::StudyFile& file, const PictureLine& one, std::size_t number,
                          const std::string& folder) {
  const auto bytes = file.pictureBytes(one.digest);
  if (!bytes) return bytes.error();
  const std::string path = (std::filesystem::path(folder) / fileNameOf(one, number, *bytes)).string();
  if (std::filesystem::exists(path))
    return core::Error{core::ErrorKind::NotAllowed, "a file of this name is there already", path,
                       "Choose another folder; it was left as it is"};
  return session::writeOutput(path, *bytes);
}

}  // namespace

core::Status picturesCommand(const std::string& study_path, const std::string& folder, bool as_json,
                             std::ostream& out) {
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    const auto all = pictureLines(session);
    if (!all) return all.error();
    nlohmann::ordered_json list = nlohmann::ordered_json::array();
    for (std::size_t i = 0; i < all->size(); ++i) {
      const PictureLine& one = (*all)[i];
      list.push_back({{"visit", one.visit ? nlohmann::ordered_json(*one.visit) : nullptr},
                      {"name", one.name},
                      {"sha256", one.digest},
                      {"person", one.person}});
      if (!as_json)
        out << fmt::format("{}: {}, {}\n", one.visit ? fmt::format("visit {}", *one.visit) : "noticed",
                           core::shownLine(one.name), core::shownLine(one.person));
      if (folder.empty()) continue;
      if (auto written = writePicture(session.open().file(), one, i + 1, folder); !written) return written;
    }
    if (as_json) out << store::jsonText(list, 1) << '\n';
    if (!as_json && all->empty()) out << "No picture is kept. Add one with: iron-lever-cli picture STUDY VISIT FILE\n";
    return core::Done{};
  });
}

}  // namespace cli
