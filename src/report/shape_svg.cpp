#include "report/shape_svg.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <map>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/findings/contrast_rows.h"
#include "core/findings/lever_axis.h"
#include "core/values/percent.h"
#include "report/chain_svg.h"
#include "report/drawing.h"

namespace report {
namespace {

constexpr std::size_t kCrowded = 8;  // so many names side by side need smaller letters

class LadderPicture {
 public:
  LadderPicture(const core::Study& study, const core::ShapeFindings& findings, std::optional<std::size_t> of,
                const Palette& palette, int width, int height)
      : study_(study),
        findings_(findings),
        of_(of),
        palette_(palette),
        area_{64, 46, width - 30.0, height - 66.0},
        drawing_(palette, width, height, "How far each step carries") {}

  std::string draw() {
    const core::ValuesOf* own = findings_.valuesOf(of_);
    if (own == nullptr || !bestOf(*own)) return {};
    const Axis axis({lowestShare(), 100}, area_);
    axis.draw(drawing_, palette_, 100, [](double tick) { return fmt::format("{:g} %", tick); });
    const core::LadderFinding* ladder = findings_.ladderOf(of_);
    const double zone = ladder ? 100 + ladder->threshold.loss_percent : 100;
    drawing_.box(area_.left, axis.y(100), area_.right - area_.left, axis.y(zone) - axis.y(100), palette_.soft_ink,
                 0.16);
    for (const core::ValuesOf& one : findings_.values)
      if (one.case_index && one.case_index != of_) curve(one, axis, palette_.line, 1.5);
    curve(*own, axis, palette_.changed, 2.5);
    blocks(*own, axis);
    levels();
    ceiling();
    return drawing_.take();
  }

 private:
  [[nodiscard]] std::size_t count() const { return study_.configurationCount(); }
  [[nodiscard]] double x(std::size_t place) const {
    return area_.left + (area_.right - area_.left) * (static_cast<double>(place) + 0.5) / static_cast<double>(count());
  }

  // The best level's improvement, ln.
  [[nodiscard]] static std::optional<double> bestOf(const core::ValuesOf& values) {
    std::optional<double> best;
    for (const core::ValueAt& one : values.at)
      if (one.improvement) best = std::max(best.value_or(-1e9), core::lnOfPercent(one.improvement->value));
    return best;
  }

  [[nodiscard]] static double shareOf(const core::ValueAt& value, double best) {
    return 100 * std::exp(core::lnOfPercent(value.improvement->value) - best);
  }

  [[nodiscard]] double lowestShare() const {
    double lowest = 99;
    for (const core::ValuesOf& one : findings_.values)
      for (const core::ValueAt& value : one.at)
        if (value.improvement) lowest = std::min(lowest, shareOf(value, *bestOf(one)));
    return lowest;
  }

  void curve(const core::ValuesOf& values, const Axis& axis, const std::string& colour, double width) {
    const auto best = bestOf(values);
    if (!best) return;
    std::optional<std::pair<double, double>> before;
    for (std::size_t place = 0; place < values.at.size(); ++place) {
      if (!values.at[place].improvement) continue;
      const std::pair here{x(place), axis.y(shareOf(values.at[place], *best))};
      if (before) drawing_.line(before->first, before->second, here.first, here.second, colour, width);
      before = here;
    }
  }

  // The interval is that of the shortfall against the best level.
  void blocks(const core::ValuesOf& values, const Axis& axis) {
    const core::LadderFinding* ladder = findings_.ladderOf(of_);
    for (std::size_t place = 0; place < values.at.size(); ++place) {
      if (!values.at[place].improvement) continue;
      const double share = shareOf(values.at[place], *bestOf(values));
      double lo = share;
      double hi = share;
      if (ladder && ladder->enough) {
        const core::Shortfall& shortfall = ladder->enough->levels[place];
        lo = 100 * std::exp(-shortfall.upper);
        hi = 100 * std::exp(shortfall.upper - 2 * shortfall.value);
      }
      drawing_.block(x(place), axis.y(share), axis.y(lo), axis.y(hi), stepColour(palette_, place, count()));
    }
  }

