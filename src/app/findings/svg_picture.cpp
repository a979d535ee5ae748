#include "app/findings/svg_picture.h"

#include <QPainter>
#include <QSvgRenderer>

namespace app {

QByteArray forRenderer(const std::string& svg) {
  QByteArray bytes = QByteArray::fromStdString(svg);
  bytes.replace("B612, sans-serif", "B612");  // the renderer knows no second choice
  return bytes;
}

QImage pictureOf(const std::string& svg, double scale) {
  QSvgRenderer renderer(forRenderer(svg));
  const QSizeF size = QSizeF(renderer.defaultSize()) * scale;
  QImage picture(size.toSize(), QImage::Format_ARGB32_Premultiplied);
  picture.fill(Qt::transparent);  // each has a ground of its own
  QPainter painter(&picture);
  renderer.render(&painter);
  return picture;
}

SvgPicture::SvgPicture(QWidget* parent) : QWidget(parent) { setMinimumHeight(190); }

void SvgPicture::setMaker(Maker maker) {
  maker_ = std::move(maker);
  update();
}

void SvgPicture::paintEvent(QPaintEvent*) {
  if (!maker_) return;
  const std::string svg = maker_(size());
  if (svg.empty()) return;
  QPainter painter(this);
  QSvgRenderer(forRenderer(svg)).render(&painter, QRectF(rect()));
}

}  // namespace app
