#include "app/run_sheet/run_sheet_page.h"

#include <qcustomplot.h>

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QScrollArea>
#include <QTableView>
#include <QVBoxLayout>

#include "app/model/person_acts.h"
#include "app/run_sheet/checklist_box.h"
#include "app/run_sheet/visit_cards.h"
#include "app/shell/level_mark.h"
#include "app/shell/plot_style.h"
#include "app/shell/theme.h"
#include "core/estimate/wording.h"
#include "core/study/terms.h"
#include "session/study/checklist.h"

namespace app {
namespace {

// While a pass runs the window keeps still: two looks a second are enough to see that it lives.
constexpr int kPulseMs = 500;

QLabel* wrapped(QWidget* parent, const char* name) {
  auto* label = new QLabel(parent);
  label->setObjectName(QLatin1String(name));
  label->setWordWrap(true);
  label->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
  return label;
}

void showOrHide(QLabel* label, const QString& text) {
  label->setText(text);
  label->setVisible(!text.isEmpty());
}

}  // namespace

RunSheetPage::RunSheetPage(StudyModel& study, const RunSheetViewModel& sheet, PassTableModel& passes, QWidget* parent)
    : QWidget(parent), study_(study), sheet_(sheet) {
  setObjectName(QStringLiteral("runSheetPage"));
  auto* columns = new QHBoxLayout(this);
  columns->setContentsMargins(20, 16, 16, 12);
  columns->setSpacing(20);
  auto* left = new QVBoxLayout;
  auto* title = new QLabel(tr("The sheet"), this);
  title->setFont(textFont(TextSize::Large, true));
  heading_ = wrapped(this, "sheetHeading");
  heading_->setToolTip(toQt(core::termsText("round", "visit", "level", "case", "pass", "warm-up")));
  heading_->setProperty("soft", true);
  cards_ = new VisitCards(this);
  left->addWidget(title);
  left->addWidget(heading_);
  left->addWidget(cards_, 1);
  auto* middle = new QVBoxLayout;
  left->setSpacing(8);
  cards_->setMinimumWidth(200);
  columns->addLayout(left, 4);
  columns->addLayout(middle, 11);
  columns->addWidget(buildLive(), 6);
  buildHand(middle);
  passes_ = new QTableView(this);
  passes_->setTabKeyNavigation(false);
  passes_->setObjectName(QStringLiteral("passesTable"));
  passes_->setModel(&passes);
  passes_->verticalHeader()->hide();
  passes_->verticalHeader()->setDefaultSectionSize(24);
  passes_->setShowGrid(false);
  passes_->setSelectionBehavior(QAbstractItemView::SelectRows);
  passes_->setTabKeyNavigation(false);
  passes_->horizontalHeader()->setStretchLastSection(true);
  passes_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  for (const auto& [column, width] : {std::pair{0, 96}, std::pair{1, 112}, std::pair{2, 240}, std::pair{3, 112}})
    passes_->setColumnWidth(column, width);
  middle->addWidget(passes_, 1);
  connect(&study_, &StudyModel::changed, this, &RunSheetPage::refresh);
  connect(&pulse_, &QTimer::timeout, this, &RunSheetPage::tick);
  pulse_.setInterval(kPulseMs);
  restyle();
}

void RunSheetPage::buildHand(QVBoxLayout* column) {
  hand_ = new QFrame(this);
  hand_->setObjectName(QStringLiteral("handCard"));
  auto* card = new QVBoxLayout(hand_);
  card->setContentsMargins(22, 16, 22, 14);
  card->setSpacing(8);
  title_ = wrapped(hand_, "handTitle");
  title_->setFont(textFont(TextSize::Huge, true));
  line_ = wrapped(hand_, "handLine");
  line_->setFont(textFont(TextSize::Large));
  steps_ = wrapped(hand_, "handSteps");
  steps_->setFont(textFont(TextSize::Large));
  steps_->setTextFormat(Qt::RichText);
  commands_ = wrapped(hand_, "handCommands");
  commands_->setFont(monoFont());
  commands_->setTextFormat(Qt::PlainText);
  commands_->setAlignment(Qt::AlignTop);
  commands_->setContentsMargins(12, 10, 12, 10);
  auto* scroll = new QScrollArea(hand_);
  scroll->setObjectName(QStringLiteral("handCommandsScroll"));
  scroll->setWidget(commands_);
  scroll->setWidgetResizable(true);
  scroll->setMinimumHeight(200);
  caution_ = wrapped(hand_, "handCaution");
  progress_ = new QProgressBar(hand_);
  progress_->setObjectName(QStringLiteral("sheetProgress"));
  time_ = wrapped(hand_, "timeLine");
  stop_now_ = new QPushButton(tr("Stop now"), hand_);
  stop_now_->setObjectName(QStringLiteral("stopNowButton"));
  stop_now_->setToolTip(tr("Ends the pass in hand; it will run again"));
  checklist_ = new ChecklistBox(hand_);
  picture_ = new QPushButton(tr("Keep a picture …"), hand_);
  picture_->setObjectName(QStringLiteral("keepPictureButton"));
  picture_->setToolTip(tr(
      "Of how the bench is set up for the visit in hand: the firmware's page, the seat of a module. Kept in the study "
      "file; shown in the report where you choose so"));
  auto* foot = new QHBoxLayout;
  foot->addWidget(time_, 1);
  foot->addWidget(picture_);
  foot->addWidget(stop_now_);
  for (QWidget* widget :
       std::initializer_list<QWidget*>{title_, line_, steps_, checklist_, scroll, caution_, progress_})
    card->addWidget(widget);
  card->addLayout(foot);
  buildContradicted(card);
  buildFeel(card);
  column->addWidget(hand_);
  connect(stop_now_, &QPushButton::clicked, &study_, &StudyModel::stopNow);
  connect(checklist_, &ChecklistBox::ticked, this, [this](const QString& point, bool is_done) {
    study_.act([&](session::Session& s) { return session::tick(s.open(), point.toStdString(), is_done); });
  });
  connect(picture_, &QPushButton::clicked, this, [this] {
    if (const core::Visit* visit = study_.session().open().visit()) Q_EMIT pictureRequested(visit->planned);
  });
}

// Beside the claim line's “Set it and look again”.
void RunSheetPage::buildContradicted(QVBoxLayout* column) {
  contradicted_ = new QWidget(hand_);
  contradicted_->setObjectName(QStringLiteral("contradictedRow"));
  auto* row = new QHBoxLayout(contradicted_);
  row->setContentsMargins(0, 0, 0, 0);
  auto* anyway = new QPushButton(tr("Measure it all the same …"), contradicted_);
  anyway->setObjectName(QStringLiteral("measureAnywayButton"));
  anyway->setToolTip(tr("With the reason why you know that the level is set; it stays on record"));
  auto* unreachable = new QPushButton(tr("Not reachable …"), contradicted_);
  unreachable->setObjectName(QStringLiteral("notReachableButton"));
  unreachable->setToolTip(tr("A result too: with what was tried, and what happened"));
  row->addStretch(1);
  row->addWidget(anyway);
  row->addWidget(unreachable);
  column->addWidget(contradicted_);
  connect(anyway, &QPushButton::clicked, this, &RunSheetPage::measureAnywayPressed);
  connect(unreachable, &QPushButton::clicked, this, &RunSheetPage::notReachablePressed);
}

// Asked right after a played pass, before any number is shown.
void RunSheetPage::buildFeel(QVBoxLayout* column) {
  feel_ = new QWidget(hand_);
  feel_->setObjectName(QStringLiteral("feelRow"));
  auto* row = new QHBoxLayout(feel_);
  row->setContentsMargins(0, 0, 0, 0);
  feel_question_ = new QLabel(feel_);
  feel_question_->setObjectName(QStringLiteral("feelQuestion"));
  row->addWidget(feel_question_, 1);
  for (const auto& [word, key] : {std::pair{"smooth", "F6"}, std::pair{"hitches", "F7"}, std::pair{"unusable", "F8"}}) {
    auto* button = new QPushButton(tr("%1 (%2)").arg(tr(word), QLatin1String(key)), feel_);
    button->setObjectName(QLatin1String(word) + QStringLiteral("Button"));
    connect(button, &QPushButton::clicked, this,
            [this, said = QString::fromLatin1(word)] { sayHowItFelt(study_, said); });
    row->addWidget(button);
  }
  column->addWidget(feel_);
}

QWidget* RunSheetPage::buildLive() {
  live_ = new QWidget(this);
  auto* column = new QVBoxLayout(live_);
  column->setContentsMargins(0, 0, 0, 0);
  live_title_ = new QLabel(tr("Pass in hand"), live_);
  live_title_->setObjectName(QStringLiteral("liveTitle"));
  live_title_->setFont(textFont(TextSize::Large, true));
  live_value_ = wrapped(live_, "liveValue");
  live_value_->setProperty("soft", true);
  plot_ = new QCustomPlot(live_);
  plot_->setObjectName(QStringLiteral("liveTracePlot"));
  plot_->setAccessibleName(tr("Frame times of the pass in hand"));
  plot_->setMinimumHeight(180);
  plot_->setMaximumHeight(300);
  plot_->addGraph();
  plot_->xAxis->setLabel(tr("seconds into the pass"));
  plot_->yAxis->setLabel(tr("ms per frame"));
  column->addWidget(live_title_);
  column->addWidget(live_value_);
  live_samples_ = wrapped(live_, "liveSamples");
  column->addWidget(plot_);
  column->addWidget(live_samples_);
  column->addStretch(1);
  return live_;
}

void RunSheetPage::restyle() {
  hand_->setStyleSheet(QStringLiteral("#handCard { background: %1; border: 1px solid %2; border-radius: 3px; } "
                                      "#handCaution { background: %3; border: 1px solid "
                                      "%2; border-radius: 3px; padding: 8px; }")
                           .arg(theme().sheet.name(), theme().line.name(), theme().caution_sheet.name()));
  stylePlot(*plot_);
  if (study_.hasStudy()) refresh();
}

void RunSheetPage::showEvent(QShowEvent* event) {
  if (study_.hasStudy()) fill();
  QWidget::showEvent(event);
}

void RunSheetPage::refresh() {
  const bool is_running = study_.session().isRunning();
  if (is_running && !pulse_.isActive()) pulse_.start();
  if (!is_running) pulse_.stop();
  if (isVisible()) fill();
}

void RunSheetPage::fill() {
  heading_->setText(sheet_.heading());
  cards_->show(sheet_.visits());
  showHand();
  feel_question_->setText(sheet_.feelQuestion());
  feel_->setVisible(!sheet_.feelQuestion().isEmpty());
  progress_->setRange(0, std::max(1, sheet_.planned()));
  progress_->setValue(sheet_.recorded());
  progress_->setFormat(tr("%1 of %2 passes").arg(sheet_.recorded()).arg(sheet_.planned()));
  const bool is_running = study_.session().isRunning();
  for (QWidget* widget : std::initializer_list<QWidget*>{stop_now_, time_}) widget->setVisible(is_running);
  live_->setVisible(study_.session().state() == session::State::RunningPass);
  tick();
}

void RunSheetPage::showHand() {
  const HandCard card = sheet_.hand();
  title_->setText(card.title);
  showOrHide(line_, card.line);
  QString steps;
  for (int i = 0; i < card.steps.size(); ++i)
    steps +=
        QStringLiteral("<p style='margin: 0 0 7px 0'>%1</p>")
            .arg((card.steps.size() > 1 ? tr("%1.  %2").arg(i + 1).arg(card.steps[i]) : card.steps[i]).toHtmlEscaped());
  showOrHide(steps_, steps);
  const RunSheetViewModel::Checklist checklist = sheet_.checklist();
  checklist_->show(checklist.points, checklist.ticked);
  picture_->setVisible(study_.session().open().visit() != nullptr && core::isSetByHand(study_.study()));
  commands_->setText(card.commands.join(QStringLiteral("\n\n")));
  commands_->parentWidget()->parentWidget()->setVisible(!card.commands.isEmpty());
  showOrHide(caution_, card.caution);
  contradicted_->setVisible(card.is_contradicted);
}

void RunSheetPage::tick() {
  if (study_.session().pass().stretch()) Q_EMIT played();
  if (!isVisible()) return;
  time_->setText(study_.session().isRunning() ? sheet_.timeLine() : QString());
  live_samples_->setText(sheet_.sampleLine());
  if (study_.session().pass().stretch()) showHand();  // a countdown counts down
  drawTrace();
}

void RunSheetPage::drawTrace() {
  const session::Session& session = study_.session();
  if (const auto in_hand = session.pass().slotInHand()) {
    const core::Slot& slot = session.open().schedule()[*in_hand];
    trace_.follow(session.pass().logPath(), study_.study().cases[slot.case_index].field);
    plot_->graph(0)->setPen(QPen(levelColour(study_.study(), slot.configuration), 1.2));
  } else {
    trace_.clear();
  }
  QVector<double> seconds;
  QVector<double> frames;
  double now_ms = 0;
  for (const double d : trace_.frameMs()) {
    now_ms += d;
    seconds << now_ms / 1000;
    frames << d;
  }
  live_value_->setText(
      frames.isEmpty() ? tr("Its frame times appear here as the workload writes them.")
                       : tr("%1 frames, %2 so far")
                             .arg(frames.size())
                             .arg(toQt(core::valueText(1000.0 * static_cast<double>(frames.size()) / now_ms, "FPS"))));
  plot_->graph(0)->setData(seconds, frames, true);
  plot_->rescaleAxes();
  plot_->xAxis->setRangeLower(0);
  plot_->yAxis->setRangeLower(0);
  plot_->setVisible(!frames.isEmpty());
  if (!frames.isEmpty()) plot_->replot(QCustomPlot::rpQueuedReplot);
}

}  // namespace app
