#pragma once

#include <QAbstractListModel>
#include <QFileSystemWatcher>
#include <QStringList>
#include <QTimer>
#include <map>
#include <memory>
#include <optional>
#include <stop_token>
#include <vector>

#include "session/cabinet/cabinet.h"
#include "session/user/background.h"

namespace app {

/// One line of the cabinet: the heading of a group, or a study.
struct CabinetRow {
  QString path;            ///< of a study; empty for a heading
  QString bench;           ///< of a study; of a heading only where it is one
  QString text;            ///< the claim as it stood, or the heading
  QString answer;          ///< a part of the claim
  QString soft;            ///< what stands beneath it: when, how far, doubts, what has changed since
  std::int64_t at_ms = 0;  ///< of its last pass; 0 without one
  bool is_readable = true;
};

/// The studies of a person on their disks, each as its sentence. The folders are looked through beside the window;
/// what was known is there at once.
class CabinetModel final : public QAbstractListModel {
  Q_OBJECT
 public:
  enum class Grouping { ByBench, ByVariable };
  enum class Sorting { Latest, Oldest, MostDoubts };
  explicit CabinetModel(session::Cabinet cabinet, QObject* parent = nullptr);
  ~CabinetModel() override;

  [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
  [[nodiscard]] Qt::ItemFlags flags(const QModelIndex& index) const override;
  [[nodiscard]] const CabinetRow& row(int at) const { return found_->rows[static_cast<std::size_t>(at)]; }
  /// Is it to be laid beside others?
  [[nodiscard]] bool isChosen(const QString& path) const { return chosen_.contains(path); }

  /// How many studies there are in all, whatever is looked for.
  [[nodiscard]] std::size_t studies() const { return all_; }
  /// "142 studies, 3 cannot be read"; while the folders are looked through that, too.
  [[nodiscard]] QString status() const;
  [[nodiscard]] QStringList folders() const;
  /// Those that are to be laid side by side, the oldest first.
  [[nodiscard]] QStringList chosen() const;

  void setWords(const QString& words);
  void setGrouping(Grouping grouping);
  /// Within the groups, and the groups by their first study.
  void setSorting(Sorting sorting);
  void toggle(int at);
  /// One that is there already stays as it is.
  void addFolder(const QString& folder);
  void removeFolder(const QString& folder);
  /// Looks through the folders; where that goes on already, or all is to be quiet, once more after it.
  void refresh();
  [[nodiscard]] bool isRefreshing() const { return is_refreshing_; }
  /// While a sheet runs nothing is read beside it: this may be the machine under test.
  void setQuiet(bool is_quiet);

 Q_SIGNALS:
  void statusChanged();
  /// Something was written into a folder. Whoever shows the studies looks through them anew.
  void foldersChanged();
  void failed(const QString& sentence);

 private:
  /// What a search found, ready to be shown.
  struct Found {
    std::vector<CabinetRow> rows;
    std::size_t studies = 0;
    std::size_t unreadable = 0;
    std::optional<core::Error> error;
  };
  /// What somebody wants to see.
  struct Wish {
    std::string words;
    Grouping grouping = Grouping::ByBench;
    Sorting sorting = Sorting::Latest;
  };
  [[nodiscard]] static Found search(const session::Cabinet& cabinet, const Wish& wish);
  void find();
  void watch(const QStringList& folders);
  void tell(const core::Status& status);

  session::Cabinet cabinet_;
  std::shared_ptr<const Found> found_ = std::make_shared<const Found>();
  std::map<QString, std::int64_t> chosen_;  ///< paths, and when each was measured last
  Wish wish_;
  std::size_t all_ = 0;
  std::size_t unreadable_ = 0;
  int asked_ = 0;  ///< searches so far: an older one's answer is not shown
  bool is_refreshing_ = false;
  bool is_due_ = false;  ///< somebody asked for another look meanwhile
  bool is_quiet_ = false;
  std::stop_source stop_;  ///< of the look that goes on
  QFileSystemWatcher watcher_;
  QTimer soon_;    ///< after something was written into a folder
  QTimer during_;  ///< shows what a long look through the folders has found so far
  session::Background searches_;
  session::Background reading_;
};

}  // namespace app
