#pragma once

#include <QWidget>
#include <optional>
#include <utility>
#include <vector>

#include "app/model/planning_model.h"
#include "app/model/study_model.h"
#include "bench/offers.h"
#include "core/study/shelf.h"
#include "session/sheet/trial.h"
#include "session/user/background.h"

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

class BenchNowView;
class CaseEditor;
class Fold;
class KindChooser;
class LevelEditor;
class LevelOffers;
class PlanEditor;
class PlanOutlook;
class ReachEditor;
class ShapeEditor;
class Shelf;
class StepCard;

/// Place 1: the question, asked in five steps, one open at a time; beside them what the plan buys, and the bench as it
/// is now. Every edit is saved as soon as it is finished.
class QuestionPage final : public QWidget {
  Q_OBJECT
 public:
  explicit QuestionPage(StudyModel& study, QWidget* parent = nullptr);
  /// Puts the cursor where a part of the claim is edited: "bench", "variable", "baseline", "changed", "metric",
  /// "cases".
  void focusPart(const QString& part);
  /// Puts the cursor where the first problem is.
  void focusProblem();
  /// Opens one step, 1 to 5, and closes the others.
  void openStep(int number);

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
  void makeFields();
  void makeShape();
  void makeJudging();
  void makeChecks();
  void buildSteps(QVBoxLayout* column);
  void buildOutlook(QVBoxLayout* column);
  void buildVariable(QVBoxLayout* column);
  void buildLevels(QVBoxLayout* column);
  void buildCases(QVBoxLayout* column);
  void buildOwnCases(QVBoxLayout* column);
  void buildJudging(QVBoxLayout* column);
  void loadAnswers();
  void beginStudy();
  void forgetBench(const QString& why);
  void lookAround();
  void lookAtBench();
  void lookThere();
  void showBench(const bench::BenchNow& now);
  [[nodiscard]] bench::Offer offerOf(const std::string& kind) const;
  void loadOffers();
  void takeOffered(std::size_t level, const std::string& before);
  void tryOnce(const core::ShelfItem& item);
  void showTried(const session::MeasuredPass& measured, double seconds);
  void takeMinutes(double minutes);
  [[nodiscard]] QWidget* schoolRow();
  [[nodiscard]] QBoxLayout* predictionRow();
  [[nodiscard]] QLayout* fieldsRow(const std::vector<std::pair<QString, QWidget*>>& fields);
  void connectEdits();
  void connectSteps();
  /// From the study into the fields; does nothing to a field that already says the same.
  void load();
  /// From the fields into the study.
  void save();
  void addCase(const core::Case& a_case);
  void removeCase();
  void showCase(int row);
  void loadLock(bool can_edit);
  void loadPlan(bool can_edit);
  void loadPredictions();
  void takeKind(const std::string& kind);
  void loadLevels();
  void takeShape(int shape);
  [[nodiscard]] std::size_t variableInHand() const;
  [[nodiscard]] core::Judging judging() const;
  void askForJudging();
  void offerWrites();
  void recallLevels(core::Study& study) const;

  StudyModel& study_;
  bool is_loading_ = false;
  bool was_editable_ = false;
  bool is_plan_due_ = true;              ///< the plan is shown anew even where the question is the same
  std::optional<PlanningView> planned_;  ///< what the planning chart shows
  std::optional<bench::BenchNow> now_;
  int look_ = 0;                  ///< what an older look at a bench finds is not shown any more
  bool awaits_approval_ = false;  ///< the bench is read once somebody approves it
  bool awaits_levels_ = false;    ///< a kind was chosen before the bench was read
  std::optional<std::vector<core::ShelfItem>> installed_;  ///< looked for once
  session::Background background_;                         ///< in which the bench is read
  session::Trial trial_;
  std::string tried_;  ///< the title of what is tried
  QVBoxLayout* steps_ = nullptr;
  std::vector<StepCard*> cards_;
  LevelOffers* offers_ = nullptr;
  Shelf* shelf_ = nullptr;
  Fold* case_fold_ = nullptr;
  PlanOutlook* outlook_ = nullptr;
  BenchNowView* bench_now_ = nullptr;
  QLabel* locked_ = nullptr;
  QLineEdit* bench_ = nullptr;
  ReachEditor* reach_ = nullptr;
  KindChooser* kind_ = nullptr;
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
  std::vector<QPushButton*> own_cases_;  ///< what adds a case that is not on the shelf
  QPushButton* remove_case_ = nullptr;
  CaseEditor* case_editor_ = nullptr;
  QDoubleSpinBox* threshold_ = nullptr;
  QDoubleSpinBox* threshold_ms_ = nullptr;
  QComboBox* yardstick_ = nullptr;
  QDoubleSpinBox* band_ = nullptr;
  QDoubleSpinBox* confidence_ = nullptr;
  QDoubleSpinBox* target_ = nullptr;
  QLineEdit* further_targets_ = nullptr;
  PlanEditor* plan_ = nullptr;
  QLabel* problem_ = nullptr;
};

}  // namespace app
