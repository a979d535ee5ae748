#include "session/programs/companion_run.h"

#include <utility>

#include "session/programs/pass_result.h"

namespace session {

void CompanionRun::start(const core::Case& a_case, const core::Setup& setup, const std::string& folder,
                         std::function<void()> ready, std::function<void()> died) {
  outcome_.reset();
  died_ = std::move(died);
  is_running_ = true;
  head_start_.disconnect();
  connect(&head_start_, &QTimer::timeout, this, [ready = std::move(ready)] { ready(); });
  head_start_.start(static_cast<int>(1000 * a_case.companion.starts_before_s));
  constexpr double kMostS = 1e6;  // it is ended after its pass, which has a limit
  launcher_.launch({core::companionCommand(setup, a_case), folder, kMostS},
                   [this](const bench::CommandOutcome& outcome) { ended(outcome); });
}

void CompanionRun::ended(const bench::CommandOutcome& outcome) {
  is_running_ = false;
  head_start_.stop();
  outcome_ = outcome;
  if (const auto then = std::exchange(then_, {})) return then();
  if (const auto died = std::exchange(died_, {})) died();
}

void CompanionRun::end(std::function<void()> then) {
  head_start_.stop();
  died_ = {};
  if (!is_running_) return then();
  then_ = std::move(then);
  launcher_.askToEnd();
}

std::optional<core::Error> CompanionRun::spoiled(const std::string& where) const {
  if (!outcome_ || outcome_->ending == bench::Ending::Ended || outcome_->ending == bench::Ending::Stopped)
    return std::nullopt;
  const auto failure = failureOf(*outcome_, where, 0);
  return core::Error{core::ErrorKind::CommandFailed,
                     "what runs beside it ended before the pass did: " + (failure ? failure->what : "it was done"),
                     where, "Have it run for longer than a pass: the program ends it after each"};
}

std::string CompanionRun::log() const {
  if (!outcome_) return {};
  const bool has_both = !outcome_->output.empty() && !outcome_->error_output.empty();
  return outcome_->output + (has_both && !outcome_->output.ends_with('\n') ? "\n" : "") + outcome_->error_output;
}

}  // namespace session
