// Studies beside each other as a picture.
#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "core/beside/level_means.h"
#include "core/estimate/wording.h"
#include "core/findings/lever_axis.h"
#include "core/findings/thresholds.h"
#include "report/beside_page.h"
#include "report/drawing.h"
#include "report/shape_svg.h"

namespace report {
namespace {

using core::PercentChange;

/// A beam of a row: whose it is, and how far it reaches.
struct Beam {
  std::size_t study = 0;
  PercentChange change;
};

/// Rows of beams on one fulcrum.
class BeamsPicture {
  static constexpr double kTop = 52;
  static constexpr double kBeamHeight = 18;
  static constexpr double kAir = 16;
  static constexpr double kNames = 216;
  static constexpr double kWords = 330;

 public:
  BeamsPicture(const BesideSource& source, const Palette& palette, int width)
      : source_(source), palette_(palette), width_(width) {
    for (const core::RowAside& row : source.beside.rows) beams_.push_back(beamsOf(row));
  }

  std::string draw() {
    std::vector<core::LeverBeam> all;
    for (const auto& row : beams_)
      for (const Beam& beam : row) all.push_back({beam.change.value, beam.change.interval, threshold().gain_percent});
    axis_ = core::leverAxisOf(all);
    double height = kTop + 8;
    for (std::size_t i = 0; i < beams_.size(); ++i) height += heightOf(i);
    Drawing drawing(palette_, width_, static_cast<int>(height), "What each study says of each case, in percent");
    drawKey(drawing);
    for (double tick = axis_.low; tick <= axis_.high + axis_.step / 2; tick += axis_.step) {
      const bool is_zero = std::abs(tick) < axis_.step / 2;
      drawing.line(x(tick), kTop - 4, x(tick), height, is_zero ? palette_.baseline : palette_.line, is_zero ? 1.5 : 1);
      drawing.text(x(tick), kTop - 10, core::tickText(tick), palette_.soft_ink, kSmallText, "middle");
    }
    double top = kTop;
    for (std::size_t i = 0; i < beams_.size(); ++i) {
      drawRow(drawing, i, top);
      top += heightOf(i);
    }
    return drawing.take();
  }

 private:
  [[nodiscard]] core::NoticeThreshold threshold() const {
    return core::noticeThreshold(source_.studies.front().study->notice_threshold_percent);
  }
  // Between levels there is one beam: the others' level is the zero.
  [[nodiscard]] std::vector<Beam> beamsOf(const core::RowAside& row) const {
    std::vector<Beam> beams;
    if (source_.order.kind == core::BesideKind::LevelsBetweenBenches) {
      if (row.difference) beams.push_back({source_.studies.size() - 1, row.difference->percent});
      return beams;
    }
    for (const core::EffectAside& effect : row.effects)
      if (effect.improvement) beams.push_back({effect.study, *effect.improvement});
    return beams;
  }
  [[nodiscard]] double heightOf(std::size_t row) const {
    return kAir + kBeamHeight * static_cast<double>(std::max<std::size_t>(2, beams_[row].size()));
  }
  [[nodiscard]] double x(double percent) const {
    return kNames + (std::clamp(percent, axis_.low, axis_.high) - axis_.low) / (axis_.high - axis_.low) *
                        (width_ - kNames - kWords);
  }
  [[nodiscard]] std::string colourOf(std::size_t study) const {
    return stepColour(palette_, study, std::max<std::size_t>(2, source_.studies.size()));
  }

  void drawKey(Drawing& drawing) const {
    double at = 8;
    for (std::size_t i = 0; i < source_.studies.size(); ++i) {
      const std::string name = cutToRoom(source_.studies[i].name, 300);
      drawing.box(at, 9, 18, 8, colourOf(i));
      drawing.text(at + 24, 18, name, palette_.ink, kNormalText);
      at += 48 + 7.6 * static_cast<double>(name.size());
    }
  }
  void drawRow(Drawing& drawing, std::size_t row, double top) const {
    const core::RowAside& one = source_.beside.rows[row];
    const double height = heightOf(row);
    const core::NoticeThreshold zone = threshold();
    drawing.box(x(zone.loss_percent), top, x(zone.gain_percent) - x(zone.loss_percent), height, palette_.soft_ink,
                0.16);
    const bool is_all = one.title == core::kAllCases;
    drawing.text(8, top + height / 2 + 4, cutToRoom(core::rowTitle(one), kNames - 20), palette_.ink, kNormalText,
                 "start", is_all);
    for (std::size_t i = 0; i < beams_[row].size(); ++i)
      drawBeam(drawing, beams_[row][i], top + kAir / 2 + kBeamHeight * (static_cast<double>(i) + 0.5));
    drawing.line(8, top + height, width_ - 8, top + height, palette_.line);
    drawWords(drawing, one, top + height / 2);
    if (row == 0) drawReferences(drawing, top + height - 6);
  }
  void drawBeam(Drawing& drawing, const Beam& beam, double middle) const {
    const std::string colour = colourOf(beam.study);
    const double from = x(std::min(0.0, beam.change.value));
    drawing.box(from, middle - 1.5, x(std::max(0.0, beam.change.value)) - from, 3, colour);
    if (!beam.change.interval) return;
    const double lo = x(beam.change.interval->lo);
    drawing.box(lo, middle - 5, std::max(3.0, x(beam.change.interval->hi) - lo), 10, colour, 0.85);
    drawing.box(x(beam.change.value) - 1, middle - 5, 2, 10, palette_.paper);
  }
  void drawWords(Drawing& drawing, const core::RowAside& row, double middle) const {
    const double left = width_ - kWords + 14;
    if (!row.difference) {
      drawing.text(left, middle + 4, cutToRoom(row.why_no_difference, kWords - 20), palette_.soft_ink);
      return;
    }
    drawing.text(left, middle - 2, core::changeText(row.difference->percent), palette_.ink, kNormalText, "start", true);
    drawing.text(left, middle + 13, cutToRoom(core::verdictAside(row, source_.studies), kWords - 20),
                 palette_.soft_ink);
  }
  // Hollow: it was not measured here.
  void drawReferences(Drawing& drawing, double y) const {
    for (const core::Reference& one : source_.order.references) {
      if (one.unit != "%" || one.value < axis_.low || one.value > axis_.high) continue;
      const double at = x(one.value);
      for (const auto& [dx1, dy1, dx2, dy2] : {std::array{-5, 0, 0, -5}, {0, -5, 5, 0}, {5, 0, 0, 5}, {0, 5, -5, 0}})
        drawing.line(at + dx1, y + dy1, at + dx2, y + dy2, palette_.ink, 1.4);
      drawing.text(at + 9, y + 4, cutToRoom(one.name, 120), palette_.soft_ink);
    }
  }

