#include "session/sheet/pass_run.h"

#include <QFile>
#include <algorithm>
#include <chrono>
#include <fstream>
#include <numeric>
#include <span>

#include <fmt/format.h>

#include "bench/graphics_load.h"
#include "bench/updates.h"
#include "core/machine/variable_kind.h"
#include "session/programs/frame_channels.h"
#include "session/programs/log_place.h"
#include "store/logs/frame_log.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;

// While a pass runs the program keeps still: one look a second.
constexpr int kSampleMs = 1000;
// So long after its start a pass is surely under way, and a link no longer sinks.
constexpr int kUnderLoadMs = 1500;
// A settings file larger than this is none.
constexpr std::size_t kLargestSettings = 64 * 1024;

// Also of a pass whose command had ended by itself before.
void fail(core::Pass& pass, const Error& why) {
  pass.failure = why.sentence();
  pass.status = core::PassStatus::Failed;
  pass.value.reset();
  pass.does_not_run.clear();
}

}  // namespace

PassRun::PassRun(OpenStudy& open, Machine& machine, Launcher& launcher, VisitCaptures& captures)
    : open_(open), machine_(machine), launcher_(launcher), captures_(captures), companion_(machine.own()) {
  connect(&sampling_, &QTimer::timeout, this, &PassRun::sample);
  connect(&looking_, &QTimer::timeout, this, [this] {
    if (!recorder_) return;
    recorder_->look();
    looking_.setInterval(recorder_->lookAgainMs());
  });
  stretch_end_.setSingleShot(true);
  stretch_end_.setTimerType(Qt::PreciseTimer);  // the usual one may be early by a twentieth
  connect(&stretch_end_, &QTimer::timeout, this, [this] {
    observeStretch();
    launcher_.askToEnd();
  });
}

std::optional<std::int64_t> PassRun::passToFeel() const {
  const auto& recorded = open_.recorded();
  if (slot_in_hand_ || recorded.passes.empty()) return std::nullopt;
  const core::Pass& last = recorded.passes.back();
  if (!open_.caseOf(last.slot).is_played || last.status != core::PassStatus::Finished) return std::nullopt;
  const bool is_told = std::any_of(recorded.events.begin(), recorded.events.end(), [&](const store::Event& event) {
    const auto* felt = std::get_if<core::PassFelt>(&event.act);
    return felt != nullptr && felt->pass_id == last.id;
  });
  return is_told ? std::nullopt : std::optional(last.id);
}

double PassRun::secondsInPass() const {
  return slot_in_hand_ && since_start_.isValid() ? static_cast<double>(since_start_.elapsed()) / 1000.0 : 0;
}

void PassRun::start(std::size_t slot_index, Then then) {
  const core::Case& a_case = open_.caseOf(slot_index);
  slot_in_hand_ = slot_index;
  then_ = std::move(then);
  since_start_.invalidate();
  companion_.forget();
  processor_before_.reset();
  if (!a_case.companion.isAsked()) return begin(slot_index);
  const auto setup = core::setupOf(open_.study(), open_.schedule()[slot_index].configuration);
  companion_.start(
      a_case, setup, open_.folder(), [this, slot_index] { begin(slot_index); },
      [this, slot_index] { spoil(slot_index); });
}

void PassRun::stop() {
  if (!companion_.isStarting()) return;
  slot_in_hand_.reset();
  companion_.end([then = std::exchange(then_, {})] { then(std::nullopt); });
}

// Its companion is gone: nothing that this pass could still yield is what was asked.
void PassRun::spoil(std::size_t slot_index) {
  if (since_start_.isValid()) return launcher_.stop();
  started_ms_ = open_.now();
  bench::CommandOutcome not_started;
  not_started.ending = bench::Ending::Stopped;
  not_started.started_ms = started_ms_ - machine_.clockAheadMs();
  ahead_at_start_ms_ = machine_.clockAheadMs();
  end(slot_index, not_started);
}

