// Benches with a hidden truth: begun, signed, and seen afterwards.
#include <algorithm>

#include <fmt/format.h>

#include "bench/local_bench.h"
#include "cli/commands.h"
#include "core/values/shown_text.h"
#include "session/practice/practice_record.h"
#include "session/practice/practice_score.h"
#include "session/user/output_file.h"
#include "store/json/json_text.h"

namespace cli {
namespace {

using core::Error;
using core::ErrorKind;
using nlohmann::ordered_json;

core::Status list(bool as_json, std::ostream& out) {
  ordered_json exercises = ordered_json::array();
  for (const session::Exercise& one : session::exercises()) {
    exercises.push_back({{"id", one.id}, {"title", one.title}, {"teaches", one.teaches}});
    if (!as_json) out << fmt::format("{:<16} {}: {}\n", one.id, one.title, one.teaches);
  }
  if (as_json)
    out << store::jsonText(ordered_json{{"exercises", exercises}, {"free", "free"}}, 2) << '\n';
  else
    out << fmt::format("{:<16} Free practice: choose the noise, the flips and the effect, or let them be drawn\n",
                       "free");
  return core::Done{};
}

std::string howToFlip(const session::PracticeTry& about) {
  if (about.flip == session::PracticeFlip::Program) return "The program sets the levels itself.";
  std::string how = "You set the levels by hand, in the window or here, and restart:\n";
  for (const auto& [level, assignment] : about.settings)
    how += fmt::format("  {}: iron-lever-simbench set --state {} {} --reboot\n", core::shownLine(level),
                       core::shownWord(about.bench), core::shownWord(assignment));
  return how;
}

ordered_json tryJson(const session::PracticeTry& about) {
  return {{"exercise", about.exercise},
          {"title", about.title},
          {"story", about.story},
          {"asks", about.asks},
          {"study", about.study},
          {"restarts_first", about.restarts_first.empty() ? ordered_json() : ordered_json(about.restarts_first)},
          {"bench", about.bench},
          {"settings", about.settings},
          {"truth_sha256", about.truth_sha256},
          {"signed", about.is_signed}};
}

core::Status start(const PracticeOptions& options, std::ostream& out) {
  session::PracticeStart begin;
  begin.exercise = options.exercise;
  begin.folder = options.folder;
  begin.pace = options.pace;
  if (!options.order.empty()) begin.order = options.order;
  begin.rounds = options.rounds;
  begin.passes_per_visit = options.passes_per_visit;
  for (const auto& [name, value] :
       {std::pair{"gain", options.effect}, std::pair{"noise", options.noise}, std::pair{"flips", options.flips}})
    if (value) begin.chosen[name] = *value;
  const auto about = session::startPractice(begin, bench::LocalBench());
  if (!about) return about.error();
  if (options.as_json) {
    out << store::jsonText(tryJson(*about), 2) << '\n';
    return core::Done{};
  }
  out << fmt::format("{}\n{}\n\n{}\n{}\n\nThe study: {}\n", core::shownLine(about->title),
                     core::shownText(about->story), core::shownText(about->asks), howToFlip(*about),
                     core::shownWord(about->study));
  if (!about->restarts_first.empty())
    out << fmt::format("Restarts alone can be measured before the swap: {}\n", core::shownWord(about->restarts_first));
  out << fmt::format(
      "Run it as any other. Then sign: iron-lever-cli practice sign {} --percent X --lo X --hi X "
      "--recommend use|keep|cannot_say\n",
      core::shownWord(options.folder));
  return core::Done{};
}

core::Status sign(const PracticeOptions& options, std::ostream& out) {
  session::PracticeClaim claim{options.percent, options.lo, options.hi, session::Recommendation::CannotSay,
                               options.doubts};
  const auto recommend = session::recommendationFrom(options.recommend);
  if (!recommend)
    return Error{ErrorKind::Malformed, "'" + options.recommend + "' is not a recommendation", "--recommend",
                 "Say use, keep or cannot_say"};
  claim.recommend = *recommend;
  if (auto is_signed = session::signPractice(options.folder, claim); !is_signed) return is_signed;
  if (options.as_json)
    out << store::jsonText(ordered_json{{"signed", true},
                                        {"percent", claim.percent},
                                        {"lo", claim.lo},
                                        {"hi", claim.hi},
                                        {"recommend", options.recommend}},
                           2)
        << '\n';
  else
    out << fmt::format("Signed. See what was true: iron-lever-cli practice reveal {}\n",
                       core::shownWord(options.folder));
  return core::Done{};
}

ordered_json outcomeJson(const session::PracticeOutcome& outcome) {
  ordered_json program;
  if (outcome.program)
    program = {{"percent", outcome.program->percent},
               {"lo", outcome.program->lo},
               {"hi", outcome.program->hi},
               {"sentence", outcome.program->sentence}};
  return {{"truth", {{"percent", outcome.truth_percent}}},
          {"claim",
           {{"percent", outcome.claim.percent},
            {"lo", outcome.claim.lo},
            {"hi", outcome.claim.hi},
            {"recommend", session::recommendationName(outcome.claim.recommend)},
            {"holds", outcome.holds},
            {"by_chance", outcome.is_by_chance},
            {"right_of_100", outcome.right_of_100}}},
          {"program", program},
          {"score",
           {{"sound", outcome.sound.points}, {"alone", outcome.alone.points}, {"thrifty", outcome.thrifty.points}}},
          {"why", {{"sound", outcome.sound.why}, {"alone", outcome.alone.why}, {"thrifty", outcome.thrifty.why}}},
          {"hours", outcome.hours},
          {"cheapest_hours", outcome.cheapest_hours},
          {"flips", outcome.flips},
          {"decisions", outcome.decisions},
          {"take_away", outcome.take_away}};
}

core::Status reveal(const PracticeOptions& options, const session::PracticeRecord& record, std::ostream& out) {
  const auto outcome = session::revealPractice(options.folder, record);
  if (!outcome) return outcome.error();
  if (options.as_json) {
    out << store::jsonText(outcomeJson(*outcome), 2) << '\n';
    return core::Done{};
  }
  out << fmt::format("True was {:+.2f} %. You said {:+.2f} %, {:+.2f} to {:+.2f}.\n", outcome->truth_percent,
                     outcome->claim.percent, outcome->claim.lo, outcome->claim.hi);
  if (outcome->program)
    out << fmt::format("The program said {:+.2f} %, {:+.2f} to {:+.2f}.\n", outcome->program->percent,
                       outcome->program->lo, outcome->program->hi);
  for (const auto& [name, points] : {std::pair{"sound", &outcome->sound}, std::pair{"alone", &outcome->alone},
                                     std::pair{"thrifty", &outcome->thrifty}})
    out << fmt::format("{:<8} {:>3} of 100  {}\n", name, points->points, core::shownText(points->why));
  for (const std::string& one : outcome->decisions) out << "- " << core::shownText(one) << '\n';
  out << core::shownText(outcome->take_away) << '\n';
  return core::Done{};
}

core::Status tell(const session::PracticeRecord& record, bool as_json, std::ostream& out) {
  const auto entries = record.all();
  const session::Calibration whole = session::calibrationOf(entries);
  const auto by = session::calibrationByExercise(entries);
  if (!as_json) {
    out << session::calibrationText(whole) << '\n';
    for (const auto& [exercise, one] : by)
      out << fmt::format("{:<16} {} of {}\n", core::shownLine(exercise), one.held, one.claims);
    return core::Done{};
  }
  const auto jsonOf = [](const session::Calibration& one) {
    return ordered_json{{"claims", one.claims}, {"held", one.held}, {"lo", one.lo}, {"hi", one.hi}};
  };
  ordered_json exercises = ordered_json::object();
  for (const auto& [exercise, one] : by) exercises[exercise] = jsonOf(one);
  out << store::jsonText(ordered_json{{"all", jsonOf(whole)}, {"exercises", exercises}}, 2) << '\n';
  return core::Done{};
}

core::Status seal(const PracticeOptions& options) {
  const auto text = session::exerciseText(options.exercise);
  if (!text) return text.error();
  const auto sealed = session::sealedExercise(*text, options.exercise);
  if (!sealed) return sealed.error();
  return session::writeOutput(options.folder, *sealed);
}

}  // namespace

core::Status practiceCommand(const PracticeOptions& options, std::ostream& out) {
  const auto files = session::UserFiles::ofThisUser();
  if (!files) return files.error();
  const session::PracticeRecord record(files->practice);
  switch (options.act) {
    case PracticeAct::List: return list(options.as_json, out);
    case PracticeAct::Start: return start(options, out);
    case PracticeAct::Sign: return sign(options, out);
    case PracticeAct::Reveal: return reveal(options, record, out);
    case PracticeAct::Record: return tell(record, options.as_json, out);
    case PracticeAct::Forget: return record.forget();
    case PracticeAct::Seal: return seal(options);
  }
  return core::Done{};
}

}  // namespace cli
