#include "core/estimate/verdict.h"

#include <fmt/format.h>

namespace core {
const char* verdictName(Verdict verdict) {
  switch (verdict) {
    case Verdict::Gain: return "gain";
    case Verdict::Loss: return "loss";
    case Verdict::RealButNegligible: return "real but negligible";
    case Verdict::NoDifferenceThatMatters: return "no difference that matters";
    case Verdict::GainSizeNotSettled: return "gain, size not settled";
    case Verdict::LossSizeNotSettled: return "loss, size not settled";
    case Verdict::NotSettled: return "not settled";
  }
  return "unknown";
}

Verdict verdictOf(const std::optional<PercentInterval>& improvement, const NoticeThreshold& threshold) {
  if (!improvement) return Verdict::NotSettled;
  return verdictWithin(improvement->lo, improvement->hi, threshold.loss_percent, threshold.gain_percent);
}

Verdict verdictWithin(double lo, double hi, double lower, double upper) {
  if (lo > upper) return Verdict::Gain;
  if (hi < lower) return Verdict::Loss;
  if (lower < lo && hi < upper)
    return lo <= 0 && hi >= 0 ? Verdict::NoDifferenceThatMatters : Verdict::RealButNegligible;
  if (lo > 0) return Verdict::GainSizeNotSettled;
  if (hi < 0) return Verdict::LossSizeNotSettled;
  return Verdict::NotSettled;
}

std::vector<std::string> Marks::said(const char* so_far, const char* not_after_adjustment) const {
  std::vector<std::string> marks;
  if (is_so_far) marks.emplace_back(so_far);
  if (holds_if_flips_add_nothing) marks.emplace_back("if flipping adds nothing");
  if (not_after_adjustment_for)
    marks.push_back(fmt::format("{} for {} {}", not_after_adjustment, *not_after_adjustment_for, family_of));
  return marks;
}

std::vector<std::string> Marks::names() const { return said("so far", "not after adjustment"); }
std::vector<std::string> Marks::words() const { return said("provisional", "does not survive the adjustment"); }

}  // namespace core
