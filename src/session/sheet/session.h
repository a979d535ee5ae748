#pragma once

#include <QObject>
#include <QTemporaryDir>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "session/programs/launcher.h"
#include "session/sheet/bench_memory.h"
#include "session/sheet/bench_rest.h"
#include "session/sheet/level_setter.h"
#include "session/sheet/pass_run.h"
#include "session/sheet/second_copy.h"
#include "session/sheet/step_search_run.h"
#include "session/sheet/visit_captures.h"
#include "session/study/decisions.h"
#include "session/study/machine.h"
#include "session/study/open_study.h"
#include "session/study/outside_passes.h"
#include "session/study/state.h"
#include "session/user/background.h"
#include "session/user/file_lock.h"
#include "session/user/study_list.h"
#include "session/user/user_files.h"
#include "store/benches/bench_register.h"

namespace session {

/// Runs the sheet of a study: brings the bench to each level, runs its passes one after the other, files each before
/// anything else happens. It can be stopped and gone on with at any time, also by being killed. A pass that fails is
/// kept and does not stop the rest. Each of its parts does one thing; it says which comes next. Lives in one thread
/// with an event loop; what may take long happens beside it.
class Session final : public QObject {
  Q_OBJECT
 public:
  /// `bench` outlives the session. Errors of reading the file end up in problem().
  Session(store::StudyFile file, bench::BenchConnection& bench, const UserFiles& files, std::string person);
  ~Session() override;

  [[nodiscard]] OpenStudy& open() { return open_; }
  [[nodiscard]] const OpenStudy& open() const { return open_; }
  [[nodiscard]] const core::Study& study() const { return open_.study(); }
  [[nodiscard]] const store::Recorded& recorded() const { return open_.recorded(); }
  [[nodiscard]] const Machine& machine() const { return machine_; }
  [[nodiscard]] const store::BenchRegister& benches() const { return benches_; }
  [[nodiscard]] Decisions& decisions() { return decisions_; }
  [[nodiscard]] OutsidePasses& outside() { return outside_; }
  [[nodiscard]] SecondCopy& secondCopy() { return copy_; }
  [[nodiscard]] StepSearchRun& search() { return search_; }
  /// The pass in hand.
  [[nodiscard]] PassRun& pass() { return pass_; }
  [[nodiscard]] const PassRun& pass() const { return pass_; }

  [[nodiscard]] State state() const { return state_; }
  [[nodiscard]] const std::optional<core::Error>& problem() const { return problem_; }
  [[nodiscard]] bool isRunning() const { return session::isRunning(state_); }
  [[nodiscard]] bool isStopping() const { return is_stopping_; }
  /// The slot in hand, or the next one; nothing when every slot is done.
  [[nodiscard]] std::optional<std::size_t> nextSlot() const { return open_.nextSlot(); }
  /// Seconds until the bench counts as at rest, at most; 0 when nobody waits for it.
  [[nodiscard]] double secondsToRest() const { return rest_.secondsLeft(); }

  /// Takes a person's approval of what the study would do here. Errors  Io
  core::Status approve();
  /// Replaces question and plan. Errors  NotAllowed while running or once a pass is recorded
  core::Status replaceStudy(const core::Study& study);

  /// Starts, or goes on where it stood. Errors: what problemsOf names first; Missing{program}; NotApproved; Busy
  core::Status start();
  /// The same after a restart, with nobody there: gives up where restart after restart brings no visit.
  core::Status resume();
  /// Ends a sheet that runs, at once or once the step in hand has ended (stateChanged() tells); what is filed stays.
  /// One that does not run stays as it is.
  void stop(Stop how);
  /// A player is there: starts the workload of the pass that is waited for. Errors  NotAllowed while none is
  core::Status startPlaying();

 Q_SIGNALS:
  void stateChanged();
  void passFiled(const core::Pass& pass);

 private:
  core::Status checkReady() const;
  core::Status checkApproved() const;
  [[nodiscard]] std::string benchName() const;
  core::Status begin();
  void setState(State state);
  void rest();
  void hold(core::Error problem);
  void goOn();
  void goOnAfter(const std::optional<core::Status>& step);
  void setLevel(const core::Slot& slot);
  void beginVisit(const core::Slot& slot);
  void holdAtLevel(const std::string& contradiction);
  void askForLevel(const core::Slot& slot);
  void waitForRest();
  void testStability();
  void measure(core::CaptureMoment moment);
  void preparePass(std::size_t slot);
  void filePass(MeasuredPass measured);
  void stopAtLimit();

  OpenStudy open_;
  Machine machine_;
  Launcher launcher_;
  store::BenchRegister benches_;
  StudyList running_;
  VisitCaptures captures_;
  LevelSetter level_;
  PassRun pass_;
  SecondCopy copy_;
  Decisions decisions_;
  OutsidePasses outside_;
  StepSearchRun search_;
  BenchRest rest_;
  BenchMemory memory_;
  State state_ = State::Idle;
  std::optional<core::Error> problem_;
  bool is_stopping_ = false;
  bool is_suspending_ = false;
  bool is_resumed_ = false;
  bool is_level_confirmed_ = false;  ///< a person started the sheet at this level: it may be taken for set
  bool is_player_ready_ = false;
  bool is_quiet_ = false;                ///< it was waited for before the pass that comes next
  int failures_in_a_row_ = 0;            ///< since the sheet was started
  std::optional<MeasuredPass> unfiled_;  ///< measured, but the study file could not take it yet
  std::optional<FileLock> lock_;
  std::optional<NameLock> bench_lock_;  ///< of the bench itself, while a sheet of this user runs on it
  std::string user_files_;              ///< where this user's files lie: another user's benches are others
  std::unique_ptr<QTemporaryDir> scratch_;
  Background background_;  ///< the last, so that it ends before anything else
};

}  // namespace session
