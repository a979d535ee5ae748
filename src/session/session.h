#pragma once

#include <QObject>
#include <QTemporaryDir>
#include <QTimer>
#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "bench/bench_connection.h"
#include "bench/sampler.h"
#include "core/findings/findings.h"
#include "core/planning/extension.h"
#include "core/record/noise.h"
#include "core/record/sheet_ledger.h"
#include "core/study/judging.h"
#include "core/study/schedule.h"
#include "session/approvals.h"
#include "session/bench_rest.h"
#include "session/file_lock.h"
#include "session/pass_result.h"
#include "session/played_stretch.h"
#include "session/running_studies.h"
#include "session/second_copies.h"
#include "session/setting_journal.h"
#include "session/user_files.h"
#include "store/benches/bench_register.h"
#include "store/study/study_file.h"

namespace session {

/// What a session is doing. `Settling`: the bench comes to rest after a flip. `Testing`: a level is tested for errors.
/// `Measuring`: what the level yields, before the first and after the last pass of a visit. `AwaitingQuiet`: other
/// programs are to keep still. `AwaitingPlayer`: the next pass is played by hand, and a person is to start it.
/// `AwaitingResult`: a person runs the next pass elsewhere and types its result. `Held`:
/// it cannot go on before a person has dealt with problem().
enum class State {
  Idle,
  SettingLevel,
  Settling,
  Testing,
  Measuring,
  AwaitingQuiet,
  AwaitingPlayer,
  AwaitingResult,
  RunningPass,
  Held,
  Finished
};

/// So long after a player's key the counted stretch begins, in seconds: time to take up the controls.
constexpr double kLeadInS = 5;

/// Runs a study: brings the bench to each level, runs its passes one after the other, files each before anything else
/// happens. It can be stopped and gone on with at any time, also by being killed. A pass that fails is kept and does
/// not stop the rest. Lives in one thread with an event loop.
class Session : public QObject {
  Q_OBJECT
 public:
  /// `bench` outlives the session. Errors of reading the file end up in problem().
  Session(store::StudyFile file, bench::BenchConnection& bench, const UserFiles& files, std::string person);
  ~Session() override;

  [[nodiscard]] const core::Study& study() const { return file_.study(); }
  [[nodiscard]] const std::string& path() const { return file_.path(); }
  [[nodiscard]] const store::BenchRegister& benches() const { return benches_; }
  /// How the bench is called in the register: a stand-in is not the bench that it stands for.
  [[nodiscard]] std::string registeredName() const { return study().bench + (stand_in_ ? " (stand-in)" : ""); }
  [[nodiscard]] const store::Recorded& recorded() const { return recorded_; }
  [[nodiscard]] const std::vector<core::Slot>& schedule() const { return schedule_; }
  [[nodiscard]] State state() const { return state_; }
  [[nodiscard]] const std::optional<core::Error>& problem() const { return problem_; }
  [[nodiscard]] bool isRunning() const {
    return state_ != State::Idle && state_ != State::Held && state_ != State::Finished;
  }
  [[nodiscard]] bool isStopping() const { return is_stopping_; }

  /// The slot in hand, or the next one; nothing when every slot is done.
  [[nodiscard]] std::optional<std::size_t> nextSlot() const;
  /// The slot whose pass is running at this moment; nothing between two passes, also while one is being filed.
  [[nodiscard]] std::optional<std::size_t> slotInHand() const { return slot_in_hand_; }
  /// Seconds since the pass in hand started; 0 when none runs.
  [[nodiscard]] double secondsInPass() const;
  /// What was sampled in the pass in hand so far; nothing when none runs.
  [[nodiscard]] const core::Samples* liveSamples() const { return sampler_ ? &sampler_->samples() : nullptr; }
  /// The counted stretch of the pass in hand; nothing where it is not played by hand.
  [[nodiscard]] const PlayedStretch* playedStretch() const { return stretch_ ? &*stretch_ : nullptr; }
  /// From the durations measured so far, flips included; nothing before the first finished pass.
  [[nodiscard]] std::optional<double> secondsLeft() const;
  /// The same for what is left of each visit, by its number; empty before the first finished pass.
  [[nodiscard]] std::map<int, double> secondsByVisit() const;
  /// The pass in hand's frame log as far as it is written; empty without one.
  [[nodiscard]] std::string liveLogPath() const;

