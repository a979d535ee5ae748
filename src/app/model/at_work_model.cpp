#include "app/model/at_work_model.h"

#include <QFileInfo>
#include <algorithm>

#include "app/model/qt_text.h"
#include "core/estimate/wording.h"

namespace app {
namespace {

using Phase = WorkStanding::Phase;

QString firstLine(const QString& text) { return text.section(QLatin1Char('\n'), 0, 0); }

QString personText(const WorkStanding& standing) {
  switch (standing.phase) {
    case Phase::Ready: return tr("you, to start it");
    case Phase::Connecting: return tr("nobody; connecting");
    case Phase::Running: return tr("nobody");
    case Phase::Stopping: return tr("nobody; it is being stopped");
    case Phase::Done: return tr("nobody; it is done");
    case Phase::WaitsForPerson:
    case Phase::AsksApproval:
    case Phase::Failed: return firstLine(standing.words);
  }
  return {};
}

bool waits(const WorkStanding& standing) {
  return standing.phase == Phase::WaitsForPerson || standing.phase == Phase::AsksApproval ||
         standing.phase == Phase::Failed;
}

}  // namespace

AtWorkModel::AtWorkModel(bench::BenchConnection& here, session::UserFiles files, QObject* parent)
    : QAbstractTableModel(parent), here_(here), files_(std::move(files)), list_(files_.at_work) {
  for (const std::string& path : list_.all()) rows_.push_back(rowOf(QString::fromStdString(path)));
}

AtWorkModel::~AtWorkModel() = default;

std::unique_ptr<AtWorkModel::Row> AtWorkModel::rowOf(const QString& path) {
  auto row = std::make_unique<Row>();
  row->path = path;
  open(*row);
  return row;
}

void AtWorkModel::open(Row& row) {
  auto work = SheetWork::of(row.path.toStdString(), here_, files_);
  row.work.reset();
  row.problem.clear();
  if (!work) {
    row.problem = toQt(work.error().sentence());
    return look(row);
  }
  row.work = *std::move(work);
  const SheetWork* followed = row.work.get();
  connect(followed, &SheetWork::changed, this, [this, followed] { follow(followed); });
  connect(followed, &SheetWork::filed, this, [this, path = row.path] { Q_EMIT filed(path); });
  look(row);
}

void AtWorkModel::look(Row& row) {
  row.standing = row.work ? row.work->standing() : WorkStanding{Phase::Failed, 0, 0, {}, row.problem, {}};
}

void AtWorkModel::follow(const SheetWork* work) {
  const auto found = std::find_if(rows_.begin(), rows_.end(), [&](const auto& row) { return row->work.get() == work; });
  if (found == rows_.end()) return;
  const int row = static_cast<int>(found - rows_.begin());
  const bool was_running = (*found)->standing.isRunning();
  look(**found);
  const WorkStanding standing = (*found)->standing;  // whoever is told may change it
  Q_EMIT dataChanged(index(row, 0), index(row, kColumns - 1));
  if (was_running && !standing.isRunning() && waits(standing))
    Q_EMIT called(tr("%1: %2").arg(toQt(work->bench()), firstLine(standing.words)));
}

int AtWorkModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(rows_.size());
}

int AtWorkModel::columnCount(const QModelIndex& parent) const { return parent.isValid() ? 0 : kColumns; }

QVariant AtWorkModel::headerData(int section, Qt::Orientation orientation, int role) const {
  if (role != Qt::DisplayRole) return {};
  if (orientation == Qt::Vertical) return section + 1;
  switch (section) {
    case Bench: return tr("Bench");
    case Study: return tr("Study");
    case InHand: return tr("In hand");
    case Passes: return tr("Passes");
    case TimeLeft: return tr("Time left");
    case Person: return tr("Waits for");
    default: return {};
  }
}

QVariant AtWorkModel::data(const QModelIndex& index, int role) const {
  if (!index.isValid()) return {};
  const Row& row = *rows_[static_cast<std::size_t>(index.row())];
  const WorkStanding& standing = row.standing;
  if (role == Qt::TextAlignmentRole && (index.column() == Passes || index.column() == TimeLeft))
    return int(Qt::AlignRight | Qt::AlignVCenter);
  if (role == Qt::ToolTipRole && index.column() == Person) return standing.words;
  if (role != Qt::DisplayRole) return {};
  switch (index.column()) {
    case Bench: return row.work ? toQt(row.work->bench()) : QString();
    case Study: return QFileInfo(row.path).completeBaseName();
    case InHand: return standing.hand;
    case Passes: return row.work ? tr("%1 of %2").arg(standing.filed).arg(standing.planned) : QString();
    case TimeLeft: return standing.seconds_left ? toQt(core::durationText(*standing.seconds_left)) : QString();
    case Person: return personText(standing);
    default: return {};
  }
}

