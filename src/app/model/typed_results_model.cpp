#include "app/model/typed_results_model.h"

#include <algorithm>
#include <optional>
#include <utility>

#include <fmt/format.h>

#include "core/judgement/pass_doubts.h"
#include "core/study/case_results.h"
#include "core/study/schedule.h"

namespace app {

// "does not run: the picture stays black": what a person types where there is no number to be read. Empty without a
// reason; nothing where it is something else.
static std::optional<QString> doesNotRunReason(const QString& text) {
  const QString words = TypedResultsModel::tr("does not run");
  if (!text.startsWith(words, Qt::CaseInsensitive)) return std::nullopt;
  return text.mid(words.size()).remove(QLatin1Char(':')).trimmed();
}

TypedResultsModel::TypedResultsModel(StudyModel& study, QObject* parent) : QAbstractTableModel(parent), study_(study) {
  connect(&study_, &StudyModel::changed, this, &TypedResultsModel::refresh);
  connect(&study_, &StudyModel::studyOpened, this, &TypedResultsModel::refresh);
}

void TypedResultsModel::refresh() {
  std::vector<std::size_t> rows;
  std::vector<core::Case> typed;
  if (study_.hasStudy()) {
    for (const core::Case& one : study_.study().cases)
      if (one.source == core::ResultSource::ByHand) typed.push_back(one);
    const auto& schedule = study_.session().open().schedule();
    for (std::size_t slot = 0; slot < schedule.size(); ++slot)
      if (!schedule[slot].is_warm_up &&
          study_.study().cases[schedule[slot].case_index].source == core::ResultSource::ByHand)
        rows.push_back(slot);
  }
  std::vector<std::string> names = core::furtherResultNames(typed);
  if (rows == slots_of_rows_ && names == names_) {
    if (!rows.empty()) Q_EMIT dataChanged(index(0, 0), index(rowCount() - 1, remarkColumn()));
    return;
  }
  beginResetModel();
  slots_of_rows_ = std::move(rows);
  names_ = std::move(names);
  begun_.clear();
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
    default: return nameOf(section) ? toQt(*nameOf(section)) : tr("remark");
  }
}

const std::string* TypedResultsModel::nameOf(int column) const {
  const bool is_further = column >= FurtherColumns && column < remarkColumn();
  return is_further ? &names_[static_cast<std::size_t>(column - FurtherColumns)] : nullptr;
}

const core::Case& TypedResultsModel::caseOf(std::size_t slot) const {
  return study_.study().cases[study_.session().open().schedule()[slot].case_index];
}

bool TypedResultsModel::isAsked(std::size_t slot, const std::string& name) const {
  return core::furtherPlaceOf(caseOf(slot), name).has_value();
}

QString TypedResultsModel::rowText(const QString& cells) const {
  const QStringList parts = cells.split(QLatin1Char('\t'));
  QString text = parts.first().trimmed();
  for (std::size_t i = 0; i < names_.size() && static_cast<qsizetype>(i) + 1 < parts.size(); ++i)
    if (const QString cell = parts[static_cast<qsizetype>(i) + 1].trimmed();
        !cell.isEmpty() && cell != QLatin1String("-"))
      text += QStringLiteral("; %1 %2").arg(toQt(names_[i]), cell);
  return text;
}

QModelIndex TypedResultsModel::nextCell(const QModelIndex& at) const {
  if (at.row() >= 0 && at.row() < rowCount() && at.column() >= ResultColumn)
    for (int column = at.column() + 1; column < remarkColumn(); ++column)
      if (isAsked(slotOf(at), *nameOf(column))) return index(at.row(), column);
  return index(at.row() + 1, ResultColumn);
}

Qt::ItemFlags TypedResultsModel::flags(const QModelIndex& index) const {
  const Qt::ItemFlags flags = QAbstractTableModel::flags(index);
  const std::string* name = nameOf(index.column());
  const bool is_cell = index.column() == ResultColumn || (name != nullptr && isAsked(slotOf(index), *name));
  return is_cell ? flags | Qt::ItemIsEditable : flags;
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
  if (begun_.contains(slot)) return tr("Filed once every cell of the row is given; - for one that nobody could read");
  const core::Pass* pass = passOf(slot);
  if (pass && !pass->does_not_run.empty()) return toQt(pass->does_not_run);
  if (!pass || !pass->typed) return {};
  const std::string slip =
      core::typingSlip(study_.session().open().schedule(), study_.session().recorded().passes, *pass);
  if (!slip.empty()) return toQt(slip);
  QStringList remarks;
  if (pass->typed->is_range) remarks << tr("a range: less precise");
  for (const auto& [name, value] : pass->typed->parts)
    if (!isAsked(slot, name)) remarks << tr("%1 %2").arg(toQt(name)).arg(value);
  remarks << tr("typed by %1").arg(toQt(pass->typed->person));
  return remarks.join(QStringLiteral(", "));
}

QString TypedResultsModel::furtherTextOf(std::size_t slot, const std::string& name) const {
  if (const auto begun = begun_.find(slot); begun != begun_.end()) {
    const auto typed = begun->second.further.find(name);
    return typed == begun->second.further.end() ? QString() : typed->second;
  }
  const core::Pass* pass = passOf(slot);
  if (pass == nullptr || !pass->typed) return {};
  for (const auto& [part, value] : pass->typed->parts)
    if (part == name) return toQt(fmt::format("{:.6g}", value));
  return QStringLiteral("-");
}

