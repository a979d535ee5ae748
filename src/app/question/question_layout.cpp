// How the question page is laid out; what it does stands in question_page.cpp.
#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/question/case_dialog.h"
#include "app/question/editors.h"
#include "app/question/number_field.h"
#include "app/question/plan_editor.h"
#include "app/question/question_page.h"
#include "app/question/shape_editor.h"
#include "app/shell/theme.h"
#include "core/machine/variable_kind.h"

namespace app {
namespace {

QLabel* heading(const QString& text, QWidget* parent) {
  auto* label = new QLabel(text, parent);
  label->setFont(textFont(TextSize::Large, true));
  return label;
}

QLabel* softLabel(QWidget* parent) {
  auto* label = new QLabel(parent);
  label->setProperty("soft", true);
  label->setWordWrap(true);
  return label;
}

}  // namespace

void QuestionPage::makeFields() {
  bench_ = new QLineEdit(this);
  bench_->setObjectName(QStringLiteral("benchEdit"));
  bench_->setPlaceholderText(tr("Dome node 3"));
  variable_ = new QLineEdit(this);
  variable_->setObjectName(QStringLiteral("variableEdit"));
  variable_->setPlaceholderText(tr("the one setting that is changed"));
  kind_ = new QComboBox(this);
  kind_->setObjectName(QStringLiteral("kindBox"));
  kind_->setAccessibleName(tr("kind of variable"));
  kind_->setToolTip(tr("What may change with the variable, and what proves that it moved"));
  kind_->addItem(tr("kind not declared"), QString());
  for (const core::VariableKind& kind : core::variableKinds())
    kind_->addItem(QString::fromUtf8(kind.title.data(), static_cast<qsizetype>(kind.title.size())),
                   QString::fromUtf8(kind.id.data(), static_cast<qsizetype>(kind.id.size())));
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

void QuestionPage::buildLeft(QVBoxLayout* column) {
  auto* head = new QHBoxLayout;
  head->addWidget(heading(tr("The question"), this), 1);
  column->addLayout(head);
  locked_ = softLabel(this);
  locked_->setObjectName(QStringLiteral("questionLockedLabel"));
  column->addWidget(locked_);
  makeFields();
  auto* form = new QFormLayout;
  form->setVerticalSpacing(6);
  auto* bench_row = new QHBoxLayout;
  bench_row->setSpacing(6);
  bench_row->addWidget(bench_, 1);
  auto* device_label = new QLabel(tr("device"), this);
  device_label->setBuddy(device_);
  bench_row->addSpacing(8);
  bench_row->addWidget(device_label);
  bench_row->addWidget(device_);
  auto* variable_row = new QHBoxLayout;
  variable_row->setSpacing(6);
  for (QWidget* widget : std::initializer_list<QWidget*>{variable_, kind_, fields_}) variable_row->addWidget(widget, 1);
  makeShape();
  auto* shape_label = new QLabel(tr("asks about"), this);
  shape_label->setBuddy(shape_);
  head->addWidget(shape_label);
  head->addWidget(shape_);
  head->addWidget(held_);
  form->addRow(tr("bench"), bench_row);
  form->addRow(tr("variable"), variable_row);
  column->addLayout(form);
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
  column->addSpacing(6);
  buildCases(column);
}

void QuestionPage::buildCases(QVBoxLayout* column) {
  auto* line = new QHBoxLayout;
  line->addWidget(heading(tr("Cases"), this), 1);
  add_case_ = new QPushButton(tr("Add a case"), this);
  add_case_->setObjectName(QStringLiteral("addCaseButton"));
  remove_case_ = new QPushButton(tr("Remove"), this);
  remove_case_->setObjectName(QStringLiteral("removeCaseButton"));
  line->addWidget(add_case_);
  line->addWidget(remove_case_);
  column->addLayout(line);
  cases_ = new QListWidget(this);
  cases_->setObjectName(QStringLiteral("casesList"));
  cases_->setAccessibleName(tr("Cases"));
  cases_->setMinimumHeight(36);
  column->addWidget(cases_, 1);
  case_editor_ = new CaseEditor(this);
  column->addWidget(case_editor_);
}

// What a result is judged by.
void QuestionPage::makeJudging() {
  constexpr int kDecimals = 3;  // as many as a design may say: a field never rounds what it did not change
  threshold_ = numberField<DecimalBox>(this, "thresholdSpin", 0.0, 1000.0, tr(" %"));
  threshold_->setDecimals(kDecimals);
  threshold_->setToolTip(tr(
      "Chosen before the first pass. A change afterwards needs a reason and stays on record: a threshold chosen then "
      "fits the result"));
  threshold_ms_ = numberField<DecimalBox>(this, "thresholdMsSpin", 0.0, 1000.0, tr(" ms"));
  threshold_ms_->setDecimals(kDecimals);
  threshold_ms_->setSpecialValueText(tr("no time"));
  threshold_ms_->setAccessibleName(tr("threshold in ms a frame"));
  threshold_ms_->setToolTip(
      tr("A time a frame that a person could notice. Of the two the larger one holds in each case, and findings say "
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

void QuestionPage::buildRight(QVBoxLayout* column) {
  auto* line = predictionRow();
  line->insertWidget(0, heading(tr("What matters"), this));
  column->addLayout(line);
  auto* form = new QFormLayout;
  form->setVerticalSpacing(8);
  makeJudging();
  makeChecks();
  form->addRow(tr("the machine is"), schoolRow());
  form->addRow(tr("threshold"),
               fieldsRow({{QString(), threshold_}, {tr("or"), threshold_ms_}, {tr("target rate"), target_}}));
  form->addRow(tr("a change is judged by"),
               fieldsRow({{QString(), yardstick_}, {tr("band"), band_}, {tr("confidence"), confidence_}}));
  form->addRow(tr("a level is measured by"), fieldsRow({{QString(), measure_}, {tr("tested by"), stability_}}));
  column->addLayout(form);
  column->addSpacing(8);
  column->addWidget(heading(tr("The plan"), this));
  plan_ = new PlanEditor(this);
  column->addWidget(plan_, 1);
  problem_ = new QLabel(this);
  problem_->setObjectName(QStringLiteral("questionProblemLabel"));
  problem_->setWordWrap(true);
  problem_->setFont(textFont(TextSize::Normal, true));
  column->addWidget(problem_);
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
  school_->setAccessibleName(tr("school"));
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
  predictions_ = softLabel(this);
  predictions_->setObjectName(QStringLiteral("predictionsLabel"));
  predictions_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
  predict_ = new QPushButton(tr("Predict …"), this);
  predict_->setObjectName(QStringLiteral("predictButton"));
  predict_->setToolTip(tr("What each of you expects; locked at the first counted pass, shown beside the result"));
  auto* row = new QHBoxLayout;
  row->addWidget(predictions_, 1);
  row->addWidget(predict_);
  return row;
}

}  // namespace app
