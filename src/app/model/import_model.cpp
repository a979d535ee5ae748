#include "app/model/import_model.h"

#include <QFileInfo>
#include <algorithm>
#include <map>
#include <numeric>

#include <fmt/format.h>

#include "core/estimate/wording.h"

namespace app {
namespace {

// The row names the file already: what is wrong comes first.
QString inShort(const core::Error& error, const QString& path) {
  QString where = toQt(error.where);
  where.replace(path, QFileInfo(path).fileName());
  return QStringLiteral("%1 (%2). %3").arg(toQt(error.what), where, toQt(error.remedy));
}

}  // namespace

int ImportModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(rows_.size());
}

void ImportModel::add(const QStringList& paths) { waiting_ += paths; }

bool ImportModel::readNext() {
  if (waiting_.isEmpty()) return false;
  File file;
  file.path = waiting_.takeFirst();
  const session::Session& session = study_.session();
  auto reading = session::recogniseLog(file.path.toStdString(), session.benches(), session.machine().registeredName());
  if (reading) {
    file.reading = *std::move(reading);
    read(file, file.reading.shape.time);
  } else {
    file.error = inShort(reading.error(), file.path);
  }
  files_.push_back(std::move(file));
  buildRows();
  return !waiting_.isEmpty();
}

void ImportModel::setPattern(const QString& pattern) {
  pattern_ = pattern;
  assign();
}

// A log that could not be read has one row too, which says why.
void ImportModel::buildRows() {
  beginResetModel();
  std::vector<Row> rows;
  for (std::size_t file = 0; file < files_.size(); ++file) {
    const std::size_t runs = std::max<std::size_t>(1, files_[file].reading.runs.size());
    for (std::size_t run = 0; run < runs; ++run) {
      const auto known =
          std::find_if(rows_.begin(), rows_.end(), [&](const Row& row) { return row.file == file && row.run == run; });
      rows.push_back(known != rows_.end() ? *known : Row{file, run, {}, false, {}, {}, false});
    }
  }
  rows_ = std::move(rows);
  endResetModel();
  assign();
}

// Rows take the plan's open places in their order.
void ImportModel::assign() {
  const core::Study& study = study_.study();
  std::map<std::pair<std::size_t, core::ConfigurationId>, std::size_t> taken;
  for (Row& row : rows_) {
    if (row.is_filed) continue;
    const File& file = files_[row.file];
    row.problem = file.error;
    if (row.problem.isEmpty() && file.reading.needs_unit)
      row.problem = tr("'%1' does not say clearly in which unit it tells the time. Compare the average, and choose the "
                       "unit below.")
                        .arg(toQt(file.reading.column()));
    row.slot.reset();
    if (!row.is_placed_by_hand) {
      const auto place = core::readName(QFileInfo(file.path).fileName().toStdString(), pattern_.toStdString(), study);
      row.place = place ? std::optional(*place) : std::nullopt;
      if (!place && row.problem.isEmpty()) row.problem = toQt(place.error().what + ". " + place.error().remedy);
    }
    if (!row.problem.isEmpty() || !row.place) continue;
    const auto open = study_.session().open().ledger().pendingOf(row.place->case_index, row.place->configuration);
    const std::size_t next = taken[{row.place->case_index, row.place->configuration}]++;
    if (next < open.size())
      row.slot = open[next];
    else
      row.problem = tr("The plan has no place left for it. Add a round, or leave this log out.");
  }
  if (!rows_.empty()) Q_EMIT dataChanged(index(0, 0), index(rowCount() - 1, ColumnCount - 1));
}

void ImportModel::setPlace(int row, std::size_t case_index, core::ConfigurationId configuration) {
  Row& chosen = rows_[static_cast<std::size_t>(row)];
  chosen.place = core::NamedPass{case_index, configuration};
  chosen.is_placed_by_hand = true;
  assign();
}

const session::LogReading* ImportModel::readingOf(int row) const {
  if (row < 0 || row >= rowCount()) return nullptr;
  const File& file = files_[rows_[static_cast<std::size_t>(row)].file];
  return file.reading.shape.columns.empty() ? nullptr : &file.reading;
}

