#include "core/estimate/yardsticks.h"

#include "core/estimate/verdict.h"
#include "core/values/percent.h"

namespace core {

const char* yardstickName(Yardstick yardstick) {
  switch (yardstick) {
    case Yardstick::Interval: return "interval";
    case Yardstick::FixedBand: return "fixed band";
    case Yardstick::TwoRunToRunSds: return "two run-to-run sds";
  }
  return "unknown";
}

const char* standingName(Standing standing) {
  switch (standing) {
    case Standing::Gain: return "gain";
    case Standing::Loss: return "loss";
    case Standing::Within: return "within";
  }
  return "unknown";
}

Standing byFixedBand(double improvement_percent, double band_percent) {
  if (improvement_percent > band_percent) return Standing::Gain;
  return improvement_percent < lossBoundPercent(band_percent) ? Standing::Loss : Standing::Within;
}

Standing byTwoSds(double improvement_percent, double pass_sd) {
  const double improvement = lnOfPercent(improvement_percent);
  if (improvement > 2 * pass_sd) return Standing::Gain;
  return improvement < -2 * pass_sd ? Standing::Loss : Standing::Within;
}

double twoSdsPercent(double pass_sd) { return percentOfLn(2 * pass_sd); }

}  // namespace core
