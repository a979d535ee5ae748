#pragma once

#include <QDialog>

#include "app/model/study_model.h"

class QListWidget;
class QLabel;

namespace app {

class SvgPicture;

/// Every bench that was worked on, and what each was over time.
class BenchesWindow final : public QDialog {
  Q_OBJECT
 public:
  explicit BenchesWindow(const StudyModel& study, QWidget* parent = nullptr);
  void refresh();
  /// This one of them.
  void showBench(const QString& name);

 private:
  void showChosen();
  const StudyModel& study_;
  void showNoise(const std::string& bench);
  QListWidget* benches_;
  QLabel* history_;
  SvgPicture* noise_;
};

}  // namespace app
