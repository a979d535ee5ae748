// The level's part of a session: setting it, capturing, testing and measuring it, and putting it back.
#include <QDateTime>
#include <algorithm>
#include <set>

#include <fmt/format.h>

#include "bench/capture.h"
#include "bench/graphics_load.h"
#include "bench/vulkan_drivers.h"
#include "core/machine/variable_kind.h"
#include "session/session.h"
#include "store/logs/json_result.h"
#include "store/study/event_kinds.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;
namespace events = store::events;

// So often a machine is restarted for one visit; then something keeps the sheet from going on.
constexpr std::size_t kMostFlipsInVain = 5;
// So long after its start a pass is surely under way, and a link no longer sinks.
constexpr int kUnderLoadMs = 1500;
// A test for errors takes its time.
constexpr double kMostTestS = 24 * 3600;

}  // namespace

// Before the first pass of a visit, and again after its last one: a level that sagged under load is found out.
std::optional<core::CaptureMoment> Session::measurementDue(bool visit_goes_on) const {
  if (study().measure_command.empty() || recorded_.visits.empty()) return std::nullopt;
  const core::Visit& visit = recorded_.visits.back();
  const auto is_measured = [&](core::CaptureMoment moment) {
    return core::measurementOf(visit.id, moment, recorded_.measurements) != nullptr;
  };
  const bool has_passes = std::any_of(recorded_.passes.begin(), recorded_.passes.end(),
                                      [&](const core::Pass& pass) { return pass.visit_id == visit.id; });
  if (visit_goes_on && !has_passes && !is_measured(core::CaptureMoment::Start)) return core::CaptureMoment::Start;
  if (!visit_goes_on && isVisitOpen() && has_passes && !is_measured(core::CaptureMoment::End))
    return core::CaptureMoment::End;
  return std::nullopt;
}

// Can the end of the last visit still be seen? Not after a restart, and not once its settings were put back: a capture
// now would say that the level did not hold.
bool Session::isVisitOpen() const {
  if (recorded_.visits.empty()) return false;
  const core::Visit& visit = recorded_.visits.back();
  const bool stands_as_set = settings_are_on_ || study().level(visit.side).writes.empty();
  return stands_as_set && visit.boot_id == bootHere() && !hasCapture(visit.id, core::CaptureMoment::End);
}

// A level that cannot be measured does not stop the sheet: that it was not is on record, and becomes a doubt.
void Session::measure(core::CaptureMoment moment) {
  const core::Visit& visit = recorded_.visits.back();
  setState(State::Measuring);
  const double limit_s = study().plan.time_limit_s;
  launch({core::measureCommand(study(), visit.side), folder(), limit_s},
         [this, moment, limit_s](const bench::CommandOutcome& outcome) {
           if (outcome.ending == bench::Ending::Stopped) return finishStop();
           core::VisitMeasurement measured{recorded_.visits.back().id, moment, {}, {}};
           if (const auto failure = failureOf(outcome, "measuring", limit_s)) {
             measured.failure = failure->sentence();
           } else if (auto readings = store::readingsFromJson(outcome.output)) {
             measured.readings = *std::move(readings);
           } else {
             measured.failure = readings.error().sentence();
           }
           if (auto filed = file_.addMeasurement(measured); !filed) return hold(filed.error());
           recorded_.measurements.push_back(std::move(measured));
           goOn();
         });
}

core::Status Session::applySettings(core::Side side) {
  settings_are_on_ = true;
  return settings_.apply(study().level(side).writes, machine(), machineRoot(), absolutePath());
}

core::Status Session::restoreSettings() {
  if (!std::exchange(settings_are_on_, false)) return core::Done{};
  if (study().levels[0].writes.empty() && study().levels[1].writes.empty()) return core::Done{};
  return settings_.restore(machine(), machineRoot(), absolutePath());
}

bool Session::hasCapture(std::int64_t visit_id, core::CaptureMoment moment) const {
  return std::any_of(recorded_.captures.begin(), recorded_.captures.end(),
                     [&](const core::VisitCapture& one) { return one.visit_id == visit_id && one.moment == moment; });
}

// Empty where the passes run on a machine that is not here.
std::string Session::bootHere() const { return core::isBenchHere(study()) ? bench::bootId(machine()) : std::string(); }

