#pragma once

#include <QObject>
#include <QString>
#include <QSvgRenderer>
#include <QTextObjectInterface>
#include <memory>
#include <string>
#include <vector>

#include "report/report.h"

namespace app {

/// The report's charts for a text document, which shows no SVG by itself: drawn where its text names them, when they
/// come into sight, as fine as the screen or the paper is.
class ReportPictures final : public QObject, public QTextObjectInterface {
  Q_OBJECT
  Q_INTERFACES(QTextObjectInterface)
 public:
  using QObject::QObject;

  void make(const core::Study& study, const core::Judgement& judged, const report::Palette& palette);
  /// What stands for them in the page, `width` wide each.
  [[nodiscard]] report::Charts markup(int width) const;
  /// Outlives the document.
  void drawIn(QTextDocument& document);

  QSizeF intrinsicSize(QTextDocument* document, int position, const QTextFormat& format) override;
  void drawObject(QPainter* painter, const QRectF& at, QTextDocument* document, int position,
                  const QTextFormat& format) override;

 private:
  struct Picture {
    QString name;
    std::string svg;
    bool is_shape = false;
    std::unique_ptr<QSvgRenderer> drawn;
  };
  void put(std::size_t place, Picture picture);

  std::vector<Picture> pictures_;
};

}  // namespace app
