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

#include "app/findings/lever_picture.h"
#include "app/shell/theme.h"
#include "report/report.h"
#include "session/output_file.h"

namespace app {
namespace {

constexpr int kScreenWidth = 900;
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

std::string chartHtml(const core::Findings& findings, int width) {
  QString html;
  for (std::size_t i = 0; i < chartParts(findings).size(); ++i)
    html += QStringLiteral("<p><img src=\"%1\" width=\"%2\"></p>\n").arg(chartName(i)).arg(width);
  return html.toStdString();
}

void fill(QTextDocument& document, const StudyModel& study, const report::Palette& palette, const std::string& html) {
  const std::vector<report::Rows> parts = chartParts(study.findings());
  for (std::size_t i = 0; i < parts.size(); ++i)
    document.addResource(QTextDocument::ImageResource, QUrl(chartName(i)),
                         leverPicture(study.study(), study.judgement(), palette, kScreenWidth, kFineness, parts[i]));
  document.setHtml(QString::fromStdString(html));
}

}  // namespace

ReportPage::ReportPage(StudyModel& study, QWidget* parent)
    : QWidget(parent),
      study_(study),
      why_not_(new QLabel(this)),
      view_(new QTextBrowser(this)),
      html_(new QPushButton(tr("Save as a page …"), this)),
      pdf_(new QPushButton(tr("Save as PDF …"), this)) {
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
  auto* line = new QHBoxLayout;
  line->addWidget(title, 1);
  line->addWidget(html_);
  line->addWidget(pdf_);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(20, 12, 20, 12);
  column->addLayout(line);
  column->addWidget(why_not_, 1);
  column->addWidget(view_, 1);
  connect(&study_, &StudyModel::changed, this, &ReportPage::refresh);
  connect(html_, &QPushButton::clicked, this, [this] { Q_EMIT saveRequested(QStringLiteral("report.html")); });
  connect(pdf_, &QPushButton::clicked, this, [this] { Q_EMIT saveRequested(QStringLiteral("report.pdf")); });
}

void ReportPage::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  refresh();
}

core::Result<std::string> ReportPage::page(bool is_for_paper, std::optional<int> chart_width) const {
  const core::Record record = store::recordOf(study_.session().recorded());
  const bool is_night = !is_for_paper && currentThemeName() == ThemeName::Night;
  return report::htmlPage({study_.study(), record, study_.judgement(), IRON_LEVER_VERSION,
                           QDate::currentDate().toString(Qt::ISODate).toStdString()},
                          is_night ? report::kNight : report::kPaper,
                          chart_width ? chartHtml(study_.findings(), *chart_width) : std::string());
}

void ReportPage::refresh() {
  if (!isVisible() || !study_.hasStudy()) return;
  const auto made = page(false, kScreenWidth);
  view_->setVisible(made.ok());
  why_not_->setVisible(!made.ok());
  html_->setEnabled(made.ok());
  pdf_->setEnabled(made.ok());
  if (!made)
    return why_not_->setText(tr("No report yet: %1.\n\n%2.").arg(toQt(made.error().what), toQt(made.error().remedy)));
  fill(*view_->document(), study_, currentThemeName() == ThemeName::Night ? report::kNight : report::kPaper, *made);
}

void ReportPage::restyle() { refresh(); }

void ReportPage::save(const QString& path) {
  const bool is_pdf = path.endsWith(QStringLiteral(".pdf"), Qt::CaseInsensitive);
  constexpr double kSmaller = 1.3;  // than on a screen: print is read from nearer
  constexpr int kPaperWidth = 850;  // between the margins of an A4 page of 96 dots to the inch, so much smaller
  const auto made = page(true, is_pdf ? std::optional(kPaperWidth) : std::nullopt);
  if (!made) return study_.tell(made.error());
  if (!is_pdf) {
    if (auto written = session::writeOutput(path.toStdString(), *made); !written) study_.tell(written.error());
    return;
  }
  const core::Status written = session::writeOutput(path.toStdString(), [&](QIODevice& file) {
    QPdfWriter writer(&file);
    writer.setPageSize(QPageSize(QPageSize::A4));
    writer.setPageMargins(QMarginsF(18, 16, 18, 16), QPageLayout::Millimeter);
    writer.setTitle(toQt(study_.claim().sentence()));
    writer.setResolution(96);
    QTextDocument document;
    document.setDefaultFont(textFont(TextSize::Small));
    document.setDocumentMargin(0);
    document.setPageSize(kSmaller * QSizeF(writer.width(), writer.height()));
    fill(document, study_, report::kPaper, *made);
    document.print(&writer);
    return true;
  });
  if (!written) study_.tell(written.error());
}

}  // namespace app
