#include "report/drawing.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "core/findings/lever_axis.h"

namespace report {

Drawing::Drawing(const Palette& palette, int width, int height, const std::string& label) : palette_(palette) {
  svg_ = fmt::format(
      "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {0} {1}\" width=\"{0}\" height=\"{1}\" "
      "font-family=\"B612, sans-serif\" role=\"img\" aria-label=\"{2}\"><rect width=\"{0}\" height=\"{1}\" "
      "fill=\"{3}\"/>",
      width, height, escaped(label), palette.paper);
}

void Drawing::text(double x, double y, const std::string& words, const std::string& colour, int size,
                   const char* anchor, bool is_bold) {
  svg_ += fmt::format("<text x=\"{:.1f}\" y=\"{:.1f}\" fill=\"{}\" font-size=\"{}\" text-anchor=\"{}\"{}>{}</text>", x,
                      y, colour, size, anchor, is_bold ? " font-weight=\"bold\"" : "", escaped(words));
}

void Drawing::line(double x1, double y1, double x2, double y2, const std::string& colour, double width,
                   const char* dashes) {
  svg_ += fmt::format("<path d=\"M{:.1f} {:.1f}L{:.1f} {:.1f}\" stroke=\"{}\" stroke-width=\"{:g}\" fill=\"none\"{}/>",
                      x1, y1, x2, y2, colour, width, *dashes ? fmt::format(" stroke-dasharray=\"{}\"", dashes) : "");
}

void Drawing::box(double x, double y, double width, double height, const std::string& colour, double opacity) {
  svg_ += fmt::format(
      "<rect x=\"{:.1f}\" y=\"{:.1f}\" width=\"{:.1f}\" height=\"{:.1f}\" rx=\"2\" fill=\"{}\" fill-opacity=\"{:g}\"/>",
      x, y, std::max(0.0, width), std::max(0.0, height), colour, opacity);
}

void Drawing::frame(double x, double y, double width, double height) {
  svg_ += fmt::format(
      "<rect x=\"{:.1f}\" y=\"{:.1f}\" width=\"{:.1f}\" height=\"{:.1f}\" rx=\"3\" fill=\"none\" stroke=\"{}\"/>", x, y,
      std::max(0.0, width), std::max(0.0, height), palette_.line);
}

void Drawing::block(double x, double y, double lo, double hi, const std::string& colour) {
  const double top = std::min({lo, hi, y - 3});
  const double bottom = std::max({lo, hi, y + 3});
  box(x - 6, top, 12, bottom - top, colour, 0.85);
  box(x - 6, y - 1, 12, 2, palette_.paper);
}

void Drawing::put(double x, double y, double scale, const std::string& svg) {
  const std::size_t begin =
      svg.find('>') + 1;  // a group instead of what stands around it: not everything nests pictures
  svg_ += fmt::format("<g transform=\"translate({:.1f} {:.1f}) scale({:.4f})\">{}</g>", x, y, scale,
                      svg.substr(begin, svg.rfind("</svg>") - begin));
}

std::string Drawing::take() { return svg_ + "</svg>"; }

Axis::Axis(Span values, const Area& area)
    : area_(area), step_(core::roundStep(std::max(values.high - values.low, 0.5), 5)) {
  low_ = std::floor(values.low / step_ + 1e-9) * step_;
  high_ = std::ceil(values.high / step_ - 1e-9) * step_;
  if (high_ <= low_) high_ = low_ + step_;
}

double Axis::y(double value) const {
  return area_.bottom - (value - low_) / (high_ - low_) * (area_.bottom - area_.top);
}

std::string cutToRoom(const std::string& words, double room) {
  constexpr double kLetter = 6.6;
  const auto most = static_cast<std::size_t>(std::max(3.0, room / kLetter));
  if (words.size() <= most) return words;
  std::size_t end = most - 1;
  while (end > 0 && (static_cast<unsigned char>(words[end]) & 0xC0) == 0x80) --end;
  return words.substr(0, end) + "…";
}

}  // namespace report
