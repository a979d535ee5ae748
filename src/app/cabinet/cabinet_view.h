#pragma once

#include <QStyledItemDelegate>
#include <QWidget>

#include "app/model/cabinet_model.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QListView;
class QMenu;
class QPushButton;

namespace app {

/// Draws a line of the cabinet: its sentence with the answer in bold, and beneath it in soft ink what else is known.
class CabinetDelegate final : public QStyledItemDelegate {
  Q_OBJECT
 public:
  explicit CabinetDelegate(const CabinetModel& model, QObject* parent) : QStyledItemDelegate(parent), model_(model) {}
  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override;
  [[nodiscard]] QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override;
  /// Where a study is ticked to be laid beside others.
  [[nodiscard]] static QRect tickOf(const QRect& row);

 private:
  void paintStudy(QPainter& painter, const CabinetRow& row, const QRect& place) const;
  const CabinetModel& model_;
};

/// The cabinet: find, read, open, repeat, put beside.
class CabinetView final : public QWidget {
  Q_OBJECT
 public:
  explicit CabinetView(CabinetModel& model, QWidget* parent = nullptr);
  /// Ready to be typed into.
  void focusSearch();

 Q_SIGNALS:
  void openRequested(const QString& path);
  void repeatRequested(const QString& path);
  void besideRequested(const QStringList& paths);
  void benchRequested(const QString& bench);
  void folderRequested();

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;
  void showEvent(QShowEvent* event) override;

 private:
  void setUpParts();
  void layOut();
  void connectParts();
  void activate(const QModelIndex& index);
  void refresh();
  void fillFolders();
  [[nodiscard]] QString currentPath() const;

  CabinetModel& model_;
  QString before_;    ///< what was chosen before the studies were found anew
  int scrolled_ = 0;  ///< and how far down
  QLineEdit* find_;
  QComboBox* grouping_;
  QComboBox* sorting_;
  QLabel* status_;
  QListView* list_;
  QLabel* empty_;
  QMenu* folders_;
  QPushButton* open_;
  QPushButton* repeat_;
  QPushButton* beside_;
};

}  // namespace app
