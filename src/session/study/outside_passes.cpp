#include "session/study/outside_passes.h"

#include <algorithm>
#include <filesystem>

#include <fmt/format.h>

#include "core/findings/secondary.h"
#include "core/study/exclusion.h"
#include "session/study/visit_pictures.h"
#include "session/user/file_lock.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;

// Of a typed pass its further results are what stands behind the first number, by their names.
std::vector<core::FurtherValue> furtherOf(const core::Case& a_case, const core::TypedValue& typed) {
  std::vector<core::FurtherValue> values;
  for (const core::CaseResult& one : a_case.further) {
    core::FurtherValue& taken = values.emplace_back(core::FurtherValue{{}, "Nobody typed it."});
    for (const auto& [name, value] : typed.parts)
      if (name == one.name) taken = {value / one.divide_by, ""};
  }
  return values;
}

}  // namespace

core::Status OutsidePasses::checkTyped(std::size_t slot) const {
  if (slot >= open_.schedule().size() || open_.schedule()[slot].is_warm_up)
    return Error{ErrorKind::Missing, "the plan has no such pass", open_.path(), "Choose one from the list"};
  if (open_.caseOf(slot).source != core::ResultSource::ByHand)
    return Error{ErrorKind::NotAllowed, "the result of this pass is measured, not typed", open_.caseOf(slot).title(),
                 "Run it; or ask for 'a number that a person types' in the question"};
  return core::Done{};
}

core::Status OutsidePasses::typeDoesNotRun(std::size_t slot, const std::string& reason) {
  if (auto fits = checkTyped(slot); !fits) return fits;
  if (reason.find_first_not_of(" \t\n") == std::string::npos)
    return Error{ErrorKind::OutOfRange, "that it does not run is said with a reason only", "reason",
                 "Say what was seen: \"the picture stays black\""};
  MeasuredPass measured;
  measured.pass.does_not_run = "seen at the bench: " + reason;
  for (std::size_t i = 0; i < open_.caseOf(slot).further.size(); ++i)
    measured.pass.further.push_back({{}, "It does not run there."});
  measured.pass.started_ms = open_.now();
  return file(slot, std::move(measured));
}

core::Status OutsidePasses::type(std::size_t slot, core::TypedValue typed, std::vector<std::string> conditions) {
  if (auto fits = checkTyped(slot); !fits) return fits;
  MeasuredPass measured;
  measured.pass.conditions = std::move(conditions);
  typed.person = open_.person();
  measured.pass.value = typed.value / open_.caseOf(slot).divide_by;
  measured.pass.further = furtherOf(open_.caseOf(slot), typed);
  measured.pass.typed = std::move(typed);
  measured.pass.started_ms = open_.now();
  return file(slot, std::move(measured));
}

core::Status OutsidePasses::keepProof(std::int64_t pass_id, const std::string& picture_path) {
  const bool is_known = std::any_of(recorded().passes.begin(), recorded().passes.end(),
                                    [&](const core::Pass& pass) { return pass.id == pass_id; });
  if (!is_known) return Error{ErrorKind::Missing, "there is no such pass", open_.path(), "Type its result first"};
  auto picture = readPicture(picture_path);
  if (!picture) return picture.error();
  return open_.file().attach(pass_id,
                             {std::filesystem::path(picture_path).filename().string(), std::move(picture->bytes)});
}

core::Status OutsidePasses::importFrames(std::size_t slot, OutsideFrames outside) {
  if (slot >= open_.schedule().size() || open_.schedule()[slot].is_warm_up)
    return Error{ErrorKind::Missing, "the plan has no such pass", open_.path(), "Choose one from the list"};
  const core::Metric& metric = open_.caseOf(slot).metric;
  if (metric.unit != "FPS" && metric.unit != "ms")
    return Error{ErrorKind::NotAllowed, "frames yield no " + metric.name + " in " + metric.unit,
                 open_.caseOf(slot).title(), "Import into a case whose result is a frame rate or a frame time"};
  const auto summary = core::summarizeFrames(outside.frame_ms, open_.caseOf(slot), open_.study().targets());
  if (!summary) return summary.error();
  MeasuredPass measured;
  measured.pass.frames = *summary;
  measured.pass.value = core::headlineOf(*summary, metric);
  if (auto alone = refuseSecondTime(*measured.pass.value, outside.frame_ms); !alone) return alone;
  for (std::size_t i = 0; i < open_.caseOf(slot).further.size(); ++i)
    measured.pass.further.push_back({{}, "A log of frames does not say it."});
  measured.pass.origin = outside.origin;
  measured.pass.started_ms = outside.started_ms;
  for (const double frame_ms : outside.frame_ms) measured.pass.duration_s += frame_ms / 1000;
  measured.frame_ms = std::move(outside.frame_ms);
  measured.samples = std::move(outside.samples);
  return file(slot, std::move(measured));
}

