#include "session/level_setter.h"

#include <algorithm>
#include <set>

#include <fmt/format.h>

#include "core/machine/variable_kind.h"
#include "core/record/flip_guide.h"
#include "session/pass_result.h"
#include "store/logs/json_result.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;

// So often a machine is restarted for one visit; then something keeps the sheet from going on.
constexpr std::size_t kMostFlipsInVain = 5;
// A test for errors takes its time.
constexpr double kMostTestS = 24 * 3600;

bool isStopped(const bench::CommandOutcome& outcome) { return outcome.ending == bench::Ending::Stopped; }

}  // namespace

// A level that a person sets waits until they have, and start it again. One that goes beyond what the maker set is not
// left unattended.
bool LevelSetter::waitsForPerson(const core::Slot& slot) const {
  const auto before = open_.visit() ? std::optional(*open_.visit()) : std::nullopt;
  return core::isFlippedByHand(study(), slot.side, before) || core::raisesLimits(core::setupOf(study(), slot.side));
}

// The visit goes on only if nothing but passes has happened since it began. A restart makes it another one.
bool LevelSetter::isVisitInHand(const core::Slot& slot) const {
  const core::Visit* last = open_.visit();
  return last && last->planned == slot.visit && last->boot_id == machine_.boot() &&
         !captures_.has(last->id, core::CaptureMoment::End);
}

// Can the end of the last visit still be seen? Not after a restart, and not once its settings were put back: a capture
// now would say that the level did not hold.
bool LevelSetter::isVisitOpen() const {
  const core::Visit* visit = open_.visit();
  if (!visit) return false;
  const bool stands_as_set = is_on_ || core::setupOf(study(), visit->side).writes.empty();
  return stands_as_set && visit->boot_id == machine_.boot() && !captures_.has(visit->id, core::CaptureMoment::End);
}

core::Status LevelSetter::apply(core::ConfigurationId configuration) {
  is_on_ = true;
  return settings_.apply(core::setupOf(study(), configuration).writes, machine_.bench(), machine_.root(),
                         open_.absolutePath());
}

core::Status LevelSetter::restore() {
  if (!std::exchange(is_on_, false)) return core::Done{};
  const auto writes = [](const core::Variable& variable) {
    return std::any_of(variable.levels.begin(), variable.levels.end(),
                       [](const core::Level& level) { return !level.writes.empty(); });
  };
  if (std::none_of(study().variables.begin(), study().variables.end(), writes)) return core::Done{};
  return settings_.restore(machine_.bench(), machine_.root(), open_.absolutePath());
}

// A command that sets a level may restart the machine. The restart that it was to bring is known by another boot since;
// whether the level took hold is for the proof to say.
bool LevelSetter::isFlippedByRestart(const core::Slot& slot) const {
  const auto last = std::find_if(recorded().events.rbegin(), recorded().events.rend(), [](const store::Event& event) {
    return std::holds_alternative<core::FlipBegun>(event.act);
  });
  if (last == recorded().events.rend()) return false;
  const auto& flip = std::get<core::FlipBegun>(last->act);
  if (flip.visit != slot.visit) return false;
  const bool is_begun = std::any_of(recorded().visits.begin(), recorded().visits.end(), [&](const core::Visit& visit) {
    return visit.planned == slot.visit && visit.started_ms >= last->at_ms;
  });
  return !is_begun && !flip.boot_id.empty() && flip.boot_id != bench::bootId(machine_.bench());
}

// In how many boots the level was to be set since a visit last began.
std::size_t LevelSetter::flipsInVain(const core::Slot& slot) const {
  const std::int64_t since_ms = open_.visit() ? open_.visit()->started_ms : 0;
  std::set<std::string> boots;
  for (const store::Event& event : recorded().events)
    if (const auto* flip = std::get_if<core::FlipBegun>(&event.act);
        flip != nullptr && flip->visit == slot.visit && event.at_ms > since_ms)
      boots.insert(flip->boot_id);
  return boots.size();
}

void LevelSetter::set(const core::Slot& slot, bool is_resumed, const Then& then) {
  const core::Setup setup = core::setupOf(study(), slot.side);
  if (auto restored = restore(); !restored) return then(restored);
  if (auto applied = apply(slot.side); !applied) return then(applied);
  if (setup.set_commands.empty() || isFlippedByRestart(slot)) return then(core::Done{});
  if (is_resumed && flipsInVain(slot) >= kMostFlipsInVain)
    return then(Error{ErrorKind::CommandFailed,
                      fmt::format("{} restarts in a row, and no visit began", kMostFlipsInVain), settingOf(slot),
                      "Look why the sheet does not go on after the restart, then start it yourself"});
  // On the disk before the command runs: it may restart the machine, and us with it.
  const std::string boot = bench::bootId(machine_.bench());
  if (auto noted = open_.note(core::FlipBegun{slot.visit, boot}); !noted) return then(noted);
  // All of them at each visit, in the order of the variables: a restart may have lost any.
  runInTurn({setup.set_commands, settingOf(slot), true, {}}, [this, slot, boot, then](const auto& set) {
    if (!set || !*set) return then(set);
    // A command that asks for a restart is back before the machine goes down: no pass must begin meanwhile.
    if (needsRestartFor(slot) && boot == bench::bootId(machine_.bench()))
      return then(Error{ErrorKind::NotAllowed, "this variable needs a restart, and the machine has not restarted yet",
                        settingOf(slot), "Wait for the restart, or restart it; the sheet goes on after it"});
    then(core::Done{});
  });
}

