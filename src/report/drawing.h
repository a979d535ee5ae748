#pragma once

#include <cmath>
#include <string>

#include "report/report.h"

namespace report {

inline constexpr int kSmallText = 11;
inline constexpr int kNormalText = 13;

/// Text, lines and boxes into one SVG. Every text is escaped on its way in.
class Drawing {
 public:
  /// `label`: what it shows, for whoever cannot see it.
  Drawing(const Palette& palette, int width, int height, const std::string& label);
  void text(double x, double y, const std::string& words, const std::string& colour, int size = kSmallText,
            const char* anchor = "start", bool is_bold = false);
  void line(double x1, double y1, double x2, double y2, const std::string& colour, double width = 1,
            const char* dashes = "");
  void box(double x, double y, double width, double height, const std::string& colour, double opacity = 1);
  void frame(double x, double y, double width, double height);
  /// A point with its interval: a block as high as the interval, and a line at the estimate.
  void block(double x, double y, double lo, double hi, const std::string& colour);
  /// Another drawing in it, with its own ground, enlarged by `scale`; its upper left corner at x and y.
  void put(double x, double y, double scale, const std::string& svg);
  /// The drawing; nothing can be added to it any more.
  [[nodiscard]] std::string take();

 private:
  const Palette& palette_;
  std::string svg_;
};

struct Span {
  double low = 0;
  double high = 1;
};

struct Area {
  double left, top, right, bottom;
};

/// Values up the page, on round numbers, about five of them.
class Axis {
 public:
  Axis(Span values, const Area& area);
  [[nodiscard]] double y(double value) const;
  /// A line for each step. Where they lie dense, every second one has a label, that at `reference` among them.
  template <class Label>
  void draw(Drawing& drawing, const Palette& palette, double reference, const Label& label) const {
    constexpr double kRoomForALabel = 15;
    const bool is_dense = y(low_) - y(low_ + step_) < kRoomForALabel;
    for (double tick = low_; tick <= high_ + step_ / 2; tick += step_) {
      drawing.line(area_.left, y(tick), area_.right, y(tick), palette.line);
      if (!is_dense || std::lround((tick - reference) / step_) % 2 == 0)
        drawing.text(area_.left - 8, y(tick) + 4, label(tick), palette.soft_ink, kSmallText, "end");
    }
  }

 private:
  Area area_;
  double step_;
  double low_ = 0;
  double high_ = 1;
};

/// A name that has less room than it needs, in whole letters with "…" behind them.
[[nodiscard]] std::string cutToRoom(const std::string& words, double room);

}  // namespace report
