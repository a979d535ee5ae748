#include <algorithm>
#include <filesystem>
#include <numeric>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/commands/named_level.h"
#include "cli/commands/with_session.h"
#include "core/estimate/wording.h"
#include "core/record/looks.h"
#include "core/study/exclusion.h"
#include "core/study/name_pattern.h"
#include "core/values/shown_text.h"
#include "report/json/slot_json.h"
#include "session/study/log_import.h"
#include "store/json/json_text.h"

namespace cli {
namespace {

using core::Error;
using core::ErrorKind;
using nlohmann::ordered_json;

// Who left a pass out, and when; the last who did.
void addExclusion(ordered_json& out, const session::Session& session, const core::Pass& pass) {
  if (pass.excluded_because.empty()) return;
  out["left_out_because"] = pass.excluded_because;
  for (const store::Event& event : session.recorded().events)
    if (const auto* act = std::get_if<core::PassExcluded>(&event.act); act && act->pass_id == pass.id) {
      out["left_out_by"] = event.person;
      out["left_out_at_ms"] = event.at_ms;
    }
}

ordered_json passJson(const session::Session& session, const core::Pass& pass, const core::Judgement& judgement,
                      const core::BenchClock& clock) {
  const core::Study& study = session.study();
  const core::Slot& slot = session.open().schedule()[pass.slot];
  ordered_json out{{"id", pass.id},
                   {"case", study.cases[slot.case_index].title()},
                   {"level", study.nameOf(slot.configuration)},
                   {"visit", slot.visit},
                   {"round", slot.round},
                   {"number", slot.number},
                   {"attempt", pass.attempt},
                   {"warm_up", slot.is_warm_up},
                   {"status", pass.status == core::PassStatus::Finished ? "finished" : "failed"},
                   {"started_ms", pass.started_ms},
                   {"duration_s", pass.duration_s}};
  if (clock.isCompared()) out["started_at_desk_ms"] = clock.atDesk(pass.started_ms);
  if (!pass.failure.empty()) out["failure"] = pass.failure;
  const auto why_not = judgement.findings.not_counted.find(pass.id);
  const bool is_counted = why_not == judgement.findings.not_counted.end();
  out["counted"] = is_counted;
  out["why_not"] = is_counted ? ordered_json() : ordered_json(why_not->second);
  addExclusion(out, session, pass);
  if (!pass.origin.empty()) out["origin"] = pass.origin;
  if (pass.presentation) out["presentation"] = pass.presentation->sentence();
  if (judgement.isSealed(study.cases[slot.case_index])) return out;
  out["value"] = pass.value ? ordered_json(*pass.value) : ordered_json();
  if (pass.typed)
    out["typed"] = {{"text", pass.typed->text}, {"resolution", pass.typed->resolution}, {"by", pass.typed->person}};
  if (pass.frames) out["frames"] = pass.frames->frames;
  const auto& results = study.cases[slot.case_index].further;
  for (std::size_t i = 0; i < std::min(results.size(), pass.further.size()); ++i) {
    const core::FurtherValue& one = pass.further[i];
    out["results"].push_back({{"name", results[i].name},
                              {"value", one.value ? ordered_json(*one.value) : ordered_json()},
                              {"reason", one.value ? ordered_json() : ordered_json(one.reason)}});
  }
  return out;
}

// Where a file goes: by its name, or as the person says.
core::Result<core::NamedPass> placeOf(const core::Study& study, const std::string& path, const ImportOptions& options) {
  const std::string name = std::filesystem::path(path).filename().string();
  if (options.level.empty()) return core::readName(name, options.pattern, study);
  core::NamedPass place;
  const auto level = namedLevel(study, options.level, "--level");
  if (!level) return level.error();
  place.configuration = *level;
  for (std::size_t i = 0; i < study.cases.size(); ++i)
    if (options.case_title.empty() ? study.cases.size() == 1 : study.cases[i].title() == options.case_title) {
      place.case_index = i;
      return place;
    }
  return Error{ErrorKind::Missing, "the study has no case '" + options.case_title + "'", "--case",
               "Use a title as `iron-lever-cli passes` prints it"};
}

}  // namespace

core::Status passesCommand(const std::string& study_path, bool as_json, std::ostream& out) {
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    const core::Record record = store::recordOf(session.recorded());
    const core::Judgement judgement = core::judgementOf(session.study(), record);
    ordered_json all = ordered_json::array();
    for (const core::Pass& pass : session.recorded().passes)
      if (pass.slot < session.open().schedule().size()) all.push_back(passJson(session, pass, judgement, record.clock));
    if (as_json) {
      out << store::jsonText(ordered_json{{"is_sealed", judgement.is_sealed}, {"passes", all}}, 1) << '\n';
      return core::Done{};
    }
    if (judgement.is_sealed) out << "Results are sealed until the plan is complete.\n";
    for (const ordered_json& pass : all) {
      out << fmt::format("{:5}  visit {}, {} {}  {:24}  {}", pass["id"].get<std::int64_t>(), pass["visit"].get<int>(),
                         pass["warm_up"] ? "warm-up" : "pass", pass["number"].get<int>(),
                         pass["case"].get<std::string>(), pass["level"].get<std::string>());
      if (pass.contains("value") && pass["value"].is_number())
        out << fmt::format("  {:g}", pass["value"].get<double>());
      if (pass.contains("failure")) out << "  failed: " << pass["failure"].get<std::string>();
      const bool is_told = pass.contains("failure") || pass["warm_up"];  // why it does not count
      if (!pass["counted"] && !is_told) out << "  left out: " << pass["why_not"].get<std::string>();
      out << '\n';
    }
    return core::Done{};
  });
}

