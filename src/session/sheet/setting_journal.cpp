#include "session/sheet/setting_journal.h"

#include <QDateTime>
#include <QSaveFile>
#include <algorithm>
#include <fstream>
#include <iterator>
#include <optional>
#include <set>

#include <fmt/format.h>

#include "bench/local_bench.h"
#include "bench/sysfs_text.h"
#include "core/machine/fact.h"
#include "session/user/file_lock.h"
#include "store/json/json_text.h"
#include "store/study/study_file.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;
using nlohmann::json;

// Every file that a path with * fits, in order; a * stands for any text between two slashes.
void expand(const std::string& pattern, std::size_t from, const bench::BenchConnection& bench,
            std::vector<std::string>& found) {
  const auto star = pattern.find('*', from);
  if (star == std::string::npos) {
    if (bench.readFile(pattern)) found.push_back(pattern);
    return;
  }
  const auto begin = pattern.rfind('/', star);
  const auto end = std::min(pattern.find('/', star), pattern.size());
  const std::string folder = pattern.substr(0, begin);
  const auto names = bench.listFolder(folder);
  if (!names) return;
  for (const std::string& name : *names) {
    if (!core::matchesPattern(pattern.substr(begin + 1, end - begin - 1), name)) continue;
    const std::string placed = folder + "/" + name;
    expand(placed + pattern.substr(end), placed.size(), bench, found);
  }
}

// What a setting says now: of a list of choices the one in brackets.
core::Result<std::string> settingOf(const bench::BenchConnection& bench, const std::string& path) {
  const auto text = bench.readFile(path);
  return text ? core::Result<std::string>(bench::trimmed(bench::chosen(bench::trimmed(*text)))) : text.error();
}

