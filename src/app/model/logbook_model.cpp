#include "app/model/logbook_model.h"

#include <QDateTime>
#include <algorithm>

#include "core/estimate/wording.h"
#include "core/values/number_text.h"
#include "store/study/event_kinds.h"

namespace app {

namespace events = store::events;

LogbookModel::LogbookModel(const StudyModel& study, QObject* parent) : QAbstractTableModel(parent), study_(study) {
  connect(&study, &StudyModel::changed, this, &LogbookModel::refresh);
  if (study.hasStudy()) refresh();
}

// The pass that an event is about, as people know it.
QString LogbookModel::passName(const store::Event& event) const {
  for (const auto& [id, name] : study_.judgement().pass_names)
    if (std::to_string(id) == event.subject) return toQt(name);
  return tr("a pass");
}

QString LogbookModel::eventText(const store::Event& event) const {
  if (event.kind == events::kAccepted)
    return tr("accepted a doubt (%1): %2").arg(toQt(event.subject), toQt(event.text));
  if (event.kind == events::kNote) return tr("note: %1").arg(toQt(event.text));
  if (event.kind == events::kStated)
    return event.text.empty() ? tr("took back what was stated: %1").arg(toQt(event.subject))
                              : tr("stated %1: %2").arg(toQt(event.subject), toQt(event.text));
  if (event.kind == events::kNotReachable)
    return tr("%1 is not reachable: %2")
        .arg(toQt(study_.study().level(events::sideOf(event.subject)).name), toQt(event.text));
  if (event.kind == events::kOpenedEarly) return tr("opened the results early: %1").arg(toQt(event.text));
  if (event.kind == events::kPredicted) {
    if (event.text.empty()) return tr("took back a prediction");
    const auto percent = core::numberOf(event.text);
    return tr("predicts %1").arg(toQt(percent ? core::percentText(*percent) : event.text));
  }
  if (event.kind == events::kStoppedAtLook)
    return tr("ended the study at the look after round %1").arg(toQt(event.subject));
  if (event.kind == events::kExcluded) return tr("left out %1: %2").arg(passName(event), toQt(event.text));
  if (event.kind == events::kIncluded) return tr("put back in: %1").arg(passName(event));
  if (event.kind == events::kExplained)
    return event.text.empty() ? tr("took back the cause of %1").arg(toQt(event.subject))
                              : tr("on the cause of %1: %2").arg(toQt(event.subject), toQt(event.text));
  if (event.kind == events::kFelt) return tr("%1 felt: %2").arg(passName(event), toQt(event.text));
  if (event.kind == events::kSkip) return tr("left a pass out of the sheet: %1").arg(toQt(event.text));
  if (event.kind == events::kPlanChanged) return tr("changed the plan: %1").arg(toQt(event.text));
  if (event.kind == events::kJudgingChanged) return tr("changed how results are judged: %1").arg(toQt(event.text));
  if (event.kind == events::kLimit) return tr("stopped at a limit: %1").arg(toQt(event.text));
  if (event.kind == events::kStable)
    return tr("%1 makes no errors: %2")
        .arg(toQt(study_.study().level(events::sideOf(event.subject)).name), toQt(event.text));
  if (event.kind == events::kRestored) return tr("put back: %1").arg(toQt(event.text));
  if (event.kind == events::kFlip) return tr("flip to visit %1 begun").arg(toQt(event.subject));
  if (event.kind == events::kRepeat) return tr("granted another attempt at a failed pass");
  return toQt(event.kind + ": " + event.text);
}

void LogbookModel::refresh() {
  beginResetModel();
  entries_.clear();
  const store::Recorded& recorded = study_.session().recorded();
  for (const core::Visit& visit : recorded.visits)
    entries_.push_back({visit.started_ms,
                        {},
                        tr("visit %1 began: %2").arg(visit.planned).arg(toQt(study_.study().level(visit.side).name))});
  for (const core::VisitCapture& one : recorded.captures) {
    const QString moment = one.moment == core::CaptureMoment::Start       ? tr("before its passes")
                           : one.moment == core::CaptureMoment::UnderLoad ? tr("under load")
                                                                          : tr("after its passes");
    int planned = 0;
    for (const core::Visit& visit : recorded.visits)
      if (visit.id == one.visit_id) planned = visit.planned;
    entries_.push_back(
        {one.capture.taken_ms,
         {},
         tr("captured the bench in visit %1, %2: %3 facts").arg(planned).arg(moment).arg(one.capture.facts.size())});
  }
  for (const core::Pass& pass : recorded.passes)
    if (pass.status == core::PassStatus::Failed)
      entries_.push_back(
          {pass.started_ms,
           {},
           tr("%1 failed: %2").arg(passName({0, 0, {}, {}, std::to_string(pass.id), {}}), toQt(pass.failure))});
  for (const store::Event& event : recorded.events)
    entries_.push_back({event.at_ms, toQt(event.person), eventText(event)});
  std::stable_sort(entries_.begin(), entries_.end(), [](const Entry& a, const Entry& b) { return a.at_ms > b.at_ms; });
  endResetModel();
}

int LogbookModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(entries_.size());
}
int LogbookModel::columnCount(const QModelIndex& parent) const { return parent.isValid() ? 0 : ColumnCount; }

QVariant LogbookModel::data(const QModelIndex& index, int role) const {
  if (!index.isValid() || index.row() >= rowCount()) return {};
  const Entry& entry = entries_[static_cast<std::size_t>(index.row())];
  if (role == Qt::ToolTipRole) return entry.what;
  if (role != Qt::DisplayRole) return {};
  switch (index.column()) {
    case ClockColumn:
      return QDateTime::fromMSecsSinceEpoch(entry.at_ms).toString(QStringLiteral("yyyy-MM-dd HH:mm:ss"));
    case PersonColumn: return entry.person.isEmpty() ? tr("the program") : entry.person;
    default: return entry.what;
  }
}

QVariant LogbookModel::headerData(int section, Qt::Orientation orientation, int role) const {
  if (orientation != Qt::Horizontal || role != Qt::DisplayRole) return {};
  const QStringList names{tr("when"), tr("who"), tr("what happened")};
  return section < names.size() ? names[section] : QVariant();
}

}  // namespace app
