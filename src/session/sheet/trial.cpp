#include "session/sheet/trial.h"

#include "session/programs/log_place.h"
#include "session/study/acts.h"

namespace session {
namespace {

bench::CommandOutcome notStarted() {
  bench::CommandOutcome outcome;
  outcome.ending = bench::Ending::Stopped;
  return outcome;
}

}  // namespace

bool canBeTried(const core::Case& a_case) {
  return !a_case.command.empty() && !a_case.is_played && a_case.source != core::ResultSource::ByHand;
}

Trial::Trial(bench::BenchConnection& bench) : launcher_(bench), companion_(bench) {
  connect(&looking_, &QTimer::timeout, this, [this] {
    if (!recorder_) return;
    recorder_->look();
    looking_.setInterval(recorder_->lookAgainMs());
  });
}

std::string Trial::logPath() const { return logs_->filePath(QStringLiteral("frames.csv")).toStdString(); }

void Trial::start(const core::Case& a_case, const std::string& folder, std::vector<double> targets_fps,
                  double time_limit_s, const core::Setup& setup) {
  if (is_running_ || !canBeTried(a_case)) return;
  is_running_ = true;
  a_case_ = a_case;
  targets_fps_ = std::move(targets_fps);
  time_limit_s_ = time_limit_s;
  folder_ = folder;
  logs_ = std::make_unique<QTemporaryDir>();
  launcher_.setScratch(logs_->path().toStdString());
  companion_.setScratch(logs_->path().toStdString());
  companion_.forget();
  if (!a_case.companion.isAsked()) return begin(setup);
  companion_.start(
      a_case, setup, folder, [this, setup] { begin(setup); },
      [this] { launcher_.isRunning() ? launcher_.stop() : end(notStarted()); });
}

void Trial::stop() {
  if (companion_.isStarting()) return companion_.end([this] { end(notStarted()); });
  launcher_.stop();
}

void Trial::begin(const core::Setup& setup) {
  places_.emplace(a_case_, [this](const std::string& path) {
    const StudyPath place = studyPath(path, folder_);
    return place.is_below ? place.full : std::string();
  });
  core::ExactCommand exact = withLogPath(core::passCommand(setup, a_case_), logPath());
  if (a_case_.source == core::ResultSource::Recorded) {
    recorder_ = std::make_unique<FrameRecorder>();
    for (const auto& variable : recorder_->environment(exact.environment)) exact.environment.push_back(variable);
    looking_.start(recorder_->lookAgainMs());
  }
  launcher_.launch({exact, folder_, time_limit_s_, recorder_ != nullptr},
                   [this](const bench::CommandOutcome& outcome) { end(outcome); });
}

void Trial::end(const bench::CommandOutcome& outcome) {
  looking_.stop();
  if (recorder_) recorder_->look();
  MeasuredPass measured = measurePass(outcome, {a_case_,
                                                targets_fps_,
                                                time_limit_s_,
                                                logPath(),
                                                recorder_.get(),
                                                {},
                                                false,
                                                std::nullopt,
                                                places_ ? &*places_ : nullptr});
  if (const auto spoiled = companion_.spoiled(a_case_.title())) {
    measured.pass.failure = spoiled->sentence();
    measured.pass.value.reset();
  }
  recorder_.reset();
  companion_.end([this, measured = std::move(measured), duration_s = outcome.duration_s] {
    logs_.reset();
    is_running_ = false;
    Q_EMIT finished(measured, duration_s);
  });
}

}  // namespace session
