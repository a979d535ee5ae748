#include "core/study/look_confidences.h"

#include <fmt/format.h>

#include "core/estimate/contrast.h"
#include "core/estimate/spending.h"

namespace core {

std::vector<double> lookConfidences(const Study& study) {
  const Plan& plan = study.plan;
  if (plan.looks.empty() || plan.order != Order::BalancedShuffle) return {study.confidence};
  if (plan.look_price == LookPrice::Thirds)
    return std::vector<double>(plan.looks.size(), 1 - (1 - study.confidence) / 3);
  std::vector<double> fractions;
  for (const int look : plan.looks) fractions.push_back(static_cast<double>(look) / plan.looks.back());
  return spentConfidences(fractions, study.confidence);
}

double endConfidence(const Study& study) { return lookConfidences(study).back(); }

std::string confidenceText(double confidence) {
  const std::string three = fmt::format("{:.3g}", 100 * confidence);
  return (three == "100" ? fmt::format("{:.4g}", 100 * confidence) : three) + " %";
}

std::string lookPriceText(const Study& study) {
  const std::vector<double> each = lookConfidences(study);
  if (each.size() < 2) return {};
  const double df = study.plan.rounds - 1;
  const double wider = tQuantile(df, each.back()) / tQuantile(df, study.confidence) - 1;
  std::string text = "Looked at after round ";
  for (std::size_t i = 0; i + 1 < each.size(); ++i)
    text += fmt::format("{}{} at {:.4g} %", i > 0 ? ", " : "", study.plan.looks[i], 100 * each[i]);
  return text + fmt::format(" confidence, at the end at {:.4g} %: there the interval is {:.1f} % wider for it",
                            100 * each.back(), 100 * wider);
}

}  // namespace core
