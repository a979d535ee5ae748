#include "app/model/cabinet_model.h"

#include <QDir>
#include <QFileInfo>
#include <algorithm>
#include <map>
#include <set>

#include "app/model/qt_text.h"
#include "core/estimate/wording.h"
#include "core/machine/fact_title.h"
#include "core/values/percent.h"
#include "core/values/utc_text.h"

namespace app {
namespace {

using Entry = store::CabinetIndex::Entry;

constexpr int kSettles_ms = 2'000;  // a study that runs is written to again and again
constexpr int kShowsEach_ms = 1'000;

QString doubtsOf(const Entry& one) {
  QStringList parts;
  for (const auto& [count, single, more] :
       {std::tuple{one.stops, "stop", "stops"}, {one.cautions, "caution", "cautions"}})
    if (count > 0) parts << toQt(core::countText(count, single, more));
  return parts.join(QStringLiteral(", "));
}

QString sinceThen(const Entry& one) {
  if (one.retired_by.empty()) return {};
  constexpr std::size_t kMost = 2;
  QStringList facts;
  for (const std::string& fact : one.retired_by) {
    if (static_cast<std::size_t>(facts.size()) == kMost) break;
    facts << toQt(core::factTitle(fact));
  }
  QString text = tr("this bench has changed since: %1").arg(facts.join(QStringLiteral(", ")));
  if (one.retired_by.size() > kMost) text += tr(" and %1 more").arg(one.retired_by.size() - kMost);
  return text;
}

QString stateText(const Entry& one) {
  if (one.state == "asked") return tr("asked, nothing measured yet");
  if (one.state == "running") return tr("not complete");
  if (one.state == "unreadable") return tr("cannot be read");
  return tr("complete");
}

CabinetRow rowOf(const Entry& one, bool names_bench) {
  CabinetRow row;
  row.path = QString::fromStdString(one.path);  // as it is: it is opened by it
  row.bench = toQt(one.bench);
  row.text = toQt(one.sentence);
  row.answer = toQt(one.answer);
  row.is_readable = one.state != "unreadable";
  row.at_ms = one.at_ms;
  QStringList soft;
  if (one.at_ms > 0) soft << toQt(core::utcDayText(one.at_ms));
  soft << stateText(one);
  if (names_bench && !row.bench.isEmpty()) soft << row.bench;
  const QString copy = one.copy_of.empty() ? QString() : tr("a copy of %1").arg(toQt(one.copy_of));
  for (const QString& part : {copy, doubtsOf(one), sinceThen(one)})
    if (!part.isEmpty()) soft << part;
  soft << toQt(one.path.substr(one.path.rfind('/') + 1));
  row.soft = soft.join(QStringLiteral(" · "));
  return row;
}

// Of whatever was measured last there.
QString noiseOf(const store::BenchRegister& benches, const std::string& bench) {
  const auto all = benches.noise(bench);
  if (!all || all->empty()) return {};
  const auto latest = std::max_element(all->begin(), all->end(),
                                       [](const auto& one, const auto& other) { return one.at_ms < other.at_ms; });
  const core::NullStudy& noise = latest->measured.noise;
  const auto percent = [](double sd) { return toQt(core::percentText(core::percentOfLn(sd)).substr(1)); };
  QStringList parts;
  if (noise.pass_sd) parts << tr("%1 a pass").arg(percent(*noise.pass_sd));
  if (noise.visits >= 2) parts << tr("%1 a flip").arg(percent(noise.flip_sd));
  if (parts.isEmpty()) return {};
  return tr("noise of this bench: %1, seen %2")
      .arg(parts.join(QStringLiteral(", ")), toQt(core::utcDayText(latest->at_ms)));
}

// The folders, and those below them in which studies lie. Of very many the rest is seen when the cabinet is opened
// again: the kernel watches so much for one person and no more.
QStringList foldersToWatch(const session::Cabinet& cabinet) {
  constexpr std::size_t kMostWatched = 1'000;
  std::set<QString> there;
  if (const auto folders = cabinet.folders())
    for (const std::string& folder : *folders)
      if (const QString path = QString::fromStdString(folder); QDir(path).exists()) there.insert(path);
  if (const auto all = cabinet.find({}))
    for (const Entry& one : *all) {
      if (there.size() >= kMostWatched) break;
      there.insert(QFileInfo(QString::fromStdString(one.path)).path());
    }
  return {there.begin(), there.end()};
}

/// The lines as they grow: what is in work first, whatever the rest is grouped by.
class Lines {
 public:
  Lines(const store::BenchRegister& benches, CabinetModel::Grouping grouping)
      : benches_(benches), grouping_(grouping) {}

