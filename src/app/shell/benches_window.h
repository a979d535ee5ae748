#pragma once

#include <QDialog>

#include <optional>

#include "app/model/study_model.h"
#include "session/cabinet/bench_questions.h"

class QListWidget;
class QLabel;
class QPushButton;

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
  void showQuestion();
  void answerQuestion(bool is_the_same);
  std::optional<session::BenchQuestion> question_;  ///< the first that is open
  QLabel* asked_;
  QPushButton* same_;
  QPushButton* another_;
  QListWidget* benches_;
  QLabel* history_;
  SvgPicture* noise_;
};

}  // namespace app
