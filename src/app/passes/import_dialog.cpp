#include "app/passes/import_dialog.h"

#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QProgressBar>
#include <QPushButton>
#include <QTableView>
#include <QVBoxLayout>
#include <array>

#include "app/shell/theme.h"
#include "app/shell/usable.h"

namespace app {
namespace {

// The entries of the unit box, in ms.
constexpr std::array kUnits{1.0, 1000.0, 1e-3, 1e-6};
constexpr int kFirstRows = 6;

int unitIndex(double ms_per_unit) {
  for (std::size_t i = 0; i < kUnits.size(); ++i)
    if (ms_per_unit == kUnits[i]) return static_cast<int>(i);
  return 0;
}

}  // namespace

ImportDialog::ImportDialog(StudyModel& study, const QStringList& paths, QWidget* parent)
    : QDialog(parent), study_(study), model_(study) {
  setObjectName(QStringLiteral("importDialog"));
  setWindowTitle(tr("Bring in logs"));
  resize(980, 620);
  build();
  model_.add(paths);
  connect(&work_, &QTimer::timeout, this, &ImportDialog::step);
  work_.start(0);
  showState();
}

void ImportDialog::buildTable(QVBoxLayout* column) {
  pattern_ = new QLineEdit(QStringLiteral("{case}_{level}_{any}"), this);
  pattern_->setObjectName(QStringLiteral("importPatternEdit"));
  pattern_->setFont(monoFont());
  pattern_->setToolTip(
      tr("{case} and {level} stand for the study's own names, {any} for anything; letter case, blanks and signs are "
         "of no account"));
  auto* names = new QFormLayout;
  names->addRow(tr("Files are named"), pattern_);
  column->addLayout(names);
  table_ = new QTableView(this);
  table_->setTabKeyNavigation(false);
  table_->setObjectName(QStringLiteral("importTable"));
  table_->setModel(&model_);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  table_->setShowGrid(false);
  table_->verticalHeader()->hide();
  table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  table_->horizontalHeader()->setStretchLastSection(true);
  for (const auto& [section, width] :
       {std::pair{0, 260}, std::pair{1, 80}, std::pair{2, 100}, std::pair{3, 180}, std::pair{4, 120}})
    table_->setColumnWidth(section, width);
  column->addWidget(table_, 3);
}

void ImportDialog::buildCorrections(QVBoxLayout* column) {
  const auto box = [this](const char* name, const QStringList& entries) {
    auto* made = new QComboBox(this);
    made->setObjectName(QLatin1String(name));
    made->addItems(entries);
    made->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    return made;
  };
  case_ = box("importCaseBox", {});
  level_ = box("importLevelBox", {});
  for (const core::Case& a_case : study_.study().cases) case_->addItem(toQt(a_case.title()));
  for (const core::ConfigurationId one : core::configurationsOf(study_.study()))
    level_->addItem(toQt(study_.study().nameOf(one)));
  column_ = box("importColumnBox", {});
  meaning_ = box("importMeaningBox", {tr("how long each frame took"), tr("when each frame began")});
  unit_ = box("importUnitBox", {tr("ms"), tr("s"), tr("µs"), tr("ns")});
  auto* corrections = new QHBoxLayout;
  corrections->addWidget(new QLabel(tr("This log is"), this));
  corrections->addWidget(case_);
  corrections->addWidget(new QLabel(tr("at"), this));
  corrections->addWidget(level_);
  corrections->addSpacing(16);
  corrections->addWidget(new QLabel(tr("and"), this));
  corrections->addWidget(column_);
  corrections->addWidget(new QLabel(tr("tells"), this));
  corrections->addWidget(meaning_);
  corrections->addWidget(new QLabel(tr("in"), this));
  corrections->addWidget(unit_);
  corrections->addStretch(1);
  column->addLayout(corrections);
}

void ImportDialog::connectParts() {
  connect(pattern_, &QLineEdit::editingFinished, this, [this] {
    model_.setPattern(pattern_->text());
    showState();
  });
  connect(table_->selectionModel(), &QItemSelectionModel::currentRowChanged, this, &ImportDialog::showRow);
  for (QComboBox* chosen : {column_, meaning_, unit_})
    connect(chosen, &QComboBox::activated, this, &ImportDialog::correct);
  for (QComboBox* chosen : {case_, level_}) connect(chosen, &QComboBox::activated, this, &ImportDialog::placeRow);
  connect(import_, &QPushButton::clicked, this, [this] {
    is_filing_ = true;
    study_.setQuiet(true);
    work_.start(0);
    showState();
  });
}

void ImportDialog::build() {
  auto* column = new QVBoxLayout(this);
  buildTable(column);

  buildCorrections(column);
  first_rows_ = new QPlainTextEdit(this);
  first_rows_->setObjectName(QStringLiteral("importFirstRows"));
  first_rows_->setAccessibleName(tr("first rows of the log"));
  first_rows_->setReadOnly(true);
  first_rows_->setFont(monoFont());
  first_rows_->setLineWrapMode(QPlainTextEdit::NoWrap);
  column->addWidget(first_rows_, 1);

  said_ = new QLabel(this);
  said_->setObjectName(QStringLiteral("importSaid"));
  said_->setWordWrap(true);
  progress_ = new QProgressBar(this);
  progress_->setTextVisible(false);
  progress_->setMaximumHeight(8);
  import_ = new QPushButton(this);
  import_->setObjectName(QStringLiteral("importNowButton"));
  stop_ = new QPushButton(tr("Stop"), this);
  stop_->setObjectName(QStringLiteral("importStopButton"));
  auto* close = new QPushButton(tr("Close"), this);
  close->setObjectName(QStringLiteral("importCloseButton"));
  auto* foot = new QHBoxLayout;
  foot->addWidget(said_, 1);
  for (QPushButton* button : {stop_, import_, close}) foot->addWidget(button);
  column->addWidget(progress_);
  column->addLayout(foot);

  connectParts();
  connect(stop_, &QPushButton::clicked, this, [this] {
    rest();
    showState();
  });
  connect(this, &QDialog::finished, this, &ImportDialog::rest);
  connect(close, &QPushButton::clicked, this, &QDialog::accept);
}

// One log at a time, so that the window stays alive and can be stopped.
void ImportDialog::step() {
  const bool goes_on = is_filing_ ? model_.fileNext() : model_.readNext();
  if (!goes_on) rest();
  if (table_->currentIndex().row() < 0 && model_.rowCount() > 0) table_->selectRow(0);
  showState();
}

void ImportDialog::rest() {
  work_.stop();
  study_.setQuiet(false);
}

void ImportDialog::showState() {
  const bool is_working = work_.isActive();
  const int ready = model_.ready();
  progress_->setVisible(is_working);
  progress_->setMaximum(is_filing_ ? model_.rowCount() : model_.files());
  progress_->setValue(is_filing_ ? model_.rowCount() - ready : model_.files() - model_.filesLeft());
  stop_->setVisible(is_working);
  import_->setText(ready == 1 ? tr("File 1 run") : tr("File %1 runs").arg(ready));
  setUsable(*import_, is_working   ? tr("The logs are still being read or filed")
                      : ready == 0 ? tr("No run is ready to be filed")
                                   : QString());
  int stuck = 0;
  for (int row = 0; row < model_.rowCount(); ++row) stuck += !model_.problemOf(row).isEmpty();
  const int current = table_->currentIndex().row();
  const QString problem = current >= 0 && current < model_.rowCount() ? model_.problemOf(current) : QString();
  said_->setText(!problem.isEmpty() ? problem
                 : is_working       ? (is_filing_ ? tr("Filing …") : tr("Reading …"))
                 : stuck > 0 ? tr("%1 of %2 cannot be filed; choose one to see why").arg(stuck).arg(model_.rowCount())
                 : ready > 0 ? tr("Look at the averages, then file them. Nothing is filed before.")
                 : model_.rowCount() > 0 ? tr("All of them are filed.")
                                         : tr("No log was chosen."));
}

void ImportDialog::showRow() {
  const int row = table_->currentIndex().row();
  const session::LogReading* reading = model_.readingOf(row);
  is_showing_ = true;
  for (QComboBox* chosen : {column_, meaning_, unit_})
    setUsable(*chosen, reading ? QString() : tr("Choose a run that could be read"));
  column_->clear();
  first_rows_->clear();
  if (reading) {
    for (const std::string& name : reading->shape.columns) column_->addItem(toQt(name));
    column_->setCurrentIndex(static_cast<int>(reading->shape.time.column));
    meaning_->setCurrentIndex(reading->shape.time.meaning == store::TimeMeaning::Duration ? 0 : 1);
    unit_->setCurrentIndex(unitIndex(reading->shape.time.ms_per_unit));
    first_rows_->setPlainText(toQt(reading->head).split(QLatin1Char('\n')).mid(0, kFirstRows).join(QLatin1Char('\n')));
  }
  if (row >= 0) {
    case_->setCurrentText(model_.index(row, ImportModel::CaseColumn).data().toString());
    level_->setCurrentText(model_.index(row, ImportModel::LevelColumn).data().toString());
  }
  is_showing_ = false;
  showState();
}

void ImportDialog::correct() {
  const int row = table_->currentIndex().row();
  const session::LogReading* reading = model_.readingOf(row);
  if (!reading || is_showing_) return;
  const auto column = static_cast<std::size_t>(std::max(0, column_->currentIndex()));
  store::TimeReading time{column,
                          meaning_->currentIndex() == 0 ? store::TimeMeaning::Duration : store::TimeMeaning::TimeStamp,
                          kUnits[static_cast<std::size_t>(std::max(0, unit_->currentIndex()))]};
  if (column != reading->shape.time.column)  // another column comes with a meaning and a unit of its own
    time = store::timeReadingOf(reading->head, reading->shape, column);
  model_.correct(row, time);
  table_->selectRow(std::min(row, model_.rowCount() - 1));
  showState();
}

void ImportDialog::placeRow() {
  const int row = table_->currentIndex().row();
  if (row < 0 || is_showing_) return;
  model_.setPlace(row, static_cast<std::size_t>(case_->currentIndex()),
                  core::configurationAt(static_cast<std::size_t>(std::max(0, level_->currentIndex()))));
  showState();
}

}  // namespace app