  [[nodiscard]] std::vector<CabinetRow> of(const std::vector<Entry>& found) {
    std::vector<const Entry*> in_work;
    std::vector<const Entry*> unreadable;
    std::vector<std::string> names;  // in order of their latest study
    std::map<std::string, std::vector<const Entry*>> groups;
    for (const Entry& one : found) {
      if (one.state == "running") {
        in_work.push_back(&one);
        continue;
      }
      if (one.state == "unreadable") {
        unreadable.push_back(&one);
        continue;
      }
      const std::string& name = isByBench() ? one.bench : one.variable;
      if (!groups.contains(name)) names.push_back(name);
      groups[name].push_back(&one);
    }
    if (!in_work.empty()) add(tr("In work"), {}, {}, in_work);
    for (const std::string& name : names)
      add(name.empty() ? tr("not named yet") : toQt(name), isByBench() ? noiseOf(benches_, name) : QString(),
          isByBench() ? toQt(name) : QString(), groups[name]);
    if (!unreadable.empty()) add(tr("Cannot be read"), {}, {}, unreadable);
    return std::move(rows_);
  }

 private:
  [[nodiscard]] bool isByBench() const { return grouping_ == CabinetModel::Grouping::ByBench; }
  void add(const QString& heading, const QString& soft, const QString& bench,
           const std::vector<const Entry*>& entries) {
    CabinetRow& head = rows_.emplace_back();
    head.text = heading;
    head.soft = soft;
    head.bench = bench;
    for (const Entry* one : entries) rows_.push_back(rowOf(*one, bench.isEmpty()));
  }

  const store::BenchRegister& benches_;
  CabinetModel::Grouping grouping_;
  std::vector<CabinetRow> rows_;
};

}  // namespace

CabinetModel::CabinetModel(session::Cabinet cabinet, QObject* parent)
    : QAbstractListModel(parent), cabinet_(std::move(cabinet)) {
  soon_.setSingleShot(true);
  soon_.setInterval(kSettles_ms);
  during_.setInterval(kShowsEach_ms);
  connect(&soon_, &QTimer::timeout, this, &CabinetModel::foldersChanged);
  connect(&during_, &QTimer::timeout, this, &CabinetModel::find);
  connect(&watcher_, &QFileSystemWatcher::directoryChanged, this, [this] { soon_.start(); });
  find();
}

CabinetModel::~CabinetModel() { stop_.request_stop(); }

int CabinetModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(found_->rows.size());
}

QVariant CabinetModel::data(const QModelIndex& index, int role) const {
  if (!index.isValid()) return {};
  const CabinetRow& one = row(index.row());
  if (role == Qt::DisplayRole) return one.text;
  if (role == Qt::AccessibleDescriptionRole) return one.soft;
  if (role == Qt::ToolTipRole && !one.path.isEmpty())
    return QStringLiteral("%1\n%2\n%3").arg(one.text, one.soft, one.path);
  if (role == Qt::CheckStateRole && !one.path.isEmpty() && one.is_readable)
    return isChosen(one.path) ? Qt::Checked : Qt::Unchecked;
  return {};
}

Qt::ItemFlags CabinetModel::flags(const QModelIndex& index) const {
  if (!index.isValid()) return Qt::NoItemFlags;
  // A heading of a bench opens what that bench was over time.
  const CabinetRow& one = row(index.row());
  return one.path.isEmpty() && one.bench.isEmpty() ? Qt::ItemIsEnabled : Qt::ItemIsEnabled | Qt::ItemIsSelectable;
}

QString CabinetModel::status() const {
  QString text = tr("%1 studies").arg(toQt(core::wholeText(static_cast<std::int64_t>(all_))));
  if (all_ == 1) text = tr("1 study");
  if (unreadable_ > 0) text += tr(", %1 cannot be read").arg(unreadable_);
  if (!cabinet_.away().empty() && !is_refreshing_)
    text += tr("; not to be reached now: %1").arg(toQt(cabinet_.away().front()));
  return is_refreshing_ ? text + tr("; looking through the folders …") : text;
}

QStringList CabinetModel::folders() const {
  QStringList all;
  if (const auto folders = cabinet_.folders())
    for (const std::string& one : *folders) all << QString::fromStdString(one);
  return all;
}

