#include "core/beside/study_aside.h"

#include <algorithm>
#include <map>
#include <set>
#include <tuple>

#include <fmt/format.h>

#include "core/machine/fact_title.h"
#include "core/values/shown_text.h"

namespace core {
namespace {

using PassSign = std::tuple<std::int64_t, double, double>;

std::set<PassSign> signsOf(const Record& record) {
  std::set<PassSign> signs;
  for (const Pass& pass : record.passes)
    if (pass.status == PassStatus::Finished && pass.value) signs.emplace(pass.started_ms, pass.duration_s, *pass.value);
  return signs;
}

// What somebody set, plugged in or installed. Where a device sits, and what a boot numbers, is no difference of its
// own.
bool isTold(const Fact& fact) { return fact.kind == FactKind::Configuration && fact.isRead(); }

}  // namespace

std::int64_t StudyAside::lastPassAt() const {
  std::int64_t at = 0;
  for (const Pass& pass : record->passes) at = std::max(at, pass.started_ms);
  return at;
}

std::vector<std::string> sinceLaid(const StudyAside& one) {
  std::vector<std::string> sentences;
  if (!one.moved_from.empty())
    sentences.push_back(fmt::format("{} no longer lies at {}: it was found by what it is, at {}", one.name,
                                    shownLine(one.moved_from), shownLine(one.path)));
  if (one.has_changed) sentences.push_back(one.name + " is not what it was when it was laid beside the others");
  return sentences;
}

std::optional<std::pair<std::size_t, std::size_t>> sharingPasses(std::span<const StudyAside> studies) {
  std::map<PassSign, std::size_t> seen;
  for (std::size_t i = 0; i < studies.size(); ++i)
    for (const PassSign& sign : signsOf(*studies[i].record)) {
      const auto [known, is_new] = seen.emplace(sign, i);
      if (!is_new && known->second != i) return std::pair(known->second, i);
    }
  return std::nullopt;
}

const Capture* captureOf(const StudyAside& one) {
  const Capture* first = nullptr;
  for (const VisitCapture& capture : one.record->captures) {
    if (capture.moment != CaptureMoment::Start) continue;
    if (!first) first = &capture.capture;
    for (const Visit& visit : one.record->visits)
      if (visit.id == capture.visit_id && visit.configuration == one.study->baseline()) return &capture.capture;
  }
  return first;
}

std::vector<FactAside> differencesBetween(std::span<const StudyAside> studies) {
  std::map<std::string, std::vector<std::string>> values;
  for (std::size_t i = 0; i < studies.size(); ++i) {
    const Capture* capture = captureOf(studies[i]);
    if (!capture) return {};
    for (const Fact& fact : capture->facts)
      if (isTold(fact)) {
        auto& of_fact = values[fact.name];
        of_fact.resize(studies.size());
        of_fact[i] = fact.shown();
      }
  }
  std::vector<FactAside> all;
  for (auto& [name, of_fact] : values)
    if (std::adjacent_find(of_fact.begin(), of_fact.end(), std::not_equal_to<>()) != of_fact.end())
      all.push_back({name, factTitle(name), std::move(of_fact)});
  return all;
}

}  // namespace core
