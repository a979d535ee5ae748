#include "app/findings/lever_picture.h"

#include <QPainter>
#include <QSvgRenderer>

namespace app {

QImage leverPicture(const core::Study& study, const core::Judgement& judgement, const report::Palette& palette,
                    int width, double scale, report::Rows part) {
  QByteArray svg =
      QByteArray::fromStdString(report::leverChartSvg(study, judgement.findings, judgement.pins, palette, width, part));
  svg.replace("B612, sans-serif", "B612");  // the renderer knows no second choice
  QSvgRenderer renderer(svg);
  const QSizeF size = QSizeF(renderer.defaultSize()) * scale;
  QImage picture(size.toSize(), QImage::Format_ARGB32_Premultiplied);
  picture.fill(QColor(QLatin1String(palette.paper)));
  QPainter painter(&picture);
  renderer.render(&painter);
  return picture;
}

}  // namespace app