QStringList CabinetModel::chosen() const {
  QStringList paths;
  for (const auto& [path, at] : chosen_) paths << path;
  std::stable_sort(paths.begin(), paths.end(),
                   [this](const QString& one, const QString& other) { return chosen_.at(one) < chosen_.at(other); });
  return paths;
}

void CabinetModel::setWords(const QString& words) {
  wish_.words = words.toStdString();
  find();
}

void CabinetModel::setGrouping(Grouping grouping) {
  wish_.grouping = grouping;
  find();
}

void CabinetModel::setSorting(Sorting sorting) {
  wish_.sorting = sorting;
  find();
}

void CabinetModel::toggle(int at) {
  const CabinetRow& one = row(at);
  if (one.path.isEmpty() || !one.is_readable) return;
  if (chosen_.erase(one.path) == 0) chosen_[one.path] = one.at_ms;
  Q_EMIT dataChanged(index(at), index(at));
  Q_EMIT statusChanged();
}

void CabinetModel::addFolder(const QString& folder) {
  const core::Status added = cabinet_.add(folder.toStdString());
  if (!added && added.error().kind != core::ErrorKind::NotAllowed) tell(added);
  refresh();
}

void CabinetModel::removeFolder(const QString& folder) {
  tell(cabinet_.remove(folder.toStdString()));
  refresh();
}

void CabinetModel::refresh() {
  is_due_ = is_refreshing_ || is_quiet_;  // what came since is not among what is read now
  if (is_due_) return;
  is_refreshing_ = true;
  stop_ = std::stop_source();
  during_.start();
  Q_EMIT statusChanged();
  struct Refreshed {
    session::Cabinet cabinet;
    core::Status status;
    QStringList to_watch;
  };
  reading_.run<Refreshed>(
      [cabinet = cabinet_, end = stop_.get_token()]() mutable {
        core::Status status = cabinet.refresh(end);
        return Refreshed{cabinet, status, foldersToWatch(cabinet)};
      },
      [this](const Refreshed& done) {
        is_refreshing_ = false;
        during_.stop();
        cabinet_ = done.cabinet;
        tell(done.status);
        watch(done.to_watch);
        find();
        if (is_due_) refresh();
      });
}

void CabinetModel::setQuiet(bool is_quiet) {
  if (std::exchange(is_quiet_, is_quiet) == is_quiet) return;
  if (is_quiet) {
    is_due_ = is_due_ || is_refreshing_;
    stop_.request_stop();
  } else if (is_due_) {
    refresh();
  }
}

void CabinetModel::watch(const QStringList& folders) {
  if (const QStringList before = watcher_.directories(); !before.isEmpty()) watcher_.removePaths(before);
  if (!folders.isEmpty()) watcher_.addPaths(folders);
}

// Beside the window, up to the last word of it: ten thousand lines take a while.
CabinetModel::Found CabinetModel::search(const session::Cabinet& cabinet, const Wish& wish) {
  auto entries = cabinet.find(wish.words);
  if (!entries) return {{}, 0, 0, entries.error()};
  if (wish.sorting == Sorting::Oldest) std::reverse(entries->begin(), entries->end());
  if (wish.sorting == Sorting::MostDoubts)
    std::stable_sort(entries->begin(), entries->end(), [](const Entry& one, const Entry& other) {
      return std::pair(one.stops, one.cautions) > std::pair(other.stops, other.cautions);
    });
  const auto unreadable =
      std::count_if(entries->begin(), entries->end(), [](const Entry& one) { return one.state == "unreadable"; });
  return {
      Lines(cabinet.benches(), wish.grouping).of(*entries), entries->size(), static_cast<std::size_t>(unreadable), {}};
}

void CabinetModel::find() {
  using Answer = std::shared_ptr<const Found>;
  const int asked = ++asked_;
  searches_.run<Answer>(
      [cabinet = cabinet_, wish = wish_] { return std::make_shared<const Found>(search(cabinet, wish)); },
      [this, asked, wish = wish_](const Answer& found) {
        if (asked != asked_) return;
        if (found->error) return Q_EMIT failed(toQt(found->error->sentence()));
        beginResetModel();
        found_ = found;
        endResetModel();
        if (wish.words.find_first_not_of(" \t\n") == std::string::npos) {
          all_ = found->studies;
          unreadable_ = found->unreadable;
        }
        Q_EMIT statusChanged();
      });
}

void CabinetModel::tell(const core::Status& status) {
  if (!status) Q_EMIT failed(toQt(status.error().sentence()));
}

}  // namespace app