int AtWorkModel::add(const QString& path) {
  const QString whole = QFileInfo(path).absoluteFilePath();
  for (int row = 0; row < rowCount(); ++row)
    if (pathOf(row) == whole) return row;
  const int row = rowCount();
  beginInsertRows({}, row, row);
  rows_.push_back(rowOf(whole));
  endInsertRows();
  keep();
  return row;
}

void AtWorkModel::remove(int row) {
  if (row < 0 || row >= rowCount()) return;
  beginRemoveRows({}, row, row);
  const auto gone = std::move(rows_[static_cast<std::size_t>(row)]);  // it may tell of its end: of no row any more
  rows_.erase(rows_.begin() + row);
  endRemoveRows();
  keep();
}

void AtWorkModel::move(int row, int by) {
  const int to = row + by;
  if (row < 0 || row >= rowCount() || to < 0 || to >= rowCount() || by == 0) return;
  beginMoveRows({}, row, row, {}, by > 0 ? to + 1 : to);
  auto moved = std::move(rows_[static_cast<std::size_t>(row)]);
  rows_.erase(rows_.begin() + row);
  rows_.insert(rows_.begin() + to, std::move(moved));
  endMoveRows();
  keep();
}

void AtWorkModel::keep() const {
  std::vector<std::string> paths;
  for (const auto& row : rows_) paths.push_back(row->path.toStdString());
  list_.keep(paths);
}

void AtWorkModel::tell(const core::Status& status) {
  if (!status) Q_EMIT failed(toQt(status.error().sentence()));
}

// The study may have gone on, or been put right, since it was opened here.
void AtWorkModel::start(int row) {
  if (row < 0 || row >= rowCount() || standingOf(row).isRunning()) return;
  Row& at = *rows_[static_cast<std::size_t>(row)];
  if (!at.work || standingOf(row).phase == Phase::Done) open(at);
  if (at.work)
    tell(at.work->start());
  else
    Q_EMIT failed(at.problem);
  look(at);
  Q_EMIT dataChanged(index(row, 0), index(row, kColumns - 1));
}

void AtWorkModel::stop(int row) {
  if (row >= 0 && row < rowCount() && standingOf(row).isRunning()) rows_[static_cast<std::size_t>(row)]->work->stop();
}

void AtWorkModel::stopAll() {
  for (int row = 0; row < rowCount(); ++row) stop(row);
}

void AtWorkModel::approve(int row) {
  if (row < 0 || row >= rowCount()) return;
  if (auto* work = rows_[static_cast<std::size_t>(row)]->work.get()) {
    const core::Status approved = work->approve();
    tell(approved);
    if (approved) start(row);
  }
}

QString AtWorkModel::pathOf(int row) const {
  return row >= 0 && row < rowCount() ? rows_[static_cast<std::size_t>(row)]->path : QString();
}

WorkStanding AtWorkModel::standingOf(int row) const {
  return row >= 0 && row < rowCount() ? rows_[static_cast<std::size_t>(row)]->standing : WorkStanding();
}

QStringList AtWorkModel::toApprove(int row) const {
  if (row < 0 || row >= rowCount() || !rows_[static_cast<std::size_t>(row)]->work) return {};
  return rows_[static_cast<std::size_t>(row)]->work->toApprove();
}

QStringList AtWorkModel::wayRound() const {
  QStringList way;
  const Row* soonest = nullptr;
  const auto nameOf = [](const Row& row) {
    return row.work ? toQt(row.work->bench()) : QFileInfo(row.path).fileName();
  };
  for (const auto& row : rows_) {
    const WorkStanding& one = row->standing;
    if (waits(one)) way << tr("%1. %2: %3").arg(way.size() + 1).arg(nameOf(*row), firstLine(one.words));
    if (one.isRunning() && one.seconds_left && (!soonest || *one.seconds_left < *soonest->standing.seconds_left))
      soonest = row.get();
  }
  if (soonest)
    way << tr("Next to be done by itself: %1, in about %2")
               .arg(nameOf(*soonest), toQt(core::durationText(*soonest->standing.seconds_left)));
  return way;
}

bool AtWorkModel::isAnyRunning() const {
  for (int row = 0; row < rowCount(); ++row)
    if (standingOf(row).isRunning()) return true;
  return false;
}

}  // namespace app
