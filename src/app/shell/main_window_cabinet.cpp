// What the window does beside the study at hand: lists others, asks them again, lays them side by side, does sums.
#include "app/at_work/at_work_window.h"
#include "app/cabinet/beside_window.h"
#include "app/cabinet/cabinet_view.h"
#include "app/cabinet/cabinet_window.h"
#include "app/desk/desk_window.h"
#include "app/model/next_studies.h"
#include "app/model/practice_model.h"
#include "app/practice/practice_window.h"
#include "app/shell/benches_window.h"
#include "app/shell/main_window.h"
#include "app/shell/welcome.h"
#include "session/cabinet/read_study.h"

namespace app {

void MainWindow::buildCabinet() {
  cabinet_ = new CabinetModel(session::Cabinet(study_.files()), this);
  connect(cabinet_, &CabinetModel::failed, this, [this](const QString& sentence) { prompts_.tell(this, sentence); });
  welcome_ = new Welcome(*cabinet_, this);
  connectCabinet(*static_cast<Welcome*>(welcome_)->cabinet());
}

void MainWindow::connectCabinet(CabinetView& view) {
  connect(&view, &CabinetView::openRequested, this, [this](const QString& path) {
    study_.openStudy(path);
    if (cabinet_window_) cabinet_window_->hide();
  });
  connect(&view, &CabinetView::repeatRequested, this, &MainWindow::repeatStudy);
  connect(&view, &CabinetView::besideRequested, this, &MainWindow::layBeside);
  connect(&view, &CabinetView::benchRequested, this, [this](const QString& bench) {
    openBenches();
    benches_window_->showBench(bench);
  });
  connect(&view, &CabinetView::folderRequested, this, [this] {
    if (const auto folder = prompts_.folder(this, QString())) cabinet_->addFolder(*folder);
  });
}

void MainWindow::openCabinet() {
  if (!cabinet_window_) {
    auto* view = new CabinetView(*cabinet_, this);
    connectCabinet(*view);
    cabinet_window_ = new CabinetWindow(view, this);
  }
  cabinet_window_->show();
  cabinet_window_->raise();
  cabinet_window_->findChild<CabinetView*>()->focusSearch();
}

// The same question, with passes of its own.
void MainWindow::repeatStudy(const QString& path) {
  const auto read = session::readStudy(path.toStdString());
  if (!read) return study_.tell(read.error());
  if (cabinet_window_) cabinet_window_->hide();
  study_.create(newStudyPath(study_), read->study);
  if (study_.hasStudy()) goTo(core::Place::Question);
}

BesideWindow& MainWindow::newBesideWindow() {
  auto* window = new BesideWindow(prompts_, this);
  window->setAttribute(Qt::WA_DeleteOnClose);
  connect(window, &BesideWindow::repeatRequested, this, &MainWindow::repeatStudy);
  window->show();
  return *window;
}

void MainWindow::layBeside(const QStringList& paths) {
  core::BesideOrder order;
  for (const QString& path : paths) order.studies.push_back(path.toStdString());
  newBesideWindow().model().lay(order);
}

void MainWindow::openBeside(const QString& path) {
  BesideWindow& window = newBesideWindow();
  if (auto read = window.model().open(path); !read) {
    window.close();
    study_.tell(read.error());
  }
}

void MainWindow::openDesk() {
  if (!desk_window_) {
    desk_window_ = new DeskWindow(study_, this);
    connect(desk_window_, &DeskWindow::carryRequested, this, &MainWindow::carryFromDesk);
    connect(&study_, &StudyModel::studyOpened, this, &MainWindow::tellDesk);
  }
  tellDesk();
  desk_window_->show();
  desk_window_->raise();
}

// What is filed elsewhere in this window is shown where that study is open.
AtWorkWindow& MainWindow::openAtWork() {
  if (!at_work_window_) {
    at_work_ = new AtWorkModel(study_.machineHere(), study_.files(), this);
    at_work_window_ = new AtWorkWindow(*at_work_, prompts_, this);
    connect(at_work_, &AtWorkModel::failed, this, [this](const QString& sentence) { prompts_.tell(this, sentence); });
    connect(at_work_, &AtWorkModel::called, this,
            [this](const QString& sentence) { prompts_.call(at_work_window_, sentence); });
    connect(at_work_, &AtWorkModel::filed, this, [this](const QString& path) {
      if (study_.hasStudy() && !study_.session().isRunning() &&
          QString::fromStdString(study_.session().open().absolutePath()) == path)
        study_.act([](session::Session& open) {
          core::Status read = open.open().read();
          Q_EMIT open.stateChanged();
          return read;
        });
    });
    connect(at_work_window_, &AtWorkWindow::openRequested, &study_, &StudyModel::openStudy);
  }
  at_work_window_->show();
  at_work_window_->raise();
  return *at_work_window_;
}

// An exercise's study is one like any other; what belongs to it alone stands in this window.
void MainWindow::openPractice() {
  if (!practice_window_) {
    practice_ = new PracticeModel(study_.machineHere(), study_.files(), this);
    practice_window_ = new PracticeWindow(*practice_, this);
    const auto take = [this] {
      practice_->takeStudy(QString::fromStdString(study_.session().open().absolutePath()), toQt(study_.study().bench));
    };
    connect(practice_, &PracticeModel::openRequested, &study_, &StudyModel::openStudy);
    connect(practice_, &PracticeModel::failed, this,
            [this](const QString& sentence) { prompts_.tell(this, sentence); });
    connect(practice_, &PracticeModel::informed, this,
            [this](const QString& sentence) { prompts_.inform(practice_window_, sentence); });
    connect(&study_, &StudyModel::studyOpened, practice_, take);
    if (study_.hasStudy()) take();
  }
  practice_window_->show();
  practice_window_->raise();
}

// The sheet of a bench over ssh runs beside the window.
void MainWindow::startThere() {
  AtWorkWindow& window = openAtWork();
  window.showStudy(QString::fromStdString(study_.session().open().absolutePath()));
  window.startChosen();
}

// How results are judged changes after the first pass with a reason only.
void MainWindow::carryFromDesk(const DeskCarry& what) {
  if (!study_.hasStudy()) return;
  std::string reason;
  if (what.into == DeskCarry::Into::Threshold && !study_.session().recorded().passes.empty()) {
    const auto given = prompts_.reason(this, tr("Judge by a threshold of %1 from now on").arg(what.text));
    if (!given) return;
    reason = given->toStdString();
  }
  if (study_.act([&](session::Session& s) { return carry(s, what, reason); }))
    prompts_.inform(this, tr("Carried into the study: %1").arg(what.text));
}

// Its bench is that of the study at hand.
void MainWindow::tellDesk() {
  const bool is_known = study_.hasStudy() && !study_.session().recorded().captures.empty();
  desk_window_->setBench(is_known ? &study_.session().recorded().captures.back().capture : nullptr,
                         is_known ? study_.study().variable().device : std::string());
}

}  // namespace app
