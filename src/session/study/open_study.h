#pragma once

#include <cstdint>
#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "core/record/sheet_ledger.h"
#include "core/study/schedule.h"
#include "session/user/open_mark.h"
#include "store/study/study_file.h"

namespace session {

/// A study file in work: the file, all that it holds as read, and who works on it. What is filed is on the disk before
/// it is here. Used by one thread.
class OpenStudy {
 public:
  OpenStudy(store::StudyFile file, std::string person)
      : file_(std::move(file)), person_(std::move(person)), mark_(file_.path(), person_) {}

  /// How far the bench's clock is ahead of this machine's, ms: a stand-in has an afternoon of its own.
  void setClockAhead(std::function<std::int64_t()> ahead_ms) { ahead_ms_ = std::move(ahead_ms); }
  /// By the bench's clock: UTC, milliseconds since 1970.
  [[nodiscard]] std::int64_t now() const;

  /// Everything as the file has it now: another program may have gone on with it. Errors of the study file
  core::Status read();

  [[nodiscard]] store::StudyFile& file() { return file_; }
  [[nodiscard]] const store::StudyFile& file() const { return file_; }
  [[nodiscard]] const core::Study& study() const { return file_.study(); }
  [[nodiscard]] const std::string& path() const { return file_.path(); }
  [[nodiscard]] std::string absolutePath() const;
  [[nodiscard]] std::string folder() const;
  [[nodiscard]] const std::string& person() const { return person_; }
  /// Who else has the study open at this moment.
  [[nodiscard]] std::vector<std::string> openElsewhere() const { return mark_.others(); }
  [[nodiscard]] const store::Recorded& recorded() const { return recorded_; }
  [[nodiscard]] const std::vector<core::Slot>& schedule() const { return schedule_; }
  [[nodiscard]] const core::Case& caseOf(std::size_t slot) const { return study().cases[schedule_[slot].case_index]; }
  /// The visit that was begun last on this study's own sheet; null before the first.
  [[nodiscard]] const core::Visit* visit() const;

  /// What is done and what is left of the plan.
  [[nodiscard]] core::SheetLedger ledger() const { return {study(), schedule_, store::recordOf(recorded_)}; }
  [[nodiscard]] std::optional<std::size_t> nextSlot() const { return ledger().next(); }

  /// Enters into the logbook what happened or was decided. `picture`: as StudyFile::addEvent. Errors of the study file
  core::Status note(core::Act act, const std::string& who = {}, const std::string& picture = {});
  /// Another question. Errors  those of StudyFile::replaceStudy
  core::Status replace(const core::Study& study);
  /// The same question otherwise planned or judged. Errors  those of StudyFile::changePlan
  core::Status change(const core::Study& study, core::Act why);
  [[nodiscard]] core::Result<core::Visit> addVisit(const core::Slot& slot, const std::string& boot,
                                                   std::int64_t started_ms);
  core::Status addCapture(core::VisitCapture capture);
  core::Status addMeasurement(core::VisitMeasurement measurement);
  /// `with`: what is decided with it, filed in one with the pass.
  [[nodiscard]] core::Result<core::Pass> addPass(const core::Pass& pass, const std::vector<double>& frame_ms,
                                                 const core::Samples& samples, std::vector<core::Act> with = {});

 private:
  store::StudyFile file_;
  std::string person_;
  OpenMark mark_;
  std::function<std::int64_t()> ahead_ms_;
  store::Recorded recorded_;
  std::vector<core::Slot> schedule_;
};

}  // namespace session
