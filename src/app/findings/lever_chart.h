#pragma once

#include <QStyledItemDelegate>
#include <QWidget>

#include "app/model/lever_model.h"

namespace app {

/// Where percent become pixels, for the axis and for every row alike.
struct LeverScale {
  double low = -5;
  double high = 5;
  int left = 0;
  int right = 100;
  [[nodiscard]] double x(double percent) const { return left + (percent - low) / (high - low) * (right - left); }
  /// The scale of a row or an axis `width` pixels wide.
  [[nodiscard]] static LeverScale of(const LeverModel& model, int width);
};

/// Paints one lever: a beam on a fulcrum at 0 % that reaches to the estimate.
class LeverDelegate final : public QStyledItemDelegate {
  Q_OBJECT
 public:
  explicit LeverDelegate(const LeverModel& model, QObject* parent) : QStyledItemDelegate(parent), model_(model) {}
  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override;
  [[nodiscard]] QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override;

 private:
  const LeverModel& model_;
};

/// The ticks above the levers.
class LeverAxis final : public QWidget {
  Q_OBJECT
 public:
  explicit LeverAxis(const LeverModel& model, QWidget* parent = nullptr);

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  const LeverModel& model_;
};

}  // namespace app
