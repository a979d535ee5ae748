#pragma once

#include <QDialog>
#include <QPagedPaintDevice>

#include "app/model/logbook_model.h"

class QComboBox;
class QLabel;
class QLineEdit;

namespace app {

/// The logbook beside the track: what happened, when, by whom; found by words, by person and by kind. Does not stop
/// anything while it is open.
class LogbookWindow final : public QDialog {
  Q_OBJECT
 public:
  explicit LogbookWindow(LogbookModel& logbook, QWidget* parent = nullptr);
  /// What is shown, on paper.
  void print(QPagedPaintDevice& paper) const;

 Q_SIGNALS:
  void noteRequested();
  void observationRequested();
  void printRequested();

 private:
  void fillPeople();
  void count();

  LogbookFilter filter_;
  QLineEdit* find_;
  QComboBox* people_;
  QComboBox* kinds_;
  QLabel* count_;
};

}  // namespace app
