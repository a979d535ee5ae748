#include "session/cabinet/cabinet.h"

#include <sys/stat.h>

#include <algorithm>
#include <filesystem>
#include <map>
#include <set>

#include "core/judgement/judgement.h"
#include "core/machine/comparison.h"
#include "core/record/sheet_ledger.h"
#include "session/cabinet/read_study.h"

namespace session {
namespace {

namespace fs = std::filesystem;
using core::Error;
using core::ErrorKind;
using Entry = store::CabinetIndex::Entry;

/// What a bench is now, by the register.
struct BenchNow {
  core::Capture capture;
  std::int64_t since_ms = 0;
};
struct Benches {
  std::map<std::string, BenchNow> now;
  std::map<std::string, std::string> renamed;  ///< names that are no longer used, and those that are

  [[nodiscard]] const BenchNow* find(const std::string& name) const {
    const auto found = now.find(name);
    return found == now.end() ? nullptr : &found->second;
  }
};

Benches benchesNow(const store::BenchRegister& benches, const store::BenchNames& names) {
  Benches known;
  if (auto renamed = names.all()) known.renamed = *std::move(renamed);
  const auto all = benches.benches();
  if (!all) return known;
  for (const auto& one : *all)
    if (auto latest = benches.latest(one.name); latest && *latest)
      known.now[one.name] = {(*latest)->capture, (*latest)->capture.taken_ms};
  return known;
}

std::string absolute(const std::string& folder) {
  std::error_code code;
  const fs::path canonical = fs::weakly_canonical(folder, code);
  std::string path = code ? folder : canonical.string();
  while (path.size() > 1 && path.back() == '/') path.pop_back();
  return path;
}

// Everything below a folder that is called like a study; links are not followed.
std::vector<std::string> studiesBelow(const std::string& folder, bool& is_away) {
  std::vector<std::string> paths;
  std::error_code code;
  fs::recursive_directory_iterator at(folder, fs::directory_options::skip_permission_denied, code);
  is_away = static_cast<bool>(code);
  for (; !code && at != fs::recursive_directory_iterator(); at.increment(code))
    if (at->path().extension() == ".ironlever" && at->is_regular_file(code)) paths.push_back(at->path().string());
  return paths;
}

bool stamp(const std::string& path, Entry& entry) {
  struct stat status {};
  if (::stat(path.c_str(), &status) != 0) return false;
  entry.path = path;
  entry.size = status.st_size;
  entry.changed_ns = std::int64_t{status.st_mtim.tv_sec} * 1'000'000'000 + status.st_mtim.tv_nsec;
  return true;
}

std::vector<std::string> retiredBy(const ReadStudy& read, const BenchNow& now) {
  if (read.recorded.captures.empty()) return {};
  const core::Capture& then = read.recorded.captures.back().capture;
  if (then.taken_ms >= now.since_ms) return {};
  std::vector<std::string> facts;
  const core::Study& study = read.study;
  const core::VariableKind* kind = core::findVariableKind(study.variable().kind);
  const core::ComparisonOrder order{kind ? kind : core::findVariableKind("other"), study.variable().device,
                                    study.variable().fields, "then", "now"};
  for (const core::Difference& one : core::compareCaptures(then, now.capture, order).must_not)
    facts.push_back(one.field);
  return facts;
}

std::string stateOf(const ReadStudy& read, const core::Judgement& judgement) {
  if (read.recorded.passes.empty()) return "asked";
  return judgement.findings.done.is_first_done && judgement.findings.done.is_second_done ? "complete" : "running";
}

// What people look for: workloads, people, notes, and what the bench is made of.
std::string wordsOf(const ReadStudy& read, const Entry& entry) {
  std::string words =
      entry.sentence + '\n' + entry.bench + '\n' + read.study.bench + '\n' + entry.variable + '\n' + entry.path;
  for (const core::Case& one : read.study.cases) words += '\n' + one.title();
  for (const store::Event& event : read.recorded.events) {
    words += '\n' + event.person;
    if (const auto* note = std::get_if<core::NoteMade>(&event.act)) words += '\n' + note->text;
    if (const auto* observed = std::get_if<core::Observed>(&event.act)) words += '\n' + observed->text;
  }
  if (!read.recorded.captures.empty())
    for (const core::Fact& fact : read.recorded.captures.back().capture.facts)
      for (const char* ending : {"/name", "/model", "/driver", "/product", "/vendor", "/version", "driver_version"})
        if (fact.isRead() && fact.name.ends_with(ending)) words += '\n' + fact.value;
  return words;
}

void fill(Entry& entry, const ReadStudy& read, const Benches& benches) {
  const core::Record record = store::recordOf(read.recorded);
  const core::Judgement judgement = core::judgementOf(read.study, record);
  entry.sentence = judgement.claim.sentence();
  entry.answer = judgement.claim.outcome;
  const auto called = benches.renamed.find(read.study.bench);
  entry.bench = called == benches.renamed.end() ? read.study.bench : called->second;
  entry.variable = read.study.variable().name;
  entry.shape = core::shapeName(read.study.shape);
  entry.state = stateOf(read, judgement);
  entry.identity = read.identity;
  entry.begun_ms = read.recorded.visits.empty() ? 0 : read.recorded.visits.front().started_ms;
  entry.passes = static_cast<std::int64_t>(read.recorded.passes.size());
  for (const core::Pass& pass : read.recorded.passes) entry.at_ms = std::max(entry.at_ms, pass.started_ms);
  for (const core::Doubt& doubt : judgement.doubts) {
    if (doubt.accepted_because) continue;
    (doubt.rank == core::DoubtRank::Stop      ? entry.stops
     : doubt.rank == core::DoubtRank::Caution ? entry.cautions
                                              : entry.notes) += 1;
  }
  if (const BenchNow* now = benches.find(entry.bench)) {
    entry.bench_state = now->since_ms;
    entry.retired_by = retiredBy(read, *now);
  }
  entry.words = wordsOf(read, entry);
}

Entry entryOf(const Entry& stamped, const Benches& benches) {
  Entry entry = stamped;
  const auto read = readStudy(entry.path);
  if (read) {
    fill(entry, *read, benches);
    return entry;
  }
  entry.state = "unreadable";
  entry.sentence = read.error().sentence();
  entry.words = entry.sentence + '\n' + entry.path;
  return entry;
}

bool isUnchanged(const Entry& known, const Entry& now, const Benches& benches) {
  if (known.size != now.size || known.changed_ns != now.changed_ns) return false;
  const BenchNow* bench = benches.find(known.bench);
  return !benches.renamed.contains(known.bench) && (!bench || bench->since_ms == known.bench_state);
}

}  // namespace

core::Status Cabinet::add(const std::string& folder) {
  std::error_code code;
  if (!fs::is_directory(folder, code))
    return Error{ErrorKind::Missing, "there is no such folder", folder, "Name one in which studies lie"};
  return index_.addFolder(absolute(folder));
}

core::Status Cabinet::remove(const std::string& folder) { return index_.removeFolder(absolute(folder)); }

core::Result<std::vector<std::string>> Cabinet::folders() const {
  auto named = index_.folders();
  std::error_code code;
  const std::string own = absolute(own_);
  if (named && fs::is_directory(own, code) && std::find(named->begin(), named->end(), own) == named->end())
    named->insert(named->begin(), own);
  return named;
}

core::Status Cabinet::refresh(const std::stop_token& end) {
  constexpr std::size_t kAtOnce = 200;  // what was read is kept, also where the rest takes long
  const auto named = folders();
  const auto known = index_.known();
  if (!named) return named.error();
  if (!known) return known.error();
  const Benches benches = benchesNow(benches_, names_);
  away_.clear();
  std::set<std::string> there;
  std::vector<Entry> read;
  for (const std::string& folder : *named) {
    bool is_folder_away = false;
    for (const std::string& path : studiesBelow(folder, is_folder_away)) {
      if (end.stop_requested()) return index_.update(read, {});
      Entry now;
      if (!there.insert(path).second || !stamp(path, now)) continue;
      const auto before = known->find(path);
      if (before != known->end() && isUnchanged(before->second, now, benches)) continue;
      read.push_back(entryOf(now, benches));
      if (read.size() < kAtOnce) continue;
      if (auto kept = index_.update(read, {}); !kept) return kept;
      read.clear();
    }
    if (is_folder_away) away_.push_back(folder);
  }
  std::vector<std::string> gone;
  const auto is_away = [&](const std::string& path) {
    return std::any_of(away_.begin(), away_.end(),
                       [&](const std::string& folder) { return path.starts_with(folder + '/'); });
  };
  for (const auto& [path, entry] : *known)
    if (!there.contains(path) && !is_away(path)) gone.push_back(path);
  return index_.update(read, gone);
}

}  // namespace session
