#include "report/chain_svg.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/findings/contrast_rows.h"
#include "core/values/percent.h"
#include "report/drawing.h"
#include "report/shape_svg.h"

namespace report {
namespace {

/// A staircase: each step begins where the one before ended.
class ChainPicture {
  static constexpr double kTextRow = 18;  // that the usual letters need

 public:
  ChainPicture(const core::Study& study, const core::ShapeFindings& findings, std::optional<std::size_t> of,
               const Palette& palette, int width, int height)
      : study_(study),
        chain_(findings.chainOf(of)),
        palette_(palette),
        width_(width),
        height_(height),
        drawing_(palette, width, height, "Where the change along the chain comes from") {}

  std::string draw() {
    if (chain_ == nullptr) return {};
    constexpr double kNames = 230;
    const std::size_t count = chain_->chain.steps.size() + 1;
    const double row = std::min(44.0, (height_ - 58) / static_cast<double>(count));
    const int text = row < kTextRow ? kSmallText : kNormalText;
    const Span span = reach();
    const auto x = [&](double ln) {
      return kNames + (ln - span.low) / (span.high - span.low) * (width_ - kNames - 220);
    };
    drawing_.text(16, 20, fmt::format("{} in all", core::changeText(chain_->total)), palette_.ink, kNormalText, "start",
                  true);
    double at = 0;
    drawing_.text(16, 34 + row * 0.6, cutToRoom(study_.nameOf(core::configurationAt(0)), kNames - 20), palette_.ink,
                  text);
    drawing_.line(x(0), 34, x(0), 34 + row, palette_.baseline, 2);
    for (std::size_t step = 0; step + 1 < count; ++step) {
      const double top = 34 + row * static_cast<double>(step + 1);
      const double next = at + chain_->chain.steps[step].difference;
      drawing_.text(16, top + row * 0.6, cutToRoom(study_.nameOf(core::configurationAt(step + 1)), kNames - 20),
                    palette_.ink, text);
      drawing_.box(x(std::min(at, next)), top + row * 0.2, std::abs(x(next) - x(at)), row * 0.6,
                   stepColour(palette_, step + 1, count), 0.85);
      drawing_.line(x(at), top - 5, x(at), top + 5, palette_.soft_ink, 1, "3 2");
      drawing_.text(std::max(x(at), x(next)) + 10, top + row * 0.6, stepText(step), palette_.ink, text);
      at = next;
    }
    drawing_.line(x(at), 34 + row * static_cast<double>(count) - 5, x(at), 34 + row * static_cast<double>(count) + 6,
                  palette_.changed, 2);
    return drawing_.take();
  }

 private:
  [[nodiscard]] Span reach() const {
    Span span{0, 0};
    double at = 0;
    for (const core::LossStep& step : chain_->chain.steps) {
      at += step.difference;
      span.low = std::min(span.low, at);
      span.high = std::max(span.high, at);
    }
    if (span.high - span.low < 1e-6) span.high = span.low + 0.01;
    return span;
  }

  // "24 % of it (22 to 26)", or the step itself where the whole is not clear of zero.
  [[nodiscard]] std::string stepText(std::size_t place) const {
    const core::LossStep& step = chain_->chain.steps[place];
    const std::string own = core::percentText(core::percentOfLn(step.difference));
    if (!chain_->chain.is_clear_of_zero) return own;
    return own + ", " + core::shareText(step);
  }

  const core::Study& study_;
  const core::ChainFinding* chain_;
  const Palette& palette_;
  double width_;
  double height_;
  Drawing drawing_;
};

}  // namespace

std::string chainSvg(const core::Study& study, const core::ShapeFindings& findings,
                     std::optional<std::size_t> case_index, const Palette& palette, int width, int height) {
  return ChainPicture(study, findings, case_index, palette, width, height).draw();
}

}  // namespace report
