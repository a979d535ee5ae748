#include "app/passes/run_order_view.h"

#include <qcustomplot.h>

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QTableWidget>
#include <QVBoxLayout>

#include "app/shell/level_mark.h"
#include "app/shell/plot_style.h"
#include "app/shell/theme.h"
#include "app/shell/usable.h"
#include "core/estimate/wording.h"

namespace app {
namespace {

enum Column { ClockColumn, PassColumn, LevelColumn, ResultColumn, RemarkColumn, ColumnCount };

// Of more than these, marks would cover each other.
constexpr std::size_t kFewPasses = 120;

// Who counts, who does not, who was chosen: told by shape as well as by shade.
QCPScatterStyle markFor(const PassView& pass, const core::Study& study, bool shows_levels, std::size_t passes) {
  const QColor ink = shows_levels ? levelColour(study, pass.configuration) : theme().ink;
  if (pass.is_excluded) return {QCPScatterStyle::ssCross, ink, 10};
  if (!pass.is_counted) return {QCPScatterStyle::ssCircle, QPen(ink, 1.5), Qt::NoBrush, 7};
  const auto shape = shows_levels ? static_cast<QCPScatterStyle::ScatterShape>(levelShape(pass.configuration))
                                  : QCPScatterStyle::ssDisc;
  return {shape, ink, ink, passes <= kFewPasses ? 8.0 : 4.0};
}

}  // namespace

RunOrderView::RunOrderView(StudyModel& study, const PassesViewModel& views, QWidget* parent)
    : QWidget(parent), study_(study), views_(views) {
  setObjectName(QStringLiteral("runOrderView"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(8);
  buildTop(column);
  buildChart(column);
  table_ = new QTableWidget(0, ColumnCount, this);
  table_->setObjectName(QStringLiteral("passList"));
  table_->setHorizontalHeaderLabels({tr("time"), tr("pass"), tr("level"), QString(), tr("remark")});
  table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  table_->horizontalHeader()->setStretchLastSection(true);
  table_->horizontalHeaderItem(ResultColumn)->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
  table_->verticalHeader()->hide();
  table_->verticalHeader()->setDefaultSectionSize(24);
  table_->setShowGrid(false);
  table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  table_->setTabKeyNavigation(false);
  for (const auto& [section, width] : {std::pair{0, 90}, std::pair{1, 150}, std::pair{2, 130}, std::pair{3, 150}})
    table_->setColumnWidth(section, width);
  column->addWidget(table_, 2);
  connect(table_, &QTableWidget::itemSelectionChanged, this, &RunOrderView::showChosen);
  connect(table_, &QTableWidget::cellDoubleClicked, this, [this] {
    if (const PassView* pass = chosen()) Q_EMIT framesRequested(pass->id);
  });
  table_->setToolTip(tr("A double click shows a pass frame by frame"));
  connect(&study_, &StudyModel::changed, this, &RunOrderView::refresh);
  connect(&study_, &StudyModel::studyOpened, this, [this] { chooseCase(0); });
  restyle();
}

void RunOrderView::buildTop(QVBoxLayout* column) {
  auto* line = new QHBoxLayout;
  cases_ = new QComboBox(this);
  cases_->setObjectName(QStringLiteral("passCaseBox"));
  cases_->setAccessibleName(tr("case"));
  levels_ = new QCheckBox(tr("show levels and results"), this);
  levels_->setObjectName(QStringLiteral("showLevelsCheck"));
  levels_->setToolTip(
      tr("While they are hidden each pass is shown against the middle of its own level, so that nobody can "
         "see which way it would move the answer"));
  exclude_ = new QPushButton(this);
  exclude_->setObjectName(QStringLiteral("excludeButton"));
  printed_ = new QPushButton(tr("What it printed …"), this);
  printed_->setObjectName(QStringLiteral("printedButton"));
  line->addWidget(cases_, 1);
  line->addSpacing(12);
  line->addWidget(levels_);
  line->addSpacing(12);
  line->addWidget(printed_);
  line->addWidget(exclude_);
  column->addLayout(line);
  connect(cases_, &QComboBox::activated, this, &RunOrderView::refresh);
  connect(levels_, &QCheckBox::toggled, this, &RunOrderView::refresh);
  connect(exclude_, &QPushButton::clicked, this, &RunOrderView::excludeOrInclude);
  connect(printed_, &QPushButton::clicked, this, [this] {
    if (const PassView* pass = chosen()) Q_EMIT printedRequested(pass->id, nameOf(*pass));
  });
}

void RunOrderView::buildChart(QVBoxLayout* column) {
  empty_ = new QLabel(tr("No pass is in yet. Start the run sheet: each pass appears here as it is filed. Logs from "
                         "elsewhere are brought in with Bring in logs … above."),
                      this);
  empty_->setObjectName(QStringLiteral("noPassesLabel"));
  empty_->setWordWrap(true);
  key_ = new QLabel(this);
  key_->setProperty("soft", true);
  key_->setWordWrap(true);
  remarks_ = new QLabel(this);
  remarks_->setObjectName(QStringLiteral("passRemarks"));
  remarks_->setWordWrap(true);
  plot_ = new QCustomPlot(this);
  plot_->setObjectName(QStringLiteral("runOrderPlot"));
  plot_->setAccessibleName(tr("Passes in run order"));
  plot_->setMinimumHeight(220);
  clock_ = QSharedPointer<QCPAxisTickerDateTime>::create();
  clock_->setTickCount(6);
  plot_->xAxis->setTicker(clock_);
  plot_->xAxis->setLabel(tr("time of day"));
  plot_->setInteractions(QCP::iRangeDrag | QCP::iRangeZoom);
  column->addWidget(empty_);
  column->addWidget(key_);
  column->addWidget(plot_, 3);
  column->addWidget(remarks_);
  connect(plot_, &QCustomPlot::mousePress, this, [this](QMouseEvent* event) {
    choosePassAt(plot_->xAxis->pixelToCoord(event->position().x()), plot_->yAxis->pixelToCoord(event->position().y()));
  });
}

bool RunOrderView::showsLevels() const { return levels_->isChecked() && !isSealed(); }

bool RunOrderView::isSealed() const {
  const auto chosen = static_cast<std::size_t>(std::max(0, cases_->currentIndex()));
  return chosen >= study_.study().cases.size() || study_.judgement().isSealed(study_.study().cases[chosen]);
}

double RunOrderView::yOf(const PassView& pass) const { return showsLevels() ? pass.value : pass.percent_off; }

void RunOrderView::chooseCase(int case_index) {
  fillCases();
  if (case_index >= 0 && case_index < cases_->count()) cases_->setCurrentIndex(case_index);
  refresh();
}

void RunOrderView::fillCases() {
  const QStringList titles = views_.cases();
  if (titles.size() == cases_->count() && cases_->itemText(0) == titles.value(0)) return;
  const QSignalBlocker blocker(cases_);
  cases_->clear();
  cases_->addItems(titles);
}

void RunOrderView::restyle() {
  stylePlot(*plot_);
  shown_ = {};
  if (study_.hasStudy()) refresh();
}

// Passes come all the time while a sheet runs: nothing is drawn that nobody sees.
void RunOrderView::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  refresh();
}

// "Disc: Gen 1. Square: Gen 2. "
QString RunOrderView::marksText() const {
  QString text;
  for (const core::ConfigurationId one : core::configurationsOf(study_.study())) {
    QString shape = levelShapeName(one);
    shape[0] = shape[0].toUpper();
    text += tr("%1: %2. ").arg(shape, toQt(study_.study().nameOf(one)));
  }
  return text;
}

void RunOrderView::refresh() {
  if (!study_.hasStudy() || !isVisible()) return;
  fillCases();
  const int case_index = std::max(0, cases_->currentIndex());
  Shown now{study_.study(), showsLevels(), case_index, views_.passes(static_cast<std::size_t>(case_index)),
            views_.bands()};
  const bool is_drawn = now == shown_;
  shown_ = std::move(now);
  setUsable(*levels_, isSealed() ? tr("Results are sealed until the plan is complete") : QString());
  const bool is_empty = shown_.passes.empty();
  empty_->setVisible(is_empty);
  for (QWidget* widget : std::initializer_list<QWidget*>{plot_, key_, remarks_, table_}) widget->setVisible(!is_empty);
  key_->setText(showsLevels() ? marksText() + tr("Ring: warm-up. Cross: left out. Bands are visits.")
                              : tr("Disc: a pass, against the middle of its own level, which is hidden. Ring: warm-up. "
                                   "Cross: left out. Bands are visits."));
  remarks_->setText(boundPercents(views_.remarks(static_cast<std::size_t>(case_index)).join(QLatin1Char(' '))));
  if (!is_drawn) {
    fillTable();
    draw();
  }
  showChosen();
}

// Passes with the same mark share a graph, so that hundreds of them draw as fast as a few.
void RunOrderView::addMark(const PassView& pass) {
  const QCPScatterStyle mark = markFor(pass, study_.study(), showsLevels(), shown_.passes.size());
  for (int i = 0; i < plot_->graphCount(); ++i) {
    const QCPScatterStyle& same = plot_->graph(i)->scatterStyle();
    if (same.shape() != mark.shape() || same.pen() != mark.pen() || same.brush() != mark.brush()) continue;
    plot_->graph(i)->addData(pass.clock_s, yOf(pass));
    return;
  }
  QCPGraph* graph = plot_->addGraph();
  graph->setLineStyle(QCPGraph::lsNone);
  graph->setScatterStyle(mark);
  graph->addData(pass.clock_s, yOf(pass));
}

// Told by its number, not by its tint alone.
void RunOrderView::nameVisit(const VisitBand& band, bool has_room) {
  auto* name = new QCPItemText(plot_);
  name->position->setTypeX(QCPItemPosition::ptPlotCoords);
  name->position->setTypeY(QCPItemPosition::ptAxisRectRatio);
  name->position->setCoords(band.begin_s, 0);
  name->setPositionAlignment(Qt::AlignLeft | Qt::AlignTop);
  name->setPadding({4, 2, 0, 0});
  name->setText(has_room ? tr("visit %1").arg(band.visit) : QStringLiteral("%1").arg(band.visit));
  name->setFont(textFont(TextSize::Small));
  name->setColor(theme().soft_ink);
}

void RunOrderView::draw() {
  constexpr std::size_t kMostWords = 8;     // beyond, numbers alone have room
  constexpr std::size_t kMostNumbers = 30;  // beyond, only those of some
  plot_->clearPlottables();
  plot_->clearItems();
  const std::vector<VisitBand>& bands = shown_.bands;
  const std::size_t named = (bands.size() + kMostNumbers - 1) / kMostNumbers;  // each so manyth
  for (std::size_t i = 0; i < bands.size(); ++i) {
    const VisitBand& band = bands[i];
    if (i % named == 0) nameVisit(band, bands.size() <= kMostWords);
    auto* rect = new QCPItemRect(plot_);
    rect->setLayer(QStringLiteral("background"));
    rect->topLeft->setTypeX(QCPItemPosition::ptPlotCoords);
    rect->topLeft->setTypeY(QCPItemPosition::ptAxisRectRatio);
    rect->bottomRight->setTypeX(QCPItemPosition::ptPlotCoords);
    rect->bottomRight->setTypeY(QCPItemPosition::ptAxisRectRatio);
    rect->topLeft->setCoords(band.begin_s, 0);
    rect->bottomRight->setCoords(band.end_s, 1);
    rect->setPen(Qt::NoPen);
    rect->setBrush(band.visit % 2 == 1 ? theme().paper : theme().sheet);
  }
  for (const PassView& pass : shown_.passes) {
    addMark(pass);
    if (!pass.is_odd) continue;
    auto* name = new QCPItemText(plot_);
    name->position->setCoords(pass.clock_s, yOf(pass));
    name->setPositionAlignment(Qt::AlignHCenter | Qt::AlignBottom);
    name->setPadding({0, 0, 0, 8});
    name->setText(pass.title);
    name->setFont(textFont(TextSize::Small));
    name->setColor(theme().ink);
  }
  const core::Metric& metric =
      study_.study().cases.empty()
          ? core::Metric()
          : study_.study().cases[static_cast<std::size_t>(std::max(0, cases_->currentIndex()))].metric;
  plot_->yAxis->setLabel(showsLevels() ? toQt(metric.name + ", " + metric.unit) : tr("% from the middle of its level"));
  // As fine as neighbouring ticks need it to differ.
  const double span_s = shown_.passes.empty() ? 0 : shown_.passes.back().clock_s - shown_.passes.front().clock_s;
  clock_->setDateTimeFormat(span_s < 60    ? QStringLiteral("HH:mm:ss.z")
                            : span_s < 600 ? QStringLiteral("HH:mm:ss")
                                           : QStringLiteral("HH:mm"));
  plot_->rescaleAxes();
  plot_->xAxis->scaleRange(1.08);
  plot_->yAxis->scaleRange(1.25);
  plot_->replot(QCustomPlot::rpQueuedReplot);
}

void RunOrderView::fillTable() {
  is_filling_ = true;
  const int row = table_->currentRow();
  table_->setRowCount(static_cast<int>(shown_.passes.size()));
  const core::Study& study = study_.study();
  for (int i = 0; i < table_->rowCount(); ++i) {
    const PassView& pass = shown_.passes[static_cast<std::size_t>(i)];
    const std::string& unit = study.cases[static_cast<std::size_t>(std::max(0, cases_->currentIndex()))].metric.unit;
    const QString off = toQt(core::percentText(pass.percent_off));
    const QString words[] = {pass.clock, pass.title,
                             showsLevels() ? toQt(study.nameOf(pass.configuration)) : tr("hidden"),
                             showsLevels() ? toQt(core::valueText(pass.value, unit)) : off, pass.remark};
    for (int column = 0; column < ColumnCount; ++column) {
      auto* item = new QTableWidgetItem(words[column]);
      if (column == ResultColumn) item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
      table_->setItem(i, column, item);
    }
  }
  table_->horizontalHeaderItem(ResultColumn)->setText(showsLevels() ? tr("result") : tr("off its level's middle"));
  if (row >= 0 && row < table_->rowCount()) table_->selectRow(row);
  is_filling_ = false;
}

const PassView* RunOrderView::chosen() const {
  const int row = table_->currentRow();
  return row >= 0 && row < static_cast<int>(shown_.passes.size()) ? &shown_.passes[static_cast<std::size_t>(row)]
                                                                  : nullptr;
}

void RunOrderView::showChosen() {
  if (is_filling_) return;
  const PassView* pass = chosen();
  const bool is_out = pass && pass->is_excluded;
  setUsable(*printed_, !pass        ? tr("Choose a pass first")
                       : isSealed() ? tr("It tells the result, and results are sealed until the plan is complete")
                       : !levels_->isChecked() ? tr("Show levels and results first: what it printed tells them")
                                               : QString());
  exclude_->setText(is_out ? tr("Put it back in") : tr("Leave it out …"));
  exclude_->setToolTip(tr("For a physical cause only; it stays on record"));
  setUsable(*exclude_, !pass               ? tr("Choose a pass first")
                       : is_out            ? QString()
                       : !pass->is_counted ? tr("It does not count anyhow")
                       : levels_->isChecked()
                           ? tr("Hide the levels first: a pass is left out without knowing which level it helps")
                           : QString());
}

void RunOrderView::excludeOrInclude() {
  const PassView* pass = chosen();
  if (!pass) return;
  if (pass->is_excluded) return void(study_.act([&](session::Session& s) { return s.decisions().include(pass->id); }));
  Q_EMIT exclusionRequested(pass->id, nameOf(*pass));
}

QString RunOrderView::nameOf(const PassView& pass) const {
  return tr("%1, %2, at %3").arg(cases_->currentText(), pass.title, pass.clock);
}

void RunOrderView::choosePassAt(double clock_s, double y) {
  int nearest = -1;
  double least = 0;
  for (std::size_t i = 0; i < shown_.passes.size(); ++i) {
    const double dx = plot_->xAxis->coordToPixel(shown_.passes[i].clock_s) - plot_->xAxis->coordToPixel(clock_s);
    const double dy = plot_->yAxis->coordToPixel(yOf(shown_.passes[i])) - plot_->yAxis->coordToPixel(y);
    const double distance = dx * dx + dy * dy;
    if (nearest >= 0 && distance >= least) continue;
    nearest = static_cast<int>(i);
    least = distance;
  }
  constexpr double kReach = 15;  // pixels
  if (nearest >= 0 && least <= kReach * kReach) table_->selectRow(nearest);
}

}  // namespace app
