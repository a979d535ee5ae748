#include "app/report/printed_report.h"

#include <QDate>
#include <QImage>
#include <QPageLayout>
#include <QPageSize>
#include <QPainter>
#include <QPdfWriter>
#include <QSvgRenderer>
#include <QTextDocument>
#include <QUrl>
#include <filesystem>

#include "app/findings/svg_picture.h"
#include "app/model/qt_text.h"
#include "app/report/report_pictures.h"
#include "app/report/sheets_of_paper.h"
#include "app/shell/theme.h"
#include "core/beside/beside.h"
#include "report/beside_page.h"
#include "session/cabinet/studies_read.h"
#include "session/pages/ending.h"
#include "session/pages/written_beside.h"
#include "session/sheet/with_session.h"
#include "session/user/output_file.h"

namespace app {
namespace {

constexpr int kDotsPerInch = 96;
constexpr report::Palette kWhitePaper = [] {
  report::Palette white = report::kPaper;
  white.paper = "#ffffff";  // a tint would stand on the sheet as a box
  return white;
}();

constexpr int kPaperWidth = 850;  // between the margins of an A4 page of 96 dots to the inch, so much smaller

void layOnPaper(QTextDocument& document, const QPagedPaintDevice& paper) {
  constexpr double kSmaller = 1.3;  // than on a screen: print is read from nearer
  document.setDefaultFont(textFont(TextSize::Small));
  document.setDocumentMargin(0);
  const QSizeF inches(paper.width() / static_cast<double>(paper.logicalDpiX()),
                      paper.height() / static_cast<double>(paper.logicalDpiY()));
  document.setPageSize(kSmaller * kDotsPerInch * inches);
}

void setUpPaper(QPdfWriter& writer, const std::string& title) {
  writer.setPageSize(QPageSize(QPageSize::A4));
  writer.setPageMargins(QMarginsF(18, 16, 18, 16), QPageLayout::Millimeter);
  writer.setTitle(toQt(title));
  writer.setResolution(kDotsPerInch);
}

bool writePdfTo(QIODevice& file, const report::Source& source) {
  QPdfWriter writer(&file);
  setUpPaper(writer, source.judgement.claim.sentence());
  return printReport(source, writer).ok();
}

// Drawn with so many dots that its letters are sharp on paper.
QImage imageOf(const std::string& svg, int width, const QColor& paper = Qt::white) {
  QSvgRenderer drawn(forRenderer(svg));
  QImage image(drawn.defaultSize().scaled(width, width * 8, Qt::KeepAspectRatio), QImage::Format_RGB32);
  image.fill(paper);
  QPainter painter(&image);
  painter.setRenderHint(QPainter::Antialiasing);
  drawn.render(&painter);
  return image;
}

bool writePngTo(QIODevice& file, const report::Source& source, const report::Palette& palette) {
  constexpr int kWidth = 1920;
  const QColor paper(QLatin1String(palette.paper));
  return imageOf(report::chartSvg(source.study, source.judgement, palette), kWidth, paper).save(&file, "PNG");
}

// As large as they are drawn.
core::Status writePictures(const std::string& path, const report::Source& source, const session::ReportWish& wish) {
  const QColor paper(QLatin1String(wish.palette().paper));
  for (const auto& [file, svg] : session::wishedPictures(path, source, wish)) {
    if (auto free = session::checkOutput(file); !free) return free;
    const QImage image = imageOf(svg, QSvgRenderer(forRenderer(svg)).defaultSize().width(), paper);
    if (auto written = session::writeOutput(file, [&](QIODevice& out) { return image.save(&out, "PNG"); }); !written)
      return written;
  }
  return core::Done{};
}

bool writeBesidePdfTo(QIODevice& file, const report::BesideSource& source) {
  constexpr int kDots = 3;
  const QImage picture = imageOf(report::besideSvg(source, kWhitePaper), kDots * kPaperWidth);
  QPdfWriter writer(&file);
  setUpPaper(writer, source.beside.claim);
  QTextDocument document;
  layOnPaper(document, writer);
  document.addResource(QTextDocument::ImageResource, QUrl(QStringLiteral("picture")), picture);
  const QString markup = QStringLiteral("<p><img src=\"picture\" width=\"%1\" height=\"%2\"></p>\n")
                             .arg(kPaperWidth)
                             .arg(picture.height() / kDots);
  document.setHtml(QString::fromStdString(report::besidePage(source, kWhitePaper, markup.toStdString())));
  breakBetweenSheets(document);
  document.print(&writer);
  return true;
}

}  // namespace

core::Status printReport(const report::Source& source, QPagedPaintDevice& paper) {
  ReportPictures pictures;
  pictures.make(source.study, source.judgement, kWhitePaper);
  const auto page = report::htmlPage(source, kWhitePaper, pictures.markup(kPaperWidth));
  if (!page) return page.error();
  QTextDocument document;
  layOnPaper(document, paper);
  pictures.drawIn(document);
  document.setHtml(QString::fromStdString(*page));
  breakBetweenSheets(document);
  document.print(&paper);
  return core::Done{};
}

core::Status writePrinted(const std::string& path, const report::Source& source, const session::ReportWish& wish) {
  if (auto fine = report::checkReport(source.judgement); !fine) return fine;
  if (auto fine = session::checkForm(path, wish); !fine) return fine;
  const std::string ending = session::endingOf(path);
  if (ending == ".pdf") return session::writeOutput(path, [&](QIODevice& file) { return writePdfTo(file, source); });
  if (ending == ".png" && wish.form != session::ReportWish::Form::Page) return writePictures(path, source, wish);
  if (ending == ".png")
    return session::writeOutput(path, [&](QIODevice& file) { return writePngTo(file, source, wish.palette()); });
  return core::Error{core::ErrorKind::OutOfRange, "this is neither a PDF nor a PNG", path, "Name it .pdf or .png"};
}

core::Status writePrintedOf(const std::string& study_path, const std::string& path, const session::ReportWish& wish) {
  return session::withSession(study_path, [&](session::Session& session) -> core::Status {
    const core::Record record = store::recordOf(session.recorded());
    const core::Judgement judgement = core::judgementOf(session.study(), record);
    const auto source = session::reportSource(session.open(), record, judgement, wish);
    return source ? writePrinted(path, *source, wish) : source.error();
  });
}

core::Status writePrintedBeside(const std::string& document_path, const std::string& path) {
  if (session::endingOf(path) != ".pdf")
    return core::Error{core::ErrorKind::OutOfRange, "studies beside each other are drawn as PDF", path,
                       "Name it .pdf, or write it as .html or .svg"};
  const auto order = session::readBesideOrder(document_path);
  if (!order) return order.error();
  const auto studies = session::StudiesRead::read(*order, std::filesystem::path(document_path).parent_path());
  if (!studies) return studies.error();
  const auto beside = core::layBeside(studies->aside(), *order);
  if (!beside) return beside.error();
  const report::BesideSource source{*beside, studies->aside(), *order, IRON_LEVER_VERSION,
                                    QDate::currentDate().toString(Qt::ISODate).toStdString()};
  return session::writeOutput(path, [&](QIODevice& file) { return writeBesidePdfTo(file, source); });
}

}  // namespace app
