#include "app/shell/main_window.h"

#include <QApplication>
#include <QCloseEvent>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QMenu>
#include <QMenuBar>
#include <QSettings>
#include <QStackedWidget>
#include <QVBoxLayout>

#include "app/bench/bench_page.h"
#include "app/cabinet/beside_window.h"
#include "app/findings/findings_page.h"
#include "app/model/next_studies.h"
#include "app/model/person_acts.h"
#include "app/passes/passes_page.h"
#include "app/question/question_page.h"
#include "app/report/report_page.h"
#include "app/run_sheet/run_sheet_page.h"
#include "app/shell/benches_window.h"
#include "app/shell/claim_line.h"
#include "app/shell/doubts_tray.h"
#include "app/shell/help_window.h"
#include "app/shell/logbook_window.h"
#include "app/shell/page_area.h"
#include "app/shell/plain_texts.h"
#include "app/shell/recent_studies.h"
#include "app/shell/theme.h"
#include "app/shell/track.h"
#include "app/shell/usable.h"
#include "app/shell/welcome.h"
#include "app/shell/window_actions.h"
#include "core/findings/thresholds.h"

namespace app {

MainWindow::MainWindow(StudyModel& study, Prompts& prompts, QString demo_folder, QWidget* parent)
    : QMainWindow(parent),
      study_(study),
      prompts_(prompts),
      demo_folder_(std::move(demo_folder)),
      doubts_(study),
      levers_(study),
      sheet_(study),
      passes_(study),
      pass_views_(study),
      typed_results_(study),
      bench_(study),
      logbook_(study) {
  PlainTexts::install();
  setObjectName(QStringLiteral("mainWindow"));
  resize(1280, 800);
  // Before any page is drawn: the run sheet names the key.
  connect(&study_, &StudyModel::changed, this, &MainWindow::hearPlayersKey);
  connect(&players_key_, &session::GlobalKey::pressed, &study_, [this] { pressPlayersKey(study_); });
  buildLayout();
  buildMenus(*this, windowActions(*this));
  recent_ = new QMenu(tr("Recently opened"), this);
  menuBar()->actions().front()->menu()->insertMenu(findChild<QAction*>(QStringLiteral("openDemoAction")), recent_);
  connectParts();
  setAcceptDrops(true);
  fillRecentStudies();
  refresh();
}

MainWindow::~MainWindow() = default;

void MainWindow::showPage(const QWidget* page) {
  for (int i = 0; i < pages_->count(); ++i)
    if (static_cast<PageArea*>(pages_->widget(i))->widget() == page) pages_->setCurrentIndex(i);
}

void MainWindow::buildLayout() {
  claim_ = new ClaimLine(study_, this);
  track_ = new Track(this);
  tray_ = new DoubtsTray(doubts_, this);
  pages_ = new QStackedWidget(this);
  buildCabinet();
  question_ = new QuestionPage(study_, this);
  bench_page_ = new BenchPage(bench_, this);
  run_sheet_ = new RunSheetPage(study_, sheet_, passes_, this);
  passes_page_ = new PassesPage(study_, pass_views_, typed_results_, this);
  findings_ = new FindingsPage(study_, levers_, this);
  report_page_ = new ReportPage(study_, this);
  for (QWidget* page : std::initializer_list<QWidget*>{welcome_, question_, bench_page_, run_sheet_, passes_page_,
                                                       findings_, report_page_})
    pages_->addWidget(new PageArea(page));  // claim, track and doubts never leave the window

  auto* middle = new QHBoxLayout;
  middle->setSpacing(0);
  middle->addWidget(track_);
  middle->addWidget(pages_, 1);
  auto* body = new QWidget(this);
  auto* layout = new QVBoxLayout(body);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  layout->addWidget(claim_);
  layout->addLayout(middle, 1);
  layout->addWidget(tray_);
  setCentralWidget(body);
}

void MainWindow::connectResults() {
  connect(findings_, &FindingsPage::meaningRequested, this,
          [this](const QString& verdict) { openHelp(QStringLiteral("verdicts"), verdict); });
  connect(findings_, &FindingsPage::openEarlyRequested, this, &MainWindow::openEarly);
  connect(findings_, &FindingsPage::nextQuestionRequested, this, &MainWindow::askNextQuestion);
  connect(findings_, &FindingsPage::pairRequested, &study_, &StudyModel::showPair);
  connect(findings_, &FindingsPage::pinRequested, this, [this](const QString& case_title) {
    if (study_.judgement().pins.contains(case_title.toStdString()))
      return void(study_.act([&](session::Session& s) { return s.decisions().pin(case_title.toStdString(), ""); }));
    if (const auto remark = prompts_.note(this))
      study_.act(
          [&](session::Session& s) { return s.decisions().pin(case_title.toStdString(), remark->toStdString()); });
  });
  connect(findings_, &FindingsPage::explanationRequested, this, [this](const QString& case_title) {
    QStringList grades;
    for (const core::Grade grade : core::kGrades) grades << tr(core::gradeName(grade));
    if (const auto cause = prompts_.explanation(this, case_title, grades))
      study_.act([&](session::Session& s) {
        return s.decisions().explain(case_title.toStdString(), core::kGrades.at(static_cast<std::size_t>(cause->grade)),
                                     cause->text.toStdString());
      });
  });
  connect(passes_page_, &PassesPage::exclusionRequested, this, [this](qint64 pass_id, const QString& what) {
    if (const auto cause = prompts_.cause(this, what, exclusionCauses()))
      study_.act([&](session::Session& s) { return s.decisions().exclude(pass_id, cause->toStdString()); });
  });
  connect(report_page_, &ReportPage::printRequested, this, &MainWindow::printReport);
  connect(report_page_, &ReportPage::saveRequested, this, &MainWindow::saveReport);
  connect(passes_page_, &PassesPage::importRequested, this, &MainWindow::importLogs);
  connect(passes_page_, &PassesPage::proofRequested, this, [this](qint64 pass_id, const QString& what) {
    if (const auto path = prompts_.picturePath(this, what))
      study_.act([&](session::Session& s) { return s.outside().keepProof(pass_id, path->toStdString()); });
  });
  connect(passes_page_, &PassesPage::printedRequested, this, &MainWindow::showPrinted);
  connect(passes_page_, &PassesPage::noteRequested, this, [this](const QString& moment) {
    if (const auto text = prompts_.note(this))
      study_.act([&](session::Session& s) { return s.decisions().addNote(text->toStdString(), moment.toStdString()); });
  });
}

void MainWindow::connectParts() {
  connect(&study_, &StudyModel::changed, this, &MainWindow::refresh);
  connect(&study_, &StudyModel::failed, this, [this](const QString& sentence) { prompts_.tell(this, sentence); });
  connect(&study_, &StudyModel::informed, this, [this](const QString& sentence) { prompts_.inform(this, sentence); });
  connectResults();
  connect(question_, &QuestionPage::predictionRequested, this, &MainWindow::askPrediction);
  connect(question_, &QuestionPage::judgingRequested, this, [this](const core::Judging& judging) {
    const QString what = toQt(core::judgingChange(core::judgingOf(study_.study()), judging));
    if (const auto reason = prompts_.reason(this, what))
      study_.act([&](session::Session& s) { return s.decisions().changeJudging(judging, reason->toStdString()); });
  });
  connect(question_, &QuestionPage::heldRequested, this, [this] {
    if (const auto chosen = prompts_.heldEqual(this, study_.study())) study_.replaceStudy(*chosen);
  });
  connect(question_, &QuestionPage::natureRequested, this, [this](const core::Case& a_case) {
    if (const auto nature = prompts_.caseNature(this, a_case)) question_->setNature(*nature);
  });
  connect(run_sheet_, &RunSheetPage::pictureRequested, this, &MainWindow::keepPicture);
  connect(run_sheet_, &RunSheetPage::measureAnywayPressed, this, &MainWindow::askMeasureAnyway);
  connect(run_sheet_, &RunSheetPage::notReachablePressed, this, &MainWindow::askUnreachable);
  connect(run_sheet_, &RunSheetPage::played, this, [this] { claim_->refresh(nextActionOf(study_, place_)); });
  connect(&study_, &StudyModel::changed, this, &MainWindow::callWhereNeeded);
  connect(bench_page_, &BenchPage::statedFactsRequested, this, &MainWindow::askStatedFacts);
  connect(&study_, &StudyModel::studyTaken, this, [this] {
    const session::Session& session = study_.session();
    const bool is_begun = !session.recorded().passes.empty();
    place_ = session.isRunning() || (is_begun && session.nextSlot()) ? core::Place::RunSheet
             : is_begun                                              ? core::Place::Findings
                                                                     : core::Place::Question;
  });
  connect(&study_, &StudyModel::studyOpened, this, [this] {
    rememberStudy(QString::fromStdString(study_.session().open().absolutePath()));
    fillRecentStudies();
  });
  connect(claim_, &ClaimLine::nextPressed, this, &MainWindow::pressNext);
  connect(claim_, &ClaimLine::partClicked, this, &MainWindow::openPart);
  connect(track_, &Track::placeChosen, this, &MainWindow::goTo);
  connect(tray_, &DoubtsTray::showRequested, this, &MainWindow::showDoubt);
  connect(tray_, &DoubtsTray::meaningRequested, this,
          [this](const QString& kind) { openHelp(QStringLiteral("doubts"), kind); });
  connect(tray_, &DoubtsTray::acceptRequested, this, &MainWindow::acceptDoubt);
  connect(tray_, &DoubtsTray::actRequested, this, [this](const QString& act) {
    if (auto* entry = findChild<QAction*>(act)) entry->trigger();
  });
  qApp->installEventFilter(new ReasonTips(this));
  auto* welcome = static_cast<Welcome*>(welcome_);
  connect(welcome, &Welcome::newRequested, this, [this] { newStudy(false); });
  connect(welcome, &Welcome::openRequested, this, &MainWindow::openStudy);
  connect(welcome, &Welcome::demoRequested, this, &MainWindow::openDemo);
  connect(&study_, &StudyModel::changed, this, &MainWindow::followDemo);
  connect(welcome, &Welcome::studyRequested, &study_, &StudyModel::openStudy);
}

void MainWindow::goTo(core::Place place) {
  if (place_ == core::Place::Question && place != place_) study_.nameByQuestion();
  place_ = place;
  // What is on show is what the next action asks a person to accept.
  if (place == core::Place::Bench && study_.hasStudy() && study_.judgement().claim.is_stopped)
    bench_.showVisitOfDoubt(toQt(study_.judgement().doubts.front().id));
  refresh();
}

void MainWindow::refresh() {
  track_->setPlace(place_);
  claim_->refresh(nextActionOf(study_, place_));
  refreshTrack();
  if (!study_.hasStudy()) {
    showPage(welcome_);
    setWindowTitle(tr("Iron Lever"));
    return;
  }
  const QString name = QFileInfo(toQt(study_.session().open().path())).completeBaseName();
  const QString others = study_.openElsewhere();
  setWindowTitle(others.isEmpty() ? tr("%1 — Iron Lever").arg(name)
                                  : tr("%1, also open: %2 — Iron Lever").arg(name, others));
  switch (place_) {
    case core::Place::Question: showPage(question_); break;
    case core::Place::Bench: showPage(bench_page_); break;
    case core::Place::RunSheet: showPage(run_sheet_); break;
    case core::Place::Passes: showPage(passes_page_); break;
    case core::Place::Findings: showPage(findings_); break;
    case core::Place::Report: showPage(report_page_); break;
  }
}

void MainWindow::refreshTrack() {
  setUsable(*track_, study_.hasStudy() ? QString() : tr("Open a study first, or make one"));
  if (!study_.hasStudy()) {
    track_->setProgress(core::Place::Question, tr("no study open"));
    track_->setProgress(core::Place::Bench, tr("not captured"));
    track_->setProgress(core::Place::RunSheet, tr("not begun"));
    track_->setProgress(core::Place::Passes, tr("none yet"));
    track_->setProgress(core::Place::Findings, tr("none yet"));
    track_->setProgress(core::Place::Report, tr("none yet"));
    return;
  }
  const core::Findings& found = study_.judgement().findings;
  const auto cases = static_cast<int>(study_.study().cases.size());
  track_->setProgress(core::Place::Question, study_.problems().empty()
                                                 ? tr("%1, threshold %2")
                                                       .arg(cases == 1 ? tr("1 case") : tr("%1 cases").arg(cases))
                                                       .arg(toQt(core::askedThresholdText(study_.study())))
                                                 : tr("not complete"));
  track_->setProgress(core::Place::Bench, benchProgress());
  track_->setProgress(core::Place::RunSheet,
                      found.recorded_passes == 0
                          ? tr("not begun")
                          : tr("%1 of %2 passes").arg(found.recorded_passes).arg(found.planned_passes));
  track_->setProgress(core::Place::Passes, pass_views_.progress());
  const auto read = static_cast<int>(
      std::count_if(found.cases.begin(), found.cases.end(), [](const auto& one) { return one.effect.has_value(); }));
  track_->setProgress(core::Place::Findings, study_.judgement().is_sealed ? tr("sealed")
                                             : read == 0                  ? tr("none yet")
                                             : found.done.is_first_done
                                                 ? tr("%1 of %2 cases").arg(read).arg(cases)
                                                 : tr("%1 of %2 cases, provisional").arg(read).arg(cases));
  track_->setProgress(core::Place::Report,
                      study_.judgement().is_sealed || !found.done.is_first_done ? tr("not yet") : tr("ready"));
}

QString MainWindow::benchProgress() const {
  const core::Judgement& judged = study_.judgement();
  if (judged.proof.visits.empty() && !judged.steps.empty()) {  // a chain is proved step by step
    return tr("%1 of %2 steps proved").arg(core::provedSteps(judged.steps)).arg(judged.steps.size());
  }
  const core::BenchProof& proof = judged.proof;
  if (proof.visits.empty()) return tr("not captured");
  if (!proof.is_captured) return tr("one level captured");
  for (const core::VisitProof& visit : proof.visits)
    if (!visit.not_as_its_level.empty()) return tr("visit %1 differs").arg(visit.planned);
  if (proof.verdict != core::ProofVerdict::MovedAsDeclared) return tr("not proved");
  if (proof.levels->only_variable_changed) return tr("moved, nothing else");
  return proof.levels->isValidPair() ? tr("moved, and what comes along") : tr("moved, and more");
}

void MainWindow::pressNext() {
  const NextAction action = nextActionOf(study_, place_);
  switch (action.intent) {
    case NextIntent::OpenDemo: return openDemo();
    case NextIntent::CompleteQuestion: goTo(core::Place::Question); return question_->focusProblem();
    case NextIntent::ShowCommands: return goTo(core::Place::RunSheet);
    case NextIntent::ApproveCommands: return void(study_.act([](session::Session& s) { return s.approve(); }));
    case NextIntent::Start: goTo(core::Place::RunSheet); return void(study_.act(&session::Session::start));
    case NextIntent::StartThere: return startThere();
    case NextIntent::StopAfterPass: return study_.session().stop(session::Stop::AfterPass);
    case NextIntent::ShowStop: {
      const core::Doubt& stop = study_.judgement().doubts.front();
      return showDoubt(stop.place, stop.case_index ? static_cast<int>(*stop.case_index) : -1, toQt(stop.id));
    }
    case NextIntent::AcceptStop: {
      const core::Doubt& stop = study_.judgement().doubts.front();
      return acceptDoubt(toQt(stop.id), toQt(stop.sentence));
    }
    case NextIntent::ReadFindings: return goTo(core::Place::Findings);
    case NextIntent::RepeatFailed:
      return void(study_.act([&](session::Session& s) { return s.decisions().repeatFailed(); }));
    case NextIntent::StopAtLook:
      return void(study_.act([&](session::Session& s) { return s.decisions().stopAtLook(); }));
    case NextIntent::Extend: return extendPlan();
    case NextIntent::StartPlaying:
      goTo(core::Place::RunSheet);
      return void(study_.act([&](session::Session& s) { return s.startPlaying(); }));
    case NextIntent::BeginStretch:
      return void(study_.act([&](session::Session& s) { return s.pass().beginStretch(); }));
    case NextIntent::TypeResults: return typeResults();
    case NextIntent::EndStretch: return void(study_.act([&](session::Session& s) { return s.pass().endStretch(); }));
    case NextIntent::NewFromThis: return newStudy(true);
    case NextIntent::AskLower:
      if (const auto lower = withLowerLevel(study_)) study_.create(newStudyPath(study_), *lower);
      return;
    case NextIntent::None: return;
  }
}

void MainWindow::showStep(int number) { question_->openStep(number); }

void MainWindow::toggleNight() {
  const ThemeName next = currentThemeName() == ThemeName::Paper ? ThemeName::Night : ThemeName::Paper;
  applyTheme(*qApp, next);
  QSettings().setValue(QStringLiteral("theme"),
                       next == ThemeName::Night ? QStringLiteral("night") : QStringLiteral("paper"));
  refresh();
  tray_->refresh();
  run_sheet_->restyle();
  findings_->restyle();
  report_page_->restyle();
  passes_page_->restyle();
  bench_page_->restyle();
  question_->restyle();
  for (auto* window : findChildren<BesideWindow*>()) window->restyle();
}

void MainWindow::showDoubt(core::Place place, int case_index, const QString& doubt_id) {
  goTo(place);
  bench_.showVisitOfDoubt(doubt_id);  // any doubt's, not only the first one's
  if (case_index < 0) return;
  if (place == core::Place::Findings) findings_->chooseCase(static_cast<std::size_t>(case_index));
  if (place == core::Place::Passes) passes_page_->chooseCase(case_index);
}

void MainWindow::acceptDoubt(const QString& id, const QString& sentence) {
  if (const auto reason = prompts_.reason(this, sentence))
    study_.act([&](session::Session& s) { return s.decisions().acceptDoubt(id.toStdString(), reason->toStdString()); });
}

void MainWindow::openPart(const QString& part) {
  if (part == QLatin1String("outcome")) return goTo(core::Place::Findings);
  goTo(core::Place::Question);
  question_->focusPart(part);
}

void MainWindow::openLogbook() {
  if (!logbook_window_) {
    logbook_window_ = new LogbookWindow(logbook_, this);
    connect(logbook_window_, &LogbookWindow::noteRequested, this, &MainWindow::addNote);
    connect(logbook_window_, &LogbookWindow::observationRequested, this, &MainWindow::addObservation);
    connect(logbook_window_, &LogbookWindow::printRequested, this, [this] {
      if (const auto printer = prompts_.printer(this)) logbook_window_->print(*printer);
    });
  }
  logbook_window_->show();
  logbook_window_->raise();
}

void MainWindow::openHelp(const QString& page, const QString& heading) {
  if (!help_window_) help_window_ = new HelpWindow(this);
  help_window_->showPage(page, heading);
}

void MainWindow::openBenches() {
  if (!benches_window_) benches_window_ = new BenchesWindow(study_, this);
  benches_window_->refresh();
  benches_window_->show();
  benches_window_->raise();
}

void MainWindow::resizeEvent(QResizeEvent* event) {
  QMainWindow::resizeEvent(event);
  claim_->refresh(nextActionOf(study_, place_));
}

void MainWindow::closeEvent(QCloseEvent* event) {
  keepPlace();
  // Nothing is lost: finished passes are on the disk, the one in hand will run again.
  study_.stopNow();
  QMainWindow::closeEvent(event);
}

}  // namespace app
