#include "session/cabinet/studies_read.h"

#include <algorithm>

#include <fmt/format.h>

#include "core/values/utc_text.h"
#include "session/cabinet/cabinet.h"
#include "session/user/user_files.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;

bool isIt(const ReadStudy& study, const std::string& identity) {
  return identity.empty() || study.identity == identity;
}

// Where it lay, or else where it was seen last.
core::Result<ReadStudy> readWherever(const std::string& path, const std::string& identity) {
  auto there = readStudy(path);
  if ((there && isIt(*there, identity)) || identity.empty()) return there;
  if (const auto files = UserFiles::ofThisUser()) {
    const std::string elsewhere = Cabinet(*files).pathOf(identity);
    if (auto moved = elsewhere.empty() || elsewhere == path ? there : readStudy(elsewhere);
        moved && isIt(*moved, identity))
      return moved;
  }
  if (!there) return there;
  return Error{ErrorKind::NotAllowed, "another study lies there than the one that was laid beside the others", path,
               "Name the folder in which it lies now to the cabinet: iron-lever-cli cabinet --add FOLDER"};
}

}  // namespace

core::Result<StudiesRead> StudiesRead::read(const core::BesideOrder& order, const std::filesystem::path& folder,
                                            Names names) {
  StudiesRead all;
  const auto of = [](const std::map<std::string, std::string>& known, const std::string& path) {
    const auto found = known.find(path);
    return found == known.end() ? std::string() : found->second;
  };
  for (const std::string& path : order.studies) {
    const std::string asked = (folder / path).string();
    auto study = readWherever(asked, of(order.identities, path));
    if (!study) return study.error();
    const bool has_moved = study->path != asked;
    Read& one = all.read_.emplace_back();
    one.study = *std::move(study);
    one.record = store::recordOf(one.study.recorded);
    one.judgement = core::judgementOf(one.study.study, one.record);
    const std::string digest = of(order.digests, path);
    const bool has_changed = !digest.empty() && digest != one.study.sha256;
    const std::string now = has_moved ? one.study.path : path;
    all.aside_.push_back({now, &one.study.study, &one.record, &one.judgement, now, one.study.sha256, has_changed,
                          one.study.identity, has_moved ? path : std::string()});
  }
  if (names == Names::Short) all.callThemShort();
  return all;
}

// By their day where that tells them apart, else by bench or file besides.
void StudiesRead::callThemShort() {
  const auto day = [](const core::StudyAside& one) {
    return one.lastPassAt() > 0 ? core::utcDayText(one.lastPassAt()) : std::string("not measured");
  };
  const auto bench = [&](const core::StudyAside& one) { return fmt::format("{}, {}", one.study->bench, day(one)); };
  const auto file = [](const core::StudyAside& one) { return std::filesystem::path(one.path).stem().string(); };
  const auto try_names = [&](const auto& name_of) {
    for (core::StudyAside& one : aside_) one.name = name_of(one);
    std::vector<std::string> names;
    for (const core::StudyAside& one : aside_) names.push_back(one.name);
    std::sort(names.begin(), names.end());
    return std::adjacent_find(names.begin(), names.end()) == names.end();
  };
  if (try_names(day) || try_names(bench) || try_names(file)) return;
  for (core::StudyAside& one : aside_) one.name = one.path;
}

}  // namespace session
