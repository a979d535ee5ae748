#pragma once

#include <QImage>
#include <QWidget>
#include <functional>
#include <string>

namespace app {

/// SVG as the renderer reads it.
[[nodiscard]] QByteArray forRenderer(const std::string& svg);

/// SVG as a picture, `scale` times as fine: for where no SVG can be shown.
[[nodiscard]] QImage pictureOf(const std::string& svg, double scale = 1);

/// SVG that is drawn for whatever room there is.
class SvgPicture final : public QWidget {
  Q_OBJECT
 public:
  using Maker = std::function<std::string(const QSize&)>;
  explicit SvgPicture(QWidget* parent = nullptr);
  void setMaker(Maker maker);

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  Maker maker_;
};

}  // namespace app
