// How the question page is laid out; what it does stands in question_page.cpp.
#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QRegularExpressionValidator>
#include <QVBoxLayout>

#include "app/question/bench_now_view.h"
#include "app/question/case_dialog.h"
#include "app/question/editors.h"
#include "app/question/kind_chooser.h"
#include "app/question/level_offers.h"
#include "app/question/number_field.h"
#include "app/question/parts.h"
#include "app/question/plan_editor.h"
#include "app/question/plan_outlook.h"
#include "app/question/question_page.h"
#include "app/question/reach_editor.h"
#include "app/question/shape_editor.h"
#include "app/question/shelf.h"
#include "app/question/step_card.h"
#include "app/shell/theme.h"
#include "core/machine/variable_kind.h"
#include "core/study/terms.h"

namespace app {
void QuestionPage::makeFields() {
  bench_ = new QLineEdit(this);
  bench_->setObjectName(QStringLiteral("benchEdit"));
  bench_->setPlaceholderText(tr("Dome node 3"));
  reach_ = new ReachEditor(this);
  variable_ = new QLineEdit(this);
  variable_->setObjectName(QStringLiteral("variableEdit"));
  variable_->setPlaceholderText(tr("the one setting that is changed"));
  kind_ = new KindChooser(this);
  device_ = new QLineEdit(this);
  device_->setObjectName(QStringLiteral("deviceEdit"));
  device_->setAccessibleName(tr("device"));
  device_->setPlaceholderText(tr("the graphics card"));
  device_->setToolTip(tr(
      "PCI address of the device under test, such as 0000:03:00.0; empty: the graphics card that shows the picture"));
  device_->setMaximumWidth(200);
  fields_ = new QLineEdit(this);
  fields_->setObjectName(QStringLiteral("fieldsEdit"));
  fields_->setAccessibleName(tr("facts that must change"));
  fields_->setPlaceholderText(QStringLiteral("kernel/swappiness"));
  fields_->setToolTip(tr("Facts as the capture calls them, parted by blanks; * stands for any text"));
}

void QuestionPage::makeShape() {
  held_ = new QPushButton(tr("Held equal …"), this);
  held_->setObjectName(QStringLiteral("heldButton"));
  held_->setToolTip(tr("What must be equal at both levels although the variable could take it along"));
  shape_ = new QComboBox(this);
  shape_->setObjectName(QStringLiteral("shapeBox"));
  shape_->setAccessibleName(tr("shape of the question"));
  shape_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  shape_->setMinimumContentsLength(12);
  shape_->addItems({tr("two levels"), tr("a ladder of levels"), tr("two variables crossed"), tr("a chain of steps")});
  shape_->setToolTip(
      tr("How much is enough? A ladder. Does it still help there? Two crossed. Where does the loss go? A chain"));
}

void QuestionPage::buildSteps(QVBoxLayout* column) {
  steps_ = column;
  makeFields();
  makeShape();
  makeJudging();
  makeChecks();
  locked_ = softLabel("questionLockedLabel", this);
  column->addWidget(locked_);
  const QString questions[] = {tr("What do you change?"), tr("Between which levels?"), tr("What do you measure with?"),
                               tr("What would matter?"), tr("How long may it take?")};
  const std::string terms[] = {core::termsText("flip"), core::termsText("level", "baseline"),
                               core::termsText("case", "pass", "control"), core::termsText("threshold"),
                               core::termsText("round", "visit", "flip", "pass", "warm-up")};
  for (const QString& question : questions) {
    const int number = static_cast<int>(cards_.size()) + 1;
    cards_.push_back(new StepCard(number, question, this));
    cards_.back()->setToolTip(toQt(terms[number - 1]));
    column->addWidget(cards_.back());
    connect(cards_.back(), &StepCard::openRequested, this, [this, number] { openStep(number); });
  }
  buildVariable(cards_[0]->body());
  buildLevels(cards_[1]->body());
  buildCases(cards_[2]->body());
  buildJudging(cards_[3]->body());
  plan_ = new PlanEditor(this);
  cards_[4]->body()->addWidget(plan_);
  problem_ = new QLabel(this);
  problem_->setObjectName(QStringLiteral("questionProblemLabel"));
  problem_->setWordWrap(true);
  QSizePolicy stays = problem_->sizePolicy();  // nothing moves under the pointer when the last problem goes away
  stays.setRetainSizeWhenHidden(true);
  problem_->setSizePolicy(stays);
  problem_->setFont(textFont(TextSize::Normal, true));
  column->addWidget(problem_);
  column->addStretch(0);
}

void QuestionPage::buildVariable(QVBoxLayout* column) {
  column->addWidget(kind_, 1);
  column->addLayout(fieldsRow({{tr("called"), variable_}, {tr("on bench"), bench_}}));
  column->addLayout(fieldsRow({{tr("which is"), reach_}}));
  auto* fold = new Fold(tr("Which device"), QStringLiteral("deviceFold"), this);
  fold->body()->addLayout(fieldsRow({{tr("device under test"), device_}}));
  column->addWidget(fields_);
  column->addWidget(fold);
}

void QuestionPage::buildLevels(QVBoxLayout* column) {
  auto* head = new QHBoxLayout;
  auto* shape_label = new QLabel(tr("asks about"), this);
  shape_label->setBuddy(shape_);
  head->addWidget(shape_label);
  head->addWidget(shape_);
  head->addStretch(1);
  head->addWidget(held_);
  column->addLayout(head);
  offers_ = new LevelOffers(this);
  offers_->hide();
  column->addWidget(offers_);
  baseline_ = new LevelEditor(tr("Baseline"), QStringLiteral("baseline"), this);
  changed_ = new LevelEditor(tr("Changed level"), QStringLiteral("changed"), this);
  auto* levels = new QHBoxLayout;
  levels->setSpacing(18);
  levels_ = new ShapeEditor(this);
  levels->addWidget(baseline_, 1);
  levels->addWidget(levels_, 1);
  levels_->hide();
  levels->addWidget(changed_, 1);
  column->addLayout(levels);
  column->addWidget(levels_->stepsArea(), 1);
  auto* fold = new Fold(tr("How a level is checked"), QStringLiteral("checksFold"), this);
  fold->body()->addLayout(fieldsRow({{tr("measured by"), measure_}, {tr("tested by"), stability_}}));
  column->addWidget(fold);
  column->addStretch(1);
}

void QuestionPage::buildCases(QVBoxLayout* column) {
  shelf_ = new Shelf(this);
  column->addWidget(shelf_, 2);
  buildOwnCases(column);
  auto* line = new QHBoxLayout;
  auto* title = new QLabel(tr("In the study"), this);
  title->setFont(textFont(TextSize::Normal, true));
  line->addWidget(title, 1);
  remove_case_ = new QPushButton(tr("Remove"), this);
  remove_case_->setObjectName(QStringLiteral("removeCaseButton"));
  line->addWidget(remove_case_);
  column->addLayout(line);
  cases_ = new QListWidget(this);
  cases_->setObjectName(QStringLiteral("casesList"));
  cases_->setAccessibleName(tr("Cases"));
  cases_->setMinimumHeight(44);
  column->addWidget(cases_, 1);
  case_fold_ = new Fold(tr("Details of the chosen case"), QStringLiteral("caseFold"), this);
  case_editor_ = new CaseEditor(this);
  case_fold_->body()->addWidget(case_editor_);
  column->addWidget(case_fold_);
}

// What the shelf does not have.
void QuestionPage::buildOwnCases(QVBoxLayout* column) {
  auto* line = new QHBoxLayout;
  line->setSpacing(6);
  line->addWidget(new QLabel(tr("or"), this));
  const auto add = [&](const QString& text, const char* name, const QString& hint, const core::Case& a_case) {
    auto* button = addButton(line, text, name, this);
    button->setToolTip(hint);
    connect(button, &QPushButton::clicked, this, [this, a_case] { addCase(a_case); });
    own_cases_.push_back(button);
    return button;
  };
  core::Case drawing;
  drawing.source = core::ResultSource::Recorded;
  core::Case played = drawing;
  played.is_played = true;
  core::Case typed;
  typed.source = core::ResultSource::ByHand;
  add(tr("a command"), "addCaseButton", tr("A program that writes a frame log, or prints a number"), {});
  add(tr("a program"), "addProgramButton", tr("Any that draws: its frames are noted without its help"), drawing);
  add(tr("a scene I play"), "addPlayedButton", tr("A route in words; a key begins and ends what counts"), played);
  add(tr("logs or numbers"), "addTypedButton",
      tr("What another program measures: its logs are brought in later, or its number is read off and typed"), typed);
  line->addStretch(1);
  column->addLayout(line);
}

// What a result is judged by.
void QuestionPage::makeJudging() {
  constexpr int kDecimals = 3;  // as many as a design may say: a field never rounds what it did not change
  threshold_ = numberField<DecimalBox>(this, "thresholdSpin", 0.0, 1000.0, tr(" %"));
  threshold_->setDecimals(kDecimals);
  threshold_->setAccessibleName(tr("threshold"));
  threshold_->setToolTip(tr(
      "Chosen before the first pass. A change afterwards needs a reason and stays on record: a threshold chosen then "
      "fits the result"));
  threshold_ms_ = numberField<DecimalBox>(this, "thresholdMsSpin", 0.0, 1000.0, tr(" ms"));
  threshold_ms_->setDecimals(kDecimals);
  threshold_ms_->setSpecialValueText(tr("no time"));
  threshold_ms_->setAccessibleName(tr("threshold in ms per frame"));
  threshold_ms_->setToolTip(
      tr("A time per frame that a person could notice. Of the two the larger one holds in each case, and findings say "
         "which; 0: percent alone"));
  yardstick_ = new QComboBox(this);
  yardstick_->setObjectName(QStringLiteral("yardstickBox"));
  yardstick_->setAccessibleName(tr("judged by"));
  yardstick_->addItems({tr("its interval"), tr("a fixed band"), tr("two run-to-run sds")});
  yardstick_->setToolTip(tr(
      "All of them are worked out; this one stands in the claim. The interval knows how sure the mean is, a band and "
      "two run-to-run sds do not"));
  band_ = numberField<DecimalBox>(this, "bandSpin", 0.1, 100.0, tr(" %"));
  band_->setDecimals(kDecimals);
  confidence_ = numberField<DecimalBox>(this, "confidenceSpin", 50.0, 99.9, tr(" %"));
  confidence_->setDecimals(kDecimals);
  target_ = numberField<DecimalBox>(this, "targetSpin", 1.0, 1000.0, tr(" FPS"));
  target_->setDecimals(0);
  further_targets_ = new QLineEdit(this);
  further_targets_->setObjectName(QStringLiteral("furtherTargetsEdit"));
  further_targets_->setAccessibleName(tr("further target rates, FPS"));
  further_targets_->setPlaceholderText(tr("30 120 FPS"));
  further_targets_->setValidator(
      new QRegularExpressionValidator(QRegularExpression(QStringLiteral("[0-9. ]*")), further_targets_));
  further_targets_->setToolTip(
      tr("Rates beside the target, with a space between them: findings and report say whether each level holds them, "
         "and in how many frames"));
}

// The programs that look at a level itself.
void QuestionPage::makeChecks() {
  measure_ = new QLineEdit(this);
  measure_->setObjectName(QStringLiteral("measureEdit"));
  measure_->setFont(monoFont());
  measure_->setPlaceholderText(tr("nothing measures it"));
  measure_->setToolTip(
      tr("Run before the first and after the last pass of each visit; prints what the level yields as JSON, as "
         "iron-lever-probe memory, copy and compute do"));
  stability_ = new QLineEdit(this);
  stability_->setObjectName(QStringLiteral("stabilityEdit"));
  stability_->setFont(monoFont());
  stability_->setPlaceholderText(tr("nothing tests it"));
  stability_->setToolTip(
      tr("Run once at each level before its first pass; an error ends the level as not reachable. A "
         "test of hours off-line can be entered under Bench work"));
}

void QuestionPage::buildJudging(QVBoxLayout* column) {
  auto* form = new QFormLayout;
  form->setVerticalSpacing(8);
  form->addRow(tr("threshold"),
               fieldsRow({{QString(), threshold_}, {tr("or if longer"), threshold_ms_}, {tr("target rate"), target_}}));
  form->addRow(tr("machine"), schoolRow());
  form->addRow(tr("predictions"), predictionRow());
  column->addLayout(form);
  auto* fold = new Fold(tr("How a change is judged"), QStringLiteral("judgingFold"), this);
  fold->body()->addLayout(fieldsRow({{tr("by"), yardstick_}, {tr("band"), band_}, {tr("confidence"), confidence_}}));
  fold->body()->addLayout(fieldsRow({{tr("told too: which level holds"), further_targets_}}));
  column->addWidget(fold);
  column->addStretch(1);
}

// Always in sight, whatever step is open.
void QuestionPage::buildOutlook(QVBoxLayout* column) {
  outlook_ = new PlanOutlook(this);
  column->addWidget(outlook_, 1);
  bench_now_ = new BenchNowView(this);
  column->addWidget(bench_now_);
}

// Several fields on one line, each but the first with its name before it.
QLayout* QuestionPage::fieldsRow(const std::vector<std::pair<QString, QWidget*>>& fields) {
  auto* row = new QHBoxLayout;
  row->setSpacing(8);
  for (const auto& [name, field] : fields) {
    if (!name.isEmpty()) {
      auto* label = new QLabel(name, this);
      label->setBuddy(field);
      row->addWidget(label);
    }
    row->addWidget(field, 1);
  }
  return row;
}

QWidget* QuestionPage::schoolRow() {
  school_ = new QComboBox(this);
  school_->setObjectName(QStringLiteral("schoolBox"));
  school_->setAccessibleName(tr("machine"));
  for (const core::School school : {core::School::AsDelivered, core::School::WithHeadroom}) {
    QStringList asks;
    for (const std::string& sentence : core::schoolAsks(school)) asks << toQt(sentence);
    school_->addItem(school == core::School::AsDelivered ? tr("as delivered: as its users have it")
                                                         : tr("with headroom: so that the variable can show"));
    school_->setItemData(school_->count() - 1, asks.join(QLatin1Char('\n')), Qt::ToolTipRole);
  }
  return school_;
}

QBoxLayout* QuestionPage::predictionRow() {
  predictions_ = softLabel("predictionsLabel", this);
  predict_ = new QPushButton(tr("Predict …"), this);
  predict_->setObjectName(QStringLiteral("predictButton"));
  predict_->setToolTip(tr("What each of you expects; locked at the first counted pass, shown beside the result"));
  auto* row = new QHBoxLayout;
  row->addWidget(predictions_, 1);
  row->addWidget(predict_);
  return row;
}

}  // namespace app