void ImportModel::read(File& file, const store::TimeReading& time) {
  const auto read = session::readRuns(file.reading, time);
  file.error = read ? QString() : inShort(read.error(), file.path);
}

void ImportModel::correct(int row, const store::TimeReading& time) {
  const session::LogReading* chosen = readingOf(row);
  if (!chosen) return;
  store::LogShape shape = chosen->shape;
  shape.time = time;
  (void)study_.benches().setLogRecipe(study_.session().machine().registeredName(), shape);  // for the next time
  for (File& file : files_) {
    if (file.reading.shape.columns != shape.columns) continue;
    // A person looked at one of them; the others follow where they yield likely frames too.
    file.reading.shape.time = time;
    file.reading.needs_unit = &file.reading != chosen && !store::isLikelyUnit(file.reading.head, file.reading.shape);
    read(file, time);
  }
  buildRows();
}

QString ImportModel::problemOf(int row) const { return rows_[static_cast<std::size_t>(row)].problem; }

int ImportModel::ready() const {
  return static_cast<int>(
      std::count_if(rows_.begin(), rows_.end(), [](const Row& row) { return row.slot && !row.is_filed; }));
}

bool ImportModel::fileNext() {
  const auto next = std::find_if(rows_.begin(), rows_.end(), [](const Row& row) { return row.slot && !row.is_filed; });
  if (next == rows_.end()) return false;
  const core::Status filed =
      study_.session().outside().importFrames(*next->slot, session::framesOf(files_[next->file].reading, next->run));
  next->is_filed = filed.ok();
  if (!filed) {
    next->problem = inShort(filed.error(), files_[next->file].path);
    next->slot.reset();
  }
  const int row = static_cast<int>(next - rows_.begin());
  Q_EMIT dataChanged(index(row, 0), index(row, ColumnCount - 1));
  return ready() > 0;
}

QVariant ImportModel::headerData(int section, Qt::Orientation orientation, int role) const {
  if (orientation != Qt::Horizontal || role != Qt::DisplayRole) return {};
  const QString titles[] = {tr("log"), tr("frames"), tr("average"), tr("case"), tr("level"), tr("goes to")};
  return titles[section];
}

QVariant ImportModel::data(const QModelIndex& index, int role) const {
  if (!index.isValid()) return {};
  const Row& row = rows_[static_cast<std::size_t>(index.row())];
  const File& file = files_[row.file];
  const bool is_number = index.column() == FramesColumn || index.column() == AverageColumn;
  if (role == Qt::TextAlignmentRole && is_number) return QVariant(Qt::AlignRight | Qt::AlignVCenter);
  if (role == Qt::ToolTipRole) return row.problem;
  if (role != Qt::DisplayRole) return {};
  const auto* run = row.run < file.reading.runs.size() ? &file.reading.runs[row.run] : nullptr;
  switch (index.column()) {
    case FileColumn: {
      const QString name = QFileInfo(file.path).fileName();
      return file.reading.runs.size() > 1 ? name + QStringLiteral(" · ") + toQt(run->name) : name;
    }
    case FramesColumn: return run ? toQt(fmt::format("{}", run->frame_ms.size())) : QString();
    case AverageColumn: {
      if (!run) return QString();
      const double total_ms = std::accumulate(run->frame_ms.begin(), run->frame_ms.end(), 0.0);
      return toQt(core::valueText(1000 * static_cast<double>(run->frame_ms.size()) / total_ms, "FPS"));
    }
    case CaseColumn: return row.place ? toQt(study_.study().cases[row.place->case_index].title()) : QStringLiteral("?");
    case LevelColumn: return row.place ? toQt(study_.study().nameOf(row.place->configuration)) : QStringLiteral("?");
    default: break;
  }
  if (!row.slot) return row.problem;
  const core::Slot& slot = study_.session().open().schedule()[*row.slot];
  const QString place = tr("visit %1, pass %2").arg(slot.visit).arg(slot.number);
  return row.is_filed ? tr("filed: %1").arg(place) : place;
}

}  // namespace app
