// Passes that did not run here: a person typed their result, or brought the log of their frames.
#include <QDateTime>
#include <algorithm>
#include <filesystem>
#include <fstream>

#include <fmt/format.h>

#include "core/findings/secondary.h"
#include "core/study/exclusion.h"
#include "session/clock.h"
#include "session/session.h"
#include "store/study/event_kinds.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;
namespace events = store::events;

}  // namespace

std::vector<std::size_t> Session::openSlots(std::size_t case_index, core::Side side) const {
  const core::SheetLedger ledger = this->ledger();
  std::vector<std::size_t> open;
  for (std::size_t slot = 0; slot < schedule_.size(); ++slot)
    if (ledger.isPending(slot) && !schedule_[slot].is_warm_up && schedule_[slot].case_index == case_index &&
        schedule_[slot].side == side)
      open.push_back(slot);
  return open;
}

core::Status Session::typeResult(std::size_t slot, core::TypedValue typed) {
  if (slot >= schedule_.size() || schedule_[slot].is_warm_up)
    return Error{ErrorKind::Missing, "the plan has no such pass", path(), "Choose one from the list"};
  if (caseOf(slot).source != core::ResultSource::ByHand)
    return Error{ErrorKind::NotAllowed, "the result of this pass is measured, not typed", caseOf(slot).title(),
                 "Run it; or ask for 'a number that a person types' in the question"};
  MeasuredPass measured;
  typed.person = person_;
  measured.pass.value = typed.value;
  measured.pass.typed = std::move(typed);
  measured.pass.started_ms = now();
  return fileOutside(slot, std::move(measured));
}

core::Status Session::keepProof(std::int64_t pass_id, const std::string& picture_path) {
  constexpr std::uintmax_t kLargest = 16 * 1024 * 1024;
  const bool is_known = std::any_of(recorded_.passes.begin(), recorded_.passes.end(),
                                    [&](const core::Pass& pass) { return pass.id == pass_id; });
  if (!is_known) return Error{ErrorKind::Missing, "there is no such pass", path(), "Type its result first"};
  std::error_code code;
  const auto size = std::filesystem::file_size(picture_path, code);
  std::ifstream file(picture_path, std::ios::binary);
  if (code || !file)
    return Error{ErrorKind::Missing, "the picture cannot be read", picture_path,
                 "Check its name, and that you may read it"};
  if (size > kLargest)
    return Error{ErrorKind::OutOfRange, "the picture is larger than 16 MiB", picture_path, "Keep a smaller one"};
  store::StudyFile::Attachment proof{std::filesystem::path(picture_path).filename().string(), std::string(size, '\0')};
  file.read(proof.bytes.data(), static_cast<std::streamsize>(size));
  if (!file) return Error{ErrorKind::Io, "the picture could not be read whole", picture_path, "Try again"};
  return file_.attach(pass_id, proof);
}

core::Status Session::importPass(std::size_t slot, OutsideFrames outside) {
  if (slot >= schedule_.size() || schedule_[slot].is_warm_up)
    return Error{ErrorKind::Missing, "the plan has no such pass", path(), "Choose one from the list"};
  const core::Metric& metric = caseOf(slot).metric;
  if (metric.unit != "FPS" && metric.unit != "ms")
    return Error{ErrorKind::NotAllowed, "frames yield no " + metric.name + " in " + metric.unit, caseOf(slot).title(),
                 "Import into a case whose result is a frame rate or a frame time"};
  const auto summary = core::summarizeFrames(outside.frame_ms, caseOf(slot), study().target_fps);
  if (!summary) return summary.error();
  MeasuredPass measured;
  measured.pass.frames = *summary;
  measured.pass.value = core::headlineOf(*summary, metric);
  if (auto alone = refuseSecondTime(*measured.pass.value, outside.frame_ms); !alone) return alone;
  measured.pass.origin = outside.origin;
  measured.pass.started_ms = outside.started_ms;
  for (const double frame_ms : outside.frame_ms) measured.pass.duration_s += frame_ms / 1000;
  measured.frame_ms = std::move(outside.frame_ms);
  measured.samples = std::move(outside.samples);
  return fileOutside(slot, std::move(measured));
}

// Frames to the last digit those of another pass are the same log again, and no second measurement.
core::Status Session::refuseSecondTime(double value, const std::vector<double>& frame_ms) {
  for (const core::Pass& pass : recorded_.passes) {
    if (pass.value != value || !pass.frames || !pass.excluded_because.empty()) continue;
    if (const auto known = frames(pass.id); !known || *known != frame_ms) continue;
    return Error{ErrorKind::NotAllowed, fmt::format("these are the very frames of pass {}", pass.id),
                 pass.origin.empty() ? caseOf(pass.slot).title() : pass.origin,
                 "Import each log once; if it belongs elsewhere, leave the other pass out first"};
  }
  return core::Done{};
}

// The visit that a pass from outside belongs to: the one in hand, else the latest of that number, else a new one.
core::Result<core::Visit> Session::visitFor(const core::Slot& slot, std::int64_t started_ms) {
  for (auto visit = recorded_.visits.rbegin(); visit != recorded_.visits.rend(); ++visit)
    if (visit->planned == slot.visit) return *visit;
  auto added = file_.addVisit({0, slot.visit, slot.round, slot.side, "", started_ms});
  if (added) recorded_.visits.push_back(*added);
  return added;
}

core::Status Session::fileOutside(std::size_t slot, MeasuredPass measured) {
  // While the sheet waits for a result, any of the visit in hand may be given: they were run at the level that is set.
  const auto next = nextSlot();
  const bool is_awaited = state_ == State::AwaitingResult && next && schedule_[slot].visit == schedule_[*next].visit;
  if (isRunning() && !is_awaited)
    return Error{ErrorKind::NotAllowed, "passes are running, or another level is set", path(),
                 "Stop first, or wait for this pass's turn"};
  std::optional<FileLock> lock;
  if (!isRunning()) {
    auto acquired = FileLock::acquire(path());
    if (!acquired) return acquired.error();
    lock.emplace(*std::move(acquired));
  }
  const auto visit = visitFor(schedule_[slot], measured.pass.started_ms);
  if (!visit) return visit.error();
  measured.pass.visit_id = visit->id;
  measured.pass.slot = slot;
  measured.pass.attempt = attemptsOf(slot) + 1;
  auto filed = file_.addPass(measured.pass, measured.frame_ms, measured.samples);
  if (!filed) return filed.error();
  // The newest word counts: what stood there before stays on record, left out.
  for (core::Pass& earlier : recorded_.passes)
    if (earlier.slot == slot && earlier.status == core::PassStatus::Finished && earlier.excluded_because.empty())
      if (auto left_out = exclude(earlier.id, core::kTypedWrongly); !left_out) return left_out;
  recorded_.passes.push_back(*filed);
  const core::SheetLedger ledger = this->ledger();
  for (std::size_t i = 0; i < schedule_.size(); ++i) {  // whoever ran it warmed it up as they saw fit
    const core::Slot& other = schedule_[i];
    const bool belongs =
        other.is_warm_up && other.visit == schedule_[slot].visit && other.case_index == schedule_[slot].case_index;
    if (belongs && ledger.isPending(i))
      if (auto skipped = note(events::kSkip, std::to_string(i), "filled from outside"); !skipped) return skipped;
  }
  makeSecondCopy();
  Q_EMIT passFiled(*filed);
  if (isRunning())
    goOn();
  else
    setState(nextSlot() ? State::Idle : State::Finished);
  return core::Done{};
}

}  // namespace session
