#include "core/estimate/verdict.h"

#include <fmt/format.h>

namespace core {
namespace {

// "No difference" and "not settled" claim nothing that luck among many cases could have produced.
bool isTouchedByAdjustment(Verdict verdict) {
  return verdict != Verdict::NoDifferenceThatMatters && verdict != Verdict::NotSettled;
}

}  // namespace

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

double lossBoundPercent(double threshold_percent) { return 100.0 * (1.0 / (1.0 + threshold_percent / 100.0) - 1.0); }

Verdict verdictOf(const std::optional<PercentInterval>& improvement, double threshold_percent) {
  if (!improvement) return Verdict::NotSettled;
  return verdictWithin(improvement->lo, improvement->hi, lossBoundPercent(threshold_percent), threshold_percent);
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

std::vector<std::string> Marks::names() const {
  std::vector<std::string> names;
  if (is_so_far) names.emplace_back("so far");
  if (holds_if_flips_add_nothing) names.emplace_back("if flipping adds nothing");
  if (not_after_adjustment_for)
    names.push_back(fmt::format("not after adjustment for {} cases", *not_after_adjustment_for));
  return names;
}

Marks marksOf(Verdict verdict, const MarkEvidence& evidence) {
  Marks marks;
  marks.is_so_far = !evidence.is_plan_complete;
  marks.holds_if_flips_add_nothing = evidence.is_flip_unseen;
  if (evidence.p_holm && *evidence.p_holm >= evidence.alpha && isTouchedByAdjustment(verdict))
    marks.not_after_adjustment_for = evidence.family_size;
  return marks;
}

}  // namespace core
