#include "report/noise_svg.h"

#include <algorithm>

#include <fmt/format.h>

#include "core/values/percent.h"
#include "core/values/utc_text.h"
#include "report/drawing.h"

namespace report {
namespace {

constexpr std::int64_t kDay_ms = 86'400'000;

class NoisePicture {
 public:
  NoisePicture(const std::vector<NoiseSeen>& seen, const Palette& palette, int width, int height)
      : seen_(seen), palette_(palette), area_{58, 34, width - 16.0, height - 28.0}, width_(width), height_(height) {
    from_ms_ = to_ms_ = seen.front().at_ms;
    for (const NoiseSeen& one : seen) {
      from_ms_ = std::min(from_ms_, one.at_ms);
      to_ms_ = std::max(to_ms_, one.at_ms);
      for (const auto& sd : {one.pass_sd, one.flip_sd})
        if (sd) highest_ = std::max(highest_, core::percentOfLn(*sd));
    }
    from_ms_ -= kDay_ms;
    to_ms_ += kDay_ms;
  }

  std::string draw(const std::vector<std::int64_t>& changed_ms) const {
    Drawing drawing(palette_, width_, height_, "Noise of the bench over time");
    dot(drawing, 12, 14);
    drawing.text(24, 18, "from pass to pass", palette_.ink);
    square(drawing, 150, 14);
    drawing.text(162, 18, "what a flip adds", palette_.ink);
    drawing.line(290, 6, 290, 22, palette_.soft_ink, 1, "3 3");
    drawing.text(298, 18, "something of the bench changed", palette_.ink);
    const Axis axis({0, highest_ * 1.1}, area_);
    axis.draw(drawing, palette_, 0, [](double value) { return fmt::format("{:.2g} %", value); });
    for (const std::int64_t at : changed_ms)
      if (at > from_ms_ && at < to_ms_)
        drawing.line(x(at), area_.top, x(at), area_.bottom, palette_.soft_ink, 1, "3 3");
    for (const NoiseSeen& one : seen_) {
      if (one.pass_sd) dot(drawing, x(one.at_ms), axis.y(core::percentOfLn(*one.pass_sd)));
      if (one.flip_sd) square(drawing, x(one.at_ms), axis.y(core::percentOfLn(*one.flip_sd)));
    }
    drawing.text(area_.left, height_ - 8, core::utcDayText(from_ms_ + kDay_ms), palette_.soft_ink);
    if (to_ms_ - from_ms_ > 3 * kDay_ms)
      drawing.text(area_.right, height_ - 8, core::utcDayText(to_ms_ - kDay_ms), palette_.soft_ink, kSmallText, "end");
    return drawing.take();
  }

 private:
  [[nodiscard]] double x(std::int64_t ms) const {
    return area_.left +
           static_cast<double>(ms - from_ms_) / static_cast<double>(to_ms_ - from_ms_) * (area_.right - area_.left);
  }
  // Flat and high: told apart by shape, too.
  void dot(Drawing& drawing, double x, double y) const { drawing.box(x - 4, y - 2.5, 8, 5, palette_.baseline, 0.8); }
  void square(Drawing& drawing, double x, double y) const { drawing.box(x - 4, y - 4, 8, 8, palette_.changed, 0.8); }

  const std::vector<NoiseSeen>& seen_;
  const Palette& palette_;
  Area area_;
  int width_;
  int height_;
  std::int64_t from_ms_ = 0;
  std::int64_t to_ms_ = 0;
  double highest_ = 0;
};

}  // namespace

std::string noiseSvg(const std::vector<NoiseSeen>& seen, const std::vector<std::int64_t>& changed_ms,
                     const Palette& palette, int width, int height) {
  if (seen.empty()) return {};
  return NoisePicture(seen, palette, width, height).draw(changed_ms);
}

}  // namespace report