// What a person without root is to do. The line is for pasting, so nothing that a shell could read otherwise is in it.
Error byHand(const core::SettingWrite& write, Error denied) {
  constexpr const char* kPlain = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789_-.,:/* ";
  const bool is_plain = (write.value + write.path).find_first_not_of(kPlain) == std::string::npos;
  denied.where = write.path;
  denied.remedy = is_plain ? fmt::format(
                                 "In a terminal: echo '{}' | sudo tee {}. Then go on: what stands there "
                                 "already is not written again. Put it back yourself afterwards",
                                 write.value, write.path)
                           : "Set it as root, then go on; put it back yourself afterwards";
  return denied;
}

json jsonOf(const SettingJournal::Entry& entry) {
  return {{"boot_id", entry.boot_id},
          {"root", entry.root},
          {"study", entry.study},
          {"path", entry.path},
          {"before", entry.before}};
}

std::optional<SettingJournal::Entry> entryFrom(const std::string& line) {
  try {
    const auto object = store::parseJson(line);
    SettingJournal::Entry entry{object.at("boot_id"), object.at("root"), object.at("study"), object.at("path"),
                                object.at("before")};
    const bool is_place = entry.root.empty() || entry.root.starts_with('/');
    return is_place && entry.study.starts_with('/') && core::isSettingPath(entry.path) ? std::optional(entry)
                                                                                       : std::nullopt;
  } catch (const json::exception&) {
    return std::nullopt;
  }
}

core::Status writeBack(bench::BenchConnection& bench, const SettingJournal::Entry& entry) {
  const auto now = settingOf(bench, entry.path);
  if (now && *now == entry.before) return core::Done{};
  return bench.writeFile(entry.path, entry.before);
}

}  // namespace

std::vector<SettingJournal::Entry> SettingJournal::entries() const {
  std::vector<Entry> entries;
  if (!checkOwnFile(path_)) return entries;
  std::ifstream file(path_);
  for (std::string line; std::getline(file, line);)
    // A line that a full disk cut off is left out: its setting was never written.
    if (auto entry = entryFrom(line)) entries.push_back(*std::move(entry));
  return entries;
}

core::Status SettingJournal::keep(const std::vector<Entry>& entries) const {
  if (auto own = makeOwnFile(path_); !own) return own;
  QSaveFile file(QString::fromStdString(path_));  // written beside it, synced, then renamed over it; the rights stay
  std::string text;
  for (const Entry& entry : entries) text += store::jsonText(jsonOf(entry)) + "\n";
  const auto size = static_cast<qint64>(text.size());
  if (file.open(QIODevice::WriteOnly) && file.write(text.data(), size) == size && file.commit()) return core::Done{};
  return Error{ErrorKind::Io, "the record of settings to put back cannot be kept, so nothing is set", path_,
               "Check that you may write there and that the disk is not full"};
}

// Two sheets may set something at once, each of its own: none loses what the other has noted meanwhile.
core::Status SettingJournal::change(const std::function<void(std::vector<Entry>&)>& how) const {
  if (auto own = makeOwnFile(path_); !own) return own;
  const auto lock = FileLock::whileChanging(path_);
  if (!lock)
    return Error{ErrorKind::Busy, "the record of settings to put back is in use, so nothing is set", path_,
                 "Try again once the other sheet has set its level"};
  std::vector<Entry> all = entries();
  how(all);
  return keep(all);
}

core::Status SettingJournal::apply(const std::vector<core::SettingWrite>& writes, bench::BenchConnection& bench,
                                   const std::string& root, const std::string& study) {
  for (const core::SettingWrite& write : writes) {
    std::vector<std::string> paths;
    expand(write.path, 0, bench, paths);
    if (paths.empty())
      return Error{ErrorKind::Missing, "this machine does not offer the setting", write.path,
                   "Correct its path in the question, or set it in the firmware menu"};
    for (const std::string& path : paths) {
      const auto before = settingOf(bench, path);
      if (!before) return before.error();
      if (*before == write.value) continue;
      const Entry entry{bench::bootId(bench), root, study, path, *before};
      if (auto kept = change([&](std::vector<Entry>& all) { all.push_back(entry); }); !kept) return kept;
      if (auto written = bench.writeFile(path, write.value); !written) {
        (void)change([&](std::vector<Entry>& all) {
          if (const auto own = std::find(all.rbegin(), all.rend(), entry); own != all.rend())
            all.erase(std::next(own).base());
        });
        return written.error().kind == ErrorKind::Denied ? byHand(write, written.error()) : written.error();
      }
      const auto now = settingOf(bench, path);
      if (!now || *now != write.value)
        return Error{ErrorKind::OutOfRange,
                     fmt::format("'{}' was written but '{}' reads back", write.value, now ? *now : "nothing"), path,
                     "Something holds it: a firmware lock, or a daemon that manages it"};
    }
  }
  return core::Done{};
}

core::Status SettingJournal::restore(bench::BenchConnection& bench, const std::string& root, const std::string& study) {
  const std::string boot = bench::bootId(bench);
  core::Status first = core::Done{};
  const auto lock = FileLock::whileChanging(path_);  // without it too: a setting must not stay
  std::vector<Entry> all = entries();
  for (std::size_t i = all.size(); i-- > 0;) {
    if (all[i].study != study || all[i].root != root) continue;
    const core::Status done = all[i].boot_id == boot ? writeBack(bench, all[i]) : core::Status(core::Done{});
    if (done)
      all.erase(all.begin() + static_cast<std::ptrdiff_t>(i));
    else if (first)
      first = done;
  }
  const core::Status kept = keep(all);
  return first ? kept : first;
}

std::vector<SettingJournal::Entry> SettingJournal::restoreLeftOvers() {
  std::vector<Entry> restored;
  std::set<std::pair<std::string, std::string>> left;  // studies, and the benches on which they have set something
  for (const Entry& entry : entries()) left.emplace(entry.study, entry.root);
  for (const auto& [study, root] : left) {
    const auto lock = FileLock::acquire(study, "who puts settings back");
    if (!lock && lock.error().kind == ErrorKind::Busy) continue;  // its program is at work
    const std::vector<Entry> before = entries();
    bench::LocalBench bench(root);
    const std::string boot = bench::bootId(bench);
    if (!restore(bench, root, study)) continue;
    for (const Entry& entry : before)
      if (entry.study == study && entry.root == root && entry.boot_id == boot) restored.push_back(entry);
  }
  return restored;
}

std::vector<std::string> putBackLeftOvers(const UserFiles& files, const std::string& person) {
  std::vector<std::string> sentences;
  SettingJournal journal(files.settings);
  for (const SettingJournal::Entry& entry : journal.restoreLeftOvers()) {
    sentences.push_back(
        fmt::format("{} is {} again: the program had died before it could put it back", entry.path, entry.before));
    if (auto file = store::StudyFile::open(entry.study))  // moved or removed meanwhile: then there is no logbook
      (void)file->addEvent({0, QDateTime::currentMSecsSinceEpoch(), person, core::SettingPutBack{sentences.back()}});
  }
  return sentences;
}

}  // namespace session
