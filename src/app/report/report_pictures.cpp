#include "app/report/report_pictures.h"

#include <QAbstractTextDocumentLayout>
#include <QTextDocument>
#include <QTextImageFormat>

#include "app/findings/svg_picture.h"
#include "report/shape_svg.h"

namespace app {
namespace {

constexpr int kWidth = 900;

// The lever chart stands in as many pictures as pages need. The first leaves room for the claim.
std::vector<report::Rows> chartParts(const core::Findings& findings) {
  constexpr std::size_t kFirst = 20;
  constexpr std::size_t kNext = 28;
  std::vector<report::Rows> parts;
  for (std::size_t from = 0; from < report::leverChartRows(findings); from += parts.back().count)
    parts.push_back({from, parts.empty() ? kFirst : kNext});
  return parts;
}

}  // namespace

void ReportPictures::make(const core::Study& study, const core::Judgement& judged, const report::Palette& palette) {
  const auto parts = chartParts(judged.findings);
  std::size_t count = 0;
  for (; count < parts.size(); ++count)
    put(count, {QStringLiteral("lever-chart-%1").arg(count),
                report::leverChartSvg(study, judged.findings, judged.pins, palette, kWidth, parts[count]),
                false,
                {}});
  std::string shape = report::shapeSvg(study, judged.shape, judged.shape.headlineCase(), palette, kWidth,
                                       report::shapeHeight(study, report::kShapeHeight));
  if (!shape.empty()) put(count++, {QStringLiteral("shape-picture"), std::move(shape), true, {}});
  pictures_.resize(count);
}

void ReportPictures::put(std::size_t place, Picture picture) {
  if (place >= pictures_.size()) pictures_.resize(place + 1);
  Picture& there = pictures_[place];
  if (there.name == picture.name && there.svg == picture.svg) return;  // reading SVG takes time
  picture.drawn = std::make_unique<QSvgRenderer>(forRenderer(picture.svg));
  there = std::move(picture);
}

report::Charts ReportPictures::markup(int width) const {
  report::Charts charts;
  for (const Picture& one : pictures_)
    (one.is_shape ? charts.shape : charts.lever) +=
        QStringLiteral("<p><img src=\"%1\" width=\"%2\" height=\"%3\"></p>\n")
            .arg(one.name)
            .arg(width)
            .arg(one.drawn->defaultSize().height() * width / kWidth)
            .toStdString();
  return charts;
}

void ReportPictures::drawIn(QTextDocument& document) {
  document.documentLayout()->registerHandler(QTextFormat::ImageObject, this);
}

QSizeF ReportPictures::intrinsicSize(QTextDocument*, int, const QTextFormat& format) {
  const QTextImageFormat image = format.toImageFormat();
  return {image.width(), image.height()};
}

void ReportPictures::drawObject(QPainter* painter, const QRectF& at, QTextDocument*, int, const QTextFormat& format) {
  const QString name = format.toImageFormat().name();
  for (const Picture& one : pictures_)
    if (one.name == name) one.drawn->render(painter, at);
}

}  // namespace app
