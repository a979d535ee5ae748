#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/estimate/contrast.h"
#include "core/estimate/verdict.h"

namespace core {

/// The p of the four null hypotheses that verdicts reject. Two-sided in the sense of the interval: the interval at
/// 1 - p just still supports the claim. Each at most 1.
struct NullPs {
  double gain = 1;  ///< of "no gain that matters"
  double loss = 1;  ///< of "no loss that matters"
  double same = 1;  ///< of "a difference that matters"
  double zero = 1;  ///< of "no difference at all": the p of the contrast
  bool operator==(const NullPs&) const = default;
};

/// Of a contrast on the improvement scale, held against the loss (negative) and the gain from which on it matters, on
/// the scale of the contrast. Nothing without an interval.
[[nodiscard]] std::optional<NullPs> nullPsOf(const Contrast& improvement, double loss, double gain);

/// Four families, each over all that have p, whatever their verdicts; Holm in each. Absent ones are in none and stay
/// absent.
/// Source  Holm 1979; four families, since which null a case would test must not depend on the data. Held by vectors
[[nodiscard]] std::vector<std::optional<NullPs>> holmInFamilies(std::span<const std::optional<NullPs>> p);

/// Does a verdict hold when every p that it rests on is below `alpha`? Nothing of one that claims nothing.
[[nodiscard]] std::optional<bool> doesHold(Verdict verdict, const NullPs& adjusted, double alpha);

/// What is claimed of a comparison, and on what ground: one set wherever it is printed.
struct Claimed {
  Verdict verdict = Verdict::NotSettled;
  Marks marks;
  std::optional<NullPs> p;       ///< by itself; nothing without an interval, or where there is no verdict to have
  std::optional<NullPs> p_holm;  ///< within the families of its study; nothing for a suite, which is no member

  /// Does it surely gain, also among as many as there are? By how much may be open; what is negligible does neither.
  [[nodiscard]] bool doesGain() const {
    return !marks.not_after_adjustment_for && (verdict == Verdict::Gain || verdict == Verdict::GainSizeNotSettled);
  }
  [[nodiscard]] bool doesLose() const {
    return !marks.not_after_adjustment_for && (verdict == Verdict::Loss || verdict == Verdict::LossSizeNotSettled);
  }
};

/// Adjusts a family and marks what does not hold after it. `family_of`: what there are so many of, "cases".
/// Shapes  the members in any order; marks that they have already are kept
void adjustFamily(std::span<Claimed* const> family, double confidence, const char* family_of);

}  // namespace core
