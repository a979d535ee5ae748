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
#include "report/shape_svg.h"
#include "session/user/output_file.h"

namespace app {

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
  study_.openDemo(demo_folder_, id);
  if (!study_.hasStudy()) return;
  shows_demo_ = study_.session().isRunning();
  goTo(shows_demo_ ? core::Place::RunSheet : core::Place::Findings);
}

void MainWindow::followDemo() {
  if (!shows_demo_ || (study_.hasStudy() && study_.session().isRunning())) return;
  shows_demo_ = false;
  if (study_.hasStudy() && place_ == core::Place::RunSheet && !study_.session().nextSlot()) goTo(core::Place::Findings);
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

// Of a ladder, a crossing or a chain the picture of its shape; of a pair the levers.
std::string MainWindow::chartSvg() const {
  const int high = report::shapeHeight(study_.study(), report::kShapeHeight);
  const core::Judgement& judged = study_.judgement();
  const std::string shape =
      report::shapeSvg(study_.study(), judged.shape, judged.shape.headlineCase(), report::kPaper, kChartWidth, high);
  return shape.empty() ? report::leverChartSvg(study_.study(), study_.judgement().findings, judged.pins, report::kPaper,
                                               kChartWidth)
                       : shape;
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