  /// Commands and settings of this study that nobody on this machine has approved.
  [[nodiscard]] std::vector<Act> unapprovedActs() const;
  /// Everything that the study would do here, approved or not.
  [[nodiscard]] std::vector<Act> acts() const { return actsOf(study(), folder(), bench_); }
  /// Takes a person's approval of exactly those. Errors  Io
  core::Status approve();

  /// Replaces question and plan. Errors  NotAllowed while running or once a pass is recorded
  core::Status replaceStudy(const core::Study& study);
  /// Judges otherwise what is measured already; it stays on record, with whether results could be seen by then. Errors
  /// of the study file; NotAllowed while passes run; OutOfRange without a reason, or for a value that is not allowed
  core::Status changeJudging(const core::Judging& judging, const std::string& reason);

  /// Starts, or goes on where it stood. Errors: what problemsOf names first; Missing{program}; NotApproved; Busy
  core::Status start();
  /// The same after a restart, with nobody there: gives up where restart after restart brings no visit.
  core::Status resume();
  void stopAfterPass();
  /// Ends the pass in hand; it is not recorded and will run again.
  void stopNow();
  /// The same because the machine goes down: the sheet stays among those that go on after the restart.
  void suspend();

  /// Asks for another attempt at every slot whose last attempt failed. Errors of the study file
  core::Status repeatFailed();
  /// Opens sealed results before the plan is complete; it stays on record. Errors of the study file; OutOfRange for an
  /// empty reason
  core::Status openEarly(const std::string& reason);
  /// Seconds until the bench counts as at rest, at most; 0 when nobody waits for it.
  [[nodiscard]] double secondsToRest() const { return rest_.secondsLeft(); }
  /// A player is there: starts the workload of the pass that is waited for. Errors  NotAllowed while none is
  core::Status startPlaying();
  /// The player is at the start of the route: counting begins after the lead-in, 0 where they said so without leaving
  /// the program. Errors  NotAllowed while nothing is played
  core::Status beginStretch(double lead_in_s = kLeadInS);
  /// Ends the counted stretch before its time. Errors  NotAllowed while nothing is counted
  core::Status endStretch();
  /// How a pass felt: "smooth", "hitches" or "unusable". Errors of the study file; OutOfRange for another word
  core::Status feel(std::int64_t pass_id, const std::string& word);
  /// The last pass that was played and of which nobody has said yet how it felt.
  [[nodiscard]] std::optional<std::int64_t> passToFeel() const;
  /// What somebody expects the headline metric to change by, in percent; nothing takes it back.
  /// Errors of the study file; NotAllowed from the first counted pass on
  core::Status predict(const std::string& who, std::optional<double> percent);
  /// Leaves the next pass out of the sheet. Errors of the study file; OutOfRange for an empty reason; NotAllowed while
  /// running, or where every pass is in
  core::Status skipNext(const std::string& reason);
  /// One more round at the end of the plan. Errors of the study file; OutOfRange for an empty reason; NotAllowed for
  /// another order than rounds, or once the results can be seen
  core::Status addRound(const std::string& reason);
  /// Leaves a pass out of every result, for one of core::kExclusionCauses. It stays on record, and the act can be
  /// undone. Errors of the study file; Missing for an unknown pass; OutOfRange for another cause
  core::Status exclude(std::int64_t pass_id, const std::string& cause);
  /// Takes it back.
  core::Status include(std::int64_t pass_id);
  /// Planned passes of a case at a level that have no result yet, in run order.
  [[nodiscard]] std::vector<std::size_t> openSlots(std::size_t case_index, core::Side side) const;
  /// Files what a person typed as the result of a planned pass. Where one stands there already it is left out, and the
  /// new one counts. Errors of the study file; Missing{no such pass}; NotAllowed where results are measured, or others
  /// run
  core::Status typeResult(std::size_t slot, core::TypedValue typed);
  /// Keeps a picture as proof of a pass's result. Errors of the study file; Missing, Io for the picture; OutOfRange for
  /// one above 16 MiB
  core::Status keepProof(std::int64_t pass_id, const std::string& picture_path);
  [[nodiscard]] core::Result<std::vector<store::StudyFile::Attachment>> proofs(std::int64_t pass_id) {
    return file_.attachments(pass_id);
  }
  /// Frames that were logged elsewhere.
  struct OutsideFrames {
    std::vector<double> frame_ms;
    core::Samples samples;
    std::string origin;  ///< the file, and how it was read
    std::int64_t started_ms = 0;
  };
  /// Files them as a planned pass. Errors as typeResult; those of core::summarizeFrames
  core::Status importPass(std::size_t slot, OutsideFrames outside);
  /// What this person holds to be the cause of a case's finding; an empty text takes it back. Errors as pin
  core::Status explain(const std::string& case_title, core::Grade grade, const std::string& text);
  /// Lets a finding stand out, with a remark; an empty one takes it back. Errors of the study file; Missing for an
  /// unknown case
  core::Status pin(const std::string& case_title, const std::string& remark);
  /// Ends the study at the planned look at which it stands. Errors of the study file; NotAllowed anywhere else
  core::Status stopAtLook();
  /// The one extension of a finished plan. Errors of the study file; NotAllowed where none is due
  core::Status extendPlan(const core::Extension& extension);
  /// A level was tested elsewhere and made no error. Errors of the study file; OutOfRange for an empty text
  core::Status stateStable(core::Side side, const std::string& how);
  /// Where a copy goes after each pass; empty where nowhere.
  [[nodiscard]] std::string secondFolder() const { return copies_.folderOf(absolutePath()); }
  /// Names that folder and makes the first copy. Errors  Io; those of StudyFile::copyTo
  core::Status setSecondFolder(const std::string& folder);
  /// A remark for the logbook, or on a moment of a pass: "12@3.250" is pass 12 at 3.25 s. Errors of the study file;
  /// OutOfRange for an empty one
  core::Status addNote(const std::string& text, const std::string& moment = {});
  /// What only a person knows about the bench; goes into every capture from now on. Empty takes it back.
  /// Errors of the study file; those of core::statedFact
  core::Status state(const std::string& fact_id, const std::string& value);
  /// Records that a level cannot be reached, or does not hold: a result, with its reason. The rest of the plan stays
  /// open. Errors of the study file; OutOfRange for an empty reason; NotAllowed while running
  core::Status declareUnreachable(core::Side side, const std::string& reason);
  /// A person takes a doubt upon themselves. Errors of the study file; OutOfRange for an empty reason
  core::Status acceptDoubt(const std::string& doubt_id, const std::string& reason);

