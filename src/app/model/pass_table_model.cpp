#include "app/model/pass_table_model.h"

#include "core/estimate/wording.h"

namespace app {

PassTableModel::PassTableModel(const StudyModel& study, QObject* parent) : QAbstractTableModel(parent), study_(study) {
  connect(&study, &StudyModel::changed, this, &PassTableModel::refresh);
  if (study.hasStudy()) refresh();
}

// What is sealed of a study, to tell when it changes.
static std::pair<bool, bool> sealOf(const core::Judgement& judgement) {
  return {judgement.is_sealed, judgement.is_second_part_sealed};
}

bool PassTableModel::isSealed(const core::Pass& pass) const {
  return study_.judgement().isSealed(study_.session().open().caseOf(pass.slot));
}

void PassTableModel::refresh() {
  const auto& recorded = study_.session().recorded().passes;
  clock_ = store::benchClockOf(study_.session().recorded());
  // Every file counts its passes from 1: which study they are of decides first.
  const std::string of = study_.session().open().absolutePath();
  const bool is_same =
      of == of_ && recorded.size() == passes_.size() && (recorded.empty() || recorded.back().id == passes_.front().id);
  of_ = of;
  if (is_same && was_sealed_ == sealOf(study_.judgement()) && was_asked_ == study_.session().pass().passToFeel())
    return;
  was_sealed_ = sealOf(study_.judgement());
  was_asked_ = study_.session().pass().passToFeel();
  beginResetModel();
  passes_.assign(recorded.rbegin(), recorded.rend());
  endResetModel();
}

int PassTableModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(passes_.size());
}
int PassTableModel::columnCount(const QModelIndex& parent) const { return parent.isValid() ? 0 : ColumnCount; }

QString PassTableModel::text(const core::Pass& pass, int column) const {
  const core::Slot& slot = study_.session().open().schedule()[pass.slot];
  const core::Case& a_case = study_.study().cases[slot.case_index];
  switch (column) {
    case ClockColumn: return clockText(pass.started_ms);
    case LevelColumn: return toQt(study_.study().nameOf(slot.configuration));
    case CaseColumn: return toQt(a_case.title());
    case PassColumn:
      return (slot.is_warm_up ? tr("warm-up %1") : tr("pass %1")).arg(slot.number) +
             (pass.attempt > 1 ? tr(", again") : QString());
    case ResultColumn:
      if (pass.value && study_.judgement().isSealed(a_case)) return tr("filed");
      if (study_.session().pass().passToFeel() == pass.id) return tr("shown once you say how it felt");
      if (!pass.does_not_run.empty()) return tr("does not run here: %1").arg(toQt(pass.does_not_run));
      return pass.value ? toQt(core::valueText(*pass.value, a_case.metric.unit))
                        : tr("failed: %1").arg(toQt(pass.failure).remove(toQt(a_case.title() + ": ")));
    default: return {};
  }
}

QVariant PassTableModel::data(const QModelIndex& index, int role) const {
  if (!index.isValid() || index.row() >= rowCount()) return {};
  const core::Pass& pass = passes_[static_cast<std::size_t>(index.row())];
  switch (role) {
    case Qt::DisplayRole: return text(pass, index.column());
    case Qt::ToolTipRole:
      if (index.column() == ClockColumn && clock_.isCompared())
        return tr("%1 by the bench's clock, %2 by this computer's")
            .arg(clockText(pass.started_ms), clockText(clock_.atDesk(pass.started_ms)));
      return pass.failure.empty() ? QVariant() : QVariant(toQt(pass.failure));
    case Qt::TextAlignmentRole:
      return index.column() == ResultColumn && pass.value ? QVariant(Qt::AlignRight | Qt::AlignVCenter)
                                                          : QVariant(Qt::AlignLeft | Qt::AlignVCenter);
    case RawRole: return pass.value && !isSealed(pass) && was_asked_ != pass.id ? QVariant(*pass.value) : QVariant();
    case FailedRole: return pass.status == core::PassStatus::Failed;
    case LevelRole: return static_cast<int>(study_.session().open().schedule()[pass.slot].configuration);
    default: return {};
  }
}

QVariant PassTableModel::headerData(int section, Qt::Orientation orientation, int role) const {
  if (orientation != Qt::Horizontal) return {};
  if (role == Qt::TextAlignmentRole && section == ResultColumn)
    return QVariant(Qt::AlignRight | Qt::AlignVCenter);  // over its numbers
  if (role != Qt::DisplayRole) return {};
  const QStringList names{tr("time"), tr("level"), tr("case"), tr("pass"), tr("result")};
  return section < names.size() ? names[section] : QVariant();
}

}  // namespace app
