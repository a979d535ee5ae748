#pragma once

#include <QWidget>
#include <vector>

#include "app/model/shelf_rows.h"

class QLabel;
class QPushButton;
class QTreeWidget;

namespace app {

/// The workloads that are at hand: those that ship with the program, those used on this bench before, the programs
/// found installed. One can be tried here and now, put into the study, or put in as a control.
class Shelf final : public QWidget {
  Q_OBJECT
 public:
  explicit Shelf(QWidget* parent = nullptr);

  void setRows(std::vector<ShelfRow> rows);
  /// Which rows the study has; the kind says what a change may show in.
  void load(const core::Study& study, bool can_edit);
  /// What a trial is at, or yielded.
  void showTrial(const QString& sentence, bool is_running);

 Q_SIGNALS:
  void putRequested(const core::ShelfItem& item, bool as_control);
  /// Start one pass now, or end the one that runs.
  void tryRequested(const core::ShelfItem& item);

 private:
  void enable();
  [[nodiscard]] const ShelfRow* rowInHand() const;
  std::vector<ShelfRow> rows_;
  core::Study study_;
  bool can_edit_ = true;
  bool is_trying_ = false;
  QTreeWidget* list_ = nullptr;
  QPushButton* put_ = nullptr;
  QPushButton* control_ = nullptr;
  QPushButton* try_ = nullptr;
  QLabel* repeatable_ = nullptr;  ///< how the chosen one's passes differ on this bench
  QLabel* trial_ = nullptr;
};

}  // namespace app
