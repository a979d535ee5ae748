#include "app/model/logbook_model.h"

#include <QCoreApplication>
#include <QDateTime>
#include <algorithm>
#include <type_traits>

#include "core/estimate/wording.h"
#include "core/machine/stated_fact.h"

namespace app {

namespace {

/// What an act says in the logbook; a person or the program did it.
class ActText {
  Q_DECLARE_TR_FUNCTIONS(app::ActText)

 public:
  explicit ActText(const StudyModel& study) : study_(study), clock_(store::benchClockOf(study.session().recorded())) {}

  [[nodiscard]] const core::BenchClock& clock() const { return clock_; }

  /// The pass with this id, as people know it.
  [[nodiscard]] QString passName(std::int64_t pass_id) const { return toQt(study_.judgement().pass_names.of(pass_id)); }

  [[nodiscard]] static QString factOf(const std::string& id) {
    const core::StatedKind* kind = core::findStatedKind(id);
    return kind == nullptr ? toQt(id) : toQt(kind->title);
  }

  QString operator()(const core::DoubtAccepted& act) const {
    const auto& doubts = study_.judgement().doubts;
    const auto found =
        std::find_if(doubts.begin(), doubts.end(), [&](const core::Doubt& one) { return one.id == act.doubt_id; });
    // One that no longer stands has no sentence any more.
    return tr("accepted a doubt (%1): %2")
        .arg(found == doubts.end() ? tr("it is no longer raised") : toQt(found->sentence), toQt(act.reason));
  }
  QString operator()(const core::Observed& act) const {
    return act.picture.empty() ? tr("noticed: %1").arg(toQt(act.text))
                               : tr("noticed, with a picture: %1").arg(toQt(act.text));
  }
  QString operator()(const core::NoteMade& act) const { return tr("note: %1").arg(toQt(act.text)); }
  QString operator()(const core::FactStated& act) const {
    return act.value.empty() ? tr("took back what was stated: %1").arg(factOf(act.fact_id))
                             : tr("stated %1: %2").arg(factOf(act.fact_id), toQt(act.value));
  }
  QString operator()(const core::Unreachable& act) const {
    return tr("%1 is not reachable: %2").arg(nameOf(act.configuration), toQt(act.reason));
  }
  QString operator()(const core::OpenedEarly& act) const {
    return tr("opened the results early: %1").arg(toQt(act.reason));
  }
  QString operator()(const core::ChangePredicted& act) const {
    return act.percent ? tr("predicts %1").arg(toQt(core::percentText(*act.percent))) : tr("took back a prediction");
  }
  QString operator()(const core::StoppedAtLook& act) const {
    return tr("ended the study at the interim look after round %1").arg(act.round);
  }
  QString operator()(const core::PassExcluded& act) const {
    return tr("left out %1: %2").arg(passName(act.pass_id), toQt(act.cause));
  }
  QString operator()(const core::PassIncluded& act) const { return tr("put back in: %1").arg(passName(act.pass_id)); }
  QString operator()(const core::CauseGiven& act) const {
    return act.text.empty() ? tr("took back the cause of %1").arg(toQt(act.case_title))
                            : tr("on the cause of %1: %2: %3")
                                  .arg(toQt(act.case_title), toQt(core::gradeName(act.grade)), toQt(act.text));
  }
  QString operator()(const core::PassFelt& act) const {
    return tr("%1 felt: %2").arg(passName(act.pass_id), toQt(act.word));
  }
  QString operator()(const core::StepTried& act) const {
    const QString name = nameOf(act.configuration);
    switch (act.phase) {
      case core::StepPhase::Setting: return tr("search: %1 is being set").arg(name);
      case core::StepPhase::Testing: return tr("search: %1 is being tested for errors").arg(name);
      case core::StepPhase::Held: return tr("search: %1 held: %2").arg(name, toQt(act.text));
      case core::StepPhase::Failed: return tr("search: %1 failed: %2").arg(name, toQt(act.text));
    }
    return {};
  }
  QString operator()(const core::PointTicked& act) const {
    return act.is_done ? tr("ticked before visit %1: %2").arg(act.visit).arg(toQt(act.point))
                       : tr("took the tick back before visit %1: %2").arg(act.visit).arg(toQt(act.point));
  }
  QString operator()(const core::Skipped& act) const { return tr("skipped a pass: %1").arg(toQt(act.reason)); }
  QString operator()(const core::PlanChanged& act) const { return tr("changed the plan: %1").arg(toQt(act.what)); }
  QString operator()(const core::JudgingChange& act) const {
    return tr("changed how results are judged: %1").arg(toQt(act.what));
  }
  QString operator()(const core::LimitReached& act) const { return tr("stopped at a limit: %1").arg(toQt(act.what)); }
  QString operator()(const core::LevelStable& act) const {
    return tr("%1 was tested, no errors found: %2").arg(nameOf(act.configuration), toQt(act.how));
  }
  QString operator()(const core::SettingPutBack& act) const { return tr("put back: %1").arg(toQt(act.what)); }
  QString operator()(const core::FlipBegun& act) const { return tr("flip to visit %1 begun").arg(act.visit); }
  QString operator()(const core::LevelAsked& act) const { return tr("asked for the level of visit %1").arg(act.visit); }
  QString operator()(const core::SettingBegun& act) const {
    return tr("setting the %1 for visit %2").arg(toQt(act.variable)).arg(act.visit);
  }
  QString operator()(const core::MeasuredAnyway& act) const {
    return tr("measures all the same, although the bench contradicts its level: %1").arg(toQt(act.reason));
  }
  QString operator()(const core::VisitRepeated& act) const {
    return tr("repeats visit %1: %2").arg(act.visit).arg(toQt(act.reason));
  }
  QString operator()(const core::AttemptGranted&) const { return tr("granted another attempt at a failed pass"); }
  QString operator()(const core::CasePinned& act) const {
    return act.remark.empty() ? tr("no longer pins %1").arg(toQt(act.case_title))
                              : tr("pinned %1: %2").arg(toQt(act.case_title), toQt(act.remark));
  }
  QString operator()(const core::NullStudyTaken& act) const {
    return tr("rests on the null study of %1").arg(toQt(act.record.date));
  }
  QString operator()(const core::LevelTaken& act) const {
    return tr("took %1 from %2, where it was measured").arg(nameOf(act.configuration), toQt(act.taken.study));
  }
  QString operator()(const core::UpdateSeen& act) const {
    return tr("%1 was installing software when a pass began").arg(toQt(act.program));
  }
  // Acts are told in their order, and so the comparisons.
  QString operator()(const core::ClocksCompared&) {
    return tr("the bench's clock is %1").arg(toQt(clock_.sentence(comparisons_told_++)));
  }
  QString operator()(const core::OtherAct& act) const { return toQt(act.kind + ": " + act.text); }