core::Status printedCommand(const std::string& study_path, std::int64_t pass_id, bool as_json, std::ostream& out) {
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    const auto& passes = session.recorded().passes;
    const auto pass =
        std::find_if(passes.begin(), passes.end(), [&](const core::Pass& one) { return one.id == pass_id; });
    const bool is_known = pass != passes.end() && pass->slot < session.open().schedule().size();
    const core::Record record = store::recordOf(session.recorded());
    if (is_known ? core::isSealed(session.study(), record, session.open().caseOf(pass->slot))
                 : core::isSealed(session.study(), record))
      return Error{ErrorKind::NotAllowed, "what a pass printed tells its result, and results are sealed", study_path,
                   "Wait for the end of the plan, or open the results early with a reason"};
    const auto printed = session.open().file().output(pass_id);
    if (!printed) return printed.error();
    if (as_json) {
      const ordered_json all{
          {"output", printed->output}, {"error_output", printed->error_output}, {"companion", printed->of_companion}};
      out << store::jsonText(all, 1) << '\n';
      return core::Done{};
    }
    for (const auto& [heading, text] : {std::pair{"Output:", &printed->output},
                                        {"Errors:", &printed->error_output},
                                        {"Beside it:", &printed->of_companion}})
      if (!text->empty()) out << heading << '\n' << core::shownText(*text) << (text->ends_with('\n') ? "" : "\n");
    return core::Done{};
  });
}

core::Status excludeCommand(const std::string& study_path, std::int64_t pass_id, int cause) {
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    if (cause == 0) return session.decisions().include(pass_id);
    if (cause < 1 || cause > static_cast<int>(core::kExclusionCauses.size())) {
      std::string causes;
      for (std::size_t i = 0; i < core::kExclusionCauses.size(); ++i)
        causes += fmt::format("{}{}: {}", i == 0 ? "" : "; ", i + 1, core::kExclusionCauses[i]);
      return Error{ErrorKind::OutOfRange, "a pass is left out for a physical cause only", "cause",
                   "Use its number, or 0 to take it back. " + causes};
    }
    return session.decisions().exclude(pass_id, core::kExclusionCauses[static_cast<std::size_t>(cause - 1)]);
  });
}