// Frames to the last digit those of another pass are the same log again, and no second measurement.
core::Status OutsidePasses::refuseSecondTime(double value, const std::vector<double>& frame_ms) {
  for (const core::Pass& pass : recorded().passes) {
    if (pass.value != value || !pass.frames || !pass.excluded_because.empty()) continue;
    if (const auto known = open_.file().frames(pass.id); !known || *known != frame_ms) continue;
    return Error{ErrorKind::NotAllowed, fmt::format("these are the very frames of pass {}", pass.id),
                 pass.origin.empty() ? open_.caseOf(pass.slot).title() : pass.origin,
                 "Import each log once; if it belongs elsewhere, leave the other pass out first"};
  }
  return core::Done{};
}

// The visit that a pass from outside belongs to: the one in hand, else the latest of that number, else a new one.
core::Result<core::Visit> OutsidePasses::visitFor(const core::Slot& slot, std::int64_t started_ms) {
  const auto& visits = recorded().visits;
  for (auto visit = visits.rbegin(); visit != visits.rend(); ++visit)
    if (visit->planned == slot.visit) return *visit;
  return open_.addVisit(slot, "", started_ms);
}

// While the sheet waits for a result, any of the visit in hand may be given: they were run at the level that is set.
bool OutsidePasses::isAwaited(const core::Slot& slot) const {
  const auto next = open_.nextSlot();
  return state_() == State::AwaitingResult && next && slot.visit == open_.schedule()[*next].visit;
}

core::Status OutsidePasses::file(std::size_t slot, MeasuredPass measured) {
  const core::Slot& planned = open_.schedule()[slot];
  if (isRunning(state_()) && !isAwaited(planned))
    return Error{ErrorKind::NotAllowed, "passes are running, or another level is set", open_.path(),
                 "Stop first, or wait for this pass's turn"};
  std::optional<FileLock> lock;
  if (!isRunning(state_())) {
    auto acquired = FileLock::acquire(open_.path(), open_.person());
    if (!acquired) return acquired.error();
    lock.emplace(*std::move(acquired));
  }
  const auto visit = visitFor(planned, measured.pass.started_ms);
  if (!visit) return visit.error();
  measured.pass.visit_id = visit->id;
  measured.pass.slot = slot;
  measured.pass.attempt = open_.ledger().attemptsOf(slot) + 1;
  // The newest word counts: what stood there before stays on record, left out. Both at once: a crash between them would
  // leave two numbers, of which the older one counts.
  std::vector<core::Act> left_out;
  for (const core::Pass& pass : recorded().passes)
    if (pass.slot == slot && pass.status == core::PassStatus::Finished && pass.excluded_because.empty())
      left_out.emplace_back(core::PassExcluded{pass.id, core::kTypedWrongly});
  const auto filed = open_.addPass(measured.pass, measured.frame_ms, measured.samples, std::move(left_out));
  if (!filed) return filed.error();
  if (auto skipped = skipWarmUpsOf(planned); !skipped) return skipped;
  Q_EMIT passFiled(*filed);
  return core::Done{};
}

// Whoever ran it warmed it up as they saw fit.
core::Status OutsidePasses::skipWarmUpsOf(const core::Slot& slot) {
  const core::SheetLedger ledger = open_.ledger();
  for (std::size_t i = 0; i < open_.schedule().size(); ++i) {
    const core::Slot& other = open_.schedule()[i];
    const bool belongs = other.is_warm_up && other.visit == slot.visit && other.case_index == slot.case_index;
    if (!belongs || !ledger.isPending(i)) continue;
    if (auto skipped = open_.note(core::Skipped{i, "filled from outside"}); !skipped) return skipped;
  }
  return core::Done{};
}

}  // namespace session
