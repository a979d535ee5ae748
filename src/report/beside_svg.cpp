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

/// A line for each row of a table, over its columns. Small it has no names of rows: the large one above it has.
class LinesPicture {
 public:
  LinesPicture(const core::TableAside& table, std::span<const core::Reference> references, const Palette& palette,
               const Area& place, bool is_small)
      : table_(table),
        palette_(palette),
        place_(place),
        area_{place.left + 84, place.top + 44, place.right - (is_small ? 12.0 : 136.0), place.bottom - 44},
        is_small_(is_small) {
    for (const core::Reference& one : references)
      if (one.unit == table.unit) references_.push_back(&one);
  }

  void drawOn(Drawing& drawing) const {
    const double width = place_.right - place_.left;
    drawing.text(place_.left + 8, place_.top + 20,
                 cutToRoom(fmt::format("{}, {}", table_.title, table_.unit), width - 16), palette_.ink, kNormalText,
                 "start", true);
    const auto span = spanOf();
    if (!span) return;
    const Axis axis(*span, area_);
    axis.draw(drawing, palette_, 0, [this](double value) { return core::numberText(value, table_.unit); });
    const double room = (area_.right - area_.left) / static_cast<double>(table_.columns.size()) - 12;
    for (std::size_t column = 0; column < table_.columns.size(); ++column)
      drawing.text(x(column), area_.bottom + 20, cutToRoom(table_.columns[column], room), palette_.ink,
                   is_small_ ? kSmallText : kNormalText, "middle");
    for (const core::Reference* one : references_) drawReference(drawing, *one, axis.y(one->value));
    std::vector<double> labels;
    for (std::size_t row = 0; row < table_.rows.size(); ++row) drawRow(drawing, axis, row, labels);
  }

 private:
  [[nodiscard]] std::optional<Span> spanOf() const {
    std::optional<Span> span;
    const auto take = [&](double low, double high) {
      span = span ? Span{std::min(span->low, low), std::max(span->high, high)} : Span{low, high};
    };
    for (const core::CellAside& cell : table_.cells)
      if (cell.value)
        take(std::min(*cell.value, cell.lo.value_or(*cell.value)),
             std::max(*cell.value, cell.hi.value_or(*cell.value)));
    if (!span) return span;
    for (const core::Reference* one : references_) take(one->value, one->value);
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
  // Broken: it was not measured here.
  void drawReference(Drawing& drawing, const core::Reference& one, double y) const {
    drawing.line(area_.left, y, area_.right, y, palette_.soft_ink, 1.2, "2 4");
    if (!is_small_) drawing.text(area_.left + 6, y - 5, cutToRoom(one.name, 220), palette_.soft_ink);
  }
  // Not held against the first cell: struck through, so that nobody reads it with the others.
  void drawHatch(Drawing& drawing, const core::CellAside& cell, const Axis& axis, double middle) const {
    constexpr double kHalf = 6;
    const double top = axis.y(cell.hi.value_or(*cell.value)) - 3;
    const double bottom = axis.y(cell.lo.value_or(*cell.value)) + 3;
    for (double y = top; y < bottom; y += 4)
      drawing.line(middle - kHalf, y + 4, middle + kHalf, y - 4, palette_.paper, 1.6);
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
      if (!cell->refused.empty()) drawHatch(drawing, *cell, axis, x(column));
      before = cell;
      before_column = column;
    }
    if (!before || is_small_) return;
    // Names at the ends of lines give way to each other.
    double y = axis.y(*before->value) + 4;
    while (std::any_of(labels.begin(), labels.end(), [&](double other) { return std::abs(other - y) < 15; })) y += 3;
    labels.push_back(y);
    drawing.text(x(before_column) + 16, y, cutToRoom(table_.rows[row], place_.right - x(before_column) - 24), colour,
                 kNormalText);
  }

  const core::TableAside& table_;
  std::vector<const core::Reference*> references_;
  const Palette& palette_;
  Area place_;
  Area area_;
  bool is_small_;
};

// The case that is asked about, and every other one small beneath it.
std::string tablePicture(const BesideSource& source, const Palette& palette, int width) {
  constexpr int kHeight = 320;
  constexpr int kSmallHeight = 220;
  constexpr int kInARow = 3;
  const std::vector<core::TableAside>& further = source.beside.further_tables;
  const int rows = (static_cast<int>(further.size()) + kInARow - 1) / kInARow;
  const core::TableAside& table = *source.beside.table;
  Drawing drawing(palette, width, kHeight + rows * kSmallHeight, table.title + " of each row and column");
  LinesPicture(table, source.order.references, palette, {0, 0, static_cast<double>(width), kHeight}, false)
      .drawOn(drawing);
  const double step = width / static_cast<double>(kInARow);
  for (int i = 0; i < static_cast<int>(further.size()); ++i) {
    const double left = step * (i % kInARow);
    const double top = kHeight + kSmallHeight * (i / kInARow);
    LinesPicture(further[static_cast<std::size_t>(i)], {},
                 palette,  // a number from elsewhere is of the case that is shown
                 {left, top, left + step, top + kSmallHeight}, true)
        .drawOn(drawing);
  }
  return drawing.take();
}

}  // namespace

std::string besideSvg(const BesideSource& source, const Palette& palette, int width) {
  if (source.beside.table) return tablePicture(source, palette, width);
  return BeamsPicture(source, palette, width).draw();
}

}  // namespace report