QVariant TypedResultsModel::data(const QModelIndex& index, int role) const {
  if (!index.isValid() || index.row() >= rowCount()) return {};
  const std::string* name = nameOf(index.column());
  if (role == Qt::TextAlignmentRole && (index.column() == ResultColumn || name != nullptr))
    return QVariant(Qt::AlignRight | Qt::AlignVCenter);
  if (role != Qt::DisplayRole && role != Qt::EditRole) return {};
  const std::size_t slot_index = slotOf(index);
  const core::Slot& slot = study_.session().open().schedule()[slot_index];
  const core::Case& a_case = caseOf(slot_index);
  if (name != nullptr) {
    const auto place = core::furtherPlaceOf(a_case, *name);
    if (!place) return QString();
    const QString typed = furtherTextOf(slot_index, *name);
    const bool is_number = role == Qt::DisplayRole && !typed.isEmpty() && typed != QLatin1String("-");
    return is_number ? typed + QLatin1Char(' ') + toQt(a_case.further[*place].metric.unit) : typed;
  }
  switch (index.column()) {
    case PassColumn: return tr("visit %1, pass %2").arg(slot.visit).arg(slot.number);
    case LevelColumn: return toQt(study_.study().nameOf(slot.configuration));
    case CaseColumn: return toQt(a_case.title());
    case ResultColumn: {
      if (const auto begun = begun_.find(slot_index); begun != begun_.end()) return begun->second.result;
      const core::Pass* pass = passOf(slot_index);
      if (!pass) return QString();
      if (!pass->does_not_run.empty()) return tr("does not run");
      QString typed = toQt(pass->typed ? pass->typed->text : fmt::format("{:.6g}", pass->value.value_or(0)));
      if (!a_case.further.empty()) typed = typed.section(QLatin1Char(';'), 0, 0);  // the others have their own cells
      return role == Qt::EditRole ? typed : typed + QLatin1Char(' ') + toQt(a_case.metric.unit);
    }
    default: return remarkOf(slot_index);
  }
}

// The cells of a row that has several are kept until they are whole; a result with its sub-scores behind it is.
bool TypedResultsModel::setData(const QModelIndex& index, const QVariant& value, int role) {
  const std::string* name = nameOf(index.column());
  if (role != Qt::EditRole || (index.column() != ResultColumn && name == nullptr)) return false;
  const QString text = value.toString().trimmed();
  if (text.isEmpty() || text == data(index, Qt::EditRole).toString()) return false;
  open_number_.reset();
  const std::size_t slot = slotOf(index);
  if (name == nullptr && doesNotRunReason(text)) return file(slot, text);
  const bool is_left_out = name != nullptr && text == QLatin1String("-");
  const auto typed = core::parseTyped(is_left_out ? "0" : text.toStdString(), decimal_);
  if (!typed && typed.error().kind == core::ErrorKind::Ambiguous && name == nullptr) {
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
  if (name != nullptr && (typed->is_range || !typed->parts.empty())) {
    Q_EMIT refused(
        tr("%1: a result beside the headline is one number, or - where nobody could read it.").arg(toQt(*name)));
    return false;
  }
  if (name == nullptr && (caseOf(slot).further.empty() || !typed->parts.empty())) return file(slot, text);
  Begun& begun = begun_.try_emplace(slot).first->second;
  if (const core::Pass* pass = passOf(slot); pass != nullptr && begun.result.isEmpty()) {  // one of its cells is mended
    begun.result = toQt(pass->typed ? pass->typed->text : std::string()).section(QLatin1Char(';'), 0, 0);
    for (const core::CaseResult& one : caseOf(slot).further) begun.further[one.name] = QStringLiteral("-");
    for (const auto& [part, number] : pass->typed ? pass->typed->parts : core::TypedValue().parts)
      begun.further[part] = toQt(fmt::format("{:.12g}", number));
  }
  (name == nullptr ? begun.result : begun.further[*name]) = text;
  return fileWhenWhole(slot);
}

bool TypedResultsModel::fileWhenWhole(std::size_t slot) {
  const Begun begun = begun_[slot];
  QString text = begun.result;
  bool is_whole = !text.isEmpty();
  for (const core::CaseResult& one : caseOf(slot).further) {
    const auto given = begun.further.find(one.name);
    is_whole = is_whole && given != begun.further.end();
    if (given != begun.further.end() && given->second != QLatin1String("-"))
      text += QStringLiteral("; %1 %2").arg(toQt(one.name), given->second);
  }
  if (is_whole) return file(slot, text);
  refresh();
  return true;
}

bool TypedResultsModel::file(std::size_t slot, const QString& text) {
  begun_.erase(slot);
  if (const auto reason = doesNotRunReason(text))
    return study_.act([&](session::Session& s) { return s.outside().typeDoesNotRun(slot, reason->toStdString()); });
  const auto typed = core::parseTyped(text.toStdString(), decimal_);
  if (!typed) {
    Q_EMIT refused(toQt(typed.error().sentence()));
    return false;
  }
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