  // What a level offers stands below its name, unless the name says it: "8 lanes".
  [[nodiscard]] std::string offerAt(std::size_t place) const {
    const auto& resource = findings_.resources[place];
    if (!resource) return {};
    const std::string number = fmt::format("{:.4g}", resource->value);
    const bool is_said = study_.nameOf(core::configurationAt(place)).starts_with(number + " ");
    if (is_said) return {};
    return isCrowded() ? number : number + " " + resource->unit;
  }
  [[nodiscard]] bool isCrowded() const { return count() > kCrowded; }

  // Where the numbers stand close together their unit stands once, before them.
  void unit() {
    for (std::size_t place = 0; isCrowded() && place < count(); ++place)
      if (!offerAt(place).empty())
        return drawing_.text(area_.left - 8, area_.bottom + 33, findings_.resources[place]->unit, palette_.soft_ink,
                             kSmallText, "end");
  }

  void levels() {
    const core::LadderFinding* ladder = findings_.ladderOf(of_);
    const int text = isCrowded() ? kSmallText : kNormalText;
    unit();
    const double room = (area_.right - area_.left) / static_cast<double>(count());
    for (std::size_t place = 0; place < count(); ++place) {
      const double at = x(place);
      drawing_.text(at, area_.bottom + 18,
                    cutToRoom(study_.nameOf(core::configurationAt(place)), room * kNormalText / text), palette_.ink,
                    text, "middle", true);
      drawing_.text(at, area_.bottom + 33, offerAt(place), palette_.soft_ink, kSmallText, "middle");
      const bool has_result = findings_.valuesOf(of_)->at[place].improvement.has_value();
      const bool is_enough = ladder && ladder->enough && ladder->enough->enough == place;
      if (is_enough && ladder->is_so_far)
        drawing_.text(at, area_.bottom + 52, "▲ enough, provisional", palette_.ink, kSmallText, "middle");
      else if (is_enough)
        drawing_.text(at, area_.bottom + 52, "▲ enough", palette_.ink, kNormalText, "middle", true);
      if (!has_result) drawing_.text(at, area_.bottom + 52, "no result", palette_.soft_ink, kSmallText, "middle");
    }
  }

  void ceiling() {
    drawing_.text(area_.left, 20, "Share of the best level; each thin line a case. Shaded: too small to act on.",
                  palette_.soft_ink);
    const core::LadderFinding* ladder = findings_.ladderOf(of_);
    if (ladder == nullptr) return;
    if (const std::string words = core::ceilingText(study_, *ladder); !words.empty())
      drawing_.text(area_.right, 38, words, palette_.soft_ink, kSmallText, "end");
  }

  const core::Study& study_;
  const core::ShapeFindings& findings_;
  std::optional<std::size_t> of_;
  const Palette& palette_;
  Area area_;
  Drawing drawing_;
};

/// Left one line for each level of the other variable, right the grid of the cells.
class CrossedPicture {
 public:
  CrossedPicture(const core::Study& study, const core::ShapeFindings& findings, std::optional<std::size_t> of,
                 const Palette& palette, int width, int height)
      : study_(study),
        values_(findings.valuesOf(of)),
        palette_(palette),
        width_(width),
        height_(height),
        drawing_(palette, width, height, "What one variable does at each level of the other") {
    moved_ = study.variables[0].is_group ? 1 : 0;
    for (const core::ConfigurationId one : core::configurationsOf(study)) {
      const auto levels = study.levelsAt(one);
      cells_[{levels[moved_], levels[1 - moved_]}] = core::placeOf(one);
    }
  }

  std::string draw() {
    if (values_ == nullptr) return {};
    lines();
    grid();
    return drawing_.take();
  }

