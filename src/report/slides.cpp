#include "report/slides.h"

#include <algorithm>
#include <cmath>
#include <utility>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/findings/lever_axis.h"
#include "core/findings/thresholds.h"
#include "report/drawing.h"
#include "report/shape_svg.h"

namespace report {
namespace {

// Words in lines of so many letters at most, broken at blanks.
std::vector<std::string> linesOf(const std::string& words, std::size_t letters) {
  std::vector<std::string> lines;
  std::string line;
  for (std::size_t at = 0; at < words.size();) {
    const std::size_t end = std::min(words.find(' ', at), words.size());
    const std::string word = words.substr(at, end - at);
    if (!line.empty() && line.size() + word.size() >= letters) lines.push_back(std::exchange(line, {}));
    line += (line.empty() ? "" : " ") + word;
    at = end + 1;
  }
  if (!line.empty()) lines.push_back(line);
  return lines;
}

struct LetterSizes {
  int large;
  int normal;
  int small;
};

/// One finding in a box: what it is, by how much, how sure, and a beam to scale.
class FindingBox {
 public:
  FindingBox(const core::Judgement& judgement, const Palette& palette, LetterSizes sizes)
      : palette_(palette), sizes_(sizes) {
    std::vector<core::LeverBeam> beams;
    for (const core::CaseFinding& one : judgement.findings.cases)
      if (one.effect) beams.push_back({one.improvement.value, one.improvement.interval, one.threshold.gain_percent});
    axis_ = core::leverAxisOf(beams);
  }

  /// How much room one takes, so wide.
  [[nodiscard]] double heightOf(const core::CaseFinding& finding, double width) const {
    const Area area{0, 0, width, 0};
    const auto lines = static_cast<double>(titleLines(finding, area).size() + verdictLines(finding, area).size());
    return kLine * sizes_.normal * (lines + 2) + 0.9 * sizes_.large + 2.6 * sizes_.normal + 3 * sizes_.small;
  }

  void drawOn(Drawing& drawing, const core::CaseFinding& finding, const Area& area) const {
    double y = area.top + sizes_.normal;
    for (const std::string& words : titleLines(finding, area)) {
      drawing.text(area.left, y, words, palette_.ink, sizes_.normal, "start", true);
      y += sizes_.normal * kLine;
    }
    y += sizes_.large * 0.9;
    drawing.text(area.left, y, core::percentText(finding.improvement.value), palette_.ink, sizes_.large, "start", true);
    y += sizes_.normal * kLine;
    const std::string interval = core::intervalText(finding.improvement);
    drawing.text(area.left, y, interval.empty() ? "no interval" : "improvement, interval " + interval + " %",
                 palette_.ink, sizes_.normal);
    y += sizes_.normal * kLine;
    for (const std::string& words : verdictLines(finding, area)) {
      drawing.text(area.left, y, words, palette_.changed, sizes_.normal);
      y += sizes_.normal * kLine;
    }
    drawBeam(drawing, finding, area, y + sizes_.small);
  }

 private:
  static constexpr double kLine = 1.35;
  [[nodiscard]] std::vector<std::string> titleLines(const core::CaseFinding& finding, const Area& area) const {
    return linesOf(finding.title, lettersIn(area, sizes_.normal));
  }
  [[nodiscard]] std::vector<std::string> verdictLines(const core::CaseFinding& finding, const Area& area) const {
    return linesOf(core::verdictText(finding.verdict, finding.threshold, finding.marks),
                   lettersIn(area, sizes_.normal));
  }
  static std::size_t lettersIn(const Area& area, int size) {
    return static_cast<std::size_t>(std::max(8.0, (area.right - area.left) / (0.58 * size)));
  }
  [[nodiscard]] double x(double percent, const Area& area) const {
    return area.left + (std::clamp(percent, axis_.low, axis_.high) - axis_.low) / (axis_.high - axis_.low) *
                           (area.right - area.left);
  }
  void drawBeam(Drawing& drawing, const core::CaseFinding& finding, const Area& area, double top) const {
    const double height = 1.6 * sizes_.normal;
    const double middle = top + height / 2;
    const double left = x(finding.threshold.loss_percent, area);
    drawing.box(left, top, x(finding.threshold.gain_percent, area) - left, height, palette_.soft_ink, 0.16);
    drawing.line(x(0, area), top - 8, x(0, area), top + height + 8, palette_.baseline, 3);
    const double from = x(std::min(0.0, finding.improvement.value), area);
    drawing.box(from, middle - 4, x(std::max(0.0, finding.improvement.value), area) - from, 8, palette_.changed);
    if (const auto& interval = finding.improvement.interval)
      drawing.box(x(interval->lo, area), middle - 14, std::max(4.0, x(interval->hi, area) - x(interval->lo, area)), 28,
                  palette_.changed, 0.85);
    for (double tick = axis_.low; tick <= axis_.high + axis_.step / 2; tick += axis_.step)
      drawing.text(x(tick, area), top + height + sizes_.small * 1.5, core::tickText(tick), palette_.soft_ink,
                   sizes_.small, "middle");
  }

