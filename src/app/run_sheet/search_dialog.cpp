#include "app/run_sheet/search_dialog.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

#include "app/model/study_model.h"
#include "app/shell/theme.h"
#include "app/shell/usable.h"
#include "core/record/flip_guide.h"
#include "core/record/step_search.h"

namespace app {
namespace {

QLabel* wrappedLabel(const char* name, QWidget* parent) {
  auto* label = new QLabel(parent);
  label->setObjectName(QLatin1String(name));
  label->setWordWrap(true);
  return label;
}

core::Record recordOf(const StudyModel& study) { return store::recordOf(study.session().recorded()); }

}  // namespace

SearchDialog::SearchDialog(StudyModel& study, QWidget* parent)
    : QDialog(parent),
      study_(study),
      table_(new QTableWidget(this)),
      next_(wrappedLabel("searchNext", this)),
      steps_(wrappedLabel("searchSteps", this)),
      attended_(new QCheckBox(tr("I stay with the machine, also beyond what the maker set"), this)),
      begin_(new QPushButton(tr("Begin, or go on"), this)),
      set_(new QPushButton(tr("It is set: test it"), this)),
      stop_(new QPushButton(tr("Stop"), this)) {
  setObjectName(QStringLiteral("searchDialog"));
  setWindowTitle(tr("Search for the highest stable step"));
  resize(720, 440);
  auto* words = wrappedLabel("searchWords", this);
  words->setText(
      tr("From the baseline up, with a test for errors at each step; from the first that fails down again, "
         "until one holds once more. The sheet then takes the levels that hold. A step that makes errors can "
         "damage files: work on a bench whose data are saved. The maker's manual has the last word."));
  next_->setFont(textFont(TextSize::Large, true));
  makeTable();
  attended_->setObjectName(QStringLiteral("searchAttendedBox"));
  begin_->setObjectName(QStringLiteral("searchBeginButton"));
  set_->setObjectName(QStringLiteral("searchSetButton"));
  stop_->setObjectName(QStringLiteral("searchStopButton"));
  auto* close = new QPushButton(tr("Close"), this);
  close->setObjectName(QStringLiteral("searchCloseButton"));
  auto* row = new QHBoxLayout;
  for (QPushButton* button : {begin_, set_, stop_}) row->addWidget(button);
  row->addStretch(1);
  row->addWidget(close);
  auto* column = new QVBoxLayout(this);
  column->setSpacing(10);
  column->addWidget(words);
  column->addWidget(table_, 1);
  column->addWidget(next_);
  column->addWidget(steps_);
  column->addWidget(attended_);
  column->addLayout(row);
  connect(begin_, &QPushButton::clicked, this, [this] { start(false); });
  connect(set_, &QPushButton::clicked, this, [this] { start(true); });
  connect(stop_, &QPushButton::clicked, this, [this] { study_.session().search().stop(); });
  connect(close, &QPushButton::clicked, this, &QDialog::accept);
  connect(&study_, &StudyModel::changed, this, &SearchDialog::refresh);
  refresh();
}

void SearchDialog::makeTable() {
  table_->setObjectName(QStringLiteral("searchTable"));
  table_->setAccessibleName(tr("the steps, and what their tests said"));
  table_->setTabKeyNavigation(false);
  table_->setColumnCount(3);
  table_->setHorizontalHeaderLabels({tr("step"), tr("result"), tr("what the test said")});
  table_->horizontalHeader()->setStretchLastSection(true);
  table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  table_->setColumnWidth(0, 150);
  table_->setColumnWidth(1, 110);
  table_->verticalHeader()->hide();
  table_->setShowGrid(false);
  table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table_->setSelectionMode(QAbstractItemView::NoSelection);
  table_->setFocusPolicy(Qt::NoFocus);
  table_->setWordWrap(true);
}

void SearchDialog::start(bool is_set) {
  study_.act([&](session::Session& s) { return s.search().start({is_set, attended_->isChecked()}); });
}

// The strongest on top, as a ladder stands.
void SearchDialog::fillTable() {
  const core::Study& study = study_.study();
  const core::Record record = recordOf(study_);
  const auto steps = static_cast<int>(study.configurationCount());
  table_->setRowCount(steps);
  for (int row = 0; row < steps; ++row) {
    const core::ConfigurationId at = core::configurationAt(static_cast<std::size_t>(steps - 1 - row));
    QString result = tr("not tried");
    QString said;
    for (const core::StepTried& one : record.steps_tried) {
      if (one.configuration != at) continue;
      const bool is_ended = one.phase == core::StepPhase::Held || one.phase == core::StepPhase::Failed;
      result = one.phase == core::StepPhase::Held      ? tr("holds")
               : one.phase == core::StepPhase::Failed  ? tr("fails")
               : one.phase == core::StepPhase::Setting ? tr("being set")
                                                       : tr("being tested");
      said = is_ended ? toQt(one.text) : QString();
    }
    const QString cells[] = {toQt(study.nameOf(at)), result, said};
    for (int i = 0; i < 3; ++i) table_->setItem(row, i, new QTableWidgetItem(cells[i]));
  }
  table_->resizeRowsToContents();
}

QString SearchDialog::nextText() const {
  QString text = toQt(core::searchText(study_.study(), recordOf(study_).steps_tried)) + QLatin1Char('.');
  const session::StepSearchRun& search = study_.session().search();
  if (search.isRunning()) return text;
  if (search.problem()) text += QLatin1Char(' ') + toQt(search.problem()->sentence());
  if (search.ending() == session::StepSearchRun::Ending::WaitsForRestart)
    text += tr(" It is set, and needs a restart: restart the machine, open the study again and go on.");
  return text;
}

// Why no search can be made; empty where one can.
QString SearchDialog::whyNot() const {
  if (const auto problems = core::searchProblems(study_.study()); !problems.empty())
    return toQt(problems.front().sentence());
  if (!study_.session().recorded().passes.empty())
    return tr(
        "Passes are recorded: what holds is searched for before the first. Search in a new study of the question.");
  if (!study_.session().machine().unapprovedActs().empty())
    return tr("Read and approve what the study does first: it stands on the run sheet.");
  if (study_.session().isRunning()) return tr("The sheet runs.");
  if (core::stepSearchOf(study_.study(), recordOf(study_).steps_tried).isOver()) return tr("The search is over.");
  return {};
}

void SearchDialog::refresh() {
  if (!study_.hasStudy()) return;
  fillTable();
  const QString why_not = whyNot();
  const bool is_running = study_.session().search().isRunning();
  const core::StepSearch search = core::stepSearchOf(study_.study(), recordOf(study_).steps_tried);
  const bool is_by_hand = core::isSetByHand(study_.study());
  next_->setText(why_not.isEmpty() || search.isOver() ? nextText() : why_not);
  QString steps;
  if (why_not.isEmpty() && is_by_hand && search.next && !is_running)
    for (const std::string& step : core::flipGuide(study_.study(), *search.next, std::nullopt).steps)
      steps += tr("· %1").arg(toQt(step)) + QLatin1Char('\n');
  steps_->setText(steps.trimmed());
  steps_->setVisible(!steps.isEmpty());
  setUsable(*begin_, is_running   ? tr("It runs")
                     : is_by_hand ? tr("A person sets the steps: set it, then press “It is set: test it”")
                                  : why_not);
  setUsable(*set_, is_running ? tr("It runs") : is_by_hand ? why_not : tr("The program sets the steps by itself"));
  setUsable(*stop_, is_running ? QString() : tr("Nothing runs"));
  begin_->setVisible(!is_by_hand);
  set_->setVisible(is_by_hand);
}

}  // namespace app
