#include "app/question/shape_editor.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QRegularExpressionValidator>
#include <QTableWidget>
#include <QVBoxLayout>

#include <fmt/format.h>

#include "app/model/study_model.h"
#include "app/question/parts.h"
#include "app/shell/usable.h"
#include "core/machine/kind_groups.h"
#include "core/machine/variable_kind.h"
#include "core/study/reshaped.h"
#include "core/values/number_text.h"

namespace app {
ShapeEditor::ShapeEditor(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("shapeEditor"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(4);
  buildLevels(column);
  buildSteps(column);
}

void ShapeEditor::buildOffers(QVBoxLayout* column) {
  // Nothing can be typed that is no number, not even on the way to one: it would be taken for an empty field.
  static const QRegularExpression number(QStringLiteral(R"(\s*(\d{1,12}([.,]\d*)?)?\s*)"));
  auto* offers = new QHBoxLayout;
  resource_ = new QLineEdit(this);
  resource_->setObjectName(QStringLiteral("resourceEdit"));
  resource_->setAccessibleName(tr("what the level offers"));
  resource_->setPlaceholderText(tr("as measured or read"));
  resource_->setToolTip(
      tr("A number above 0 in the variable's unit; empty: as it is measured, or read by the capture"));
  resource_->setValidator(new QRegularExpressionValidator(number, resource_));
  unit_ = new QLineEdit(this);
  unit_->setObjectName(QStringLiteral("resourceUnitEdit"));
  unit_->setAccessibleName(tr("unit of what it offers"));
  unit_->setPlaceholderText(QStringLiteral("GB/s"));
  unit_->setMaximumWidth(90);
  offers_label_ = new QLabel(tr("offers"), this);
  offers->addWidget(offers_label_);
  offers->addWidget(resource_, 1);
  offers->addWidget(unit_);
  column->addLayout(offers);
  auto* flips = new QHBoxLayout;
  flip_label_ = new QLabel(tr("a flip of it takes"), this);
  flip_ = new QLineEdit(this);
  flip_->setObjectName(QStringLiteral("flipMinutesEdit"));
  flip_->setAccessibleName(tr("minutes that a flip of this variable takes"));
  flip_->setToolTip(tr("In minutes, with settling; empty: what its kind usually takes"));
  flip_->setValidator(new QRegularExpressionValidator(number, flip_));
  flip_label_->setBuddy(flip_);
  flips->addWidget(flip_label_);
  flips->addWidget(flip_, 1);
  column->addLayout(flips);
}

// What each variable is; the first one's kind is asked in the step before as well.
void ShapeEditor::buildKind(QVBoxLayout* column) {
  auto* line = new QHBoxLayout;
  kind_label_ = new QLabel(tr("which is"), this);
  kinds_ = new QComboBox(this);
  kinds_->setObjectName(QStringLiteral("variableKindBox"));
  kinds_->setAccessibleName(tr("kind of the variable whose levels are shown"));
  kinds_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  kinds_->setMinimumContentsLength(8);
  kinds_->addItem(tr("not declared"), QString());
  for (const core::KindGroup& group : core::kindGroups())
    for (const std::string_view id : group.kinds) kinds_->addItem(toQt(core::findVariableKind(id)->title), toQt(id));
  kind_label_->setBuddy(kinds_);
  line->addWidget(kind_label_);
  line->addWidget(kinds_, 1);
  column->addLayout(line);
  connect(kinds_, &QComboBox::activated, this,
          [this](int row) { Q_EMIT kindChosen(kinds_->itemData(row).toString().toStdString()); });
}

void ShapeEditor::buildVariable(QVBoxLayout* column) {
  auto* head = new QHBoxLayout;
  variables_ = new QComboBox(this);
  variables_->setObjectName(QStringLiteral("variableBox"));
  variables_->setAccessibleName(tr("variable whose levels are shown"));
  head->addWidget(new QLabel(tr("levels of"), this));
  head->addWidget(variables_, 1);
  variables_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  variables_->setMinimumContentsLength(8);
  variables_->setEditable(true);
  variables_->setInsertPolicy(QComboBox::NoInsert);
  variables_->lineEdit()->setAccessibleName(tr("variable, name"));
  variables_->setToolTip(tr("Choose a variable, or type another name for the one that is shown"));
  another_ = addButton(head, tr("Another variable"), "anotherVariableButton", this);
  another_->setToolTip(tr("One more variable, of which a step can be made"));
  another_->hide();
  column->addLayout(head);
  connect(variables_, &QComboBox::activated, this, [this] {
    fillLevels();
    Q_EMIT chosen();
  });
  connect(variables_->lineEdit(), &QLineEdit::editingFinished, this, [this] {
    const std::string name = variables_->currentText().trimmed().toStdString();
    if (!is_loading_ && name != study_.variables[variable()].name)
      Q_EMIT changed(core::withName(study_, variable(), name));
  });
  connect(another_, &QPushButton::clicked, this, [this] {
    const std::size_t added = study_.variables.size();
    Q_EMIT changed(core::withVariableAdded(study_));
    if (added < study_.variables.size()) variables_->setCurrentIndex(static_cast<int>(added));
    fillLevels();
    Q_EMIT chosen();
  });
}

void ShapeEditor::buildLevels(QVBoxLayout* column) {
  buildVariable(column);
  buildKind(column);
  levels_ = new QListWidget(this);
  levels_->setObjectName(QStringLiteral("levelsList"));
  levels_->setAccessibleName(tr("Levels, weak to strong"));
  levels_->setToolTip(tr("In order, from weak to strong; each is compared with the one before it"));
  levels_->setMinimumHeight(40);
  column->addWidget(levels_, 1);
  auto* line = new QHBoxLayout;
  auto* add = addButton(line, tr("Add"), "addLevelButton", this);
  auto* remove = addButton(line, tr("Remove"), "removeLevelButton", this);
  auto* raise = addButton(line, tr("Up"), "raiseLevelButton", this);
  auto* baseline = addButton(line, tr("Baseline"), "baselineLevelButton", this);
  line->addStretch(1);
  column->addLayout(line);
  buildOffers(column);
  connect(levels_, &QListWidget::currentRowChanged, this, [this](int row) {
    if (is_loading_ || row < 0) return;
    fillLevels();
    Q_EMIT chosen();
  });
  connect(add, &QPushButton::clicked, this, [this] { Q_EMIT changed(core::withLevelAdded(study_, variable())); });
  connect(remove, &QPushButton::clicked, this,
          [this] { Q_EMIT changed(core::withLevelRemoved(study_, variable(), level())); });
  connect(raise, &QPushButton::clicked, this, [this] {
    const core::Study raised = core::withLevelRaised(study_, variable(), level());
    if (level() > 0) levels_->setCurrentRow(static_cast<int>(level()) - 1);
    Q_EMIT changed(raised);
  });
  connect(baseline, &QPushButton::clicked, this, [this] {
    core::Study study = study_;
    study.variables[variable()].baseline = level();
    Q_EMIT changed(study);
  });
  for (QLineEdit* edit : {resource_, unit_, flip_})
    connect(edit, &QLineEdit::editingFinished, this, &ShapeEditor::saveResource);
}

// Across the card, below the levels: each step has a name and a level of every variable.
void ShapeEditor::buildSteps(QVBoxLayout* column) {
  cells_ = new QLabel(this);
  cells_->setObjectName(QStringLiteral("cellsLabel"));
  cells_->setProperty("soft", true);
  cells_->setWordWrap(true);
  cells_->hide();
  column->addWidget(cells_);
  steps_area_ = new QWidget(this);
  steps_area_->hide();
  auto* row = new QHBoxLayout(steps_area_);
  row->setContentsMargins(0, 0, 0, 0);
  steps_ = new QTableWidget(steps_area_);
  steps_->setObjectName(QStringLiteral("stepsTable"));
  steps_->setAccessibleName(tr("Configurations of the chain, in order"));
  steps_->verticalHeader()->setDefaultSectionSize(26);
  steps_->verticalHeader()->hide();
  steps_->setTabKeyNavigation(false);  // Tab leads on; arrows move within
  steps_->setMinimumHeight(136);       // four steps
  steps_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  row->addWidget(steps_, 1);
  auto* buttons = new QVBoxLayout;
  row->addLayout(buttons);
  auto* add = new QPushButton(tr("Add a step"), steps_area_);
  add->setObjectName(QStringLiteral("addStepButton"));
  auto* remove = new QPushButton(tr("Remove the last"), steps_area_);
  remove->setObjectName(QStringLiteral("removeStepButton"));
  for (QPushButton* button : {add, remove}) buttons->addWidget(button);
  buttons->addStretch(1);
  connect(add, &QPushButton::clicked, this, [this] { Q_EMIT changed(core::withStepAdded(study_)); });
  connect(remove, &QPushButton::clicked, this, &ShapeEditor::removeStep);
  connect(steps_, &QTableWidget::itemChanged, this, &ShapeEditor::saveSteps);
}

std::size_t ShapeEditor::variable() const {
  return std::min(static_cast<std::size_t>(std::max(0, variables_->currentIndex())), study_.variables.size() - 1);
}

std::size_t ShapeEditor::level() const {
  return std::min(static_cast<std::size_t>(std::max(0, levels_->currentRow())),
                  study_.variables[variable()].levels.size() - 1);
}

void ShapeEditor::load(const core::Study& study) {
  study_ = study;
  is_loading_ = true;
  const int chosen_variable = std::max(0, variables_->currentIndex());
  variables_->clear();
  for (const core::Variable& one : study.variables)
    variables_->addItem(one.name.empty() ? tr("a variable without a name") : toQt(one.name));
  variables_->setCurrentIndex(std::min(chosen_variable, variables_->count() - 1));
  setUsable(*variables_, study.variables.size() > 1 ? QString() : tr("A ladder has one variable"));
  another_->setVisible(study.shape == core::Shape::Chain);
  is_loading_ = false;
  fillLevels();
  fillSteps();
}

void ShapeEditor::setCanEdit(bool can_edit) {
  for (const QWidget* part : std::initializer_list<QWidget*>{this, steps_area_})
    for (QPushButton* each : part->findChildren<QPushButton*>()) each->setEnabled(can_edit);
  for (QWidget* each : std::initializer_list<QWidget*>{kinds_, resource_, unit_, flip_, steps_})
    each->setEnabled(can_edit);
}

void ShapeEditor::fillLevels() {
  is_loading_ = true;
  const core::Variable& one = study_.variables[variable()];
  const int row = std::max(0, levels_->currentRow());
  levels_->clear();
  for (std::size_t i = 0; i < one.levels.size(); ++i) {
    QString text = one.levels[i].name.empty() ? tr("a level without a name") : toQt(one.levels[i].name);
    if (one.levels[i].resource)
      text += QStringLiteral(" · %1 %2").arg(*one.levels[i].resource).arg(toQt(one.resource_unit));
    if (i == one.baseline) text += tr(" · baseline");
    levels_->addItem(text);
  }
  levels_->setCurrentRow(std::min(row, levels_->count() - 1));
  kinds_->setCurrentIndex(std::max(0, kinds_->findData(toQt(one.kind))));
  for (QWidget* each : std::initializer_list<QWidget*>{kind_label_, kinds_})
    each->setVisible(study_.variables.size() > 1);
  const auto& resource = one.levels[level()].resource;
  resource_->setText(resource ? toQt(fmt::format("{}", *resource)) : QString());
  unit_->setText(toQt(one.resource_unit));
  // A chain asks where the change comes from, not how far a resource carries.
  const bool has_resource = study_.shape != core::Shape::Chain;
  for (QWidget* each : std::initializer_list<QWidget*>{offers_label_, resource_, unit_}) each->setVisible(has_resource);
  // Of one variable the plan says what a flip takes.
  for (QWidget* each : std::initializer_list<QWidget*>{flip_label_, flip_})
    each->setVisible(study_.variables.size() > 1);
  flip_->setText(one.flip_minutes ? toQt(fmt::format("{}", *one.flip_minutes)) : QString());
  flip_->setPlaceholderText(
      (core::isFlipGuessed(study_, one) ? tr("%1 min, as the plan guesses") : tr("%1 min, as its kind usually does"))
          .arg(core::flipMinutes(study_, one)));
  is_loading_ = false;
}

void ShapeEditor::fillSteps() {
  is_loading_ = true;
  const bool is_chain = study_.shape == core::Shape::Chain;
  steps_area_->setVisible(is_chain);
  constexpr int kThreeRows = 58;  // the room is the steps'
  levels_->setMaximumHeight(is_chain ? kThreeRows : QWIDGETSIZE_MAX);
  cells_->setVisible(study_.shape == core::Shape::Crossed);
  cells_->setText(study_.configurations.empty()
                      ? tr("%1 cells: every combination is measured.").arg(study_.configurationCount())
                      : tr("%1 cells of the design file are measured; the others are named as missing.")
                            .arg(study_.configurationCount()));
  if (is_chain) {
    QStringList head{tr("configuration")};
    for (const core::Variable& one : study_.variables) head << toQt(one.name);
    steps_->setColumnCount(static_cast<int>(head.size()));
    steps_->setHorizontalHeaderLabels(head);
    steps_->setRowCount(static_cast<int>(study_.configurations.size()));
    steps_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    steps_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::ResizeToContents);
    for (int row = 0; row < steps_->rowCount(); ++row) {
      const core::Configuration& at = study_.configurations[static_cast<std::size_t>(row)];
      steps_->setItem(row, 0, new QTableWidgetItem(toQt(at.name)));
      for (std::size_t i = 0; i < study_.variables.size(); ++i) {
        auto* box = new QComboBox(steps_);
        box->setAccessibleName(tr("level of %1 in step %2").arg(toQt(study_.variables[i].name)).arg(row + 1));
        for (const core::Level& one : study_.variables[i].levels) box->addItem(toQt(one.name));
        box->setCurrentIndex(static_cast<int>(at.levels[i]));
        connect(box, &QComboBox::activated, this, &ShapeEditor::saveSteps);
        steps_->setCellWidget(row, static_cast<int>(i) + 1, box);
      }
    }
  }
  is_loading_ = false;
}

void ShapeEditor::saveResource() {
  if (is_loading_) return;
  core::Study study = study_;
  core::Variable& one = study.variables[variable()];
  // With a point or a comma, as people write it.
  const auto number = [](const QLineEdit* edit) { return core::numberTyped(edit->text().trimmed().toStdString()); };
  one.levels[level()].resource = number(resource_);
  one.flip_minutes = number(flip_);
  one.resource_unit = unit_->text().trimmed().toStdString();
  if (!(study == study_)) Q_EMIT changed(study);
}

void ShapeEditor::saveSteps() {
  if (is_loading_) return;
  core::Study study = study_;
  for (int row = 0; row < steps_->rowCount(); ++row) {
    core::Configuration& at = study.configurations[static_cast<std::size_t>(row)];
    at.name = steps_->item(row, 0)->text().trimmed().toStdString();
    for (std::size_t i = 0; i < study.variables.size(); ++i)
      at.levels[i] = static_cast<std::size_t>(
          std::max(0, qobject_cast<QComboBox*>(steps_->cellWidget(row, static_cast<int>(i) + 1))->currentIndex()));
  }
  if (!(study == study_)) Q_EMIT changed(study);
}

void ShapeEditor::removeStep() {
  if (study_.configurations.size() <= 2) return;
  core::Study study = study_;
  study.configurations.pop_back();
  Q_EMIT changed(core::redrawn(std::move(study)));
}

}  // namespace app
