#include "app/model/typed_results_model.h"

#include <algorithm>
#include <utility>

#include <fmt/format.h>

#include "core/judgement/pass_doubts.h"
#include "core/study/schedule.h"

namespace app {

TypedResultsModel::TypedResultsModel(StudyModel& study, QObject* parent) : QAbstractTableModel(parent), study_(study) {
  connect(&study_, &StudyModel::changed, this, &TypedResultsModel::refresh);
  connect(&study_, &StudyModel::studyOpened, this, &TypedResultsModel::refresh);
}

void TypedResultsModel::refresh() {
  std::vector<std::size_t> rows;
  if (study_.hasStudy()) {
    const auto& schedule = study_.session().open().schedule();
    for (std::size_t slot = 0; slot < schedule.size(); ++slot)
      if (!schedule[slot].is_warm_up &&
          study_.study().cases[schedule[slot].case_index].source == core::ResultSource::ByHand)
        rows.push_back(slot);
  }
  if (rows == slots_of_rows_) {
    if (!rows.empty()) Q_EMIT dataChanged(index(0, 0), index(rowCount() - 1, ColumnCount - 1));
    return;
  }
  beginResetModel();
  slots_of_rows_ = std::move(rows);
  endResetModel();
}

bool TypedResultsModel::isNeeded() const { return !slots_of_rows_.empty(); }

int TypedResultsModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(slots_of_rows_.size());
}

QVariant TypedResultsModel::headerData(int section, Qt::Orientation orientation, int role) const {
  if (orientation != Qt::Horizontal || role != Qt::DisplayRole) return {};
  switch (section) {
    case PassColumn: return tr("pass");
    case LevelColumn: return tr("level");
    case CaseColumn: return tr("case");
    case ResultColumn: return tr("result");
    default: return tr("remark");
  }
}

Qt::ItemFlags TypedResultsModel::flags(const QModelIndex& index) const {
  const Qt::ItemFlags flags = QAbstractTableModel::flags(index);
  return index.column() == ResultColumn ? flags | Qt::ItemIsEditable : flags;
}

// The one that counts.
const core::Pass* TypedResultsModel::passOf(std::size_t slot) const {
  for (const core::Pass& pass : study_.session().recorded().passes)
    if (pass.slot == slot && pass.status == core::PassStatus::Finished && pass.excluded_because.empty()) return &pass;
  return nullptr;
}

qint64 TypedResultsModel::passAt(int row) const {
  if (row < 0 || row >= rowCount()) return 0;
  const core::Pass* pass = passOf(slots_of_rows_[static_cast<std::size_t>(row)]);
  return pass ? pass->id : 0;
}

QString TypedResultsModel::remarkOf(std::size_t slot) const {
  const core::Pass* pass = passOf(slot);
  if (!pass || !pass->typed) return {};
  const std::string slip =
      core::typingSlip(study_.session().open().schedule(), study_.session().recorded().passes, *pass);
  if (!slip.empty()) return toQt(slip);
  QStringList remarks;
  if (pass->typed->is_range) remarks << tr("a range: less precise");
  for (const auto& [name, value] : pass->typed->parts) remarks << tr("%1 %2").arg(toQt(name)).arg(value);
  remarks << tr("typed by %1").arg(toQt(pass->typed->person));
  return remarks.join(QStringLiteral(", "));
}

QVariant TypedResultsModel::data(const QModelIndex& index, int role) const {
  if (!index.isValid() || index.row() >= rowCount()) return {};
  if (role == Qt::TextAlignmentRole && index.column() == ResultColumn)
    return QVariant(Qt::AlignRight | Qt::AlignVCenter);
  if (role != Qt::DisplayRole && role != Qt::EditRole) return {};
  const std::size_t slot_index = slots_of_rows_[static_cast<std::size_t>(index.row())];
  const core::Slot& slot = study_.session().open().schedule()[slot_index];
  const core::Case& a_case = study_.study().cases[slot.case_index];
  switch (index.column()) {
    case PassColumn: return tr("visit %1, pass %2").arg(slot.visit).arg(slot.number);
    case LevelColumn: return toQt(study_.study().nameOf(slot.configuration));
    case CaseColumn: return toQt(a_case.title());
    case ResultColumn: {
      const core::Pass* pass = passOf(slot_index);
      if (!pass) return QString();
      const QString typed = toQt(pass->typed ? pass->typed->text : fmt::format("{:.6g}", pass->value.value_or(0)));
      return role == Qt::EditRole ? typed : typed + QLatin1Char(' ') + toQt(a_case.metric.unit);
    }
    default: return remarkOf(slot_index);
  }
}

bool TypedResultsModel::setData(const QModelIndex& index, const QVariant& value, int role) {
  if (role != Qt::EditRole || index.column() != ResultColumn) return false;
  const QString text = value.toString().trimmed();
  if (text.isEmpty() || text == data(index, Qt::EditRole).toString()) return false;
  open_number_.reset();
  const auto typed = core::parseTyped(text.toStdString(), decimal_);
  if (!typed && typed.error().kind == core::ErrorKind::Ambiguous) {
    const QString digits = QString(text).remove(QLatin1Char(' '));
    open_number_ = OpenNumber{index.row(),
                              {text},
                              QString(digits).remove(QLatin1Char(',')).remove(QLatin1Char('.')),
                              QString(digits).replace(QLatin1Char(','), QLatin1Char('.'))};
  }
  if (!typed) {
    Q_EMIT refused(toQt(typed.error().sentence()));
    return false;
  }
  const std::size_t slot = slots_of_rows_[static_cast<std::size_t>(index.row())];
  return study_.act([&](session::Session& s) { return s.outside().type(slot, *typed); });
}

int TypedResultsModel::firstOpenRow() const {
  for (int row = 0; row < rowCount(); ++row)
    if (!passOf(slots_of_rows_[static_cast<std::size_t>(row)])) return row;
  return -1;
}

int TypedResultsModel::typeLines(int row, const QStringList& lines) {
  // A column is read one way: a number in it that can only be read so tells of the others.
  if (decimal_ == core::DecimalSign::Unknown) {
    std::vector<std::string> texts;
    for (const QString& line : lines) texts.push_back(line.toStdString());
    decimal_ = core::decimalSignOf(texts);
  }
  for (qsizetype i = 0; i < lines.size() && row < rowCount(); ++i) {
    if (lines[i].trimmed().isEmpty()) continue;
    if (!setData(index(row, ResultColumn), lines[i], Qt::EditRole)) {
      if (open_number_) open_number_->lines = lines.mid(i);
      break;
    }
    ++row;
  }
  return row;
}

int TypedResultsModel::sayDecimals(bool is_decimal) {
  if (!open_number_) return 0;
  const OpenNumber asked = *std::exchange(open_number_, std::nullopt);
  const bool is_comma = asked.lines.front().contains(QLatin1Char(','));
  decimal_ = is_comma == is_decimal ? core::DecimalSign::Comma : core::DecimalSign::Point;
  return typeLines(asked.row, asked.lines);
}

}  // namespace app