// "setting the graphics link to Gen 4"
std::string LevelSetter::settingOf(const core::Slot& slot) const {
  return study().variables.size() == 1 ? "setting " + study().variable().name + " to " + study().nameOf(slot.side)
                                       : "setting " + study().nameOf(slot.side);
}

void LevelSetter::runInTurn(Turn turn, const Then& then) {
  if (turn.left.empty()) return then(turn.failure ? core::Status(*turn.failure) : core::Done{});
  const core::Command command = turn.left.front();
  turn.left.erase(turn.left.begin());
  const double limit_s = study().plan.time_limit_s;
  launcher_.launch({{{}, command, {}}, open_.folder(), limit_s},
                   [this, turn = std::move(turn), limit_s, then](const bench::CommandOutcome& outcome) mutable {
                     if (isStopped(outcome)) return then(std::nullopt);
                     if (const auto failure = failureOf(outcome, turn.where, limit_s); failure && !turn.failure)
                       turn.failure = failure;
                     if (turn.failure && turn.ends_at_failure) return then(*turn.failure);
                     runInTurn(std::move(turn), then);
                   });
}

// Has a variable that moves since the last visit, or is set anew, a kind that only a restart changes?
bool LevelSetter::needsRestartFor(const core::Slot& slot) const {
  const auto moves = [&](std::size_t variable) {
    if (!open_.visit() || open_.visit()->side == slot.side) return true;
    const auto moved = core::movedBetween(study(), open_.visit()->side, slot.side);
    return std::find(moved.begin(), moved.end(), variable) != moved.end();
  };
  const std::vector<std::size_t> levels = study().levelsAt(slot.side);
  for (std::size_t i = 0; i < study().variables.size(); ++i) {
    const core::Variable& variable = study().variables[i];
    const core::VariableKind* kind = core::findVariableKind(variable.kind);
    if (kind && kind->needs_reboot && !variable.levels[levels[i]].set_command.empty() && moves(i)) return true;
  }
  return false;
}

void LevelSetter::backToBaseline(const Then& then) {
  if (auto restored = restore(); !restored) return then(restored);
  core::Slot to;
  to.side = study().baseline();
  const auto commands = core::setupOf(study(), to.side).set_commands;
  const bool is_away = open_.visit()->side != to.side;
  if (!is_away || commands.empty() || needsRestartFor(to)) return then(core::Done{});
  runInTurn({commands, settingOf(to), false, {}}, then);  // one that fails keeps no other level from being put back
}

// Before the first pass of a visit, and again after its last one: a level that sagged under load is found out.
std::optional<core::CaptureMoment> LevelSetter::measurementDue(bool visit_goes_on) const {
  if (study().measure_command.empty() || !open_.visit()) return std::nullopt;
  const core::Visit& visit = *open_.visit();
  const auto is_measured = [&](core::CaptureMoment moment) {
    return core::measurementOf(visit.id, moment, recorded().measurements) != nullptr;
  };
  const bool has_passes = std::any_of(recorded().passes.begin(), recorded().passes.end(),
                                      [&](const core::Pass& pass) { return pass.visit_id == visit.id; });
  if (visit_goes_on && !has_passes && !is_measured(core::CaptureMoment::Start)) return core::CaptureMoment::Start;
  if (!visit_goes_on && isVisitOpen() && has_passes && !is_measured(core::CaptureMoment::End))
    return core::CaptureMoment::End;
  return std::nullopt;
}

// A level that cannot be measured does not stop the sheet: that it was not is on record, and becomes a doubt.
void LevelSetter::measure(core::CaptureMoment moment, const Then& then) {
  const core::Visit& visit = *open_.visit();
  const double limit_s = study().plan.time_limit_s;
  launcher_.launch({core::measureCommand(study(), visit.side), open_.folder(), limit_s},
                   [this, moment, limit_s, then](const bench::CommandOutcome& outcome) {
                     if (isStopped(outcome)) return then(std::nullopt);
                     core::VisitMeasurement measured{open_.visit()->id, moment, {}, {}};
                     if (const auto failure = failureOf(outcome, "measuring", limit_s)) {
                       measured.failure = failure->sentence();
                     } else if (auto readings = store::readingsFromJson(outcome.output)) {
                       measured.readings = *std::move(readings);
                     } else {
                       measured.failure = readings.error().sentence();
                     }
                     then(open_.addMeasurement(std::move(measured)));
                   });
}

// Once for each level: a profile that starts may still make errors. A test that somebody ran elsewhere counts.
bool LevelSetter::isStabilityDue() const {
  if (study().stability_command.empty()) return false;
  return std::none_of(recorded().events.begin(), recorded().events.end(), [&](const store::Event& event) {
    const auto* stable = std::get_if<core::LevelStable>(&event.act);
    return stable != nullptr && stable->side == open_.visit()->side;
  });
}

void LevelSetter::testStability(const Then& then) {
  const core::Side side = open_.visit()->side;
  const double limit_s = std::max(study().plan.time_limit_s, kMostTestS);
  launcher_.launch({core::stabilityCommand(study(), side), open_.folder(), limit_s},
                   [this, side, limit_s, then](const bench::CommandOutcome& outcome) {
                     if (isStopped(outcome)) return then(std::nullopt);
                     const std::string where = "testing " + study().nameOf(side) + " for errors";
                     const auto failure = failureOf(outcome, where, limit_s);
                     if (!failure) return then(open_.note(core::LevelStable{side, "tested by the sheet, no error"}));
                     // An error is a result, not an accident: the level does not hold.
                     if (outcome.ending == bench::Ending::Exited)
                       (void)open_.note(core::Unreachable{side, failure->sentence()});
                     then(*failure);
                   });
}

}  // namespace session
