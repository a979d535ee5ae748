#include "app/report/report_page.h"

#include <QCheckBox>
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

#include "app/shell/theme.h"
#include "app/shell/usable.h"
#include "report/report.h"
#include "session/pages/written_report.h"
#include "session/user/output_file.h"

namespace app {
namespace {

constexpr int kScreenWidth = 900;
constexpr int kDotsPerInch = 96;

}  // namespace

ReportPage::ReportPage(StudyModel& study, QWidget* parent)
    : QWidget(parent),
      study_(study),
      why_not_(new QLabel(this)),
      view_(new QTextBrowser(this)),
      names_people_(new QCheckBox(tr("Name the people"), this)),
      has_pictures_(new QCheckBox(tr("Show the visits' pictures"), this)),
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
  view_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOn);  // else a long page is laid out twice
  pictures_.drawIn(*view_->document());
  names_people_->setObjectName(QStringLiteral("namesPeopleBox"));
  names_people_->setToolTip(tr("Who expected or explained something stands in the report by name, not as Person 1"));
  has_pictures_->setObjectName(QStringLiteral("hasPicturesBox"));
  has_pictures_->setToolTip(tr("How the bench was set up: the pictures that were kept on the run sheet"));
  html_->setObjectName(QStringLiteral("saveHtmlButton"));
  pdf_->setObjectName(QStringLiteral("savePdfButton"));
  print_->setObjectName(QStringLiteral("printButton"));
  auto* line = new QHBoxLayout;
  line->addWidget(title, 1);
  line->addWidget(names_people_);
  line->addWidget(has_pictures_);
  line->addWidget(html_);
  line->addWidget(pdf_);
  line->addWidget(print_);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(20, 12, 20, 12);
  column->addLayout(line);
  column->addWidget(why_not_, 1);
  column->addWidget(view_, 1);
  connect(&study_, &StudyModel::changed, this, &ReportPage::refresh);
  for (QCheckBox* choice : {names_people_, has_pictures_})
    connect(choice, &QCheckBox::toggled, this, &ReportPage::refresh);
  connect(print_, &QPushButton::clicked, this, &ReportPage::printRequested);
  connect(html_, &QPushButton::clicked, this, [this] { Q_EMIT saveRequested(QStringLiteral("report.html")); });
  connect(pdf_, &QPushButton::clicked, this, [this] { Q_EMIT saveRequested(QStringLiteral("report.pdf")); });
}

void ReportPage::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  refresh();
}

core::Result<std::string> ReportPage::page(const report::Palette& palette, const report::Charts& charts) const {
  const core::Record record = store::recordOf(study_.session().recorded());
  report::Source source{study_.study(),
                        record,
                        study_.judgement(),
                        IRON_LEVER_VERSION,
                        QDate::currentDate().toString(Qt::ISODate).toStdString(),
                        names_people_->isChecked()};
  if (has_pictures_->isChecked())
    if (auto added = session::addPictures(source, study_.session().open()); !added) return added.error();
  return report::htmlPage(source, palette, charts);
}

void ReportPage::refresh() {
  if (!isVisible() || !study_.hasStudy()) return;
  pictures_.make(study_, currentPalette());
  const auto made = page(currentPalette(), pictures_.markup(kScreenWidth));
  view_->setVisible(made.ok());
  why_not_->setVisible(!made.ok());
  for (QWidget* control : std::initializer_list<QWidget*>{names_people_, has_pictures_, html_, pdf_, print_})
    setUsable(*control, made ? QString() : tr("There is no report yet: %1").arg(toQt(made.error().what)));
  if (!made)
    return why_not_->setText(tr("No report yet: %1.\n\n%2.").arg(toQt(made.error().what), toQt(made.error().remedy)));
  if (*made == shown_) return view_->viewport()->update();  // where it is scrolled to stays, too
  shown_ = *made;
  view_->setHtml(QString::fromStdString(shown_));
}

void ReportPage::restyle() { refresh(); }

void ReportPage::save(const QString& path) {
  const auto made = page(report::kPaper);
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
  ReportPictures pictures;
  pictures.make(study_, report::kPaper);
  const auto made = page(report::kPaper, pictures.markup(kPaperWidth));
  if (!made) return study_.tell(made.error());
  QTextDocument document;
  document.setDefaultFont(textFont(TextSize::Small));
  document.setDocumentMargin(0);
  const QSizeF inches(paper.width() / static_cast<double>(paper.logicalDpiX()),
                      paper.height() / static_cast<double>(paper.logicalDpiY()));
  document.setPageSize(kSmaller * kDotsPerInch * inches);
  pictures.drawIn(document);
  document.setHtml(QString::fromStdString(*made));
  document.print(&paper);
}

}  // namespace app
