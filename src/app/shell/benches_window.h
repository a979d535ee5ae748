#pragma once

#include <QDialog>

#include "app/model/study_model.h"

class QListWidget;
class QLabel;

namespace app {

/// Every bench that was worked on, and what each was over time.
class BenchesWindow final : public QDialog {
  Q_OBJECT
 public:
  explicit BenchesWindow(const StudyModel& study, QWidget* parent = nullptr);
  void refresh();

 private:
  void showBench();
  const StudyModel& study_;
  QListWidget* benches_;
  QLabel* history_;
};

}  // namespace app
