#pragma once

#include <QWidget>
#include <map>

#include "app/model/study_model.h"

class QComboBox;
class QDoubleSpinBox;
class QFormLayout;
class QLabel;
class QLineEdit;
class QListWidget;
class QPushButton;
class QSpinBox;
class QVBoxLayout;

namespace app {

class CaseEditor;
class LevelEditor;

/// Place 1: the variable, its levels, the cases, and how often they are run. Every edit is saved as soon as it is
/// finished.
class QuestionPage final : public QWidget {
  Q_OBJECT
 public:
  explicit QuestionPage(StudyModel& study, QWidget* parent = nullptr);
  /// Puts the cursor where a part of the claim is edited: "bench", "variable", "baseline", "changed", "metric",
  /// "cases".
  void focusPart(const QString& part);
  /// Puts the cursor where the first problem is.
  void focusProblem();

 private:
  void buildLeft(QVBoxLayout* column);
  void buildRight(QVBoxLayout* column);
  void buildCases(QVBoxLayout* column);
  void connectEdits();
  /// From the study into the fields; does nothing to a field that already says the same.
  void load();
  /// From the fields into the study.
  void save();
  void addCase();
  void removeCase();
  void showCase(int row);
  void takeKind();
  void offerWrites();
  void recallMenuPaths(core::Study& study) const;
  [[nodiscard]] QString planText() const;

  StudyModel& study_;
  bool is_loading_ = false;
  QLabel* locked_ = nullptr;
  QLineEdit* bench_ = nullptr;
  QComboBox* kind_ = nullptr;
  QLineEdit* device_ = nullptr;
  QLineEdit* fields_ = nullptr;
  QLineEdit* variable_ = nullptr;
  QLineEdit* measure_ = nullptr;
  LevelEditor* baseline_ = nullptr;
  LevelEditor* changed_ = nullptr;
  QListWidget* cases_ = nullptr;
  QPushButton* add_case_ = nullptr;
  QPushButton* remove_case_ = nullptr;
  CaseEditor* case_editor_ = nullptr;
  QDoubleSpinBox* threshold_ = nullptr;
  QDoubleSpinBox* confidence_ = nullptr;
  QDoubleSpinBox* target_ = nullptr;
  QComboBox* order_ = nullptr;
  QSpinBox* passes_ = nullptr;
  QSpinBox* warm_ups_ = nullptr;
  QDoubleSpinBox* time_limit_ = nullptr;
  QLabel* plan_ = nullptr;
  QLabel* problem_ = nullptr;
};

}  // namespace app
