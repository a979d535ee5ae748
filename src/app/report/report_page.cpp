#include "app/report/report_page.h"

#include <QDate>
#include <QFile>
#include <QHBoxLayout>
#include <QLabel>
#include <QPageSize>
#include <QPdfWriter>
#include <QPushButton>
#include <QTextBrowser>
#include <QTextDocument>
#include <QVBoxLayout>

#include "app/findings/svg_picture.h"
#include "app/shell/theme.h"
#include "report/report.h"
#include "report/shape_svg.h"
#include "session/output_file.h"

namespace app {
namespace {

constexpr int kScreenWidth = 900;
constexpr int kDotsPerInch = 96;
constexpr double kFineness = 3;  // a picture's dots for one of the page's

// The chart is put in as pictures, since a text document shows no SVG: as many as pages need. The first leaves room for
// the claim.
std::vector<report::Rows> chartParts(const core::Findings& findings) {
  constexpr std::size_t kFirst = 20;
  constexpr std::size_t kNext = 28;
  std::vector<report::Rows> parts;
  for (std::size_t from = 0; from < report::leverChartRows(findings); from += parts.back().count)
    parts.push_back({from, parts.empty() ? kFirst : kNext});
  return parts;
}

QString chartName(std::size_t part) { return QStringLiteral("lever-chart-%1").arg(part); }

constexpr const char* kShapeName = "shape-picture";

std::string imageHtml(const QString& name, int width) {
  return QStringLiteral("<p><img src=\"%1\" width=\"%2\"></p>\n").arg(name).arg(width).toStdString();
}

report::Charts chartsHtml(const core::Findings& findings, int width) {
  report::Charts charts{{}, imageHtml(QLatin1String(kShapeName), width)};
  for (std::size_t i = 0; i < chartParts(findings).size(); ++i) charts.lever += imageHtml(chartName(i), width);
  return charts;
}

void fill(QTextDocument& document, const StudyModel& study, const report::Palette& palette, const std::string& html) {
  const std::vector<report::Rows> parts = chartParts(study.judgement().findings);
  for (std::size_t i = 0; i < parts.size(); ++i)
    document.addResource(QTextDocument::ImageResource, QUrl(chartName(i)),
                         leverPicture(study.study(), study.judgement(), palette, kScreenWidth, kFineness, parts[i]));
  const std::string shape =
      report::shapeSvg(study.study(), study.judgement().shape, study.judgement().shape.headlineCase(), palette,
                       kScreenWidth, report::shapeHeight(study.study(), report::kShapeHeight));
  if (!shape.empty())
    document.addResource(QTextDocument::ImageResource, QUrl(QLatin1String(kShapeName)),
                         pictureOf(shape, palette, kFineness));
  document.setHtml(QString::fromStdString(html));
}

}  // namespace

ReportPage::ReportPage(StudyModel& study, QWidget* parent)
    : QWidget(parent),
      study_(study),
      why_not_(new QLabel(this)),
      view_(new QTextBrowser(this)),
      html_(new QPushButton(tr("Save as a page …"), this)),
      pdf_(new QPushButton(tr("Save as PDF …"), this)),
      print_(new QPushButton(tr("Print …"), this)) {
  setObjectName(QStringLiteral("reportPage"));
  auto* title = new QLabel(tr("What you can send"), this);
  title->setFont(textFont(TextSize::Large, true));
  why_not_->setObjectName(QStringLiteral("reportWhyNot"));
  why_not_->setFont(textFont(TextSize::Large));
  why_not_->setWordWrap(true);
  why_not_->setAlignment(Qt::AlignTop);
  view_->setObjectName(QStringLiteral("reportView"));
  view_->setAccessibleName(tr("the report"));
  view_->setOpenLinks(false);
  html_->setObjectName(QStringLiteral("saveHtmlButton"));
  pdf_->setObjectName(QStringLiteral("savePdfButton"));
  print_->setObjectName(QStringLiteral("printButton"));
  auto* line = new QHBoxLayout;
  line->addWidget(title, 1);
  line->addWidget(html_);
  line->addWidget(pdf_);
  line->addWidget(print_);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(20, 12, 20, 12);
  column->addLayout(line);
  column->addWidget(why_not_, 1);
  column->addWidget(view_, 1);
  connect(&study_, &StudyModel::changed, this, &ReportPage::refresh);
  connect(print_, &QPushButton::clicked, this, &ReportPage::printRequested);
  connect(html_, &QPushButton::clicked, this, [this] { Q_EMIT saveRequested(QStringLiteral("report.html")); });
  connect(pdf_, &QPushButton::clicked, this, [this] { Q_EMIT saveRequested(QStringLiteral("report.pdf")); });
}

void ReportPage::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  refresh();
}

core::Result<std::string> ReportPage::page(bool is_for_paper, std::optional<int> chart_width) const {
  const core::Record record = store::recordOf(study_.session().recorded());
  return report::htmlPage({study_.study(), record, study_.judgement(), IRON_LEVER_VERSION,
                           QDate::currentDate().toString(Qt::ISODate).toStdString()},
                          is_for_paper ? report::kPaper : currentPalette(),
                          chart_width ? chartsHtml(study_.judgement().findings, *chart_width) : report::Charts());
}

void ReportPage::refresh() {
  if (!isVisible() || !study_.hasStudy()) return;
  const auto made = page(false, kScreenWidth);
  view_->setVisible(made.ok());
  why_not_->setVisible(!made.ok());
  html_->setEnabled(made.ok());
  pdf_->setEnabled(made.ok());
  print_->setEnabled(made.ok());
  if (!made)
    return why_not_->setText(tr("No report yet: %1.\n\n%2.").arg(toQt(made.error().what), toQt(made.error().remedy)));
  fill(*view_->document(), study_, currentPalette(), *made);
}

void ReportPage::restyle() { refresh(); }

void ReportPage::save(const QString& path) {
  const auto made = page(true, std::nullopt);
  if (!made) return study_.tell(made.error());
  if (path.endsWith(QStringLiteral(".pdf"), Qt::CaseInsensitive)) {
    const core::Status written = session::writeOutput(path.toStdString(), [&](QIODevice& file) {
      QPdfWriter writer(&file);
      writer.setPageSize(QPageSize(QPageSize::A4));
      writer.setPageMargins(QMarginsF(18, 16, 18, 16), QPageLayout::Millimeter);
      writer.setTitle(toQt(study_.judgement().claim.sentence()));
      writer.setResolution(kDotsPerInch);
      print(writer);
      return true;
    });
    if (!written) study_.tell(written.error());
    return;
  }
  if (auto written = session::writeOutput(path.toStdString(), *made); !written) study_.tell(written.error());
}

void ReportPage::print(QPagedPaintDevice& paper) {
  constexpr double kSmaller = 1.3;  // than on a screen: print is read from nearer
  constexpr int kPaperWidth = 850;  // between the margins of an A4 page of 96 dots to the inch, so much smaller
  const auto made = page(true, kPaperWidth);
  if (!made) return study_.tell(made.error());
  QTextDocument document;
  document.setDefaultFont(textFont(TextSize::Small));
  document.setDocumentMargin(0);
  const QSizeF inches(paper.width() / static_cast<double>(paper.logicalDpiX()),
                      paper.height() / static_cast<double>(paper.logicalDpiY()));
  document.setPageSize(kSmaller * kDotsPerInch * inches);
  fill(document, study_, report::kPaper, *made);
  document.print(&paper);
}

}  // namespace app
