#include "session/study/open_study.h"

#include <QDateTime>
#include <QFileInfo>
#include <algorithm>

namespace session {

std::int64_t OpenStudy::now() const { return QDateTime::currentMSecsSinceEpoch() + (ahead_ms_ ? ahead_ms_() : 0); }

core::Status OpenStudy::read() {
  auto recorded = file_.recorded();
  schedule_ = core::scheduleOf(study());
  if (!recorded) return recorded.error();
  recorded_ = *std::move(recorded);
  return core::Done{};
}

std::string OpenStudy::absolutePath() const {
  return QFileInfo(QString::fromStdString(path())).absoluteFilePath().toStdString();
}

const core::Visit* OpenStudy::visit() const {
  const auto last = std::find_if(recorded_.visits.rbegin(), recorded_.visits.rend(),
                                 [](const core::Visit& one) { return !one.is_taken; });
  return last == recorded_.visits.rend() ? nullptr : &*last;
}

std::string OpenStudy::folder() const { return QFileInfo(QString::fromStdString(path())).absolutePath().toStdString(); }

core::Status OpenStudy::note(core::Act act, const std::string& who, const std::string& picture) {
  const store::Event event{0, now(), who.empty() ? person_ : who, std::move(act)};
  if (auto added = file_.addEvent(event, picture); !added) return added;
  store::enter(event, recorded_);
  return core::Done{};
}

core::Status OpenStudy::replace(const core::Study& study) {
  if (auto replaced = file_.replaceStudy(study); !replaced) return replaced;
  schedule_ = core::scheduleOf(this->study());
  return core::Done{};
}

core::Status OpenStudy::change(const core::Study& study, core::Act why) {
  const store::Event event{0, now(), person_, std::move(why)};
  if (auto changed = file_.changePlan(study, event); !changed) return changed;
  store::enter(event, recorded_);
  schedule_ = core::scheduleOf(this->study());
  return core::Done{};
}

core::Result<core::Visit> OpenStudy::addVisit(const core::Slot& slot, const std::string& boot,
                                              std::int64_t started_ms) {
  auto visit = file_.addVisit({0, slot.visit, slot.round, slot.configuration, boot, started_ms});
  if (visit) recorded_.visits.push_back(*visit);
  return visit;
}

core::Status OpenStudy::addCapture(core::VisitCapture capture) {
  if (auto filed = file_.addCapture(capture); !filed) return filed;
  recorded_.captures.push_back(std::move(capture));
  return core::Done{};
}

core::Status OpenStudy::addMeasurement(core::VisitMeasurement measurement) {
  if (auto filed = file_.addMeasurement(measurement); !filed) return filed;
  recorded_.measurements.push_back(std::move(measurement));
  return core::Done{};
}

core::Result<core::Pass> OpenStudy::addPass(const core::Pass& pass, const std::vector<double>& frame_ms,
                                            const core::Samples& samples, std::vector<core::Act> with) {
  std::vector<store::Event> events;
  for (core::Act& act : with) events.push_back({0, now(), person_, std::move(act)});
  auto filed = file_.addPass(pass, frame_ms, samples, events);
  if (!filed) return filed;
  filed->output.clear();
  filed->error_output.clear();
  recorded_.passes.push_back(*filed);
  for (const store::Event& event : events) store::enter(event, recorded_);
  return filed;
}

}  // namespace session
