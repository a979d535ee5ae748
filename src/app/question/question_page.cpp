#include "app/question/question_page.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include "app/model/command_text.h"
#include "app/model/question_answers.h"
#include "app/question/case_dialog.h"
#include "app/question/editors.h"
#include "app/question/kind_chooser.h"
#include "app/question/number_field.h"
#include "app/question/plan_editor.h"
#include "app/question/plan_outlook.h"
#include "app/question/reach_editor.h"
#include "app/question/shape_editor.h"
#include "app/question/shelf.h"
#include "app/question/step_card.h"
#include "app/shell/theme.h"
#include "app/shell/usable.h"
#include "core/estimate/wording.h"
#include "core/machine/variable_kind.h"
#include "core/study/reshaped.h"
#include "core/study/schedule.h"

namespace app {

QuestionPage::QuestionPage(StudyModel& study, QWidget* parent)
    : QWidget(parent), study_(study), trial_(study.machineHere()) {
  setObjectName(QStringLiteral("questionPage"));
  auto* columns = new QHBoxLayout(this);
  columns->setContentsMargins(20, 16, 20, 12);
  columns->setSpacing(28);
  auto* left = new QVBoxLayout;
  auto* right = new QVBoxLayout;
  left->setSpacing(6);
  right->setSpacing(8);
  columns->addLayout(left, 11);
  columns->addLayout(right, 9);
  buildSteps(left);
  buildOutlook(right);
  openStep(1);
  connectEdits();
  connectSteps();
  connect(&study_, &StudyModel::changed, this, [this] {
    if (study_.session().isRunning() && trial_.isRunning()) trial_.stop();  // it would disturb the pass
    if (isVisible()) load();
  });
  connect(&study_, &StudyModel::studyOpened, this, &QuestionPage::beginStudy);
}

void QuestionPage::loadPredictions() {
  QStringList said;
  for (const core::Prediction& one : study_.judgement().predictions)
    said << tr("%1: %2").arg(toQt(one.person), toQt(core::percentText(one.percent)));
  predictions_->setText(said.isEmpty() ? tr("nobody has predicted yet") : said.join(QStringLiteral(", ")));
  setUsable(*predict_, study_.session().recorded().passes.empty()
                           ? QString()
                           : tr("Passes are in: what is said now is not a prediction any more"));
}

void QuestionPage::setNature(const core::Case& nature) { case_editor_->setNature(nature); }

void QuestionPage::connectEdits() {
  connect(predict_, &QPushButton::clicked, this, &QuestionPage::predictionRequested);
  connect(school_, &QComboBox::activated, this, &QuestionPage::save);
  connect(held_, &QPushButton::clicked, this, &QuestionPage::heldRequested);
  connect(case_editor_, &CaseEditor::natureRequested, this, [this] { Q_EMIT natureRequested(case_editor_->edited()); });
  for (QLineEdit* edit : {bench_, variable_, device_, fields_, measure_, stability_, further_targets_})
    connect(edit, &QLineEdit::editingFinished, this, &QuestionPage::save);
  connect(reach_, &ReachEditor::edited, this, [this](const core::Reach& reach) {
    core::Study study = study_.study();
    core::setReach(study, reach);
    study_.replaceStudy(study);
    lookAtBench();
  });
  connect(reach_, &ReachEditor::refused, &study_, &StudyModel::tell);
  for (LevelEditor* editor : {baseline_, changed_}) connect(editor, &LevelEditor::edited, this, &QuestionPage::save);
  for (QDoubleSpinBox* box : {threshold_, threshold_ms_, confidence_, target_, band_})
    connect(box, &QDoubleSpinBox::valueChanged, this, &QuestionPage::save);
  connect(yardstick_, &QComboBox::activated, this, &QuestionPage::save);
  for (QDoubleSpinBox* box : {threshold_, threshold_ms_, band_})
    connect(box, &QDoubleSpinBox::editingFinished, this, &QuestionPage::askForJudging);
  connect(yardstick_, &QComboBox::activated, this, &QuestionPage::askForJudging);
  connect(shape_, &QComboBox::activated, this, &QuestionPage::takeShape);
  connect(levels_, &ShapeEditor::changed, this, [this](const core::Study& study) { study_.replaceStudy(study); });
  connect(levels_, &ShapeEditor::chosen, this, &QuestionPage::load);
  connect(plan_, &PlanEditor::edited, this, &QuestionPage::save);
  connect(plan_, &PlanEditor::planChosen, this, [this](const core::Plan& plan) {
    core::Study study = study_.study();
    study.plan = plan;
    study_.replaceStudy(study);
  });
  connect(case_editor_, &CaseEditor::changed, this, &QuestionPage::save);
  connect(cases_, &QListWidget::currentRowChanged, this, &QuestionPage::showCase);
  connect(remove_case_, &QPushButton::clicked, this, &QuestionPage::removeCase);
}

void QuestionPage::load() {
  is_loading_ = true;
  const core::Study& study = study_.study();
  shape_->setCurrentIndex(static_cast<int>(study.shape));
  if (study.shape != core::Shape::Pair) levels_->load(study);
  const core::Variable& variable = study.variables[variableInHand()];
  if (bench_->text() != toQt(study.bench)) bench_->setText(toQt(study.bench));
  reach_->load(core::reachOf(study), study_.whyLocked().isEmpty());
  if (variable_->text() != toQt(variable.name)) variable_->setText(toQt(variable.name));
  core::isUnasked(variable) ? kind_->clearChoice() : kind_->choose(variable.kind);
  if (device_->text() != toQt(variable.device)) device_->setText(toQt(variable.device));
  if (const QString command = textOf(study.measure_command); measure_->text() != command) measure_->setText(command);
  if (!measure_->hasFocus()) measure_->setCursorPosition(0);  // the program first
  if (const QString command = textOf(study.stability_command); stability_->text() != command)
    stability_->setText(command);
  if (!stability_->hasFocus()) stability_->setCursorPosition(0);
  school_->setCurrentIndex(static_cast<int>(study.school));
  school_->setToolTip(school_->itemData(school_->currentIndex(), Qt::ToolTipRole).toString());
  loadPredictions();
  if (const QString fields = textOf(variable.fields); fields_->text() != fields) fields_->setText(fields);
  fields_->setVisible(variable.kind == "other");
  offerWrites();
  loadLevels();
  threshold_->setValue(study.notice_threshold_percent);
  threshold_ms_->setValue(study.notice_threshold_ms.value_or(0));
  yardstick_->setCurrentIndex(static_cast<int>(study.yardstick));
  band_->setValue(study.band_percent);
  confidence_->setValue(100 * study.confidence);
  target_->setValue(study.target_fps);
  if (!further_targets_->hasFocus()) further_targets_->setText(ratesText(study.further_targets_fps));
  const int row = std::max(0, cases_->currentRow());
  {
    const QSignalBlocker blocker(cases_);
    cases_->clear();
    for (const core::Case& a_case : study.cases)
      cases_->addItem(a_case.workload.empty() ? tr("a case without a name")
                                              : toQt(a_case.title() + " · " + a_case.metric.name) +
                                                    QStringLiteral(" · ") + natureText(a_case));
    cases_->setCurrentRow(std::min(row, cases_->count() - 1));
  }
  showCase(cases_->currentRow());
  const bool can_edit = study_.whyLocked().isEmpty();
  loadLock(can_edit);
  loadPlan(can_edit);
  problem_->setText(study_.problems().empty() ? QString() : toQt(study_.problems().front().sentence()));
  problem_->setVisible(!study_.problems().empty());
  loadOffers();
  shelf_->load(study, can_edit);
  loadAnswers();
  is_loading_ = false;
}

// What can still be changed, and why the rest cannot.
void QuestionPage::loadLock(bool can_edit) {
  locked_->setText(study_.whyLocked());
  setReasonOfAll(*this, study_.whyLocked());
  locked_->setVisible(!can_edit);
  for (QWidget* widget :
       std::initializer_list<QWidget*>{bench_, variable_, kind_, device_, fields_, measure_, stability_, school_,
                                       confidence_, target_, further_targets_, held_, shape_})
    widget->setEnabled(can_edit);
  levels_->setCanEdit(can_edit);
  for (LevelEditor* editor : {baseline_, changed_}) editor->setCanEdit(can_edit);
  for (StepCard* card : cards_) card->setCanEdit(can_edit);
  for (QWidget* widget : std::initializer_list<QWidget*>{threshold_, threshold_ms_, yardstick_, band_})
    setUsable(*widget, study_.session().isRunning() ? tr("Passes run") : QString());
  setUsable(*remove_case_, !can_edit              ? study_.whyLocked()
                           : cases_->count() == 0 ? tr("No case is in the study yet")
                                                  : QString());
  for (QPushButton* own : own_cases_) own->setEnabled(can_edit);
}

// Passes come all the time while a sheet runs; what planning rests on does not change with them.
void QuestionPage::loadPlan(bool can_edit) {
  const bool is_same = planned_ && planned_->study == study_.study() && was_editable_ == can_edit;
  if (is_same && !is_plan_due_) return;
  is_plan_due_ = false;
  was_editable_ = can_edit;
  planned_ = planningView(study_, std::move(planned_));
  plan_->load(planned_->study, *planned_, can_edit);
  outlook_->load(*planned_, can_edit);
  cards_[4]->setAnswer(planned_->current_cost);
}

void QuestionPage::showEvent(QShowEvent* event) {
  is_plan_due_ = true;  // a null study may have measured the bench meanwhile
  if (study_.hasStudy()) {
    load();
    lookAround();
  }
  QWidget::showEvent(event);
}

void QuestionPage::restyle() {
  is_plan_due_ = true;
  if (study_.hasStudy()) load();
}

void QuestionPage::showCase(int row) {
  const auto& cases = study_.study().cases;
  const bool has_case = row >= 0 && row < static_cast<int>(cases.size());
  case_editor_->setVisible(has_case);
  case_editor_->setEnabled(study_.whyLocked().isEmpty());
  if (has_case) case_editor_->load(cases[static_cast<std::size_t>(row)]);
}

void QuestionPage::save() {
  if (is_loading_ || !study_.whyLocked().isEmpty()) return;
  core::Study study = core::withName(study_.study(), variableInHand(), variable_->text().trimmed().toStdString());
  core::Variable& variable = study.variables[variableInHand()];
  study.bench = bench_->text().trimmed().toStdString();
  variable.kind = kind_->kind();
  variable.device = device_->text().trimmed().toStdString();
  variable.fields = wordsOf(fields_->text());
  study.measure_command = wordsOf(measure_->text());
  study.stability_command = wordsOf(stability_->text());
  study.school = static_cast<core::School>(school_->currentIndex());
  if (study.shape == core::Shape::Pair)
    variable.levels = {baseline_->level(), changed_->level()};
  else
    study = core::withLevel(std::move(study), variableInHand(), levels_->level(), changed_->level());
  recallLevels(study);
  study = core::judgedBy(std::move(study), judging());
  study.confidence = confidence_->value() / 100;
  study.target_fps = target_->value();
  study.further_targets_fps = ratesOf(further_targets_->text());
  study.plan = plan_->plan();
  const int row = cases_->currentRow();
  if (row >= 0 && row < static_cast<int>(study.cases.size()))
    study.cases[static_cast<std::size_t>(row)] = case_editor_->edited();
  study_.replaceStudy(study);
}

core::Judging QuestionPage::judging() const {
  const double ms = threshold_ms_->value();
  return {threshold_->value(), ms > 0 ? std::optional(ms) : std::nullopt,
          static_cast<core::Yardstick>(yardstick_->currentIndex()), band_->value()};
}

// After the first pass it is no edit any more but an act, with a reason.
void QuestionPage::askForJudging() {
  if (is_loading_ || !study_.hasStudy() || study_.whyLocked().isEmpty() || study_.session().isRunning()) return;
  const core::Judging wanted = judging();
  const core::Judging now = core::judgingOf(study_.study());
  if (wanted == now) return;
  load();  // until somebody has given a reason it is as it was
  Q_EMIT judgingRequested(wanted);
}

std::size_t QuestionPage::variableInHand() const {
  return study_.study().shape == core::Shape::Pair ? 0 : levels_->variable();
}

// Two levels stand side by side; of more the one that is chosen stands beside their list.
void QuestionPage::loadLevels() {
  const core::Study& study = study_.study();
  const core::Variable& variable = study.variables[variableInHand()];
  const bool is_pair = study.shape == core::Shape::Pair;
  baseline_->setVisible(is_pair);
  levels_->setVisible(!is_pair);
  if (is_pair) levels_->stepsArea()->hide();
  if (is_pair) baseline_->load(variable.levels[0]);
  changed_->setTitle(is_pair ? tr("Changed level") : tr("The level that is chosen"));
  changed_->load(variable.levels[is_pair ? 1 : levels_->level()]);
  for (LevelEditor* editor : {baseline_, changed_}) editor->offerReading(toQt(variable.kind));
}

void QuestionPage::takeShape(int shape) {
  if (is_loading_ || !study_.whyLocked().isEmpty()) return;
  study_.replaceStudy(core::reshaped(study_.study(), static_cast<core::Shape>(shape)));
}

void QuestionPage::offerWrites() {
  const core::VariableKind* kind = core::findVariableKind(study_.study().variables[variableInHand()].kind);
  const auto text = [](std::string_view view) {
    return QString::fromUtf8(view.data(), static_cast<qsizetype>(view.size()));
  };
  QString example;
  QStringList hints;
  if (kind)
    for (const core::KindWrite& write : kind->writes) {
      if (example.isEmpty()) example = text(write.path) + QLatin1Char('=');
      hints << tr("%1: %2 = %3").arg(text(write.what), text(write.path), text(write.values));
    }
  for (LevelEditor* editor : {baseline_, changed_}) editor->offerWrites(example, hints.join(QLatin1Char('\n')));
}

// Where a level was found on this bench in an earlier study, and what was ticked on the way there.
void QuestionPage::recallLevels(core::Study& study) const {
  const core::Study& before = study_.study();
  for (std::size_t v = 0; v < study.variables.size(); ++v) {
    core::Variable& variable = study.variables[v];
    for (std::size_t i = 0; i < variable.levels.size(); ++i) {
      core::Level& level = variable.levels[i];
      const core::Variable& was = before.variables[v];
      const bool is_renamed =
          level.name != was.levels[i].name || variable.kind != was.kind || study.bench != before.bench;
      if (!is_renamed || variable.kind.empty()) continue;
      const store::BenchRegister& benches = study_.benches();
      if (level.menu_path.empty())
        if (const auto known = benches.menuPath(study.bench, variable.kind, level.name)) level.menu_path = *known;
      if (level.checklist.empty())
        if (const auto known = benches.checklist(study.bench, variable.kind, level.name)) level.checklist = *known;
    }
  }
}

void QuestionPage::addCase(const core::Case& a_case) {
  core::Study study = study_.study();
  study.cases.push_back(a_case);
  study_.replaceStudy(study);
  cases_->setCurrentRow(cases_->count() - 1);
  case_fold_->setOpen(true);
  case_editor_->focusName();
}

void QuestionPage::removeCase() {
  const int row = cases_->currentRow();
  core::Study study = study_.study();
  if (row < 0 || row >= static_cast<int>(study.cases.size())) return;
  study.cases.erase(study.cases.begin() + row);
  study_.replaceStudy(study);
}

void QuestionPage::focusPart(const QString& part) {
  if (part == QLatin1String("bench") || part == QLatin1String("variable")) {
    openStep(1);
    (part == QLatin1String("bench") ? static_cast<QWidget*>(bench_) : kind_)->setFocus();
  } else if (part == QLatin1String("baseline") || part == QLatin1String("changed")) {
    openStep(2);
    (part == QLatin1String("baseline") ? baseline_ : changed_)->focusName();
  } else {
    openStep(3);
    if (part == QLatin1String("metric")) {
      case_fold_->setOpen(true);
      return case_editor_->focusMetric();
    }
    cases_->setFocus();
  }
}

void QuestionPage::focusProblem() {
  if (study_.problems().empty()) return;
  const std::string& where = study_.problems().front().where;
  if (where == "levels") {
    const bool is_baseline =
        study_.study().shape == core::Shape::Pair && study_.study().nameOf(core::ConfigurationId::Baseline).empty();
    return focusPart(is_baseline ? QStringLiteral("baseline") : QStringLiteral("changed"));
  }
  if (where == "cases") {
    openStep(3);
    return shelf_->setFocus();
  }
  if (where.starts_with("case ")) {
    openStep(3);
    case_fold_->setOpen(true);
    cases_->setCurrentRow(std::max(0, std::atoi(where.c_str() + 5) - 1));
    return case_editor_->focusName();
  }
  if (where == "plan") {
    openStep(5);
    return plan_->focusSize();
  }
  focusPart(toQt(where));
}

}  // namespace app
