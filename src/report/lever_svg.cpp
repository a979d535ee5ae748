// The lever chart as SVG: a beam from 0 to the estimate over the shaded zone that is too small to act on.
#include <algorithm>
#include <array>
#include <cmath>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/findings/lever_axis.h"
#include "core/findings/result_row.h"
#include "report/report.h"

namespace report {
namespace {

constexpr int kRow = 44;
constexpr int kTop = 30;
constexpr int kNames = 210;
constexpr int kWords = 310;

using Row = core::ResultRow;

// Where percentages lie, from edge to edge on round numbers.
struct Scale {
  double low = -1;
  double high = 1;
  double step = 1;
  double left = 0;
  double right = 1;
  [[nodiscard]] double x(double percent) const {
    return left + (std::clamp(percent, low, high) - low) / (high - low) * (right - left);
  }
};

Scale scaleOf(const std::vector<Row>& rows, int width) {
  std::vector<core::LeverBeam> beams;
  for (const Row& row : rows)
    if (row.percent) beams.push_back({*row.percent, row.interval, row.threshold->gain_percent});
  const core::LeverAxis axis = core::leverAxisOf(beams);
  return {axis.low, axis.high, axis.step, kNames, static_cast<double>(width - kWords)};
}

std::string text(double x, double y, const std::string& words, const char* colour, int size, const char* more = "") {
  return fmt::format("<text x=\"{:.1f}\" y=\"{:.1f}\" fill=\"{}\" font-size=\"{}\"{}>{}</text>", x, y, colour, size,
                     more, escaped(words));
}

std::string lever(const Row& row, double middle, const Scale& scale, const Palette& palette) {
  const double from = scale.x(std::min(0.0, *row.percent));
  const double to = scale.x(std::max(0.0, *row.percent));
  std::string svg = fmt::format("<rect x=\"{:.1f}\" y=\"{:.1f}\" width=\"{:.1f}\" height=\"4\" fill=\"{}\"/>", from,
                                middle - 2, to - from, palette.changed);
  if (row.interval) {
    const double lo = scale.x(row.interval->lo);
    const double hi = std::max(scale.x(row.interval->hi), lo + 3);
    svg += fmt::format(
        "<rect x=\"{:.1f}\" y=\"{:.1f}\" width=\"{:.1f}\" height=\"12\" rx=\"2\" fill=\"{}\" "
        "fill-opacity=\"0.85\"/>",
        lo, middle - 6, hi - lo, palette.changed);
    svg += fmt::format("<rect x=\"{:.1f}\" y=\"{:.1f}\" width=\"2\" height=\"12\" fill=\"{}\"/>",
                       scale.x(*row.percent) - 1, middle - 6, palette.paper);
  }
  const double zero = scale.x(0);
  return svg + fmt::format("<path d=\"M{0:.1f} {1:.1f}l6 10h-12z\" fill=\"{2}\"/>", zero, middle + 4, palette.baseline);
}

// What is too small to act on in this row: where a time a frame decides, each case has its own.
std::string zone(const core::NoticeThreshold& threshold, double top, const Scale& scale, const Palette& palette) {
  const double low = scale.x(threshold.loss_percent);
  return fmt::format(
      "<rect x=\"{:.1f}\" y=\"{:.0f}\" width=\"{:.1f}\" height=\"{}\" fill=\"{}\" fill-opacity=\"0.16\"/>", low, top,
      scale.x(threshold.gain_percent) - low, kRow, palette.soft_ink);
}

// In one line; with all of its marks in two.
std::string verdict(double x, double y, const std::string& words, const char* colour) {
  constexpr std::size_t kLine = 48;  // on paper the letters are a little wider than on a screen
  const std::size_t comma = words.size() > kLine ? words.rfind(", ", kLine) : std::string::npos;
  if (comma == std::string::npos) return text(x, y, words, colour, 11);
  return text(x, y - 1, words.substr(0, comma + 1), colour, 10) + text(x, y + 10, words.substr(comma + 2), colour, 10);
}

}  // namespace

std::size_t leverChartRows(const core::Findings& findings) { return findings.cases.size() + (findings.suite ? 1 : 0); }

std::string leverChartSvg(const core::Study& study, const core::Findings& findings, const Pins& pins,
                          const Palette& palette, int width, Rows part) {
  const std::vector<Row> all = core::resultRows(study, findings, pins);
  const Scale scale = scaleOf(all, width);
  const std::span rows = std::span(all).subspan(std::min(part.from, all.size()),
                                                std::min(part.count, all.size() - std::min(part.from, all.size())));
  const int height = kTop + kRow * static_cast<int>(rows.size()) + 6;
  std::string svg = fmt::format(
      "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {0} {1}\" width=\"{0}\" height=\"{1}\" "
      "font-family=\"B612, sans-serif\" role=\"img\" aria-label=\"Change of each case in percent\">"
      "<rect width=\"{0}\" height=\"{1}\" fill=\"{2}\"/>",
      width, height, palette.paper);
  for (double tick = scale.low; tick <= scale.high + scale.step / 2; tick += scale.step) {
    const bool is_zero = std::abs(tick) < scale.step / 2;
    svg += fmt::format("<path d=\"M{0:.1f} {1}V{2}\" stroke=\"{3}\" stroke-width=\"{4}\"/>", scale.x(tick), kTop - 4,
                       height, is_zero ? palette.baseline : palette.line, is_zero ? 1.5 : 1);
    svg += text(scale.x(tick), kTop - 12, core::tickText(tick), palette.soft_ink, 11, " text-anchor=\"middle\"");
  }
  double top = kTop;
  for (const Row& row : rows) {
    if (row.threshold) svg += zone(*row.threshold, top, scale, palette);
    svg += text(8, top + 17, row.title, palette.ink, 13, !row.case_index ? " font-weight=\"bold\"" : "");
    svg += text(8, top + 32, row.remark.empty() ? row.subtitle : row.subtitle + " · pinned: " + row.remark,
                palette.soft_ink, 11);
    svg += text(width - kWords + 14, top + 17, row.change, palette.ink, 13, " font-weight=\"bold\"");
    svg += verdict(width - kWords + 14, top + 32, row.verdict, palette.soft_ink);
    if (row.percent) svg += lever(row, top + 20, scale, palette);
    top += kRow;
  }
  return svg + "</svg>";
}

}  // namespace report
