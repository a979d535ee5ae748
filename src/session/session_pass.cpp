// The pass's part of a session: starting it, watching it, filing it.
#include <QDateTime>
#include <QFile>
#include <chrono>
#include <fstream>
#include <numeric>
#include <span>

#include <fmt/format.h>

#include "bench/updates.h"
#include "core/machine/variable_kind.h"
#include "session/clock.h"
#include "session/frame_channels.h"
#include "session/session.h"
#include "store/logs/frame_log.h"
#include "store/study/event_kinds.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;
namespace events = store::events;

// While a pass runs the program keeps still: one look a second.
constexpr int kSampleMs = 1000;
// A settings file larger than this is none.
constexpr std::size_t kLargestSettings = 64 * 1024;

core::ExactCommand withLogPath(core::ExactCommand exact, const std::string& path) {
  constexpr std::string_view kPlace = "{log}";
  for (std::string& word : exact.command)
    for (auto at = word.find(kPlace); at != std::string::npos; at = word.find(kPlace, at + path.size()))
      word.replace(at, kPlace.size(), path);
  return exact;
}

}  // namespace

const core::Case& Session::caseOf(std::size_t slot) const { return study().cases[schedule_[slot].case_index]; }

// A pass begins when its player is there, and the bench is quiet where the plan waits for that.
void Session::preparePass(std::size_t slot_index) {
  if (caseOf(slot_index).source == core::ResultSource::ByHand) return setState(State::AwaitingResult);
  if (caseOf(slot_index).is_played && !is_player_ready_) return setState(State::AwaitingPlayer);
  if (study().plan.quiet_wait_s > 0 && !std::exchange(is_quiet_, false)) {
    rest_.untilQuiet(machine(), study().plan, [this](const std::string& remark) {
      if (!remark.empty()) (void)note(events::kNote, "", "Before a pass: " + remark);
      is_quiet_ = true;
      goOn();
    });
    return setState(State::AwaitingQuiet);
  }
  is_player_ready_ = false;
  runPass(slot_index);
}

void Session::runPass(std::size_t slot_index) {
  const core::Slot& slot = schedule_[slot_index];
  const core::Case& a_case = caseOf(slot_index);
  const std::string log_path = liveLogPath();
  QFile::remove(QString::fromStdString(log_path));  // a pass never reads the log of the one before
  if (a_case.is_played) stretch_.emplace();
  sampler_ = std::make_unique<bench::Sampler>(machine());
  processor_before_ = bench::processorTime(machine());
  own_before_s_ = bench::ownProcessorSeconds();
  if (const std::string update = bench::runningUpdate(machine()); !update.empty())
    (void)note(events::kUpdating, std::to_string(slot_index), update);
  pass_started_ms_ = now();
  slot_in_hand_ = slot_index;
  setState(State::RunningPass);
  lookUnderLoad(slot_index);
  sampling_.start(kSampleMs);
  core::ExactCommand exact = withLogPath(core::passCommand(study().level(slot.side), a_case), log_path);
  if (a_case.source == core::ResultSource::Recorded) {
    logged_frames_ = 0;
    recorder_ = std::make_unique<FrameRecorder>();
    for (const auto& variable : recorder_->environment(exact.environment)) exact.environment.push_back(variable);
    looking_.start(recorder_->lookAgainMs());
  }
  launch({exact, folder(), study().plan.time_limit_s, recorder_ != nullptr},
         [this, slot_index](const bench::CommandOutcome& outcome) { endPass(slot_index, outcome); });
}