void PassRun::begin(std::size_t slot_index) {
  const core::Slot& slot = open_.schedule()[slot_index];
  const core::Case& a_case = open_.caseOf(slot_index);
  QFile::remove(QString::fromStdString(log_path_));  // a pass never reads the log of the one before
  places_.emplace(a_case, [this](const std::string& path) {
    const StudyPath place = studyPath(path, open_.folder());
    return machine_.mayRead(place) ? place.full : std::string();
  });
  if (a_case.is_played) stretch_.emplace();
  sampler_ = std::make_unique<bench::Sampler>(machine_.bench());
  if (a_case.companion.isAsked())
    sampler_->addProcessorTimeOf("companion", [this] { return companion_.processorSeconds(); });
  if (!machine_.standIn()) sampler_->addGraphicsUseOf([this] { return launcher_.processes(); });
  companion_before_s_ = companion_.processorSeconds();
  processor_before_ = bench::processorTime(machine_.bench());
  own_before_s_ = bench::ownProcessorSeconds();
  if (const std::string update = bench::runningUpdate(machine_.bench()); !update.empty())
    (void)open_.note(core::UpdateSeen{slot_index, update});
  started_ms_ = open_.now();
  ahead_at_start_ms_ = machine_.clockAheadMs();
  since_start_.start();
  lookUnderLoad(slot_index);
  sampling_.start(kSampleMs);
  core::ExactCommand exact =
      withLogPath(core::passCommand(core::setupOf(open_.study(), slot.configuration), a_case), log_path_);
  if (a_case.source == core::ResultSource::Recorded) {
    logged_frames_ = 0;
    recorder_ = std::make_unique<FrameRecorder>();
    for (const auto& variable : recorder_->environment(exact.environment)) exact.environment.push_back(variable);
    looking_.start(recorder_->lookAgainMs());
  }
  launcher_.launch({exact, open_.folder(), open_.study().plan.time_limit_s, recorder_ != nullptr},
                   [this, slot_index](const bench::CommandOutcome& outcome) { end(slot_index, outcome); });
}

void PassRun::end(std::size_t slot_index, const bench::CommandOutcome& outcome) {
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
  const Then then = std::exchange(then_, {});  // it may start the next pass
  const double companion_s = companion_.processorSeconds() - companion_before_s_;
  const auto spoiled = companion_.spoiled(open_.caseOf(slot_index).title());
  if (outcome.ending == bench::Ending::Stopped && !limit_ && !spoiled)
    return companion_.end([then] { then(std::nullopt); });
  PassOrder order{open_.caseOf(slot_index),
                  open_.study().targets(),
                  open_.study().plan.time_limit_s,
                  log_path_,
                  recorder.get(),
                  span,
                  is_played,
                  stretch,
                  places_ ? &*places_ : nullptr};
  MeasuredPass measured = measurePass(outcome, order);
  core::Pass& pass = measured.pass;
  pass.started_ms += ahead_at_start_ms_;
  pass.duration_s += static_cast<double>(machine_.clockAheadMs() - ahead_at_start_ms_) / 1000;
  pass.slot = slot_index;
  pass.attempt = open_.ledger().attemptsOf(slot_index) + 1;
  pass.visit_id = open_.visit()->id;
  pass.loads = std::exchange(loads_, {});
  pass.settings = settingsOf(order.a_case);
  const auto processor = bench::processorTime(machine_.bench());
  if (processor_before_ && processor)
    pass.others_busy_percent =
        bench::othersBusyPercent(*processor_before_, *processor,
                                 outcome.processor_s + companion_s + bench::ownProcessorSeconds() - own_before_s_);
  if (const auto& why = limit_ ? limit_ : spoiled) fail(pass, *why);
  if (sampler) measured.samples = sampler->samples();
  if (recorder && !measured.frame_ms.empty())
    addFrameChannels(measured.samples, *recorder->frames(span, order.a_case.recorded_program), began_ns);
  endCompanion(std::move(measured), then);
}

// The next pass begins on a machine on which nothing of this one runs any more.
void PassRun::endCompanion(MeasuredPass measured, const Then& then) {
  companion_.end([this, then, measured = std::move(measured)]() mutable {
    measured.pass.companion_output = companion_.log();
    then(std::move(measured));
  });
}

// While a pass is surely under way: which graphics device is busy, in each; and once a visit, in its first pass that is
// long enough (the warm-up, where there is one), the whole bench. A capture that cannot be filed is left out: the pass
// goes on, and what is wrong with the file stops the sheet when the pass itself is filed.
void PassRun::lookUnderLoad(std::size_t slot_index) {
  loads_.clear();
  const std::int64_t started_ms = started_ms_;
  QTimer::singleShot(kUnderLoadMs, this, [this, slot_index, started_ms] {
    if (slot_in_hand_ != slot_index || started_ms_ != started_ms) return;  // a short pass is over by now
    loads_ = bench::graphicsLoads(machine_.bench());
    if (loads_.size() < 2) loads_.clear();  // with one device there is no question
    captures_.take(core::CaptureMoment::UnderLoad, [](const core::Status&) {});
  });
}

