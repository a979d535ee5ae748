#include "session/practice/practice_record.h"

#include <QDateTime>
#include <QFile>
#include <algorithm>
#include <cmath>
#include <filesystem>
#include <fstream>

#include <fmt/format.h>

#include "session/user/file_lock.h"
#include "session/user/user_files.h"
#include "store/json/json_text.h"

namespace session {
namespace {

nlohmann::json jsonOf(const PracticeEntry& entry) {
  return {{"exercise", entry.exercise},
          {"try", entry.truth_sha256},
          {"percent", entry.percent},
          {"lo", entry.lo},
          {"hi", entry.hi},
          {"truth", entry.truth},
          {"holds", entry.holds},
          {"sound", entry.sound},
          {"alone", entry.alone},
          {"thrifty", entry.thrifty},
          {"at_ms", entry.at_ms}};
}

std::optional<PracticeEntry> entryFrom(const std::string& line) {
  const auto object = nlohmann::json::parse(line, nullptr, false);
  if (!object.is_object()) return std::nullopt;
  PracticeEntry entry;
  try {
    object.at("exercise").get_to(entry.exercise);
    object.at("try").get_to(entry.truth_sha256);
    object.at("percent").get_to(entry.percent);
    object.at("lo").get_to(entry.lo);
    object.at("hi").get_to(entry.hi);
    object.at("truth").get_to(entry.truth);
    object.at("holds").get_to(entry.holds);
    object.at("sound").get_to(entry.sound);
    object.at("alone").get_to(entry.alone);
    object.at("thrifty").get_to(entry.thrifty);
    object.at("at_ms").get_to(entry.at_ms);
  } catch (const nlohmann::json::exception&) {
    return std::nullopt;  // a line that was cut short, or of a later version
  }
  return entry;
}

}  // namespace

std::vector<PracticeEntry> PracticeRecord::all() const {
  std::vector<PracticeEntry> entries;
  if (!checkOwnFile(path_)) return entries;
  std::ifstream file(path_);
  for (std::string line; std::getline(file, line);)
    if (auto entry = entryFrom(line)) entries.push_back(*std::move(entry));
  return entries;
}

core::Status PracticeRecord::add(const PracticeEntry& entry) const {
  if (auto own = makeOwnFile(path_); !own) return own;
  const auto lock = FileLock::whileChanging(path_);
  const auto known = all();
  if (std::any_of(known.begin(), known.end(),
                  [&](const PracticeEntry& one) { return one.truth_sha256 == entry.truth_sha256; }))
    return core::Done{};
  std::ofstream file(path_, std::ios::app);
  file << store::jsonText(jsonOf(entry)) << '\n' << std::flush;
  if (file) return core::Done{};
  return core::Error{core::ErrorKind::Io, "what was practised cannot be remembered", path_, "Free some space"};
}

core::Status PracticeRecord::forget() const {
  std::error_code code;
  std::filesystem::remove(path_, code);
  if (!code) return core::Done{};
  return core::Error{core::ErrorKind::Io, code.message(), path_, "Delete the file yourself"};
}

Calibration calibrationOf(const std::vector<PracticeEntry>& entries) {
  Calibration calibration;
  calibration.claims = static_cast<int>(entries.size());
  calibration.held = static_cast<int>(
      std::count_if(entries.begin(), entries.end(), [](const PracticeEntry& one) { return one.holds; }));
  if (entries.empty()) return calibration;
  constexpr double kZ = 1.959963984540054;
  const double n = calibration.claims;
  const double share = calibration.held / n;
  const double middle = (share + kZ * kZ / (2 * n)) / (1 + kZ * kZ / n);
  const double half = kZ / (1 + kZ * kZ / n) * std::sqrt(share * (1 - share) / n + kZ * kZ / (4 * n * n));
  calibration.lo = std::max(0.0, middle - half);
  calibration.hi = std::min(1.0, middle + half);
  return calibration;
}

std::map<std::string, Calibration> calibrationByExercise(const std::vector<PracticeEntry>& entries) {
  std::map<std::string, std::vector<PracticeEntry>> grouped;
  for (const PracticeEntry& entry : entries) grouped[entry.exercise].push_back(entry);
  std::map<std::string, Calibration> by;
  for (const auto& [exercise, group] : grouped) by[exercise] = calibrationOf(group);
  return by;
}

std::string calibrationText(const Calibration& calibration) {
  if (calibration.claims == 0) return "Nothing was practised yet.";
  constexpr double kHundred = 100;
  return fmt::format("Of your {} at 95 % {} true; in the long run {:.0f} to {:.0f} of 100 would be.",
                     calibration.claims == 1 ? "one claim" : fmt::format("{} claims", calibration.claims),
                     calibration.held == 1 ? "1 was" : fmt::format("{} were", calibration.held),
                     kHundred * calibration.lo, kHundred * calibration.hi);
}

core::Result<PracticeOutcome> revealPractice(const std::string& folder, const PracticeRecord& record) {
  auto outcome = practiceOutcome(folder);
  if (!outcome) return outcome;
  const auto about = practiceIn(folder);
  if (!about) return about.error();
  // One that cannot be remembered is shown all the same.
  (void)record.add({about->exercise, about->truth_sha256, outcome->claim.percent, outcome->claim.lo, outcome->claim.hi,
                    outcome->truth_percent, outcome->holds, outcome->sound.points, outcome->alone.points,
                    outcome->thrifty.points, QDateTime::currentMSecsSinceEpoch()});
  return outcome;
}

}  // namespace session