void Session::endPass(std::size_t slot_index, const bench::CommandOutcome& outcome) {
  sampling_.stop();
  looking_.stop();
  if (sampler_ && sampler_->samples().empty()) sampler_->take(secondsInPass());  // a short pass has one at least
  stretch_end_.stop();
  if (recorder_) recorder_->look();
  observeStretch();
  const auto recorder = std::move(recorder_);
  const auto stretch = stretch_ ? stretch_->stretch(secondsInPass()) : std::nullopt;
  const FrameRecorder::Span span = recordedSpan();
  const std::int64_t began_ns = nsInPass(0);
  const bool is_played = std::exchange(stretch_, std::nullopt).has_value();
  const auto sampler = std::move(sampler_);
  slot_in_hand_.reset();
  if (outcome.ending == bench::Ending::Stopped && !limit_) return finishStop();
  PassOrder order{caseOf(slot_index),
                  study().target_fps,
                  study().plan.time_limit_s,
                  liveLogPath(),
                  recorder.get(),
                  span,
                  is_played,
                  stretch};
  MeasuredPass measured = measurePass(outcome, order);
  core::Pass& pass = measured.pass;
  pass.slot = slot_index;
  pass.attempt = attemptsOf(slot_index) + 1;
  pass.visit_id = recorded_.visits.back().id;
  pass.loads = std::exchange(loads_, {});
  pass.settings = settingsOf(order.a_case);
  const auto processor = bench::processorTime(machine());
  if (processor_before_ && processor)
    pass.others_busy_percent = bench::othersBusyPercent(
        *processor_before_, *processor, outcome.processor_s + bench::ownProcessorSeconds() - own_before_s_);
  if (limit_) pass.failure = limit_->sentence();
  if (sampler) measured.samples = sampler->samples();
  if (recorder && !measured.frame_ms.empty())
    addFrameChannels(measured.samples, *recorder->frames(span, order.a_case.recorded_program), began_ns);
  filePass(std::move(measured));
}

std::string Session::settingsOf(const core::Case& a_case) const {
  if (a_case.settings_file.empty()) return {};
  const StudyPath place = studyPath(a_case.settings_file, folder());
  if (!mayRead(place)) return {};  // it leads elsewhere since it was approved
  const auto text = bench_.readFile(place.full);
  return text && text->size() <= kLargestSettings ? *text : std::string();
}

void Session::sample() {
  if (!sampler_ || !slot_in_hand_) return;
  sampler_->take(secondsInPass());
  if (recorder_) logRecordedFrames();
  keepLimits();
}

// Nobody may be there to smell it: the pass ends at once, and the sheet with it.
void Session::keepLimits() {
  if (limit_) return;
  auto reached = core::limitReached(sampler_->samples());
  if (!reached) return;
  limit_ = Error{ErrorKind::NotAllowed, "stopped to keep the machine from harm: " + *reached,
                 caseOf(*slot_in_hand_).title(), "Let it cool down and look at its cooling before you go on"};
  if (command_) command_->stop();
}

// Back to the baseline where a command can bring it about while the machine runs, then the sheet is held.
void Session::stopAtLimit() {
  const Error limit = *std::exchange(limit_, std::nullopt);
  (void)note(events::kLimit, "", limit.sentence());
  if (auto restored = restoreSettings(); !restored) return hold(restored.error());
  const core::Level& baseline = study().levels[0];
  const core::VariableKind* kind = core::findVariableKind(study().kind);
  const bool is_changed = recorded_.visits.back().side == core::Side::Changed;
  if (!is_changed || baseline.set_command.empty() || (kind && kind->needs_reboot)) return hold(limit);
  setState(State::SettingLevel);
  launch({{{}, baseline.set_command, {}}, folder(), study().plan.time_limit_s},
         [this, limit](const bench::CommandOutcome&) { hold(limit); });
}

void Session::filePass(MeasuredPass measured) {
  auto filed = file_.addPass(measured.pass, measured.frame_ms, measured.samples);
  if (!filed) {
    unfiled_ = std::move(measured);  // a finished pass is not thrown away because a disk is full
    return hold(filed.error());
  }
  filed->output.clear();
  filed->error_output.clear();
  recorded_.passes.push_back(*filed);
  failures_in_a_row_ = filed->status == core::PassStatus::Failed ? failures_in_a_row_ + 1 : 0;
  makeSecondCopy();
  Q_EMIT passFiled(*filed);
  if (!limit_ && failures_in_a_row_ >= study().plan.most_failures_in_a_row)
    return hold({ErrorKind::CommandFailed, fmt::format("{} passes in a row failed", failures_in_a_row_), filed->failure,
                 "Something is wrong with the bench, not with one pass: put it right, then go on"});
  goOn();
}

