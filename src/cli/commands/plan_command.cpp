#include <optional>
#include <set>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "bench/local_bench.h"
#include "cli/commands.h"
#include "cli/commands/far.h"
#include "core/estimate/wording.h"
#include "core/study/look_confidences.h"
#include "core/values/percent.h"
#include "core/values/shown_text.h"
#include "report/json/slot_json.h"
#include "session/sheet/session.h"
#include "session/sheet/whose_turn.h"
#include "session/study/checklist.h"
#include "session/study/planning_basis.h"
#include "session/study/sheet_time.h"
#include "session/user/person.h"
#include "store/json/json_text.h"

namespace cli {
namespace {

using json = nlohmann::ordered_json;

json chancesJson(const core::PlanValue& value) {
  return {{"power", value.power},
          {"chance_gain", value.chance_gain},
          {"chance_nothing_matters", value.chance_nothing_matters}};
}

json planJson(const core::CandidatePlan& plan, const core::PlanningOrder& planning) {
  const auto& unit = planning.aim.unit;
  const json detectable =
      plan.hasNoInterval() || plan.smallest_detectable <= 0 ? json() : json(plan.smallest_detectable);
  json out{{"order", core::orderName(plan.order)},
           {"size", plan.size},
           {"passes_per_visit", plan.passes_per_visit},
           {"visits", plan.visits},
           {"minutes", plan.minutes},
           {"smallest_detectable_percent", unit ? json() : detectable},
           {"half_width_percent", unit ? json() : json(core::percentOfLn(plan.value.half_width))},
           {"power", plan.value.power},
           {"chance_gain", plan.value.chance_gain},
           {"chance_nothing_matters", plan.value.chance_nothing_matters},
           {"exposure_hours", plan.exposure_hours},
           {"flips_unseen", plan.value.is_flip_unseen},
           {"sufficient", plan.is_sufficient},
           {"chances_are_of", planning.suite_cases > 1 ? "suite" : "each case"},
           {"cases", std::max(planning.suite_cases, planning.aim.cases)},
           {"each_case", plan.each ? chancesJson(*plan.each) : json()},
           {"spread_df", planning.noise.spread_df > 0 ? json(planning.noise.spread_df) : json()},
           {"in_words", core::reasonFor(plan, planning)}};
  if (unit)
    out.update({{"unit", unit->unit}, {"smallest_detectable", detectable}, {"half_width", plan.value.half_width}});
  return out;
}

}  // namespace

core::Status planCommand(const std::string& study_path, double minutes, bool as_json, std::ostream& out) {
  auto file = store::StudyFile::open(study_path);
  if (!file) return file.error();
  const core::Study study = file->study();
  const std::string name = session::registeredName(study);
  const auto files = session::UserFiles::ofThisUser();
  if (!files) return files.error();
  const store::BenchRegister benches(files->benches);
  const auto [planning, measured] = session::planningBasis(study, benches, name);
  const core::CandidatePlan current = session::currentPlan(study.plan, planning);
  const auto proposed = minutes > 0 ? core::bestWithin(minutes, planning) : core::cheapestPlan(planning);
  if (as_json) {
    json object{{"spreads_from", measured ? json(measured->measured.title) : json("a guess")},
                {"looks_in_words", core::lookPriceText(study)},
                {"current", planJson(current, planning)},
                {"proposed", proposed ? planJson(*proposed, planning) : json()}};
    out << store::jsonText(object, 1) << '\n';
    return core::Done{};
  }
  out << (!measured ? "Spreads are guessed; a null study would measure them.\n"
          : measured->measured.isPilot()
              ? fmt::format("The spread of passes is that of earlier passes of {}; what a flip adds is guessed.\n",
                            measured->measured.title)
              : fmt::format("Spreads from a null study of {}.\n", measured->measured.title));
  out << "Now: " << core::reasonFor(current, planning) << ".\n";
  for (const core::Variable& one : study.variables)
    if (const auto offer = core::groupingOffer(study, one.name, planning)) out << *offer << ".\n";
  if (const auto price = core::lookPriceText(study); !price.empty()) out << price << ".\n";
  if (const auto offer = core::spreadOffer(study, planning)) out << *offer << ".\n";
  if (proposed)
    out << (minutes > 0 ? "Best in that time: " : "Cheapest that is enough: ") << core::reasonFor(*proposed, planning)
        << ".\n";
  else
    out << core::noPlanText(planning, minutes > 0) << '\n';
  return core::Done{};
}

core::Status statusCommand(const std::string& study_path, bool as_json, std::ostream& out) {
  auto file = store::StudyFile::open(study_path);
  if (!file) return file.error();
  std::optional<FarStanding> far;
  if (!file->study().ssh_name.empty()) {
    auto standing = farStanding(study_path);
    if (!standing) return standing.error();
    far = *std::move(standing);
    file = store::StudyFile::open(study_path);  // with what was fetched
    if (!file) return file.error();
  }
  bench::LocalBench bench;
  const auto files = session::UserFiles::ofThisUser();
  if (!files) return files.error();
  const session::Session session(*std::move(file), bench, *files, session::personAtThisMachine());
  if (session.problem()) return *session.problem();
  const auto next = session.nextSlot();
  const auto& schedule = session.open().schedule();
  std::set<std::size_t> recorded;  // a pass that was tried again is one
  for (const core::Pass& pass : session.recorded().passes) recorded.insert(pass.slot);
  const bool waits = session::waitsForPerson(session.open(), session.machine());
  constexpr double kUnknown = -1;
  const double left =
      next ? session::secondsLeft(session.open(), session.pass().secondsInPass()).value_or(kUnknown) : kUnknown;
  if (as_json) {
    json object{{"planned_passes", schedule.size()},
                {"recorded_passes", recorded.size()},
                {"attempts", session.recorded().passes.size()},
                {"visits", session.recorded().visits.size()},
                {"is_complete", !next.has_value()},
                {"next", report::slotJson(session.study(), schedule, next)},
                {"waits_for_a_person", waits},
                {"seconds_left", nullptr}};
    if (left >= 0) object["seconds_left"] = left;
    object["checklist"] = json::array();
    for (const session::ChecklistPoint& point : session::dueChecklist(session.open()))
      object["checklist"].push_back({{"point", point.text}, {"done", point.is_done}});
    if (far)
      object["reached"] = {
          {"ssh", far->name}, {"sheet_runs", far->is_running}, {"clock_ahead_ms", far->clock_ahead_ms}};
    out << store::jsonText(object, 1) << '\n';
    return core::Done{};
  }
  if (far)
    out << fmt::format("{} answers; its sheet {} there. Its clock is {}.\n", far->name,
                       far->is_running ? "runs" : "does not run", far->clock);
  out << fmt::format("{} of {} passes are on record.\n", recorded.size(), schedule.size());
  if (!next) out << "The sheet is done.\n";
  if (next)
    out << "Next: " << report::slotText(session.study(), schedule[*next]) << (waits ? "; it waits for you" : "")
        << ".\n";
  for (const session::ChecklistPoint& point : session::dueChecklist(session.open()))
    out << fmt::format("  [{}] {}\n", point.is_done ? 'x' : ' ', core::shownLine(point.text));
  if (left >= 0) out << "About " << core::durationText(left) << " left.\n";
  return core::Done{};
}

}  // namespace cli
