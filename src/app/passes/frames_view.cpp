#include "app/passes/frames_view.h"

#include <qcustomplot.h>

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/shell/distribution_plot.h"
#include "app/shell/plot_style.h"
#include "app/shell/theme.h"
#include "app/shell/usable.h"

namespace app {
namespace {

QComboBox* boxNamed(const char* name, const QString& accessible, QWidget* parent) {
  auto* box = new QComboBox(parent);
  box->setObjectName(QLatin1String(name));
  box->setAccessibleName(accessible);
  box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  box->setMinimumContentsLength(12);
  return box;
}

QCustomPlot* plotNamed(const char* name, const QString& accessible, int height, QWidget* parent) {
  auto* plot = new QCustomPlot(parent);
  plot->setObjectName(QLatin1String(name));
  plot->setAccessibleName(accessible);
  plot->setMinimumHeight(height);
  return plot;
}

QVector<double> qt(const std::vector<double>& values) { return {values.begin(), values.end()}; }

}  // namespace

FramesView::FramesView(const StudyModel& study, const PassesViewModel& passes, QWidget* parent)
    : QWidget(parent), study_(study), passes_(passes), model_(study) {
  setObjectName(QStringLiteral("framesView"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(6);
  buildTop(column);
  buildPlots(column);
  connect(&study_, &StudyModel::changed, this, [this] {
    if (isVisible()) fillChoices();
  });
  connect(&study_, &StudyModel::studyOpened, this, [this] { chooseCase(0); });
  restyle();
}

void FramesView::buildTop(QVBoxLayout* column) {
  cases_ = boxNamed("framesCaseBox", tr("case"), this);
  first_box_ = boxNamed("firstTraceBox", tr("pass"), this);
  second_box_ = boxNamed("secondTraceBox", tr("laid over it"), this);
  axis_box_ = boxNamed("traceAxisBox", tr("laid over each other by"), this);
  axis_box_->addItems({tr("by the clock"), tr("by share of the time"), tr("by share of the frames")});
  axis_box_->setToolTip(
      tr("A scene that always takes the same time is followed by its time; one that always draws the same frames, "
         "by its frames"));
  channel_box_ = boxNamed("channelBox", tr("what was sampled"), this);
  auto* line = new QHBoxLayout;
  line->addWidget(cases_, 3);
  line->addWidget(first_box_, 3);
  line->addWidget(new QLabel(tr("and"), this));
  line->addWidget(second_box_, 3);
  line->addWidget(axis_box_, 2);
  column->addLayout(line);
  connect(cases_, &QComboBox::activated, this, [this] { fillChoices(); });
  for (QComboBox* box : {first_box_, second_box_, axis_box_})
    connect(box, &QComboBox::activated, this, &FramesView::readTraces);
  connect(channel_box_, &QComboBox::activated, this, &FramesView::drawSamples);
}

void FramesView::buildPlots(QVBoxLayout* column) {
  empty_ = new QLabel(this);
  empty_->setObjectName(QStringLiteral("noFramesLabel"));
  metrics_ = new QLabel(this);
  metrics_->setObjectName(QStringLiteral("framesMetrics"));
  metrics_->setTextFormat(Qt::RichText);
  metrics_->setWordWrap(true);
  metrics_->setProperty("soft", true);
  plots_ = new QWidget(this);
  trace_plot_ = plotNamed("tracePlot", tr("Frame times"), 190, plots_);
  trace_plot_->setToolTip(
      tr("Drag to pan, turn the wheel to zoom, double click for all of it; a click marks a moment"));
  sample_plot_ = plotNamed("samplePlot", tr("What was sampled"), 90, plots_);
  stretch_plot_ = plotNamed("stretchPlot", tr("Difference stretch by stretch"), 110, plots_);
  distribution_plot_ = new DistributionPlot("distributionPlot", plots_);
  note_ = new QPushButton(tr("Note on this moment …"), this);
  note_->setObjectName(QStringLiteral("momentNoteButton"));
  trace_plot_->setInteractions(QCP::iRangeDrag | QCP::iRangeZoom);
  trace_plot_->axisRect()->setRangeDrag(Qt::Horizontal);
  trace_plot_->axisRect()->setRangeZoom(Qt::Horizontal);
  trace_plot_->setNoAntialiasingOnDrag(true);
  auto* inner = new QVBoxLayout(plots_);
  inner->setContentsMargins(0, 0, 0, 0);
  inner->setSpacing(4);
  inner->addWidget(trace_plot_, 4);
  auto* sampled = new QHBoxLayout;
  sampled->addWidget(channel_box_);
  sampled->addStretch(1);
  sampled->addWidget(note_);
  inner->addLayout(sampled);
  inner->addWidget(sample_plot_, 2);
  auto* lower = new QHBoxLayout;
  lower->addWidget(stretch_plot_, 1);
  lower->addWidget(distribution_plot_, 1);
  inner->addLayout(lower, 2);
  column->addWidget(empty_);
  column->addWidget(metrics_);
  column->addWidget(plots_, 1);
  connect(trace_plot_->xAxis, qOverload<const QCPRange&>(&QCPAxis::rangeChanged), this, &FramesView::followRange);
  connect(trace_plot_, &QCustomPlot::mouseDoubleClick, this, [this] { draw(); });
  connect(trace_plot_, &QCustomPlot::mousePress, this, [this](QMouseEvent* event) {
    moment_s_ = std::max(0.0, trace_plot_->xAxis->pixelToCoord(event->position().x()));
  });
  connect(note_, &QPushButton::clicked, this, &FramesView::noteMoment);
  // A million frames are measured when the view comes to rest, not at each step of a drag.
  say_metrics_.setSingleShot(true);
  say_metrics_.setInterval(60);
  connect(&say_metrics_, &QTimer::timeout, this, &FramesView::sayMetrics);
}

void FramesView::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  fillChoices();
}

void FramesView::chooseCase(int case_index) {
  if (case_index >= 0 && case_index < cases_->count()) cases_->setCurrentIndex(case_index);
  if (isVisible()) fillChoices();
}

void FramesView::choosePass(qint64 pass_id) {
  for (std::size_t c = 0; c < study_.study().cases.size(); ++c) {
    const auto choices = model_.choices(c);
    for (std::size_t i = 0; i < choices.size(); ++i) {
      if (choices[i].pass_id != pass_id) continue;
      cases_->setCurrentIndex(static_cast<int>(c));
      fillChoices();
      first_box_->setCurrentIndex(static_cast<int>(i));
      return readTraces();
    }
  }
}

core::TraceAxis FramesView::axis() const {
  return static_cast<core::TraceAxis>(std::max(0, axis_box_->currentIndex()));
}

void FramesView::fillChoices() {
  if (!study_.hasStudy()) return;
  if (const QStringList titles = passes_.cases();
      cases_->count() != titles.size() || cases_->itemText(0) != titles.value(0)) {
    cases_->clear();
    cases_->addItems(titles);
  }
  auto choices = model_.choices(static_cast<std::size_t>(std::max(0, cases_->currentIndex())));
  if (choices == choices_ && first_box_->count() > 0) return;
  choices_ = std::move(choices);
  const int first = first_box_->currentIndex();
  const int second = second_box_->currentIndex();
  first_box_->clear();
  second_box_->clear();
  second_box_->addItem(tr("nothing else"));
  for (const FramesChoice& choice : choices_) {
    first_box_->addItem(choice.title);
    second_box_->addItem(choice.title);
  }
  // The two levels come first: they are what was asked about.
  const bool begins_with_levels = first < 0 && choices_.size() > 2;
  const int last = first_box_->count() - 1;
  first_box_->setCurrentIndex(begins_with_levels ? last - 1 : std::clamp(first, 0, std::max(0, last)));
  second_box_->setCurrentIndex(begins_with_levels ? last + 1 : std::clamp(second, 0, second_box_->count() - 1));
  readTraces();
}

void FramesView::readTraces() {
  const bool has_frames = !choices_.empty();
  empty_->setVisible(!has_frames);
  empty_->setText(model_.isSealed(static_cast<std::size_t>(std::max(0, cases_->currentIndex())))
                      ? tr("Sealed until all passes are done: frames tell the result.")
                      : tr("No pass of this case has frames yet. They come with passes that the run sheet makes, "
                           "and from logs: press Bring in logs … above."));
  plots_->setVisible(has_frames);
  metrics_->setVisible(has_frames);
  note_->setVisible(has_frames);
  if (!has_frames) return;
  const auto case_index = static_cast<std::size_t>(std::max(0, cases_->currentIndex()));
  first_ =
      model_.trace(choices_[static_cast<std::size_t>(std::max(0, first_box_->currentIndex()))], case_index, axis());
  second_ = second_box_->currentIndex() > 0
                ? model_.trace(choices_[static_cast<std::size_t>(second_box_->currentIndex() - 1)], case_index, axis())
                : FramesTrace();
  const QString chosen = channel_box_->currentText();
  channel_box_->clear();
  const auto offer = [&](const core::Channel& channel) {
    const QString title = toQt(channel.name + ", " + channel.unit);
    if (channel.role != core::ChannelRole::Cost && channel_box_->findText(title) < 0) channel_box_->addItem(title);
  };
  for (const core::Channel& channel : first_.samples.by_frame) offer(channel);
  for (const core::Channel& channel : first_.samples.channels) offer(channel);
  if (const int again = channel_box_->findText(chosen); again >= 0) channel_box_->setCurrentIndex(again);
  channel_box_->setVisible(channel_box_->count() > 0);
  sample_plot_->setVisible(channel_box_->count() > 0);
  const bool is_one_pass = choices_[static_cast<std::size_t>(std::max(0, first_box_->currentIndex()))].pass_id != 0;
  setUsable(*note_, !is_one_pass                         ? tr("Choose one pass: a place in the trace is marked in it")
                    : axis() != core::TraceAxis::Seconds ? tr("Show it over seconds first")
                                                         : QString());
  draw();
}

void FramesView::draw() {
  drawTrace();
  drawSamples();
  drawStretches();
  distribution_plot_->showFrames(first_.pooled_ms, second_.pooled_ms);
  followRange(trace_plot_->xAxis->range());
}

void FramesView::drawTrace() {
  trace_plot_->clearPlottables();
  trace_plot_->clearItems();
  for (const FramesTrace* trace : {&first_, &second_}) {
    if (trace->isEmpty()) continue;
    QCPGraph* graph = trace_plot_->addGraph();
    graph->setPen(tracePen(trace == &second_));
    graph->setName(trace->title);
    graph->setAdaptiveSampling(true);
    graph->setData(qt(trace->positions), qt(trace->frame_ms), true);
  }
  for (const MomentNote& note : first_.notes) {
    auto* mark = new QCPItemText(trace_plot_);
    mark->position->setTypeY(QCPItemPosition::ptAxisRectRatio);
    mark->position->setCoords(note.at_s, 0.02);
    mark->setPositionAlignment(Qt::AlignTop | Qt::AlignHCenter);
    mark->setText(QStringLiteral("▾ ") + note.text);
    mark->setFont(textFont(TextSize::Small));
    mark->setColor(theme().ink);
  }
  trace_plot_->legend->setVisible(!second_.isEmpty());
  trace_plot_->xAxis->setLabel(axis() == core::TraceAxis::Seconds       ? tr("seconds into the pass")
                               : axis() == core::TraceAxis::ShareOfTime ? tr("% of the pass's time")
                                                                        : tr("% of the pass's frames"));
  trace_plot_->yAxis->setLabel(tr("frame time, ms"));
  trace_plot_->rescaleAxes();
  trace_plot_->yAxis->setRangeLower(0);
  trace_plot_->yAxis->scaleRange(1.1);
  trace_plot_->yAxis->setRangeLower(0);
  trace_plot_->replot(QCustomPlot::rpQueuedReplot);
}

void FramesView::drawSamples() {
  sample_plot_->clearPlottables();
  const int chosen = channel_box_->currentIndex();
  if (chosen < 0) return;
  const std::string name = channel_box_->currentText().section(QStringLiteral(", "), 0, -2).toStdString();
  for (const FramesTrace* trace : {&first_, &second_}) {
    const FramesTrace::Series series = trace->seriesOf(name, axis());
    if (series.values.empty()) continue;
    QCPGraph* graph = sample_plot_->addGraph();
    graph->setPen(tracePen(trace == &second_));
    graph->setAdaptiveSampling(true);
    graph->setData(qt(series.positions), qt(series.values), true);
  }
  sample_plot_->yAxis->setLabel(channel_box_->currentText().section(QStringLiteral(", "), -1));
  sample_plot_->yAxis->rescale();
  sample_plot_->yAxis->scaleRange(1.2);
  sample_plot_->xAxis->setRange(trace_plot_->xAxis->range());
  sample_plot_->replot(QCustomPlot::rpQueuedReplot);
}

void FramesView::drawStretches() {
  stretch_plot_->clearPlottables();
  stretch_plot_->setVisible(!second_.isEmpty());
  if (second_.isEmpty() || first_.isEmpty()) return;
  const auto percents = FramesViewModel::stretchPercents(first_, second_);
  auto* bars = new QCPBars(stretch_plot_->xAxis, stretch_plot_->yAxis);
  bars->setPen(Qt::NoPen);
  bars->setBrush(theme().changed);
  bars->setWidth(0.8);
  QVector<double> numbers;
  for (std::size_t i = 0; i < percents.size(); ++i) numbers << static_cast<double>(i + 1);
  bars->setData(numbers, qt(percents), true);
  stretch_plot_->xAxis->setLabel(tr("stretch of the pass, 1 to %1").arg(percents.size()));
  stretch_plot_->yAxis->setLabel(tr("FPS difference, %"));
  stretch_plot_->rescaleAxes();
  stretch_plot_->xAxis->setRange(0.4, static_cast<double>(percents.size()) + 0.6);
  stretch_plot_->yAxis->scaleRange(1.2);
  stretch_plot_->replot(QCustomPlot::rpQueuedReplot);
}

void FramesView::followRange(const QCPRange& range) {
  sample_plot_->xAxis->setRange(range);
  sample_plot_->replot(QCustomPlot::rpQueuedReplot);
  say_metrics_.start();
}

namespace {

// Two lines of names over as many lines of numbers as there are traces.
QString metricsHtml(const FramesMetrics::Head& head, const std::vector<FramesMetrics>& all) {
  const QString ink = theme().soft_ink.name();
  const auto cell = [&](const QString& text, qsizetype columns, const QString& align) {
    return QStringLiteral("<td colspan='%1' align='%2' style='color:%3; padding:1px 8px 1px 0'>%4</td>")
        .arg(toQt(std::to_string(columns)), align, ink, text.toHtmlEscaped());
  };
  const QString right = QStringLiteral("right");
  QString names = cell({}, 1, right);
  QString ways = names;
  for (const auto& [name, several] : head) {
    const qsizetype columns = std::max<qsizetype>(1, several.size());
    names += cell(name, columns, columns > 1 ? QStringLiteral("center") : right);
    if (several.isEmpty()) ways += cell({}, 1, right);
    for (const QString& way : several) ways += cell(way, 1, right);
  }
  QString rows = QStringLiteral("<tr>%1</tr><tr>%2</tr>").arg(names, ways);
  bool is_thin = false;
  for (const FramesMetrics& one : all) {
    QString row = QStringLiteral("<td style='color:%1; white-space:nowrap; padding:1px 8px 1px 0'>%2</td>")
                      .arg(ink, one.title.toHtmlEscaped());
    for (const QString& number : one.cells) row += cell(number, 1, right);
    if (one.cells.isEmpty()) row += cell(FramesView::tr("no frame in view"), 3, right);
    rows += QStringLiteral("<tr>%1</tr>").arg(row);
    is_thin = is_thin || one.is_thin;
  }
  QStringList remarks;
  if (is_thin) remarks << FramesView::tr("* of fewer than 10 frames");
  if (std::any_of(all.begin(), all.end(), [](const FramesMetrics& one) { return one.is_level; }))
    remarks << FramesView::tr("a level: all its passes together");
  return QStringLiteral("<table cellspacing='0'>%1</table>%2").arg(rows, remarks.join(QStringLiteral(" · ")));
}

}  // namespace

void FramesView::sayMetrics() {
  const QCPRange range = trace_plot_->xAxis->range();
  std::vector<FramesMetrics> all;
  for (const FramesTrace* trace : {&first_, &second_})
    if (!trace->isEmpty()) all.push_back(model_.metrics(*trace, range.lower, range.upper));
  metrics_->setText(metricsHtml(model_.metricsHead(), all));
}

void FramesView::noteMoment() {
  const FramesChoice& choice = choices_[static_cast<std::size_t>(std::max(0, first_box_->currentIndex()))];
  Q_EMIT noteRequested(QStringLiteral("%1@%2").arg(choice.pass_id).arg(moment_s_, 0, 'f', 3));
}

void FramesView::restyle() {
  for (QCustomPlot* plot :
       std::initializer_list<QCustomPlot*>{trace_plot_, sample_plot_, stretch_plot_, distribution_plot_}) {
    stylePlot(*plot);
    plot->axisRect()->insetLayout()->setInsetAlignment(0, Qt::AlignRight | Qt::AlignBottom);
    plot->legend->setBrush(theme().sheet);
    plot->legend->setBorderPen(Qt::NoPen);
    plot->legend->setTextColor(theme().ink);
    plot->legend->setFont(textFont(TextSize::Small));
  }
  if (isVisible()) draw();
}

}  // namespace app