core::Status Session::captureVisit(core::CaptureMoment moment) {
  const std::int64_t visit_id = recorded_.visits.back().id;
  // Where people type what another machine shows, this computer says nothing about it.
  if (hasCapture(visit_id, moment) || !core::isBenchHere(study())) return core::Done{};
  core::VisitCapture taken{visit_id, moment, captureNow()};
  for (const core::Fact& fact : graphicsDrivers(visit_id, moment)) taken.capture.put(fact);
  if (auto filed = file_.addCapture(taken); !filed) return filed;
  // The register repeats what the study holds: one that cannot be written holds nothing up.
  if (moment == core::CaptureMoment::Start) (void)benches_.add(registeredName(), taken.capture);
  recorded_.captures.push_back(std::move(taken));
  return core::Done{};
}

// A driver stays what it is within a visit, and asking it beside a pass would disturb the pass: the end repeats what
// the start read, also where the program was started again in between.
std::vector<core::Fact> Session::graphicsDrivers(std::int64_t visit_id, core::CaptureMoment moment) const {
  if (stand_in_) return {};
  if (moment == core::CaptureMoment::Start) return bench::vulkanDriverFacts();
  std::vector<core::Fact> drivers;
  for (const core::VisitCapture& one : recorded_.captures)
    if (one.visit_id == visit_id && one.moment == core::CaptureMoment::Start)
      for (const core::Fact& fact : one.capture.below("graphics/"))
        if (fact.name.ends_with("/vulkan_driver")) drivers.push_back(fact);
  return drivers;
}

core::Capture Session::captureNow() const {
  const auto with_root = bench::WithRootFacts::open(machine(), root_facts_);
  core::Capture capture = with_root ? bench::captureBench(*with_root) : bench::captureBench(machine());
  for (core::Fact& fact : store::statedFactsOf(recorded_)) capture.put(std::move(fact));
  return capture;
}

// Proof is repeated after the last pass: a level that sagged under load is found out.
core::Status Session::closeVisit() {
  return isVisitOpen() ? captureVisit(core::CaptureMoment::End) : core::Status(core::Done{});
}

// While a pass is surely under way: which graphics device is busy, in each; and once a visit, in its first pass that is
// long enough (the warm-up, where there is one), the whole bench. A capture that cannot be filed is left out: the pass
// goes on, and what is wrong with the file stops the sheet when the pass itself is filed.
void Session::lookUnderLoad(std::size_t slot_index) {
  loads_.clear();
  const std::int64_t started_ms = pass_started_ms_;
  QTimer::singleShot(kUnderLoadMs, this, [this, slot_index, started_ms] {
    if (slotInHand() != slot_index || pass_started_ms_ != started_ms) return;  // a short pass is over by now
    loads_ = bench::graphicsLoads(machine());
    if (loads_.size() < 2) loads_.clear();  // with one device there is no question
    (void)captureVisit(core::CaptureMoment::UnderLoad);
  });
}

// The visit goes on only if nothing but passes has happened since it began. A restart makes it another one.
bool Session::isVisitInHand(const core::Slot& slot) const {
  if (recorded_.visits.empty()) return false;
  const core::Visit& last = recorded_.visits.back();
  return last.planned == slot.visit && last.boot_id == bootHere() && !hasCapture(last.id, core::CaptureMoment::End);
}

// A command that sets a level may restart the machine. The restart that it was to bring is known by another boot since;
// whether the level took hold is for the proof to say.
bool Session::isFlippedByRestart(const core::Slot& slot) const {
  const auto last = std::find_if(recorded_.events.rbegin(), recorded_.events.rend(),
                                 [](const store::Event& event) { return event.kind == events::kFlip; });
  if (last == recorded_.events.rend() || last->subject != std::to_string(slot.visit)) return false;
  const bool is_begun = std::any_of(recorded_.visits.begin(), recorded_.visits.end(), [&](const core::Visit& visit) {
    return visit.planned == slot.visit && visit.started_ms >= last->at_ms;
  });
  return !is_begun && !last->text.empty() && last->text != bench::bootId(machine());
}

