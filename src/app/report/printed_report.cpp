#include "app/report/printed_report.h"

#include <QImage>
#include <QPageLayout>
#include <QPageSize>
#include <QPainter>
#include <QPdfWriter>
#include <QSvgRenderer>
#include <QTextDocument>

#include "app/findings/svg_picture.h"
#include "app/model/qt_text.h"
#include "app/report/report_pictures.h"
#include "app/shell/theme.h"
#include "session/pages/ending.h"
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

bool writePdfTo(QIODevice& file, const report::Source& source) {
  QPdfWriter writer(&file);
  writer.setPageSize(QPageSize(QPageSize::A4));
  writer.setPageMargins(QMarginsF(18, 16, 18, 16), QPageLayout::Millimeter);
  writer.setTitle(toQt(source.judgement.claim.sentence()));
  writer.setResolution(kDotsPerInch);
  return printReport(source, writer).ok();
}

bool writePngTo(QIODevice& file, const report::Source& source) {
  constexpr int kWidth = 1920;
  QSvgRenderer drawn(forRenderer(report::chartSvg(source.study, source.judgement, report::kPaper)));
  const QSize size = drawn.defaultSize().scaled(kWidth, kWidth * 8, Qt::KeepAspectRatio);
  QImage image(size, QImage::Format_RGB32);
  image.fill(QColor(QLatin1String(report::kPaper.paper)));
  QPainter painter(&image);
  painter.setRenderHint(QPainter::Antialiasing);
  drawn.render(&painter);
  painter.end();
  return image.save(&file, "PNG");
}

}  // namespace

core::Status printReport(const report::Source& source, QPagedPaintDevice& paper) {
  constexpr double kSmaller = 1.3;  // than on a screen: print is read from nearer
  constexpr int kPaperWidth = 850;  // between the margins of an A4 page of 96 dots to the inch, so much smaller
  ReportPictures pictures;
  pictures.make(source.study, source.judgement, kWhitePaper);
  const auto page = report::htmlPage(source, kWhitePaper, pictures.markup(kPaperWidth));
  if (!page) return page.error();
  QTextDocument document;
  document.setDefaultFont(textFont(TextSize::Small));
  document.setDocumentMargin(0);
  const QSizeF inches(paper.width() / static_cast<double>(paper.logicalDpiX()),
                      paper.height() / static_cast<double>(paper.logicalDpiY()));
  document.setPageSize(kSmaller * kDotsPerInch * inches);
  pictures.drawIn(document);
  document.setHtml(QString::fromStdString(*page));
  document.print(&paper);
  return core::Done{};
}

core::Status writePrinted(const std::string& path, const report::Source& source) {
  if (auto fine = report::checkReport(source.judgement); !fine) return fine;
  const std::string ending = session::endingOf(path);
  if (ending == ".pdf") return session::writeOutput(path, [&](QIODevice& file) { return writePdfTo(file, source); });
  if (ending == ".png") return session::writeOutput(path, [&](QIODevice& file) { return writePngTo(file, source); });
  return core::Error{core::ErrorKind::OutOfRange, "this is neither a PDF nor a PNG", path, "Name it .pdf or .png"};
}

core::Status writePrintedOf(const std::string& study_path, const std::string& path, session::ReportWish wish) {
  return session::withSession(study_path, [&](session::Session& session) -> core::Status {
    const core::Record record = store::recordOf(session.recorded());
    const core::Judgement judgement = core::judgementOf(session.study(), record);
    const auto source = session::reportSource(session.open(), record, judgement, wish);
    return source ? writePrinted(path, *source) : source.error();
  });
}

}  // namespace app
