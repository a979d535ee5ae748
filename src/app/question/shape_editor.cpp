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

void ShapeEditor::addVariable() {
  core::Study study = study_;
  study.variables.emplace_back();
  study.variables.back().name = tr("variable %1").arg(study.variables.size()).toStdString();
  study.variables.back().levels[0].name = "off";
  study.variables.back().levels[1].name = "on";
  for (core::Configuration& one : study.configurations) one.levels.push_back(0);
  Q_EMIT changed(study);
}

void ShapeEditor::buildLevels(QVBoxLayout* column) {
  auto* head = new QHBoxLayout;
  variables_ = new QComboBox(this);
  variables_->setObjectName(QStringLiteral("variableBox"));
  variables_->setAccessibleName(tr("variable whose levels are shown"));
  head->addWidget(new QLabel(tr("levels of"), this));
  head->addWidget(variables_, 1);
  variables_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  variables_->setMinimumContentsLength(8);
  another_ = addButton(head, tr("Add"), "anotherVariableButton", this);
  another_->setToolTip(tr("Another variable, of which a step may be made"));
  another_->hide();
  column->addLayout(head);
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
  connect(variables_, &QComboBox::activated, this, [this] {
    fillLevels();
    Q_EMIT chosen();
  });
  connect(another_, &QPushButton::clicked, this, [this] { addVariable(); });
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

void ShapeEditor::buildSteps(QVBoxLayout* column) {
  cells_ = new QLabel(this);
  cells_->setObjectName(QStringLiteral("cellsLabel"));
  cells_->setProperty("soft", true);
  cells_->setWordWrap(true);
  column->addWidget(cells_);
  steps_ = new QTableWidget(this);
  steps_->setObjectName(QStringLiteral("stepsTable"));
  steps_->verticalHeader()->setDefaultSectionSize(26);
  steps_->setAccessibleName(tr("Configurations of the chain, in order"));
  steps_->verticalHeader()->hide();
  steps_->setMinimumHeight(64);
  steps_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  column->addWidget(steps_, 1);
  step_buttons_ = new QWidget(this);
  auto* line = new QHBoxLayout(step_buttons_);
  line->setContentsMargins(0, 0, 0, 0);
  auto* add = addButton(line, tr("Add a step"), "addStepButton", step_buttons_);
  auto* remove = addButton(line, tr("Remove the last"), "removeStepButton", step_buttons_);
  line->addStretch(1);
  column->addWidget(step_buttons_);
  for (QWidget* widget : std::initializer_list<QWidget*>{cells_, steps_, step_buttons_}) widget->hide();
  connect(add, &QPushButton::clicked, this, &ShapeEditor::addStep);
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
  variables_->setEnabled(study.variables.size() > 1);
  another_->setVisible(study.shape == core::Shape::Chain);
  is_loading_ = false;
  fillLevels();
  fillSteps();
}

void ShapeEditor::setCanEdit(bool can_edit) {
  for (QPushButton* each : findChildren<QPushButton*>()) each->setEnabled(can_edit);
  for (QWidget* each : std::initializer_list<QWidget*>{resource_, unit_, flip_, steps_}) each->setEnabled(can_edit);
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
  steps_->setVisible(is_chain);
  step_buttons_->setVisible(is_chain);
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

// The first step that nobody has listed: one variable one level on from the last configuration, else any that is left.
void ShapeEditor::addStep() {
  core::Study study = study_;
  const auto is_listed = [&](const std::vector<std::size_t>& levels) {
    return std::any_of(study.configurations.begin(), study.configurations.end(),
                       [&](const core::Configuration& one) { return one.levels == levels; });
  };
  for (std::size_t i = 0; i < study.variables.size(); ++i)
    for (std::size_t level = 0; level < study.variables[i].levels.size(); ++level) {
      core::Configuration next = study.configurations.back();
      next.levels[i] = level;
      if (is_listed(next.levels)) continue;
      next.name = tr("step %1").arg(study.configurations.size()).toStdString();
      study.configurations.push_back(std::move(next));
      return Q_EMIT changed(core::redrawn(std::move(study)));
    }
}

void ShapeEditor::removeStep() {
  if (study_.configurations.size() <= 2) return;
  core::Study study = study_;
  study.configurations.pop_back();
  Q_EMIT changed(core::redrawn(std::move(study)));
}

}  // namespace app