std::string PassRun::settingsOf(const core::Case& a_case) const {
  if (a_case.settings_file.empty()) return {};
  const StudyPath place = studyPath(a_case.settings_file, open_.folder());
  if (!machine_.mayRead(place)) return {};  // it leads elsewhere since it was approved
  const auto text = machine_.own().readFile(place.full);
  return text && text->size() <= kLargestSettings ? *text : std::string();
}

void PassRun::sample() {
  if (!sampler_ || !slot_in_hand_) return;
  sampler_->take(secondsInPass());
  if (recorder_) logRecordedFrames();
  keepLimits();
}

// Nobody may be there to smell it: the pass ends at once, and the sheet with it.
void PassRun::keepLimits() {
  if (limit_) return;
  auto reached = core::limitReached(sampler_->samples());
  if (!reached) return;
  limit_ = Error{ErrorKind::NotAllowed, "stopped to keep the machine from harm: " + *reached,
                 open_.caseOf(*slot_in_hand_).title(), "Let it cool down and look at its cooling before you go on"};
  launcher_.stop();
}

core::Status PassRun::beginStretch(double lead_in_s) {
  if (!stretch_ || stretch_->phase(secondsInPass()) != PlayedStretch::Phase::Waiting)
    return Error{ErrorKind::NotAllowed, "nothing waits for its counted stretch", open_.path(), "Start the pass first"};
  const double length_s = open_.caseOf(*slot_in_hand_).played_s;
  stretch_->ready(secondsInPass(), lead_in_s, length_s);
  stretch_end_.start(static_cast<int>(1000 * (lead_in_s + length_s)) + 50);
  Q_EMIT changed();
  return core::Done{};
}

core::Status PassRun::endStretch() {
  if (!stretch_ || stretch_->phase(secondsInPass()) != PlayedStretch::Phase::Counting)
    return Error{ErrorKind::NotAllowed, "nothing is counted at this moment", open_.path(), "Begin the stretch first"};
  stretch_->end(secondsInPass());
  stretch_end_.start(0);
  return core::Done{};
}

// For whoever follows the pass while it runs; the pass itself is measured from the times.
void PassRun::logRecordedFrames() {
  const auto* stream = recorder_->counted({}, open_.caseOf(*slot_in_hand_).recorded_program);
  if (stream == nullptr || stream->error || stream->lost > 0 || stream->frames.size() < 2) return;
  if (stream->frames.size() <= logged_frames_) logged_frames_ = 0;  // another stream has come to lead
  std::ofstream log(log_path_, logged_frames_ == 0 ? std::ios::trunc : std::ios::app);
  if (logged_frames_ == 0) log << "frame_ms\n";
  // From the last frame that is in the log on.
  for (const double frame_ms : frameMs(std::span(stream->frames).subspan(logged_frames_)))
    log << fmt::format("{}\n", frame_ms);
  logged_frames_ = stream->frames.size() - 1;
}

// Recorded frames have the clock's own time: where the counted stretch lies is known, not guessed.
FrameRecorder::Span PassRun::recordedSpan() const {
  const auto played = stretch_ ? stretch_->played(secondsInPass()) : std::nullopt;
  if (!played) return {};
  return {nsInPass(played->from_s), nsInPass(played->to_s)};
}

std::int64_t PassRun::nsInPass(double at_s) const {
  constexpr double kNsPerS = 1e9;
  const auto now_ns = std::chrono::steady_clock::now().time_since_epoch() / std::chrono::nanoseconds(1);
  return now_ns - static_cast<std::int64_t>((secondsInPass() - at_s) * kNsPerS);
}

void PassRun::observeStretch() {
  if (!stretch_ || !slot_in_hand_) return;
  if (open_.caseOf(*slot_in_hand_).source != core::ResultSource::FrameLog) return;
  const double at_s = secondsInPass();
  const auto frame_ms = store::readFrameLog(log_path_, open_.caseOf(*slot_in_hand_).field, store::LogEnd::CutOff);
  if (frame_ms) stretch_->observe(at_s, std::accumulate(frame_ms->begin(), frame_ms->end(), 0.0) / 1000);
}

}  // namespace session
