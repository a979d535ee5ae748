#pragma once

#include <QWidget>

#include "app/model/bench_view_model.h"

namespace app {

/// Draws the ways through the machine, processor on the left: each hop with its grade and rate, the narrowest as a
/// neck.
class PathDrawing final : public QWidget {
  Q_OBJECT
 public:
  explicit PathDrawing(QWidget* parent = nullptr);
  void show(std::vector<PathRow> rows);
  [[nodiscard]] QSize sizeHint() const override;
  [[nodiscard]] QSize minimumSizeHint() const override { return sizeHint(); }

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  void paintRow(QPainter& painter, const PathRow& row, int top) const;
  void paintHop(QPainter& painter, const PathRow::Hop& hop, const QRect& place, const QColor& colour) const;
  std::vector<PathRow> rows_;
};

}  // namespace app