 private:
  [[nodiscard]] const std::vector<core::Level>& across() const { return study_.variables[moved_].levels; }
  [[nodiscard]] const std::vector<core::Level>& lineLevels() const { return study_.variables[1 - moved_].levels; }

  [[nodiscard]] const core::PercentChange* at(std::size_t a, std::size_t b) const {
    const auto cell = cells_.find({a, b});
    if (cell == cells_.end() || !values_->at[cell->second].improvement) return nullptr;
    return &*values_->at[cell->second].improvement;
  }

  void lines() {
    const Area area{64, 46, width_ * 0.48, height_ - 46.0};
    Span span{0, 0};
    for (const core::ValueAt& one : values_->at) {
      if (!one.improvement) continue;
      span.low = std::min(span.low, one.improvement->interval ? one.improvement->interval->lo : one.improvement->value);
      span.high =
          std::max(span.high, one.improvement->interval ? one.improvement->interval->hi : one.improvement->value);
    }
    const Axis axis(span, area);
    axis.draw(drawing_, palette_, 0, core::tickText);
    drawing_.text(area.left, 20, fmt::format("Improvement over {}", reference()), palette_.soft_ink);
    const auto x = [&](std::size_t a) {
      return area.left + (area.right - 90 - area.left) * (static_cast<double>(a) + 0.3) /
                             std::max(1.0, static_cast<double>(across().size()) - 0.4);
    };
    std::vector<LineName> names;
    for (std::size_t b = 0; b < lineLevels().size(); ++b) {
      const std::string colour = stepColour(palette_, b, lineLevels().size());
      std::optional<std::pair<double, double>> before;
      for (std::size_t a = 0; a < across().size(); ++a) {
        const core::PercentChange* value = at(a, b);
        if (value == nullptr) continue;
        const std::pair here{x(a), axis.y(value->value)};
        if (before) drawing_.line(before->first, before->second, here.first, here.second, colour, 2.2);
        drawing_.block(here.first, here.second, axis.y(value->interval ? value->interval->lo : value->value),
                       axis.y(value->interval ? value->interval->hi : value->value), colour);
        before = here;
      }
      if (before) names.push_back({before->first + 14, before->second + 4, lineLevels()[b].name, colour});
    }
    nameLines(std::move(names));
    for (std::size_t a = 0; a < across().size(); ++a)
      drawing_.text(x(a), area.bottom + 20, cutToRoom(across()[a].name, 110), palette_.ink, kNormalText, "middle",
                    true);
  }

  // Lines that end close together are named one below the other.
  struct LineName {
    double x, y;
    std::string name, colour;
  };
  void nameLines(std::vector<LineName> names) {
    constexpr double kApart = 15;
    std::sort(names.begin(), names.end(), [](const LineName& a, const LineName& b) { return a.y < b.y; });
    for (std::size_t i = 1; i < names.size(); ++i) names[i].y = std::max(names[i].y, names[i - 1].y + kApart);
    for (const LineName& one : names)
      drawing_.text(one.x, one.y, cutToRoom(one.name, 84), one.colour, kNormalText, "start", true);
  }

  // Room for the rows' names: what they need, and no more than is left beside the cells.
  [[nodiscard]] double rowNames() const {
    constexpr double kLetter = 8;
    std::size_t longest = 0;
    for (const core::Level& level : across()) longest = std::max(longest, level.name.size());
    return std::min(110.0, 12 + kLetter * static_cast<double>(longest));
  }

