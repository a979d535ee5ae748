#pragma once

#include <QWidget>
#include <optional>
#include <utility>
#include <vector>

#include "app/model/study_model.h"

class QBoxLayout;
class QComboBox;
class QDoubleSpinBox;
class QFormLayout;
class QLabel;
class QLayout;
class QLineEdit;
class QListWidget;
class QPushButton;
class QVBoxLayout;

namespace app {

class CaseEditor;
class LevelEditor;
class PlanEditor;
class ShapeEditor;

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

  void restyle();

 Q_SIGNALS:
  void predictionRequested();
  /// Somebody wants results judged otherwise than planned.
  void judgingRequested(const core::Judging& judging);
  void natureRequested(const core::Case& a_case);
  /// A person wants to say what is held equal.
  void heldRequested();

 public Q_SLOTS:
  /// Puts in what a person declared about the case that is shown.
  void setNature(const core::Case& nature);

 protected:
  void showEvent(QShowEvent* event) override;

 private:
  void buildLeft(QVBoxLayout* column);
  void makeFields();
  void makeShape();
  void makeJudging();
  void makeChecks();
  void buildRight(QVBoxLayout* column);
  void buildCases(QVBoxLayout* column);
  [[nodiscard]] QWidget* schoolRow();
  [[nodiscard]] QBoxLayout* predictionRow();
  [[nodiscard]] QLayout* fieldsRow(const std::vector<std::pair<QString, QWidget*>>& fields);
  void connectEdits();
  /// From the study into the fields; does nothing to a field that already says the same.
  void load();
  /// From the fields into the study.
  void save();
  void addCase();
  void removeCase();
  void showCase(int row);
  void loadPlan(bool can_edit);
  void loadPredictions();
  void takeKind();
  void loadLevels();
  void takeShape(int shape);
  [[nodiscard]] std::size_t variableInHand() const;
  [[nodiscard]] core::Judging judging() const;
  void askForJudging();
  void offerWrites();
  void recallMenuPaths(core::Study& study) const;

  StudyModel& study_;
  bool is_loading_ = false;
  bool was_editable_ = false;
  std::optional<core::Study> planned_;  ///< what the planning chart was last made from
  QLabel* locked_ = nullptr;
  QLineEdit* bench_ = nullptr;
  QComboBox* kind_ = nullptr;
  QLineEdit* device_ = nullptr;
  QLineEdit* fields_ = nullptr;
  QLineEdit* variable_ = nullptr;
  QLineEdit* measure_ = nullptr;
  QLineEdit* stability_ = nullptr;
  QComboBox* school_ = nullptr;
  QLabel* predictions_ = nullptr;
  QPushButton* held_ = nullptr;
  QPushButton* predict_ = nullptr;
  LevelEditor* baseline_ = nullptr;
  LevelEditor* changed_ = nullptr;
  QComboBox* shape_ = nullptr;
  ShapeEditor* levels_ = nullptr;  ///< in place of the baseline's fields where there are more than two
  QListWidget* cases_ = nullptr;
  QPushButton* add_case_ = nullptr;
  QPushButton* remove_case_ = nullptr;
  CaseEditor* case_editor_ = nullptr;
  QDoubleSpinBox* threshold_ = nullptr;
  QDoubleSpinBox* threshold_ms_ = nullptr;
  QComboBox* yardstick_ = nullptr;
  QDoubleSpinBox* band_ = nullptr;
  QDoubleSpinBox* confidence_ = nullptr;
  QDoubleSpinBox* target_ = nullptr;
  PlanEditor* plan_ = nullptr;
  QLabel* problem_ = nullptr;
};

}  // namespace app
