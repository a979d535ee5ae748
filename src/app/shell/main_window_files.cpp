// What the window opens, takes in, prints and saves, and where it stood.
#include <QClipboard>
#include <QDropEvent>
#include <QGuiApplication>
#include <QMenu>
#include <QMimeData>
#include <QSettings>

#include "app/findings/svg_picture.h"
#include "app/model/next_studies.h"
#include "app/report/report_page.h"
#include "app/shell/main_window.h"
#include "app/shell/recent_studies.h"
#include "app/shell/usable.h"
#include "app/shell/welcome.h"
#include "report/report.h"
#include "session/sheet/demo_study.h"
#include "session/user/output_file.h"

namespace app {

// Others are measured only to be laid side by side.
static bool isToWatch(const QString& id) {
  const auto all = session::demoStudies();
  return std::any_of(all.begin(), all.end(),
                     [&](const session::DemoStudy& one) { return id == QLatin1String(one.id); });
}

// Of charts that are sent, pixels at the usual fineness.
static constexpr int kChartWidth = 960;

void MainWindow::newStudy(bool copies_current) {
  study_.create(newStudyPath(study_), copies_current && study_.hasStudy() ? study_.study() : emptyQuestion());
}

void MainWindow::newNullStudy() {
  if (study_.hasStudy()) study_.create(newStudyPath(study_), nullStudyFor(study_));
}

void MainWindow::keepElsewhere() {
  if (!study_.hasStudy()) return;
  if (const auto path = prompts_.keptPath(this)) study_.keepElsewhere(*path);
}

void MainWindow::openStudy() {
  if (const auto path = prompts_.openStudyPath(this)) study_.openStudy(*path);
}

void MainWindow::fillRecentStudies() {
  const QStringList paths = recentStudies();
  recent_->clear();
  for (const QString& path : paths)
    connect(recent_->addAction(recentTitle(path)), &QAction::triggered, this, [this, path] { study_.openStudy(path); });
  setUsable(*recent_, paths.isEmpty() ? tr("Nothing was opened yet") : QString());
  static_cast<Welcome*>(welcome_)->showRecent(paths);
}

void MainWindow::printReport() {
  if (const auto printer = prompts_.printer(this)) report_page_->print(*printer);
}

// The sheet while it runs, and the findings once it is done: what somebody comes to see.
void MainWindow::openDemo(const QString& id) {
  shown_demo_.clear();
  study_.openDemo(demo_folder_, id);
  if (!study_.hasStudy()) return;
  cabinet_->addFolder(demo_folder_);
  shown_demo_ = id;
  goTo(study_.session().isRunning() ? core::Place::RunSheet : core::Place::Findings);
  followDemo();
}

// Where several are to be laid side by side the next one runs; after the last the cabinet holds them. Later: it takes
// the place of the study that is telling that it has ended.
void MainWindow::followDemo() {
  if (shown_demo_.isEmpty() || (study_.hasStudy() && study_.session().isRunning())) return;
  const QString shown = std::exchange(shown_demo_, QString());
  if (!study_.hasStudy() || study_.session().nextSlot()) return;
  const std::string next = session::nextDemo(shown.toStdString());
  const bool is_of_several = !next.empty() || !isToWatch(shown);
  if (!next.empty())
    return void(QMetaObject::invokeMethod(
        this, [this, next] { openDemo(toQt(next)); }, Qt::QueuedConnection));
  if (place_ == core::Place::RunSheet) goTo(core::Place::Findings);
  if (is_of_several) openCabinet();
}

static QString placeKey() { return QStringLiteral("window_place"); }

void MainWindow::keepPlace() const {
  if (keeps_place_) QSettings().setValue(placeKey(), saveGeometry());
}

void MainWindow::restorePlace() {
  keeps_place_ = true;
  // At first as large as the free screen, its frame included.
  if (!restoreGeometry(QSettings().value(placeKey()).toByteArray())) setWindowState(Qt::WindowMaximized);
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
  if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
  QStringList logs;
  for (const QUrl& url : event->mimeData()->urls()) {
    if (!url.isLocalFile()) continue;
    if (url.path().endsWith(QStringLiteral(".ironlever"))) return study_.openStudy(url.toLocalFile());
    if (url.path().endsWith(QStringLiteral(".beside.json"))) return openBeside(url.toLocalFile());
    logs << url.toLocalFile();
  }
  if (!logs.isEmpty()) importLogs(logs);
}

void MainWindow::saveReport(const QString& suggested_name) {
  if (const auto path = prompts_.savePath(this, suggested_name)) report_page_->save(*path);
}

bool MainWindow::hasChart() const {
  return study_.hasStudy() && !study_.judgement().is_sealed && study_.judgement().findings.recorded_passes > 0;
}

std::string MainWindow::chartSvg() const {
  return report::chartSvg(study_.study(), study_.judgement(), report::kPaper, kChartWidth);
}

void MainWindow::copyChart() {
  constexpr double kFine = 2;
  if (hasChart()) QGuiApplication::clipboard()->setImage(pictureOf(chartSvg(), kFine));
}

// SVG as it is; PNG at three times the screen's fineness, enough for print.
void MainWindow::saveChart() {
  constexpr double kForPrint = 3;
  if (!hasChart()) return;
  const auto path = prompts_.savePath(this, QStringLiteral("chart.svg"));
  if (!path) return;
  const bool is_png = path->endsWith(QStringLiteral(".png"), Qt::CaseInsensitive);
  const std::string svg = chartSvg();
  const core::Status written = session::writeOutput(path->toStdString(), [&](QIODevice& file) {
    if (is_png) return pictureOf(svg, kForPrint).save(&file, "PNG");
    return file.write(svg.data(), static_cast<qint64>(svg.size())) == static_cast<qint64>(svg.size());
  });
  if (!written) prompts_.tell(this, toQt(written.error().sentence()));
}

}  // namespace app