  [[nodiscard]] core::Result<std::vector<double>> frames(std::int64_t pass_id) { return file_.frames(pass_id); }
  [[nodiscard]] core::Result<core::Samples> samples(std::int64_t pass_id) { return file_.samples(pass_id); }
  [[nodiscard]] core::Result<store::StudyFile::Output> output(std::int64_t pass_id) { return file_.output(pass_id); }

 Q_SIGNALS:
  void stateChanged();
  void passFiled(const core::Pass& pass);

 private:
  [[nodiscard]] std::string folder() const;
  core::Status checkReady() const;
  core::Status begin();
  void takeDesign();
  void setState(State state);
  [[nodiscard]] core::Status checkCase(const std::string& title) const;
  void hold(core::Error problem);
  void goOn();
  void setLevel(const core::Slot& slot);
  [[nodiscard]] bool isFlippedByRestart(const core::Slot& slot) const;
  [[nodiscard]] std::size_t flipsInVain(const core::Slot& slot) const;
  [[nodiscard]] bool isVisitOpen() const;
  void beginVisit(const core::Slot& slot);
  void preparePass(std::size_t slot_index);
  void runPass(std::size_t slot_index);
  void endPass(std::size_t slot_index, const bench::CommandOutcome& outcome);
  void sample();
  void observeStretch();
  [[nodiscard]] FrameRecorder::Span recordedSpan() const;
  [[nodiscard]] std::int64_t nsInPass(double at_s) const;  ///< CLOCK_MONOTONIC of a moment of the pass in hand
  void logRecordedFrames();
  void keepLimits();
  void stopAtLimit();
  [[nodiscard]] bool isStabilityDue() const;
  void testStability();
  [[nodiscard]] bool waitsForPerson(const core::Slot& slot) const;
  [[nodiscard]] const core::Case& caseOf(std::size_t slot) const;
  [[nodiscard]] std::string settingsOf(const core::Case& a_case) const;
  [[nodiscard]] core::Status changePlan(const core::Study& study, const std::string& why);
  void makeSecondCopy();
  void waitForRest();
  [[nodiscard]] double secondsBetweenVisits() const;
  core::Status captureVisit(core::CaptureMoment moment);
  [[nodiscard]] std::string bootHere() const;
  [[nodiscard]] core::Capture captureNow() const;
  [[nodiscard]] std::vector<core::Fact> graphicsDrivers(std::int64_t visit_id, core::CaptureMoment moment) const;
  [[nodiscard]] std::optional<core::CaptureMoment> measurementDue(bool visit_goes_on) const;
  void measure(core::CaptureMoment moment);
  core::Status applySettings(core::Side side);
  core::Status restoreSettings();
  void lookUnderLoad(std::size_t slot_index);
  core::Status closeVisit();
  [[nodiscard]] bool hasCapture(std::int64_t visit_id, core::CaptureMoment moment) const;
  [[nodiscard]] bench::BenchConnection& machine() const { return stand_in_ ? *stand_in_ : bench_; }
  [[nodiscard]] std::string machineRoot() const;
  [[nodiscard]] bool mayRead(const StudyPath& path) const;
  [[nodiscard]] std::string absolutePath() const;
  void filePass(MeasuredPass measured);
  [[nodiscard]] core::Result<core::Visit> visitFor(const core::Slot& slot, std::int64_t started_ms);
  [[nodiscard]] core::Status refuseSecondTime(double value, const std::vector<double>& frame_ms);
  core::Status fileOutside(std::size_t slot, MeasuredPass measured);
  void finishStop();
  [[nodiscard]] bool awaitsPerson() const { return state_ == State::AwaitingPlayer || state_ == State::AwaitingResult; }
  [[nodiscard]] bool isVisitInHand(const core::Slot& slot) const;
  [[nodiscard]] core::SheetLedger ledger() const;
  [[nodiscard]] int attemptsOf(std::size_t slot) const;
  void launch(const bench::CommandOrder& order, std::function<void(const bench::CommandOutcome&)> then);
  core::Status note(const std::string& kind, const std::string& subject, const std::string& text,
                    const std::string& who = {});
  void takeNullStudy();
  void rememberNoise();

