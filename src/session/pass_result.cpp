#include "session/pass_result.h"

#include <cstring>

#include <fmt/format.h>

#include "core/secondary.h"
#include "core/wording.h"
#include "store/frame_log.h"
#include "store/json_result.h"

namespace session {
namespace {

std::string lastLine(const std::string& text) {
  const auto end = text.find_last_not_of(" \r\n\t");
  if (end == std::string::npos) return "";
  const auto begin = text.find_last_of('\n', end);
  return text.substr(begin == std::string::npos ? 0 : begin + 1, end - (begin == std::string::npos ? 0 : begin + 1) + 1)
      .substr(0, 200);
}

core::Status takeFrames(MeasuredPass& measured, const core::Case& a_case, double target_fps,
                        const std::string& log_path) {
  auto frame_ms = store::readFrameLog(log_path, a_case.field);
  if (!frame_ms) {
    core::Error error = frame_ms.error();
    // The path is a temporary one and gone by the time anybody reads this.
    if (const auto at = error.where.find(log_path); at != std::string::npos)
      error.where.replace(at, log_path.size(), "frame log");
    return error;
  }
  measured.frame_ms = *std::move(frame_ms);
  const auto summary = core::summarizeFrames(measured.frame_ms, a_case, target_fps);
  if (!summary) return summary.error();
  measured.pass.frames = *summary;
  measured.pass.value = a_case.metric.unit == "ms" ? 1000.0 / summary->average_fps : summary->average_fps;
  return core::Done{};
}

core::Status takeNumber(MeasuredPass& measured, const core::Case& a_case, const std::string& output) {
  const auto number = store::numberFromJson(output, a_case.field);
  if (!number) return number.error();
  measured.pass.value = *number;
  return core::Done{};
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
    case bench::Ending::Exited:
      if (outcome.exit_code == 0) return std::nullopt;
      return failed(fmt::format("the program ended with code {}", outcome.exit_code),
                    "Run the command by hand at this level and look at its output");
  }
  return std::nullopt;
}

MeasuredPass measurePass(const bench::CommandOutcome& outcome, const core::Case& a_case, double target_fps,
                         double time_limit_s, const std::string& log_path) {
  MeasuredPass measured;
  core::Pass& pass = measured.pass;
  pass.started_ms = outcome.started_ms;
  pass.duration_s = outcome.duration_s;
  pass.output = outcome.output;
  pass.error_output = outcome.error_output;
  auto failure = failureOf(outcome, a_case.title(), time_limit_s);
  if (!failure) {
    const core::Status taken = a_case.source == core::ResultSource::FrameLog
                                   ? takeFrames(measured, a_case, target_fps, log_path)
                                   : takeNumber(measured, a_case, outcome.output);
    if (!taken) failure = taken.error();
  }
  if (failure) {
    pass.value.reset();
    pass.frames.reset();
    pass.status = core::PassStatus::Failed;
    pass.failure = failure->sentence();
    measured.frame_ms.clear();
  }
  return measured;
}

}  // namespace session
