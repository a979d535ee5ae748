#pragma once

#include <cstdint>
#include <string>
#include <string_view>
#include <unordered_map>

#include "core/study/schedule.h"
#include "store/study/database.h"
#include "store/study/study_file.h"

namespace store {

/// A study file says that the file is damaged: what, and where.
[[nodiscard]] core::Error damagedRow(const std::string& path, const std::string& what);

/// Turns rows of a study into what they say. Every index, choice, size and count is checked here, once, before anybody
/// uses it. A pass that does not hold together is marked as damaged and left out; anything else that does not is a
/// reason to refuse the file. Errors of all functions: DamagedFile, naming the row
class StudyRows {
 public:
  StudyRows(const core::Study& study, std::string path)
      : study_(study), path_(std::move(path)), schedule_(core::scheduleOf(study)) {
    for (const core::Slot& slot : schedule_) planned_visits_.try_emplace(slot.visit, slot);
    grantRoom();
  }

  /// Reads all rows of all tables, by their sums and by what they say.
  [[nodiscard]] core::Result<Recorded> readAll(Database& database);

 private:
  void grantRoom();
  using Take = core::Status (StudyRows::*)(const Statement&);
  core::Status readTable(Database& database, const std::string& table, Take take);
  // Columns as summedColumns lists them, behind whether the sum holds.
  core::Status takeVisit(const Statement& row);
  core::Status takePass(const Statement& row);
  core::Status takeResult(const Statement& row);
  core::Status takePossible(const Statement& row);
  core::Result<core::Pass*> passOf(std::int64_t id, const char* what);
  void leaveOutPassesWithoutResults();
  core::Status takeEvent(const Statement& row);
  core::Status takeCapture(const Statement& row);
  core::Status takeMeasurement(const Statement& row);
  core::Status readPass(const Statement& row, core::Pass& pass) const;
  core::Status readFrames(const Statement& row, core::Pass& pass) const;
  core::Result<core::CaptureMoment> momentOf(std::int64_t moment, const char* table) const;
  /// What an act is about that is not there; nullptr where all of it is.
  [[nodiscard]] const char* missingOf(const core::Act& act) const;
  [[nodiscard]] bool hasVisit(std::int64_t id) const;
  core::Status takeRoom(std::int64_t& left, std::string_view packed) const;
  [[nodiscard]] core::Error damaged(const std::string& what) const { return damagedRow(path_, what); }

  const core::Study& study_;
  std::string path_;
  std::vector<core::Slot> schedule_;
  std::unordered_map<std::int64_t, core::Slot> planned_visits_;  ///< the first slot of each
  /// What the file may still unpack to, bytes: a little, and so many times what it takes itself, for a stranger's could
  /// ask for all the memory, or all the time, that there is.
  mutable std::int64_t texts_left_ = 0;
  mutable std::int64_t frames_left_ = 0;
  Recorded recorded_;
};

}  // namespace store