  void grid() {
    const double names = rowNames();
    const double left = width_ * 0.52 + names;
    const double cell = (width_ - 12 - left) / static_cast<double>(lineLevels().size());
    const double kRow = std::min(40.0, (height_ - 60) / static_cast<double>(across().size()));
    drawing_.text(left - names, 20, fmt::format("Every cell, against {}", reference()), palette_.soft_ink);
    for (std::size_t b = 0; b < lineLevels().size(); ++b)
      drawing_.text(left + cell * (static_cast<double>(b) + 0.5), 46, cutToRoom(lineLevels()[b].name, cell - 6),
                    palette_.soft_ink, kSmallText, "middle");
    for (std::size_t a = 0; a < across().size(); ++a) {
      const double top = 54 + kRow * static_cast<double>(a);
      drawing_.text(left - names, top + 22, cutToRoom(across()[a].name, names - 6), palette_.ink, kNormalText);
      for (std::size_t b = 0; b < lineLevels().size(); ++b) {
        const double x = left + cell * static_cast<double>(b);
        drawing_.frame(x + 3, top, cell - 6, kRow - 8);
        drawing_.text(x + cell / 2, top + kRow / 2, cellText(a, b), isKnown(a, b) ? palette_.ink : palette_.soft_ink,
                      kSmallText, "middle", isKnown(a, b));
      }
    }
  }

  [[nodiscard]] bool isKnown(std::size_t a, std::size_t b) const { return at(a, b) != nullptr && !isBaseline(a, b); }
  // Cards or hosts are never compared themselves: within a group each has a reference of its own.
  [[nodiscard]] bool isBaseline(std::size_t a, std::size_t b) const {
    const bool is_own = study_.variables[1 - moved_].is_group || b == study_.variables[1 - moved_].baseline;
    return a == study_.variables[moved_].baseline && is_own;
  }
  [[nodiscard]] std::string reference() const {
    const core::Variable& moved = study_.variables[moved_];
    const core::Variable& other = study_.variables[1 - moved_];
    return other.is_group ? fmt::format("{} of the same {}", moved.levels[moved.baseline].name, other.name)
                          : study_.nameOf(study_.baseline());
  }
  [[nodiscard]] std::string cellText(std::size_t a, std::size_t b) const {
    if (!cells_.contains({a, b})) return "not in the plan";
    if (isBaseline(a, b)) return "reference";
    const core::PercentChange* value = at(a, b);
    return value == nullptr ? "no result" : core::percentText(value->value);
  }

  const core::Study& study_;
  const core::ValuesOf* values_;
  const Palette& palette_;
  double width_;
  double height_;
  std::size_t moved_ = 0;
  std::map<std::pair<std::size_t, std::size_t>, std::size_t> cells_;
  Drawing drawing_;
};

int channel(const char* colour, std::size_t at) {
  int value = 0;
  std::from_chars(colour + 1 + 2 * at, colour + 3 + 2 * at, value, 16);
  return value;
}

}  // namespace

std::string stepColour(const Palette& palette, std::size_t place, std::size_t count) {
  const double share = count < 2 ? 1 : static_cast<double>(place) / static_cast<double>(count - 1);
  std::string colour = "#";
  for (std::size_t i = 0; i < 3; ++i)
    colour += fmt::format("{:02x}", static_cast<int>(std::lround((1 - share) * channel(palette.baseline, i) +
                                                                 share * channel(palette.changed, i))));
  return colour;
}

int shapeHeight(const core::Study& study, int least) {
  constexpr int kRow = 17;
  constexpr int kCell = 40;
  constexpr int kRest = 64;
  if (study.shape == core::Shape::Chain)
    return std::max(least, kRest + kRow * static_cast<int>(study.configurationCount()));
  if (study.shape != core::Shape::Crossed) return least;
  const std::size_t moved = study.variables[0].is_group ? 1 : 0;
  return std::max(least, kRest + kCell * static_cast<int>(study.variables[moved].levels.size()));
}

std::string shapeSvg(const core::Study& study, const core::ShapeFindings& findings,
                     std::optional<std::size_t> case_index, const Palette& palette, int width, int height) {
  switch (study.shape) {
    case core::Shape::Pair: return {};
    case core::Shape::Ladder: return LadderPicture(study, findings, case_index, palette, width, height).draw();
    case core::Shape::Crossed: return CrossedPicture(study, findings, case_index, palette, width, height).draw();
    case core::Shape::Chain: return chainSvg(study, findings, case_index, palette, width, height);
  }
  return {};
}

}  // namespace report
