#include "app/question/editors.h"

#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include <fmt/format.h>

#include "app/model/command_text.h"
#include "app/model/study_model.h"
#include "app/question/number_field.h"
#include "app/question/step_card.h"
#include "app/shell/theme.h"
#include "app/shell/usable.h"
#include "core/study/expected_reading.h"

namespace app {
namespace {

/// Writes only what differs, so that the cursor stays where a person left it.
void put(QLineEdit* edit, const QString& text) {
  if (edit->text() != text) edit->setText(text);
  edit->setCursorPosition(edit->hasFocus() ? edit->cursorPosition() : 0);
}

QFormLayout* formOn(QWidget* widget) {
  auto* form = new QFormLayout(widget);
  form->setContentsMargins(0, 0, 0, 0);
  form->setVerticalSpacing(6);
  form->setLabelAlignment(Qt::AlignLeft);
  form->setFieldGrowthPolicy(QFormLayout::ExpandingFieldsGrow);
  return form;
}

void dress(QLineEdit* edit, const QString& label, const QString& object_name, const QString& placeholder,
           const QString& hint) {
  edit->setObjectName(object_name);
  edit->setAccessibleName(label);
  edit->setPlaceholderText(placeholder);
  edit->setToolTip(hint);
}

void addRow(QFormLayout* form, const QString& label, QLineEdit* edit, const QString& object_name,
            const QString& placeholder, const QString& hint) {
  dress(edit, label, object_name, placeholder, hint);
  form->addRow(label, edit);
}

/// Two fields on one line, the second with its label between them.
QHBoxLayout* rowOf(QWidget* first, QLabel* label, QLineEdit* second) {
  auto* row = new QHBoxLayout;
  row->setSpacing(8);
  row->addWidget(first, 3);
  row->addWidget(label);
  row->addWidget(second, 2);
  label->setBuddy(second);
  return row;
}

constexpr int kFrameRate = 0;
constexpr int kFrameTime = 1;
constexpr int kJsonField = 2;
constexpr int kRecorded = 3;
constexpr int kByHand = 4;
constexpr int kPattern = 5;
constexpr int kFile = 6;
constexpr int kDifferences = 2;  // from here on the directions are those of differences

}  // namespace

LevelEditor::LevelEditor(const QString& title, const QString& name_prefix, QWidget* parent)
    : QWidget(parent),
      title_(new QLabel(title, this)),
      name_(new QLineEdit(this)),
      prefix_(new QLineEdit(this)),
      environment_(new QLineEdit(this)),
      set_command_(new QLineEdit(this)),
      writes_(new QLineEdit(this)),
      menu_path_(new QLineEdit(this)),
      checklist_(new QLineEdit(this)),
      reads_(new QLineEdit(this)),
      price_(new QLineEdit(this)) {
  for (QLineEdit* edit : {prefix_, environment_, set_command_, writes_}) edit->setFont(monoFont());
  const QString words =
      tr("Words are parted by blanks; \"…\" keeps blanks together. The program itself uses no shell.");
  QFormLayout* form = formOn(this);
  title_->setFont(textFont(TextSize::Normal, true));
  form->addRow(title_);
  form->setVerticalSpacing(3);
  addRow(form, tr("name"), name_, name_prefix + QStringLiteral("NameEdit"), tr("one core"),
         tr("As it is to stand in the claim"));
  addRow(form, tr("must read"), reads_, name_prefix + QStringLiteral("ReadsEdit"), {},
         tr("What a capture must read at this level: FACT = VALUE, such as cpu/cores = 8. Empty: what its name lets "
            "expect, shown in grey. A visit that reads something else is left out"));
  addRow(form, tr("menu path"), menu_path_, name_prefix + QStringLiteral("MenuPathEdit"), tr("Advanced > Memory"),
         tr("Where a person finds it on this bench; kept for the next study and printed on the card"));
  auto* fold = new Fold(tr("How it is set"), name_prefix + QStringLiteral("Fold"), this);
  auto* details = new QWidget(fold);
  fold->body()->addWidget(details);
  QFormLayout* set = formOn(details);
  set->setVerticalSpacing(3);
  addRow(set, tr("command prefix"), prefix_, name_prefix + QStringLiteral("PrefixEdit"), tr("taskset -c 0"),
         tr("Put before every command of a pass. ") + words);
  addRow(set, tr("environment"), environment_, name_prefix + QStringLiteral("EnvironmentEdit"), tr("NAME=value"),
         tr("Variables set for every pass. ") + words);
  addRow(set, tr("set command"), set_command_, name_prefix + QStringLiteral("SetCommandEdit"),
         tr("a command, if one can"), tr("Run at the start of each visit to bring the level about. ") + words);
  addRow(set, tr("checklist"), checklist_, name_prefix + QStringLiteral("ChecklistEdit"),
         tr("screwdriver; photograph the seat"),
         tr("Points of your own to be ticked on the card before each visit at this level, parted by semicolons; kept "
            "for the next study of this bench"));
  addRow(set, tr("price"), price_, name_prefix + QStringLiteral("PriceEdit"), tr("120 EUR"),
         tr("What this level costs, in one currency for all levels: the findings then say what a change brings for its "
            "price. Empty: nobody asks"));
  addRow(set, tr("kernel settings"), writes_, name_prefix + QStringLiteral("WritesEdit"), {}, {});
  form->addRow(fold);
  setTitle(title);
  offerWrites({}, {});
  for (QLineEdit* edit : {name_, prefix_, environment_, set_command_, writes_, menu_path_, checklist_, reads_, price_})
    connect(edit, &QLineEdit::editingFinished, this, &LevelEditor::edited);
}

void LevelEditor::load(const core::Level& level) {
  loaded_ = level;
  put(name_, toQt(level.name));
  put(prefix_, textOf(level.prefix));
  put(environment_, textOf(level.environment));
  put(set_command_, textOf(level.set_command));
  put(writes_, textOf(level.writes));
  put(menu_path_, toQt(level.menu_path));
  put(checklist_, toQt(fmt::format("{}", fmt::join(level.checklist, "; "))));
  put(price_, textOf(level.price));
  put(reads_, level.reads ? toQt(level.reads->fact + " = " + level.reads->value) : QString());
}

void LevelEditor::offerWrites(const QString& example, const QString& hint) {
  writes_->setPlaceholderText(example.isEmpty() ? tr("/sys/… =value") : example);
  writes_->setToolTip(tr("Settings that the running system takes, as PATH=VALUE; * stands for any name. Put back after "
                         "each visit, and at the next start if the program died.") +
                      (hint.isEmpty() ? QString() : QStringLiteral("\n\n") + hint));
}

void LevelEditor::offerReading(const QString& kind_id) {
  const auto proposed = core::proposedReading(kind_id.toStdString(), name_->text().toStdString());
  reads_->setPlaceholderText(proposed ? tr("%1, by its name").arg(toQt(proposed->value)) : tr("FACT = VALUE"));
}

core::Level LevelEditor::level() const {
  core::Level level = loaded_;
  level.name = name_->text().trimmed().toStdString();
  level.prefix = wordsOf(prefix_->text());
  level.environment = environmentOf(environment_->text());
  level.set_command = wordsOf(set_command_->text());
  level.writes = writesOf(writes_->text());
  level.menu_path = menu_path_->text().trimmed().toStdString();
  level.checklist.clear();
  for (const QString& point : checklist_->text().split(QLatin1Char(';')))
    if (!point.trimmed().isEmpty()) level.checklist.push_back(point.trimmed().toStdString());
  level.price = priceFrom(price_->text());
  level.reads.reset();
  const QString reads = reads_->text().trimmed();
  if (reads.isEmpty()) return level;
  const auto equals = reads.indexOf(QLatin1Char('='));
  level.reads = core::ExpectedReading{reads.left(equals).trimmed().toStdString(),
                                      equals < 0 ? std::string() : reads.mid(equals + 1).trimmed().toStdString()};
  return level;
}

void LevelEditor::focusName() { name_->setFocus(); }

void LevelEditor::setCanEdit(bool can_edit) {
  for (QLineEdit* edit : {name_, prefix_, environment_, set_command_, writes_, menu_path_, checklist_, reads_, price_})
    edit->setEnabled(can_edit);
}

// Two levels have the same fields: whoever hears their names must hear of which level they are.
void LevelEditor::setTitle(const QString& title) {
  title_->setText(title);
  const QString part = QStringLiteral(", ");
  for (QLineEdit* edit : {name_, prefix_, environment_, set_command_, writes_, menu_path_, checklist_, reads_, price_})
    edit->setAccessibleName(title + part + edit->accessibleName().section(part, -1));
}

void CaseEditor::dressResult() {
  command_->setFont(monoFont());
  source_->setObjectName(QStringLiteral("caseSourceBox"));
  source_->setAccessibleName(tr("result"));
  source_->addItems({tr("average FPS, from a frame log"), tr("mean frame time, from a frame log"),
                     tr("a number in the output (JSON)"), tr("average FPS, frames recorded by us"),
                     tr("a number that a person types"), tr("a number behind a pattern in the output"),
                     tr("a number in a file that the pass writes")});
  source_->setItemData(kRecorded, tr("Of any Vulkan or OpenGL program, without its help"), Qt::ToolTipRole);
  direction_->setObjectName(QStringLiteral("caseDirectionBox"));
  direction_->setAccessibleName(tr("direction"));
  direction_->addItems({tr("higher is better"), tr("lower is better"), tr("higher is better, as a difference"),
                        tr("lower is better, as a difference")});
  direction_->setToolTip(
      tr("Rates and times are compared in percent; decibels and degrees by their difference, in the unit"));
  field_->setObjectName(QStringLiteral("caseFieldEdit"));
  path_->setObjectName(QStringLiteral("casePathEdit"));
  path_->setAccessibleName(tr("file of the result"));
  path_->setPlaceholderText(QStringLiteral("result.json"));
  path_->setToolTip(tr("Seen from the study's folder, and written anew by each pass"));
  metric_->setObjectName(QStringLiteral("caseMetricEdit"));
  metric_->setAccessibleName(tr("metric"));
  metric_->setPlaceholderText(tr("render time"));
  unit_->setObjectName(QStringLiteral("caseUnitEdit"));
  unit_->setAccessibleName(tr("unit"));
  unit_->setPlaceholderText(tr("unit"));
  unit_->setFixedWidth(60);
}

void CaseEditor::makeThreshold() {
  threshold_ = new DecimalBox(this);
  threshold_->setObjectName(QStringLiteral("caseThresholdSpin"));
  threshold_->setAccessibleName(tr("smallest difference worth acting on, in the unit"));
  threshold_->setToolTip(threshold_->accessibleName());
  threshold_->setPrefix(tr("threshold "));
  threshold_->setRange(0, 1e6);
  threshold_->setButtonSymbols(QAbstractSpinBox::NoButtons);
  threshold_->hide();  // before a case is loaded, the window is no wider for it
  connect(threshold_, &QDoubleSpinBox::editingFinished, this, &CaseEditor::changed);
}

QHBoxLayout* CaseEditor::trimRow() {
  auto* trim_row = new QHBoxLayout;
  for (auto [spin, name, prefix] : {std::tuple{trim_first_, "caseTrimFirstSpin", tr("first ")},
                                    std::tuple{trim_last_, "caseTrimLastSpin", tr("last ")}}) {
    spin->setObjectName(QLatin1String(name));
    spin->setPrefix(prefix);
    spin->setSuffix(tr(" s"));
    spin->setRange(0, 3600);
    spin->setDecimals(1);
    spin->setButtonSymbols(QAbstractSpinBox::NoButtons);
    trim_row->addWidget(spin);
    connect(spin, &QDoubleSpinBox::editingFinished, this, &CaseEditor::changed);
  }
  makeThreshold();
  trim_row->addWidget(threshold_);
  auto* kind = new QPushButton(tr("Kind of case …"), this);
  kind->setObjectName(QStringLiteral("natureButton"));
  kind->setToolTip(tr("Real or synthetic, a control, played by hand, its settings, upscaling, frame cap and the like"));
  trim_row->addStretch(1);
  trim_row->addWidget(kind);
  connect(kind, &QPushButton::clicked, this, &CaseEditor::natureRequested);
  return trim_row;
}

CaseEditor::CaseEditor(QWidget* parent)
    : QWidget(parent),
      workload_(new QLineEdit(this)),
      preset_(new QLineEdit(this)),
      command_(new QLineEdit(this)),
      source_(new QComboBox(this)),
      field_(new QLineEdit(this)),
      path_(new QLineEdit(this)),
      field_label_(new QLabel(this)),
      metric_(new QLineEdit(this)),
      unit_(new QLineEdit(this)),
      direction_(new QComboBox(this)),
      trim_first_(new DecimalBox(this)),
      trim_last_(new DecimalBox(this)) {
  dressResult();
  QFormLayout* form = formOn(this);
  dress(workload_, tr("workload"), QStringLiteral("caseWorkloadEdit"), tr("Ring pass"), tr("What is run"));
  dress(preset_, tr("preset"), QStringLiteral("casePresetEdit"), tr("4K dome"),
        tr("Resolution, quality, thread count; may stay empty"));
  form->addRow(tr("workload"), rowOf(workload_, new QLabel(tr("preset"), this), preset_));
  addRow(
      form, tr("command"), command_, QStringLiteral("caseCommandEdit"),
      tr("iron-lever-probe scene --seconds 10 --out {log}"),
      tr("The program and its arguments. {log} stands for the frame log that the pass is to write. The program itself "
         "uses no shell."));
  QHBoxLayout* result = rowOf(source_, field_label_, field_);
  result->insertWidget(1, path_);
  form->addRow(tr("result"), result);
  auto* metric_row = new QHBoxLayout;
  for (QWidget* widget : std::initializer_list<QWidget*>{metric_, unit_, direction_}) metric_row->addWidget(widget);
  form->addRow(tr("metric"), metric_row);
  form->addRow(tr("trim"), trimRow());
  for (QLineEdit* edit : {workload_, preset_, command_, field_, path_, metric_, unit_})
    connect(edit, &QLineEdit::editingFinished, this, &CaseEditor::changed);
  connect(direction_, &QComboBox::activated, this, [this] {
    showSource();
    Q_EMIT changed();
  });
  connect(source_, &QComboBox::activated, this, [this] {
    showSource();
    Q_EMIT changed();
  });
}

void CaseEditor::showSource() {
  const int source = source_->currentIndex();
  const bool is_json = source == kJsonField || source == kFile;
  const bool is_pattern = source == kPattern || (source == kFile && !loaded_.pattern.empty());
  const bool has_frames = !is_json && source != kByHand && source != kPattern;
  field_label_->setVisible(source != kRecorded && source != kByHand);
  field_->setVisible(field_label_->isVisibleTo(this));
  setUsable(*command_, source != kByHand ? QString() : tr("Its results are typed: no command is run for it"));
  path_->setVisible(source == kFile);
  field_label_->setText(is_pattern ? tr("pattern") : is_json ? tr("field") : tr("column"));
  field_->setAccessibleName(field_label_->text());
  field_->setPlaceholderText(is_pattern ? QStringLiteral("loaded in ([0-9.]+) s")
                             : is_json  ? QStringLiteral("result.seconds")
                                        : QStringLiteral("frame_ms"));
  field_->setToolTip(is_pattern ? tr("A regular expression; its first group is the number, and the last match counts")
                     : is_json  ? tr("Names joined by dots")
                                : tr("The log's column with frame times in ms"));
  for (QWidget* widget : std::initializer_list<QWidget*>{metric_, unit_, direction_})
    setUsable(*widget, has_frames ? tr("It follows from the frames") : QString());
  const bool is_difference = !has_frames && direction_->currentIndex() >= kDifferences;
  for (QWidget* widget : std::initializer_list<QWidget*>{trim_first_, trim_last_}) {
    setUsable(*widget, has_frames ? QString() : tr("Only frames are trimmed"));
    widget->setVisible(!is_difference);
  }
  threshold_->setVisible(is_difference);
  threshold_->setSuffix(QLatin1Char(' ') + unit_->text());
  const bool is_number = is_json || is_pattern;
  if (is_number && field_->text() == QLatin1String("frame_ms")) field_->clear();
  if (!is_number && field_->text().isEmpty()) field_->setText(QStringLiteral("frame_ms"));
  if (has_frames) {
    const bool is_rate = source != kFrameTime;
    metric_->setText(is_rate ? QStringLiteral("average FPS") : QStringLiteral("mean frame time"));
    unit_->setText(is_rate ? QStringLiteral("FPS") : QStringLiteral("ms"));
    direction_->setCurrentIndex(is_rate ? 0 : 1);
  }
}

void CaseEditor::load(const core::Case& a_case) {
  loaded_ = a_case;
  put(workload_, toQt(a_case.workload));
  put(preset_, toQt(a_case.preset));
  put(command_, textOf(a_case.command));
  put(field_, toQt(a_case.pattern.empty() ? a_case.field : a_case.pattern));
  put(path_, toQt(a_case.path));
  put(metric_, toQt(a_case.metric.name));
  put(unit_, toQt(a_case.metric.unit));
  direction_->setCurrentIndex((a_case.metric.direction == core::Direction::HigherIsBetter ? 0 : 1) +
                              (a_case.metric.scale == core::Scale::Difference ? kDifferences : 0));
  threshold_->setValue(a_case.metric.threshold);
  trim_first_->setValue(a_case.trim_first_s);
  trim_last_->setValue(a_case.trim_last_s);
  source_->setCurrentIndex(a_case.source == core::ResultSource::JsonField  ? kJsonField
                           : a_case.source == core::ResultSource::Recorded ? kRecorded
                           : a_case.source == core::ResultSource::ByHand   ? kByHand
                           : a_case.source == core::ResultSource::Pattern  ? kPattern
                           : a_case.source == core::ResultSource::File     ? kFile
                           : a_case.metric.unit == "ms"                    ? kFrameTime
                                                                           : kFrameRate);
  showSource();
}

void CaseEditor::setNature(const core::Case& nature) {
  load(nature);
  Q_EMIT changed();
}

core::Case CaseEditor::edited() const {
  core::Case a_case = loaded_;
  a_case.workload = workload_->text().trimmed().toStdString();
  a_case.preset = preset_->text().trimmed().toStdString();
  a_case.command = wordsOf(command_->text());
  switch (source_->currentIndex()) {
    case kJsonField: a_case.source = core::ResultSource::JsonField; break;
    case kRecorded: a_case.source = core::ResultSource::Recorded; break;
    case kByHand: a_case.source = core::ResultSource::ByHand; break;
    case kPattern: a_case.source = core::ResultSource::Pattern; break;
    case kFile: a_case.source = core::ResultSource::File; break;
    default: a_case.source = core::ResultSource::FrameLog; break;
  }
  const bool is_file = a_case.source == core::ResultSource::File;
  const bool is_pattern = a_case.source == core::ResultSource::Pattern || (is_file && !loaded_.pattern.empty());
  const std::string place = field_->text().trimmed().toStdString();
  a_case.field = is_pattern ? core::CaseResult().field : place;
  a_case.pattern = is_pattern ? place : std::string();
  a_case.path = is_file ? path_->text().trimmed().toStdString() : std::string();
  a_case.metric = {
      metric_->text().trimmed().toStdString(), unit_->text().trimmed().toStdString(),
      direction_->currentIndex() % 2 == 0 ? core::Direction::HigherIsBetter : core::Direction::LowerIsBetter,
      direction_->currentIndex() >= kDifferences ? core::Scale::Difference : core::Scale::Ratio, threshold_->value()};
  if (!loaded_.name.empty() && loaded_.name == loaded_.metric.name)
    a_case.name = a_case.metric.name;  // it is called as it is measured
  a_case.trim_first_s = trim_first_->value();
  a_case.trim_last_s = trim_last_->value();
  return a_case;
}

void CaseEditor::focusName() { workload_->setFocus(); }
void CaseEditor::focusMetric() { source_->setFocus(); }

}  // namespace app