namespace {

// Files what a person says, and gives it back as it is to be told.
core::Result<std::string> typedInto(session::Session& session, std::size_t slot, const TypeOptions& options,
                                    ordered_json& value) {
  if (options.does_not_run) {
    if (auto filed = session.outside().typeDoesNotRun(slot, options.result); !filed) return filed.error();
    return std::string("that it does not run");
  }
  const core::DecimalSign sign = options.decimal == "comma"   ? core::DecimalSign::Comma
                                 : options.decimal == "point" ? core::DecimalSign::Point
                                                              : core::DecimalSign::Unknown;
  const auto typed = core::parseTyped(options.result, sign);
  if (!typed && typed.error().kind == ErrorKind::Ambiguous)
    return Error{ErrorKind::Ambiguous, typed.error().what, "typed result",
                 "Say which sign parts the decimals: --decimal comma, or --decimal point"};
  if (!typed) return typed.error();
  if (auto filed = session.outside().type(slot, *typed, options.conditions); !filed) return filed.error();
  value = typed->value;
  return core::valueText(typed->value, session.open().caseOf(slot).metric.unit);
}

}  // namespace

core::Status typeCommand(const TypeOptions& options, std::ostream& out) {
  return withSession(options.study_path, [&](session::Session& session) -> core::Status {
    const auto slot = session.nextSlot();
    if (!slot)
      return Error{ErrorKind::NotAllowed, "every planned pass has its result", session.open().path(),
                   "Correct one in the window"};
    ordered_json value;
    const auto told = typedInto(session, *slot, options, value);
    if (!told) return told.error();
    const core::Study& study = session.study();
    const auto& schedule = session.open().schedule();
    const auto next = session.nextSlot();
    if (options.as_json) {
      ordered_json filed = report::slotJson(study, schedule, slot);
      filed["value"] = value;
      filed["unit"] = session.open().caseOf(*slot).metric.unit;
      out << store::jsonText(ordered_json{{"filed", filed}, {"next", report::slotJson(study, schedule, next)}}, 1)
          << '\n';
      return core::Done{};
    }
    out << fmt::format("Filed {} as {}.\n", *told, report::slotText(study, schedule[*slot]));
    out << (next ? "Next: " + report::slotText(study, schedule[*next]) : "Every planned pass has its result") << ".\n";
    return core::Done{};
  });
}

core::Status importCommand(const ImportOptions& options, std::ostream& out) {
  return withSession(options.study_path, [&](session::Session& session) -> core::Status {
    std::optional<double> ms_per_unit;
    if (!options.unit.empty()) {
      const auto unit = session::unitNamed(options.unit);
      if (!unit) return unit.error();
      ms_per_unit = *unit;
    }
    for (const std::string& path : options.paths) {
      const auto place = placeOf(session.study(), path, options);
      if (!place) return place.error();
      const auto reading = session::readLog(path, session.benches(), session.machine().registeredName(), ms_per_unit);
      if (!reading) return reading.error();
      const auto open = session.open().ledger().pendingOf(place->case_index, place->configuration);
      const std::string& title = session.study().cases[place->case_index].title();
      if (open.size() < reading->runs.size())
        return Error{ErrorKind::TooFew,
                     fmt::format("the plan has {} places left for {} at {}, the log holds {} runs", open.size(), title,
                                 session.study().nameOf(place->configuration), reading->runs.size()),
                     path, "Add a round, or import fewer logs"};
      for (std::size_t run = 0; run < reading->runs.size(); ++run) {
        if (auto filed = session.outside().importFrames(open[run], session::framesOf(*reading, run)); !filed)
          return filed;
        const core::Slot& slot = session.open().schedule()[open[run]];
        const auto& frame_ms = reading->runs[run].frame_ms;
        const double total_ms = std::accumulate(frame_ms.begin(), frame_ms.end(), 0.0);
        out << fmt::format("{}, {}: {} at {}, visit {}, pass {}\n", path, reading->runs[run].name, title,
                           session.study().nameOf(place->configuration), slot.visit, slot.number);
        out << fmt::format("  {} frames in {:.2f} s, {:.4g} FPS; read as {}\n", frame_ms.size(), total_ms / 1000,
                           1000 * static_cast<double>(frame_ms.size()) / total_ms, reading->sentence());
      }
    }
    return core::Done{};
  });
}

}  // namespace cli
