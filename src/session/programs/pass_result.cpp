#include "session/programs/pass_result.h"

#include <algorithm>
#include <cstring>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/findings/secondary.h"
#include "core/values/number_pattern.h"
#include "core/values/shown_text.h"
#include "store/logs/frame_log.h"

namespace session {
namespace {

std::string lastLine(const std::string& text) {
  const auto end = text.find_last_not_of(" \r\n\t");
  if (end == std::string::npos) return "";
  const auto begin = text.find_last_of('\n', end);
  const std::size_t from = begin == std::string::npos ? 0 : begin + 1;
  constexpr std::size_t kShown = 200;
  return core::shownLine(core::cutText(std::string_view(text).substr(from, end + 1 - from), kShown));
}

core::Result<std::vector<double>> loggedFrames(const PassOrder& order) {
  auto frame_ms = store::readFrameLog(order.log_path, order.a_case.field,
                                      order.is_played ? store::LogEnd::CutOff : store::LogEnd::Whole);
  if (!frame_ms) {
    core::Error error = frame_ms.error();
    // The path is a temporary one and gone by the time anybody reads this.
    if (const auto at = error.where.find(order.log_path); at != std::string::npos)
      error.where.replace(at, order.log_path.size(), "frame log");
    return error;
  }
  return order.stretch ? core::framesWithin(*frame_ms, 1000 * order.stretch->from_s, 1000 * order.stretch->to_s)
                       : *std::move(frame_ms);
}

core::Result<std::vector<double>> recordedFrames(const PassOrder& order) {
  const auto frames = order.recorder->frames(order.span, order.a_case.recorded_program);
  if (!frames) return frames.error();
  return frameMs(*frames);
}

core::Status takeFrames(MeasuredPass& measured, const PassOrder& order) {
  const core::Case& a_case = order.a_case;
  auto frame_ms = order.recorder ? recordedFrames(order) : loggedFrames(order);
  if (!frame_ms) return frame_ms.error();
  measured.frame_ms = *std::move(frame_ms);
  if (order.recorder)
    measured.pass.presentation = order.recorder->counted(order.span, a_case.recorded_program)->presentation;
  if (measured.frame_ms.empty())
    return core::Error{core::ErrorKind::TooFew, "the log holds no frame of the counted stretch", "frame log",
                       "See that the workload writes its log until it is asked to end"};
  const auto summary = core::summarizeFrames(measured.frame_ms, a_case, order.targets_fps);
  if (!summary) return summary.error();
  measured.pass.frames = *summary;
  measured.pass.value = core::headlineOf(*summary, a_case.metric);
  return core::Done{};
}

// A program that crashed, or was ended, has shown frames all the same: they are kept, and count nowhere.
void keepFramesOfFailed(MeasuredPass& measured, const PassOrder& order) {
  if (order.recorder == nullptr || !takeFrames(measured, order)) measured.frame_ms.clear();
  if (!measured.frame_ms.empty())
    measured.pass.failure += fmt::format(" {} frames recorded until then are kept.", measured.frame_ms.size());
  measured.pass.value.reset();
}

core::Status takeNumber(MeasuredPass& measured, const PassOrder& order, const bench::CommandOutcome& outcome) {
  const auto number = order.places->numberOf(order.a_case, outcome);
  if (!number) return number.error();
  measured.pass.value = *number;
  return core::Done{};
}

// What one of them lacks, the others say all the same.
void takeFurther(MeasuredPass& measured, const PassOrder& order, const bench::CommandOutcome& outcome) {
  for (const core::CaseResult& one : order.a_case.further) {
    const auto number = order.places->numberOf(one, outcome);
    core::FurtherValue& taken = measured.pass.further.emplace_back();
    if (number)
      taken.value = *number;
    else
      taken.reason = number.error().sentence();
  }
}

// Why the case is not possible here, by what its command said; empty where it is, or where nobody asked.
std::string notPossible(const core::Possible& possible, const bench::CommandOutcome& outcome) {
  const bool has_code =
      outcome.ending == bench::Ending::Exited &&
      std::find(possible.exit_codes.begin(), possible.exit_codes.end(), outcome.exit_code) != possible.exit_codes.end();
  const auto says = [&](const std::string& text) {
    return !possible.pattern.empty() && core::doesMatch(text, possible.pattern);
  };
  const bool has_ended = outcome.ending == bench::Ending::Exited || outcome.ending == bench::Ending::Crashed ||
                         outcome.ending == bench::Ending::Ended;
  if (!has_code && !(has_ended && (says(outcome.output) || says(outcome.error_output)))) return {};
  const std::string said = lastLine(outcome.error_output.empty() ? outcome.output : outcome.error_output);
  const std::string how =
      outcome.ending == bench::Ending::Exited ? fmt::format("it ended with code {}", outcome.exit_code) : "it says so";
  return said.empty() ? how : how + ": " + said;
}

void takeConditions(core::Pass& pass, const core::Possible& possible) {
  for (const core::Condition& one : possible.conditions)
    if (core::doesMatch(pass.output, one.pattern) || core::doesMatch(pass.error_output, one.pattern))
      pass.conditions.push_back(one.name);
}

}  // namespace

std::optional<core::Error> failureOf(const bench::CommandOutcome& outcome, const std::string& where,
                                     double time_limit_s) {
  const auto failed = [&](std::string what, const char* remedy) {
    const std::string said = lastLine(outcome.error_output);
    if (!said.empty()) what += ": " + said;
    return core::Error{core::ErrorKind::CommandFailed, what, where, remedy};
  };
  switch (outcome.ending) {
    case bench::Ending::NotStarted:
      return core::Error{core::ErrorKind::CommandFailed, "the program could not be started: " + outcome.what, where,
                         "Correct the command in the question, or install the program"};
    case bench::Ending::TimedOut:
      return failed("stopped at the time limit of " + core::durationText(time_limit_s),
                    "Look for a hang, or raise the time limit");
    case bench::Ending::Stopped:
      return core::Error{core::ErrorKind::CommandFailed, "stopped by a person", where, "Go on to run it again"};
    case bench::Ending::Crashed:
      return failed(
          fmt::format("the program crashed (signal {}, {})", outcome.signal_number, strsignal(outcome.signal_number)),
          "Run the command by hand at this level and look at its output");
    case bench::Ending::Ended: return std::nullopt;
    case bench::Ending::Exited:
      if (outcome.exit_code == 0) return std::nullopt;
      return failed(fmt::format("the program ended with code {}", outcome.exit_code),
                    "Run the command by hand at this level and look at its output");
  }
  return std::nullopt;
}

MeasuredPass measurePass(const bench::CommandOutcome& outcome, const PassOrder& order) {
  MeasuredPass measured;
  core::Pass& pass = measured.pass;
  pass.started_ms = outcome.started_ms;
  pass.duration_s = outcome.duration_s;
  pass.output = outcome.output;
  pass.error_output = outcome.error_output;
  if (pass.does_not_run = notPossible(order.a_case.possible, outcome); !pass.does_not_run.empty()) return measured;
  takeConditions(pass, order.a_case.possible);
  auto failure = failureOf(outcome, order.a_case.title(), order.time_limit_s);
  if (!failure && order.is_played && !order.stretch)
    failure = core::Error{core::ErrorKind::CommandFailed, "it ended before the counted stretch was played",
                          order.a_case.title(), "Play it again, to the end of the countdown"};
  if (!failure) {
    const core::Status taken =
        order.a_case.hasFrames() ? takeFrames(measured, order) : takeNumber(measured, order, outcome);
    if (!taken) failure = taken.error();
    takeFurther(measured, order, outcome);
  }
  if (failure) {
    pass.status = core::PassStatus::Failed;
    pass.failure = failure->sentence();
    keepFramesOfFailed(measured, order);
    if (measured.frame_ms.empty()) pass.frames.reset();
  }
  return measured;
}

}  // namespace session