  store::StudyFile file_;
  bench::BenchConnection& bench_;
  std::unique_ptr<bench::BenchConnection>
      stand_in_;  ///< the folder that stands for the machine, where the study names one
  Approvals approvals_;
  SettingJournal settings_;
  bool settings_are_on_ = false;  ///< the level's settings were written by this session and not yet put back
  store::BenchRegister benches_;
  RunningStudies running_;
  SecondCopies copies_;
  bool is_suspending_ = false;
  bool is_resumed_ = false;
  std::string root_facts_;
  std::string person_;
  std::vector<core::Slot> schedule_;
  store::Recorded recorded_;
  State state_ = State::Idle;
  std::optional<core::Error> problem_;
  bool is_stopping_ = false;
  bool is_level_confirmed_ = false;  ///< a person started the sheet at this level: it may be taken for set
  std::optional<FileLock> lock_;
  std::unique_ptr<QTemporaryDir> scratch_;
  std::unique_ptr<bench::RunningCommand> command_;
  BenchRest rest_;
  QTimer sampling_;
  QTimer looking_;
  std::unique_ptr<bench::Sampler> sampler_;  ///< of the pass in hand
  std::unique_ptr<FrameRecorder> recorder_;  ///< of the pass in hand, where we record its frames
  std::size_t logged_frames_ = 0;            ///< recorded frames that are in the live log
  std::optional<PlayedStretch> stretch_;     ///< of the pass in hand, where it is played
  QTimer stretch_end_;
  bool is_player_ready_ = false;
  bool is_quiet_ = false;             ///< it was waited for before the pass that comes next
  std::optional<core::Error> limit_;  ///< what stopped the pass in hand, to keep the machine from harm
  std::optional<bench::ProcessorTime> processor_before_;
  double own_before_s_ = 0;
  bool is_copy_current_ = true;          ///< the second folder's, so that a failure is said once
  int failures_in_a_row_ = 0;            ///< since the sheet was started
  std::optional<MeasuredPass> unfiled_;  ///< measured, but the study file could not take it yet
  std::optional<std::size_t> slot_in_hand_;
  std::int64_t pass_started_ms_ = 0;
  std::vector<core::DeviceLoad> loads_;  ///< of the pass in hand
};

}  // namespace session
