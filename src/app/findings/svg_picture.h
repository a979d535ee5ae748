#pragma once

#include <QImage>
#include <QWidget>
#include <functional>
#include <string>

#include "core/judgement/judgement.h"
#include "report/report.h"

namespace app {

/// SVG as a picture, `scale` times as fine: what the report shows, for where no SVG can be shown.
[[nodiscard]] QImage pictureOf(const std::string& svg, const report::Palette& palette, double scale = 1);

/// The lever chart as a picture, `width` pixels wide.
[[nodiscard]] QImage leverPicture(const core::Study& study, const core::Judgement& judgement,
                                  const report::Palette& palette, int width, double scale = 1, report::Rows part = {});

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
