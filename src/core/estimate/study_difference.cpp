#include "core/estimate/study_difference.h"

#include <algorithm>
#include <cmath>

namespace core {

Result<Contrast> studyDifference(const StudyEffect& first, const StudyEffect& second, double confidence) {
  if (auto fine = checkConfidence(confidence); !fine) return fine.error();
  for (const StudyEffect& one : {first, second})
    if (!std::isfinite(one.d) || !std::isfinite(one.se) || one.se < 0 || !(one.df > 0))
      return Error{ErrorKind::OutOfRange, "an effect needs a finite d, an se of 0 or more and a df above 0", "effects",
                   "Give d, se and df as the study prints them"};
  const double first_part = first.se * first.se;
  const double second_part = second.se * second.se;
  const double variance = first_part + second_part;
  const double satterthwaite = first_part * first_part / first.df + second_part * second_part / second.df;
  return contrastFrom(second.d - first.d, std::sqrt(variance),
                      satterthwaite > 0 ? variance * variance / satterthwaite : 1, confidence,
                      std::max({1.0, std::abs(first.d), std::abs(second.d)}));
}

}  // namespace core
