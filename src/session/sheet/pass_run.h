#pragma once

#include <QElapsedTimer>
#include <QObject>
#include <QTimer>
#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "bench/processor_time.h"
#include "bench/sampler.h"
#include "session/programs/companion_run.h"
#include "session/programs/launcher.h"
#include "session/programs/pass_result.h"
#include "session/programs/played_stretch.h"
#include "session/sheet/visit_captures.h"
#include "session/study/machine.h"
#include "session/study/open_study.h"

namespace session {

/// So long after a player's key the counted stretch begins, in seconds: time to take up the controls.
constexpr double kLeadInS = 5;

/// Runs one pass: starts its workload, samples the bench, records frames, counts a player's stretch, ends it where the
/// machine comes to harm, and measures what came out.
class PassRun final : public QObject {
  Q_OBJECT
 public:
  /// Nothing where a person stopped it.
  using Then = std::function<void(std::optional<MeasuredPass>)>;

  /// All outlive it.
  PassRun(OpenStudy& open, Machine& machine, Launcher& launcher, VisitCaptures& captures);

  /// Where the workload is to write its frame log.
  void setLogPath(std::string path) { log_path_ = std::move(path); }
  /// The pass in hand's frame log as far as it is written; empty without one.
  [[nodiscard]] const std::string& logPath() const { return log_path_; }
  /// Where a companion finds what is its own.
  void setScratch(const std::string& folder) { companion_.setScratch(folder); }
  /// Of the visit in hand.
  void start(std::size_t slot, Then then);
  /// Of a pass whose companion has its head start; a workload that runs is its launcher's to stop.
  void stop();

  /// The slot whose pass is running at this moment; nothing between two passes, also while one is being filed.
  [[nodiscard]] std::optional<std::size_t> slotInHand() const { return slot_in_hand_; }
  /// The last pass that was played and of which nobody has said yet how it felt; nothing while another is in hand.
  [[nodiscard]] std::optional<std::int64_t> passToFeel() const;
  /// Seconds since the pass in hand started; 0 when none runs.
  [[nodiscard]] double secondsInPass() const;
  /// What was sampled in it so far; nothing when none runs.
  [[nodiscard]] const core::Samples* samples() const { return sampler_ ? &sampler_->samples() : nullptr; }
  /// Its counted stretch; nothing where it is not played by hand.
  [[nodiscard]] const PlayedStretch* stretch() const { return stretch_ ? &*stretch_ : nullptr; }
  /// What stopped a pass, to keep the machine from harm, until it is taken.
  [[nodiscard]] const std::optional<core::Error>& limit() const { return limit_; }
  [[nodiscard]] std::optional<core::Error> takeLimit() { return std::exchange(limit_, std::nullopt); }

  /// The player is at the start of the route: counting begins after the lead-in, 0 where they said so without leaving
  /// the program. Errors  NotAllowed while nothing is played
  core::Status beginStretch(double lead_in_s = kLeadInS);
  /// Ends the counted stretch before its time. Errors  NotAllowed while nothing is counted
  core::Status endStretch();

 Q_SIGNALS:
  /// The stretch has begun.
  void changed();

 private:
  void begin(std::size_t slot);
  void spoil(std::size_t slot);
  void end(std::size_t slot, const bench::CommandOutcome& outcome);
  void endCompanion(MeasuredPass measured, const Then& then);
  void sample();
  void keepLimits();
  void lookUnderLoad(std::size_t slot);
  void observeStretch();
  void logRecordedFrames();
  [[nodiscard]] FrameRecorder::Span recordedSpan() const;
  [[nodiscard]] std::int64_t nsInPass(double at_s) const;  ///< CLOCK_MONOTONIC of a moment of the pass in hand
  [[nodiscard]] std::string settingsOf(const core::Case& a_case) const;

  OpenStudy& open_;
  Machine& machine_;
  Launcher& launcher_;
  VisitCaptures& captures_;
  CompanionRun companion_;
  double companion_before_s_ = 0;  ///< processor time that it had used when the workload started
  std::string log_path_;
  Then then_;
  std::optional<std::size_t> slot_in_hand_;
  std::optional<ResultPlaces> places_;  ///< where its numbers will stand
  std::int64_t started_ms_ = 0;         ///< by the bench's clock
  std::int64_t ahead_at_start_ms_ = 0;
  QElapsedTimer since_start_;  ///< not valid before the workload starts
  QTimer sampling_;
  std::unique_ptr<bench::Sampler> sampler_;
  std::optional<bench::ProcessorTime> processor_before_;
  double own_before_s_ = 0;
  std::vector<core::DeviceLoad> loads_;
  QTimer looking_;
  std::unique_ptr<FrameRecorder> recorder_;  ///< where we record its frames
  std::size_t logged_frames_ = 0;            ///< recorded frames that are in the live log
  std::optional<PlayedStretch> stretch_;     ///< where it is played
  QTimer stretch_end_;
  std::optional<core::Error> limit_;
};

}  // namespace session