 private:
  [[nodiscard]] QString nameOf(core::ConfigurationId configuration) const {
    return toQt(study_.study().nameOf(configuration));
  }

  const StudyModel& study_;
  core::BenchClock clock_;
  std::size_t comparisons_told_ = 0;
};

template <class Act, class... Known>
constexpr bool isOneOf = (std::is_same_v<Act, Known> || ...);

LogbookModel::Kind kindOf(const core::Act& act) {
  return std::visit(
      []<class Act>(const Act&) {
        if (isOneOf<Act, core::NoteMade, core::Observed, core::FactStated>) return LogbookModel::Kind::Notes;
        if (isOneOf<Act, core::PassExcluded, core::PassIncluded, core::PassFelt, core::Skipped, core::AttemptGranted,
                    core::UpdateSeen>)
          return LogbookModel::Kind::Passes;
        if (isOneOf<Act, core::DoubtAccepted, core::OpenedEarly, core::ChangePredicted, core::StoppedAtLook,
                    core::CauseGiven, core::PlanChanged, core::JudgingChange, core::CasePinned, core::NullStudyTaken,
                    core::MeasuredAnyway, core::VisitRepeated, core::Unreachable, core::LevelTaken>)
          return LogbookModel::Kind::Decisions;
        return LogbookModel::Kind::Bench;
      },
      act);
}

}  // namespace

QStringList LogbookModel::kindNames() {
  return {tr("visits, captures and levels"), tr("passes"), tr("decisions"), tr("notes and what was stated")};
}

LogbookModel::LogbookModel(const StudyModel& study, QObject* parent) : QAbstractTableModel(parent), study_(study) {
  connect(&study, &StudyModel::changed, this, &LogbookModel::refresh);
  if (study.hasStudy()) refresh();
}

void LogbookModel::refresh() {
  beginResetModel();
  entries_.clear();
  const store::Recorded& recorded = study_.session().recorded();
  ActText text(study_);
  const core::BenchClock& clock = text.clock();
  for (const core::Visit& visit : recorded.visits)
    entries_.push_back(
        {clock.atDesk(visit.started_ms),
         {},
         tr("visit %1 began: %2").arg(visit.planned).arg(toQt(study_.study().nameOf(visit.configuration)))});
  for (const core::VisitCapture& one : recorded.captures) {
    const QString moment = one.moment == core::CaptureMoment::Start       ? tr("before its passes")
                           : one.moment == core::CaptureMoment::UnderLoad ? tr("under load")
                                                                          : tr("after its passes");
    int planned = 0;
    for (const core::Visit& visit : recorded.visits)
      if (visit.id == one.visit_id) planned = visit.planned;
    entries_.push_back(
        {clock.atDesk(one.capture.taken_ms),
         {},
         tr("captured the bench in visit %1, %2: %3 facts").arg(planned).arg(moment).arg(one.capture.facts.size())});
  }
  for (const core::Pass& pass : recorded.passes)
    if (pass.status == core::PassStatus::Failed)
      entries_.push_back({clock.atDesk(pass.started_ms),
                          {},
                          tr("%1 failed: %2").arg(text.passName(pass.id), toQt(pass.failure)),
                          Kind::Passes});
  for (const store::Event& event : recorded.events)
    entries_.push_back({event.at_ms, toQt(event.person), std::visit(text, event.act), kindOf(event.act)});
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
  if (role == kKindRole) return static_cast<int>(entry.kind);
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

LogbookFilter::LogbookFilter(LogbookModel& logbook, QObject* parent) : QSortFilterProxyModel(parent) {
  setSourceModel(&logbook);
}

void LogbookFilter::setWords(const QString& words) {
  words_ = words.split(QLatin1Char(' '), Qt::SkipEmptyParts);
  invalidateFilter();
}

void LogbookFilter::setPerson(const QString& person) {
  person_ = person;
  invalidateFilter();
}

void LogbookFilter::setKind(int kind) {
  kind_ = kind;
  invalidateFilter();
}

QStringList LogbookFilter::people() const {
  QStringList all;
  for (int row = 0; row < sourceModel()->rowCount(); ++row)
    all << sourceModel()->index(row, LogbookModel::PersonColumn).data().toString();
  all.removeDuplicates();
  all.sort(Qt::CaseInsensitive);
  return all;
}

bool LogbookFilter::filterAcceptsRow(int row, const QModelIndex& parent) const {
  const auto cell = [&](int column) { return sourceModel()->index(row, column, parent); };
  if (kind_ >= 0 && cell(LogbookModel::WhatColumn).data(LogbookModel::kKindRole).toInt() != kind_) return false;
  const QString person = cell(LogbookModel::PersonColumn).data().toString();
  if (!person_.isEmpty() && person != person_) return false;
  const QString line = cell(LogbookModel::ClockColumn).data().toString() + QLatin1Char(' ') + person +
                       QLatin1Char(' ') + cell(LogbookModel::WhatColumn).data().toString();
  return std::all_of(words_.begin(), words_.end(),
                     [&](const QString& word) { return line.contains(word, Qt::CaseInsensitive); });
}

}  // namespace app