// In how many boots the level was to be set since a visit last began.
std::size_t Session::flipsInVain(const core::Slot& slot) const {
  const std::int64_t since_ms = recorded_.visits.empty() ? 0 : recorded_.visits.back().started_ms;
  std::set<std::string> boots;
  for (const store::Event& event : recorded_.events)
    if (event.kind == events::kFlip && event.subject == std::to_string(slot.visit) && event.at_ms > since_ms)
      boots.insert(event.text);
  return boots.size();
}

void Session::setLevel(const core::Slot& slot) {
  const core::Level& level = study().level(slot.side);
  if (auto restored = restoreSettings(); !restored) return hold(restored.error());
  if (auto applied = applySettings(slot.side); !applied) return hold(applied.error());
  if (level.set_command.empty() || isFlippedByRestart(slot)) return beginVisit(slot);
  if (is_resumed_ && flipsInVain(slot) >= kMostFlipsInVain)
    return hold({ErrorKind::CommandFailed, fmt::format("{} restarts in a row brought no visit", kMostFlipsInVain),
                 "setting " + study().variable + " to " + level.name,
                 "Look why the sheet does not go on after the restart, then start it yourself"});
  // On the disk before the command runs: it may restart the machine, and us with it.
  if (auto noted = note(events::kFlip, std::to_string(slot.visit), bench::bootId(machine())); !noted)
    return hold(noted.error());
  setState(State::SettingLevel);
  const double limit_s = study().plan.time_limit_s;
  const std::string boot = bench::bootId(machine());
  launch({{{}, level.set_command, {}}, folder(), limit_s},
         [this, slot, limit_s, boot](const bench::CommandOutcome& outcome) {
           if (outcome.ending == bench::Ending::Stopped) return finishStop();
           const std::string where = "setting " + study().variable + " to " + study().level(slot.side).name;
           if (const auto failure = failureOf(outcome, where, limit_s)) return hold(*failure);
           // A command that asks for a restart is back before the machine goes down: no pass must begin meanwhile.
           const core::VariableKind* kind = core::findVariableKind(study().kind);
           if (kind && kind->needs_reboot && boot == bench::bootId(machine()))
             return hold({ErrorKind::NotAllowed, "this variable needs a restart, and the machine has not restarted yet",
                          where, "Wait for the restart, or restart it; the sheet goes on after it"});
           beginVisit(slot);
         });
}

void Session::beginVisit(const core::Slot& slot) {
  auto visit = file_.addVisit({0, slot.visit, slot.round, slot.side, bootHere(), QDateTime::currentMSecsSinceEpoch()});
  if (!visit) return hold(visit.error());
  recorded_.visits.push_back(*visit);
  if (auto taken = captureVisit(core::CaptureMoment::Start); !taken) return hold(taken.error());
  waitForRest();
}

void Session::waitForRest() {
  const core::Plan& plan = study().plan;
  if (plan.settle_s <= 0 && plan.settle_to_c <= 0) return goOn();
  rest_.settle(machine(), plan, [this](const std::string& remark) {
    if (!remark.empty()) (void)note(events::kNote, "", "Settling: " + remark);
    goOn();
  });
  setState(State::Settling);
}

// Once for each level: a profile that starts may still make errors. A test that somebody ran elsewhere counts.
bool Session::isStabilityDue() const {
  if (study().stability_command.empty()) return false;
  return std::none_of(recorded_.events.begin(), recorded_.events.end(), [&](const store::Event& event) {
    return event.kind == events::kStable && event.subject == events::subjectOf(recorded_.visits.back().side);
  });
}

void Session::testStability() {
  const core::Side side = recorded_.visits.back().side;
  setState(State::Testing);
  const double limit_s = std::max(study().plan.time_limit_s, kMostTestS);
  launch({core::stabilityCommand(study(), side), folder(), limit_s},
         [this, side, limit_s](const bench::CommandOutcome& outcome) {
           if (outcome.ending == bench::Ending::Stopped) return finishStop();
           const std::string& level = study().level(side).name;
           if (const auto failure = failureOf(outcome, "testing " + level + " for errors", limit_s)) {
             // An error is a result, not an accident: the level does not hold.
             if (outcome.ending == bench::Ending::Exited)
               (void)note(events::kNotReachable, events::subjectOf(side), failure->sentence());
             return hold(*failure);
           }
           if (auto noted = note(events::kStable, events::subjectOf(side), "tested by the sheet, no error"); !noted)
             return hold(noted.error());
           goOn();
         });
}

}  // namespace session
