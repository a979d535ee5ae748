#include "session/sheet/level_setter.h"

#include <algorithm>
#include <set>

#include <fmt/format.h>

#include "core/machine/variable_kind.h"
#include "core/proof/contradiction.h"
#include "session/programs/pass_result.h"
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

std::optional<std::string> LevelSetter::contradiction() const {
  return open_.visit() ? core::contradictionOf(study(), store::recordOf(recorded()), *open_.visit()) : std::nullopt;
}

// Can the end of the last visit still be seen? Not after a restart, and not once its settings were put back: a capture
// now would say that the level did not hold.
bool LevelSetter::isVisitOpen() const {
  const core::Visit* visit = open_.visit();
  if (!visit) return false;
  const bool stands_as_set = is_on_ || core::setupOf(study(), visit->configuration).writes.empty();
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

// What was begun for a visit since the last one began, in a boot that is over; nothing where this boot began it.
std::optional<FlipUnderWay> LevelSetter::flipBeforeRestart(const core::Slot& slot) const {
  auto flip = flipUnderWay(recorded());
  const bool is_over = flip && flip->visit == slot.visit && flip->boot_id != bench::bootId(machine_.bench());
  return is_over ? flip : std::nullopt;
}

// A command that sets a level may restart the machine, and the restart then brought the level about: its command does
// not run again. All others do, at each visit and after each restart, which may have lost what they set. Of a variable
// whose kind nobody knows only the command that was running when the machine went down counts as such.
bool LevelSetter::isBroughtByRestart(const core::Variable& variable, const std::optional<FlipUnderWay>& before) const {
  if (!before) return false;
  const core::VariableKind* kind = core::findVariableKind(variable.kind);
  if (kind && !kind->needs_reboot) return false;
  if (before->settings.empty()) return true;  // the only command
  return kind ? std::find(before->settings.begin(), before->settings.end(), variable.name) != before->settings.end()
              : before->settings.back() == variable.name;
}

// The commands that bring a configuration about, in the order of the variables.
std::vector<LevelSetter::Setting> LevelSetter::settingsFor(const core::Slot& slot) const {
  const auto before = flipBeforeRestart(slot);
  const std::vector<std::size_t> levels = study().levelsAt(slot.configuration);
  std::vector<Setting> settings;
  for (std::size_t i = 0; i < study().variables.size(); ++i) {
    const core::Variable& variable = study().variables[i];
    const core::Level& level = variable.levels[levels[i]];
    if (!level.set_command.empty() && !isBroughtByRestart(variable, before))
      settings.push_back({variable.name, {{}, level.set_command, {}, level.without}});
  }
  return settings;
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
  if (auto restored = restore(); !restored) return then(restored);
  if (auto applied = apply(slot.configuration); !applied) return then(applied);
  const std::vector<Setting> settings = settingsFor(slot);
  if (settings.empty()) return then(core::Done{});
  if (is_resumed && flipsInVain(slot) >= kMostFlipsInVain)
    return then(Error{ErrorKind::CommandFailed,
                      fmt::format("{} restarts in a row, and no visit began", kMostFlipsInVain), settingOf(slot),
                      "Find out why the sheet does not go on after the restart, then start it yourself"});
  // On the disk before the command runs: it may restart the machine, and us with it.
  const std::string boot = bench::bootId(machine_.bench());
  if (auto noted = open_.note(core::FlipBegun{slot.visit, boot}); !noted) return then(noted);
  Turn turn{{}, settingOf(slot), true, {}, {}};
  const bool has_several = study().variables.size() > 1;
  for (const Setting& one : settings) turn.left.push_back(one.exact);
  if (has_several)
    turn.before_each = [this, slot, settings](std::size_t place) {
      return open_.note(core::SettingBegun{slot.visit, settings[place].variable});
    };
  runInTurn(std::move(turn), [this, slot, boot, then](const auto& set) {
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
  return study().variables.size() == 1
             ? "setting " + study().variable().name + " to " + study().nameOf(slot.configuration)
             : "setting " + study().nameOf(slot.configuration);
}

void LevelSetter::runInTurn(Turn turn, const Then& then) {
  if (turn.left.empty()) return then(turn.failure ? core::Status(*turn.failure) : core::Done{});
  if (turn.before_each)
    if (auto noted = turn.before_each(turn.done); !noted) return then(noted);
  ++turn.done;
  const core::ExactCommand exact = turn.left.front();
  turn.left.erase(turn.left.begin());
  const double limit_s = study().plan.time_limit_s;
  launcher_.launch({exact, open_.folder(), limit_s},
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
    if (!open_.visit() || open_.visit()->configuration == slot.configuration) return true;
    const auto moved = core::movedBetween(study(), open_.visit()->configuration, slot.configuration);
    return std::find(moved.begin(), moved.end(), variable) != moved.end();
  };
  const std::vector<std::size_t> levels = study().levelsAt(slot.configuration);
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
  to.configuration = study().baseline();
  const auto commands = core::setupOf(study(), to.configuration).set_commands;
  const bool is_away = open_.visit()->configuration != to.configuration;
  if (!is_away || commands.empty() || needsRestartFor(to)) return then(core::Done{});
  runInTurn({commands, settingOf(to), false, {}, {}}, then);  // one that fails keeps no other level from being put back
}

// Before the first pass of a visit, and again after its last one: a level that sagged under load is found out.
std::optional<core::CaptureMoment> LevelSetter::measurementDue(bool visit_goes_on) const {
  if (!open_.visit() || core::measureCommand(study(), open_.visit()->configuration).command.empty())
    return std::nullopt;
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
  launcher_.launch({core::measureCommand(study(), visit.configuration), open_.folder(), limit_s},
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
  if (core::stabilityCommand(study(), open_.visit()->configuration).command.empty()) return false;
  return std::none_of(recorded().events.begin(), recorded().events.end(), [&](const store::Event& event) {
    const auto* stable = std::get_if<core::LevelStable>(&event.act);
    const auto* given_up = std::get_if<core::Unreachable>(&event.act);
    return (stable != nullptr && stable->configuration == open_.visit()->configuration) ||
           (given_up != nullptr && given_up->configuration == open_.visit()->configuration);
  });
}

void LevelSetter::testStability(const Then& then) {
  const core::ConfigurationId configuration = open_.visit()->configuration;
  const double limit_s = std::max(study().plan.time_limit_s, kMostTestS);
  launcher_.launch({core::stabilityCommand(study(), configuration), open_.folder(), limit_s},
                   [this, configuration, limit_s, then](const bench::CommandOutcome& outcome) {
                     if (isStopped(outcome)) return then(std::nullopt);
                     const std::string where = "testing " + study().nameOf(configuration) + " for errors";
                     const auto failure = failureOf(outcome, where, limit_s);
                     if (!failure)
                       return then(open_.note(core::LevelStable{configuration, "tested by the sheet, no error"}));
                     // An error is a result, not an accident: the level does not hold, and the sheet goes on without
                     // it.
                     if (outcome.ending == bench::Ending::Exited)
                       return then(open_.note(core::Unreachable{configuration, "not stable: " + failure->sentence()}));
                     then(*failure);
                   });
}

}  // namespace session
