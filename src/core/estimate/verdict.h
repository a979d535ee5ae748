#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/estimate/effect.h"
#include "core/estimate/notice_threshold.h"

namespace core {

/// What an interval says about a notice threshold. The first four are the settled ones.
enum class Verdict {
  Gain,
  Loss,
  RealButNegligible,
  NoDifferenceThatMatters,
  GainSizeNotSettled,
  LossSizeNotSettled,
  NotSettled
};

/// The verdict in words, e.g. "gain, size not settled". Scripts may rely on it.
[[nodiscard]] const char* verdictName(Verdict verdict);

/// Gain, loss, real but negligible, or no difference that matters.
[[nodiscard]] inline bool isSettled(Verdict verdict) { return verdict <= Verdict::NoDifferenceThatMatters; }

/// The verdict for an interval on the improvement scale, in percent; without an interval nothing is settled.
/// An end exactly on a bound is not beyond it.
/// Source  interval inclusion; inside both bounds it is the rule of two one-sided tests (Schuirmann 1987)
[[nodiscard]] Verdict verdictOf(const std::optional<PercentInterval>& improvement, const NoticeThreshold& threshold);

/// The verdict for an interval of any kind, and the gain and the loss (negative) from which on it matters.
[[nodiscard]] Verdict verdictWithin(double lo, double hi, double loss, double gain);

/// What takes the weight from a verdict. In the order in which they are said.
struct Marks {
  bool is_so_far = false;  ///< the plan is not complete
  bool holds_if_flips_add_nothing = false;
  std::optional<int> not_after_adjustment_for;  ///< the size of the family
  const char* family_of = "cases";              ///< what a family has so many of: "contrasts" where a case has several

  [[nodiscard]] bool any() const { return is_so_far || holds_if_flips_add_nothing || not_after_adjustment_for; }
  /// As scripts know them: "so far", "if flipping adds nothing", "not after adjustment for 7 cases".
  [[nodiscard]] std::vector<std::string> names() const;
  /// The same as a person reads them: "provisional", "if flipping adds nothing", "does not survive the adjustment for 7
  /// cases".
  [[nodiscard]] std::vector<std::string> words() const;

 private:
  [[nodiscard]] std::vector<std::string> said(const char* so_far, const char* not_after_adjustment) const;
};

}  // namespace core
