#include "session/cabinet/studies_read.h"

#include <algorithm>

#include <fmt/format.h>

#include "core/values/utc_text.h"

namespace session {

core::Result<StudiesRead> StudiesRead::read(const core::BesideOrder& order, const std::filesystem::path& folder,
                                            Names names) {
  StudiesRead all;
  for (const std::string& path : order.studies) {
    auto study = readStudy((folder / path).string());
    if (!study) return study.error();
    Read& one = all.read_.emplace_back();
    one.study = *std::move(study);
    one.record = store::recordOf(one.study.recorded);
    one.judgement = core::judgementOf(one.study.study, one.record);
    const auto known = order.digests.find(path);
    const bool has_changed =
        known != order.digests.end() && !known->second.empty() && known->second != one.study.sha256;
    all.aside_.push_back({path, &one.study.study, &one.record, &one.judgement, path, one.study.sha256, has_changed});
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