  const Palette& palette_;
  LetterSizes sizes_;
  core::LeverAxis axis_;
};

std::vector<const core::CaseFinding*> toldOf(const core::Judgement& judgement) {
  std::vector<const core::CaseFinding*> told;
  for (const core::CaseFinding& one : judgement.findings.cases)
    if (one.effect && one.effect->is_log && !judgement.isSealed(judgement.pair_study.cases[one.case_index]))
      told.push_back(&one);
  return told;
}

// Differences in a result's own unit have no place on an axis of percentages, and a case without a result none at all.
std::string notShown(const core::Judgement& judgement) {
  const auto told = toldOf(judgement);
  std::string titles;
  for (const core::CaseFinding& one : judgement.findings.cases)
    if (std::find(told.begin(), told.end(), &one) == told.end()) titles += (titles.empty() ? "" : "; ") + one.title;
  return titles.empty() ? titles : "Not told in percent: " + titles + ".";
}

// One slide is shown without the others: what stops the claim stands on each.
std::string whatMoved(const core::Study& study, const core::Judgement& judgement) {
  return fmt::format("{}{}: {} from {} to {}", judgement.claim.is_stopped ? "A stop is open. " : "",
                     study.bench.empty() ? "This bench" : study.bench, study.variable().name,
                     judgement.pair_study.nameOf(core::ConfigurationId::Baseline),
                     judgement.pair_study.nameOf(core::ConfigurationId::Changed));
}

constexpr int kWide = 1920;
constexpr int kHigh = 1080;
constexpr double kEdge = 110;
constexpr LetterSizes kTalk{150, 52, 34};
constexpr LetterSizes kPhone{84, 38, 26};

std::string claimSlide(const core::Study& study, const core::Judgement& judgement, const Palette& palette) {
  const std::string claim = judgement.claim.sentence();
  Drawing drawing(palette, kWide, kHigh, claim);
  const int size = claim.size() > 220 ? 56 : 72;
  double y = 220;
  for (const std::string& words : linesOf(claim, static_cast<std::size_t>((kWide - 2 * kEdge) / (0.56 * size)))) {
    drawing.text(kEdge, y, words, palette.ink, size, "start", true);
    y += size * 1.3;
  }
  drawing.text(kEdge, kHigh - 150, cutToRoom(notShown(judgement), 640), palette.soft_ink, kTalk.small);
  drawing.text(kEdge, kHigh - 90, whatMoved(study, judgement), palette.soft_ink, kTalk.small);
  return drawing.take();
}

// A ladder, a crossing or a chain as the page has it; nothing for a pair.
std::string shapeSlide(const core::Study& study, const core::Judgement& judgement, const Palette& palette) {
  constexpr int kOwnWidth = 640;  // its small letters become the talk's small ones
  constexpr double kRoom = kHigh - 340;
  if (judgement.is_sealed || judgement.is_second_part_sealed) return {};
  const auto headline = judgement.shape.headlineCase();
  const int own_height = shapeHeight(study, static_cast<int>(kRoom * kOwnWidth / (kWide - 2 * kEdge)));
  const std::string picture = shapeSvg(study, judgement.shape, headline, palette, kOwnWidth, own_height);
  if (picture.empty()) return {};
  Drawing drawing(palette, kWide, kHigh, judgement.claim.sentence());
  const double scale = std::min((kWide - 2 * kEdge) / kOwnWidth, kRoom / own_height);
  const std::string title = headline ? study.cases[*headline].title()
                                     : fmt::format("All {} cases, equal weight", judgement.shape.suite_cases.size());
  drawing.text(kEdge, 110, cutToRoom(title, 400), palette.ink, kTalk.normal, "start", true);
  drawing.put((kWide - scale * kOwnWidth) / 2, 150, scale, picture);
  drawing.text(kEdge, kHigh - 90, study.bench.empty() ? "This bench" : study.bench, palette.soft_ink, kTalk.small);
  return drawing.take();
}

}  // namespace

std::vector<std::string> talkSvgs(const core::Study& study, const core::Judgement& judgement, const Palette& palette) {
  std::vector<std::string> slides{claimSlide(study, judgement, palette)};
  if (std::string shape = shapeSlide(study, judgement, palette); !shape.empty()) slides.push_back(std::move(shape));
  const auto told = toldOf(judgement);
  const FindingBox box(judgement, palette, kTalk);
  for (std::size_t i = 0; i < told.size(); ++i) {
    Drawing drawing(palette, kWide, kHigh, told[i]->title);
    drawing.text(kWide - kEdge, 110, fmt::format("{} of {}", i + 1, told.size()), palette.soft_ink, kTalk.small, "end");
    box.drawOn(drawing, *told[i], {kEdge, 190, kWide - kEdge, kHigh - 190});
    drawing.text(kEdge, kHigh - 90,
                 cutToRoom(fmt::format("{}; {}", whatMoved(study, judgement), told[i]->metric.name), 640),
                 palette.soft_ink, kTalk.small);
    slides.push_back(drawing.take());
  }
  return slides;
}

std::string phoneSvg(const core::Study& study, const core::Judgement& judgement, const Palette& palette) {
  constexpr int kWidth = 1080;
  constexpr double kMargin = 56;
  constexpr double kAir = 24;
  const auto told = toldOf(judgement);
  const auto lines = linesOf(judgement.claim.sentence(), 42);
  const FindingBox box(judgement, palette, kPhone);
  double height = 110 + 54 * static_cast<double>(lines.size()) + 100;
  for (const core::CaseFinding* one : told) height += kAir + box.heightOf(*one, kWidth - 2 * kMargin);
  Drawing drawing(palette, kWidth, static_cast<int>(height), judgement.claim.sentence());
  double y = 90;
  for (const std::string& words : lines) {
    drawing.text(kMargin, y, words, palette.ink, 42, "start", true);
    y += 54;
  }
  for (const core::CaseFinding* one : told) {
    drawing.line(kMargin, y, kWidth - kMargin, y, palette.line, 2);
    box.drawOn(drawing, *one, {kMargin, y + kAir, kWidth - kMargin, height});
    y += kAir + box.heightOf(*one, kWidth - 2 * kMargin);
  }
  drawing.text(kMargin, height - 70, cutToRoom(notShown(judgement), 480), palette.soft_ink, kPhone.small);
  drawing.text(kMargin, height - 30, cutToRoom(whatMoved(study, judgement), 480), palette.soft_ink, kPhone.small);
  return drawing.take();
}

std::string captionText(const core::Study& study, const core::Judgement& judgement) {
  std::string text = judgement.claim.sentence() + ".\n";
  text += fmt::format("{}. Right is better. Beam: estimate. Thick: interval at {:.4g} %. Shaded: {}.\n",
                      whatMoved(study, judgement), 100 * judgement.findings.confidence,
                      "too small to act on, threshold " + core::askedThresholdText(study));
  for (const core::CaseFinding* one : toldOf(judgement))
    text += fmt::format("{}: {}: {}.\n", one->title, core::changeText(one->improvement),
                        core::verdictText(one->verdict, one->threshold, one->marks));
  if (const std::string others = notShown(judgement); !others.empty()) text += others + '\n';
  int open = 0;
  for (const core::Doubt& doubt : judgement.doubts)
    open += !doubt.accepted_because && doubt.rank != core::DoubtRank::Note ? 1 : 0;
  if (open > 0) text += fmt::format("{} open.\n", core::countText(open, "doubt is", "doubts are"));
  return text;
}

}  // namespace report
