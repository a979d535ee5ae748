#include "core/estimate/claims.h"

#include <algorithm>
#include <array>

#include <boost/math/distributions/students_t.hpp>

#include "core/estimate/holm.h"

namespace core {
namespace {

constexpr std::array kNulls{&NullPs::gain, &NullPs::loss, &NullPs::same, &NullPs::zero};

std::vector<double NullPs::*> groundsOf(Verdict verdict) {
  switch (verdict) {
    case Verdict::Gain: return {&NullPs::gain};
    case Verdict::Loss: return {&NullPs::loss};
    case Verdict::NoDifferenceThatMatters: return {&NullPs::same};
    case Verdict::RealButNegligible: return {&NullPs::same, &NullPs::zero};
    case Verdict::GainSizeNotSettled:
    case Verdict::LossSizeNotSettled: return {&NullPs::zero};
    case Verdict::NotSettled: return {};
  }
  return {};
}

}  // namespace

std::optional<NullPs> nullPsOf(const Contrast& improvement, double loss, double gain) {
  if (!improvement.inference || !improvement.se || *improvement.se <= 0) return std::nullopt;
  const boost::math::students_t t(improvement.inference->df);
  const double d = improvement.difference;
  const auto beyond = [&](double distance) {
    return std::min(1.0, 2 * boost::math::cdf(boost::math::complement(t, distance / *improvement.se)));
  };
  return NullPs{beyond(d - gain), beyond(loss - d), std::max(beyond(gain - d), beyond(d - loss)),
                improvement.inference->p};
}

std::vector<std::optional<NullPs>> holmInFamilies(std::span<const std::optional<NullPs>> p) {
  std::vector<std::optional<NullPs>> adjusted(p.begin(), p.end());
  for (const auto null : kNulls) {
    std::vector<std::optional<double>> family;
    for (const auto& one : p) family.push_back(one ? std::optional((*one).*null) : std::nullopt);
    const auto holm = holmAdjusted(family);
    for (std::size_t i = 0; i < p.size(); ++i)
      if (adjusted[i]) (*adjusted[i]).*null = *holm[i];
  }
  return adjusted;
}

std::optional<bool> doesHold(Verdict verdict, const NullPs& adjusted, double alpha) {
  const auto grounds = groundsOf(verdict);
  if (grounds.empty()) return std::nullopt;
  return std::all_of(grounds.begin(), grounds.end(), [&](auto null) { return adjusted.*null < alpha; });
}

void adjustFamily(std::span<Claimed* const> family, double confidence, const char* family_of) {
  std::vector<std::optional<NullPs>> p;
  for (const Claimed* one : family) p.push_back(one->p);
  const auto adjusted = holmInFamilies(p);
  const auto size =
      static_cast<int>(std::count_if(p.begin(), p.end(), [](const auto& one) { return one.has_value(); }));
  for (std::size_t i = 0; i < family.size(); ++i) {
    Claimed& one = *family[i];
    one.p_holm = adjusted[i];
    one.marks.not_after_adjustment_for.reset();
    if (!one.p_holm || doesHold(one.verdict, *one.p_holm, 1 - confidence).value_or(true)) continue;
    one.marks.not_after_adjustment_for = size;
    one.marks.family_of = family_of;
  }
}

}  // namespace core