// A stick that was pulled holds nothing up; that the copy is old is said once, in the logbook.
void Session::makeSecondCopy() {
  const std::string second = secondFolder();
  if (second.empty()) return;
  const core::Status copied = file_.copyTo(copyPath(path(), second));
  if (copied.ok() == is_copy_current_) return;
  is_copy_current_ = copied.ok();
  (void)note(events::kNote, "", copied ? "The second folder gets copies again" : copied.error().sentence());
}

core::Status Session::startPlaying() {
  if (state_ != State::AwaitingPlayer)
    return Error{ErrorKind::NotAllowed, "no pass waits for its player", path(), "Start the sheet first"};
  is_player_ready_ = true;
  setState(State::SettingLevel);
  QMetaObject::invokeMethod(this, &Session::goOn, Qt::QueuedConnection);
  return core::Done{};
}

core::Status Session::beginStretch(double lead_in_s) {
  if (!stretch_ || stretch_->phase(secondsInPass()) != PlayedStretch::Phase::Waiting)
    return Error{ErrorKind::NotAllowed, "nothing waits for its counted stretch", path(), "Start the pass first"};
  const double length_s = caseOf(*slot_in_hand_).played_s;
  stretch_->ready(secondsInPass(), lead_in_s, length_s);
  stretch_end_.start(static_cast<int>(1000 * (lead_in_s + length_s)) + 50);
  Q_EMIT stateChanged();
  return core::Done{};
}

core::Status Session::endStretch() {
  if (!stretch_ || stretch_->phase(secondsInPass()) != PlayedStretch::Phase::Counting)
    return Error{ErrorKind::NotAllowed, "nothing is counted at this moment", path(), "Begin the stretch first"};
  stretch_->end(secondsInPass());
  stretch_end_.start(0);
  return core::Done{};
}

// For whoever follows the pass while it runs; the pass itself is measured from the times.
void Session::logRecordedFrames() {
  const auto* stream = recorder_->counted({}, caseOf(*slot_in_hand_).recorded_program);
  if (stream == nullptr || stream->error || stream->lost > 0 || stream->frames.size() < 2) return;
  if (stream->frames.size() <= logged_frames_) logged_frames_ = 0;  // another stream has come to lead
  std::ofstream log(liveLogPath(), logged_frames_ == 0 ? std::ios::trunc : std::ios::app);
  if (logged_frames_ == 0) log << "frame_ms\n";
  // From the last frame that is in the log on.
  for (const double frame_ms : frameMs(std::span(stream->frames).subspan(logged_frames_)))
    log << fmt::format("{}\n", frame_ms);
  logged_frames_ = stream->frames.size() - 1;
}

// Recorded frames have the clock's own time: where the counted stretch lies is known, not guessed.
FrameRecorder::Span Session::recordedSpan() const {
  const auto played = stretch_ ? stretch_->played(secondsInPass()) : std::nullopt;
  if (!played) return {};
  return {nsInPass(played->from_s), nsInPass(played->to_s)};
}

std::int64_t Session::nsInPass(double at_s) const {
  constexpr double kNsPerS = 1e9;
  const auto now_ns = std::chrono::steady_clock::now().time_since_epoch() / std::chrono::nanoseconds(1);
  return now_ns - static_cast<std::int64_t>((secondsInPass() - at_s) * kNsPerS);
}

void Session::observeStretch() {
  if (!stretch_ || !slot_in_hand_) return;
  if (caseOf(*slot_in_hand_).source != core::ResultSource::FrameLog) return;
  const double at_s = secondsInPass();
  const auto frame_ms = store::readFrameLog(liveLogPath(), caseOf(*slot_in_hand_).field, store::LogEnd::CutOff);
  if (frame_ms) stretch_->observe(at_s, std::accumulate(frame_ms->begin(), frame_ms->end(), 0.0) / 1000);
}

}  // namespace session