  const BesideSource& source_;
  const Palette& palette_;
  int width_;
  std::vector<std::vector<Beam>> beams_;
  core::LeverAxis axis_;
};

/// A line for each row of a table, over its columns.
class LinesPicture {
  static constexpr int kHeight = 320;

 public:
  LinesPicture(const BesideSource& source, const Palette& palette, int width)
      : table_(*source.beside.table), palette_(palette), area_{84, 44, width - 220.0, kHeight - 44.0}, width_(width) {}

  std::string draw() const {
    Drawing drawing(palette_, width_, kHeight, table_.title + " of each row and column");
    drawing.text(8, 20, fmt::format("{}, {}", table_.title, table_.unit), palette_.ink, kNormalText, "start", true);
    const auto span = spanOf();
    if (!span) return drawing.take();
    const Axis axis(*span, area_);
    axis.draw(drawing, palette_, 0, [this](double value) { return core::numberText(value, table_.unit); });
    const double room = (area_.right - area_.left) / static_cast<double>(table_.columns.size()) - 12;
    for (std::size_t column = 0; column < table_.columns.size(); ++column)
      drawing.text(x(column), area_.bottom + 20, cutToRoom(table_.columns[column], room), palette_.ink, kNormalText,
                   "middle");
    std::vector<double> labels;
    for (std::size_t row = 0; row < table_.rows.size(); ++row) drawRow(drawing, axis, row, labels);
    return drawing.take();
  }

 private:
  [[nodiscard]] std::optional<Span> spanOf() const {
    std::optional<Span> span;
    for (const core::CellAside& cell : table_.cells) {
      if (!cell.value) continue;
      if (!span) span = Span{*cell.value, *cell.value};
      span->low = std::min({span->low, *cell.value, cell.lo.value_or(*cell.value)});
      span->high = std::max({span->high, *cell.value, cell.hi.value_or(*cell.value)});
    }
    return span;
  }
  [[nodiscard]] double x(std::size_t column) const {
    const double count = static_cast<double>(table_.columns.size());
    return area_.left + (area_.right - area_.left) * (static_cast<double>(column) + 0.5) / count;
  }
  [[nodiscard]] const core::CellAside* at(std::size_t row, std::size_t column) const {
    for (const core::CellAside& cell : table_.cells)
      if (cell.row == table_.rows[row] && cell.column == table_.columns[column] && cell.value) return &cell;
    return nullptr;
  }
  void drawRow(Drawing& drawing, const Axis& axis, std::size_t row, std::vector<double>& labels) const {
    const std::string colour = stepColour(palette_, row, std::max<std::size_t>(2, table_.rows.size()));
    const core::CellAside* before = nullptr;
    std::size_t before_column = 0;
    for (std::size_t column = 0; column < table_.columns.size(); ++column) {
      const core::CellAside* cell = at(row, column);
      if (!cell) continue;
      const double y = axis.y(*cell->value);
      if (before)
        drawing.line(x(before_column), axis.y(*before->value), x(column), y, colour, 2,
                     cell->refused.empty() && before->refused.empty() ? "" : "4 4");
      drawing.block(x(column), y, axis.y(cell->hi.value_or(*cell->value)), axis.y(cell->lo.value_or(*cell->value)),
                    colour);
      before = cell;
      before_column = column;
    }
    if (!before) return;
    // Names at the ends of lines give way to each other.
    double y = axis.y(*before->value) + 4;
    while (std::any_of(labels.begin(), labels.end(), [&](double other) { return std::abs(other - y) < 15; })) y += 3;
    labels.push_back(y);
    drawing.text(x(before_column) + 16, y, cutToRoom(table_.rows[row], width_ - x(before_column) - 24), colour,
                 kNormalText);
  }

  const core::TableAside& table_;
  const Palette& palette_;
  Area area_;
  int width_;
};

}  // namespace

std::string besideSvg(const BesideSource& source, const Palette& palette, int width) {
  if (source.beside.table) return LinesPicture(source, palette, width).draw();
  return BeamsPicture(source, palette, width).draw();
}

}  // namespace report
