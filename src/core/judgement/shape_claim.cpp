#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/findings/contrast_rows.h"
#include "core/judgement/claim.h"

namespace core {
namespace {

/// What the headline's case, or the suite, says of a study's shape.
class ShapeClaim {
 public:
  ShapeClaim(const Study& study, const ShapeFindings& findings)
      : study_(study), findings_(findings), of_(findings.headlineCase()) {}

  void fill(Claim& claim) const {
    switch (study_.shape) {
      case Shape::Pair: return;
      case Shape::Ladder: return ladder(claim);
      case Shape::Crossed: return crossed(claim);
      case Shape::Chain: return chain(claim);
    }
  }

 private:
  // Of the suite, or of the only case, a percentage is an improvement or the change of the metric.
  [[nodiscard]] std::string changeOf(const ContrastFinding& one) const {
    if (one.is_log) return changeText(one.case_index ? percentChangeOf(one.contrast) : one.improvement);
    UnitChange change{one.contrast.difference, {}};
    if (one.contrast.inference) change.interval = {one.contrast.inference->lo, one.contrast.inference->hi};
    return unitChangeText(change, study_.cases[*one.case_index].metric.unit);
  }

  [[nodiscard]] const ContrastFinding* findPair(ContrastKind kind, PairOf pair) const {
    for (std::size_t i = 0; i < findings_.asked.size(); ++i)
      if (findings_.asked[i].kind == kind && findings_.asked[i].pair == pair) return findings_.find(i, of_);
    return nullptr;
  }

  void ladder(Claim& claim) const {
    const PairOf pair = headlinePair(study_);
    const ContrastFinding* top = findPair(ContrastKind::AgainstBaseline, pair);
    if (!top) return;
    claim.has_result = true;
    claim.verdict = verdictText(top->verdict, top->threshold, top->marks);
    const std::string change =
        fmt::format("{} over {} {}", study_.nameOf(pair.to), study_.nameOf(pair.from), changeOf(*top));
    claim.outcome = change;
    const LadderFinding* of = findings_.ladderOf(of_);
    if (!of || !of->enough) return;
    claim.outcome = fmt::format("{} is enough{}; {}",
                                of->enough->enough ? study_.nameOf(configurationAt(*of->enough->enough)) : "no level",
                                of->is_so_far ? ", provisionally" : "", change);
  }

  // The first variable's effect at each level of the other, and whether it depends on it.
  void crossed(Claim& claim) const {
    constexpr std::size_t kMost = 3;
    std::size_t said = 0;
    std::string outcome;
    std::string to;
    for (std::size_t i = 0; i < findings_.asked.size(); ++i) {
      const AskedContrast& asked = findings_.asked[i];
      if (asked.kind != ContrastKind::Simple || asked.variable != claim.variable) continue;
      if (to.empty()) to = asked.to;
      const ContrastFinding* found = findings_.find(i, of_);
      if (!found || asked.to != to || ++said > kMost) continue;
      outcome += fmt::format("{}{} at {}", outcome.empty() ? "" : ", ", changeOf(*found), asked.at);
    }
    if (outcome.empty()) return;
    claim.has_result = true;
    claim.outcome = fmt::format("{} over {} {}", to, claim.baseline, outcome);
    for (std::size_t i = 0; i < findings_.asked.size(); ++i)
      if (findings_.asked[i].kind == ContrastKind::Interaction && findings_.asked[i].to == to)
        if (const ContrastFinding* found = findings_.find(i, of_)) {
          claim.verdict = interactionText(*found, findings_.asked[i]);
          return;
        }
  }

  void chain(Claim& claim) const {
    const ContrastFinding* total = findPair(ContrastKind::Total, headlinePair(study_));
    if (!total) return;
    claim.has_result = true;
    claim.outcome = changeOf(*total);
    claim.verdict = verdictText(total->verdict, total->threshold, total->marks);
    for (const ChainFinding& one : findings_.chains) {
      if (one.case_index != of_ || !one.chain.is_clear_of_zero) continue;
      const auto largest = std::max_element(one.chain.steps.begin(), one.chain.steps.end(),
                                            [](const LossStep& a, const LossStep& b) { return a.share < b.share; });
      const auto step = static_cast<std::size_t>(largest - one.chain.steps.begin());
      claim.outcome +=
          fmt::format(", {:.0f} % of it at {}", 100 * largest->share, study_.nameOf(configurationAt(step + 1)));
    }
  }

  const Study& study_;
  const ShapeFindings& findings_;
  std::optional<std::size_t> of_;
};

}  // namespace

Claim shapeClaimOf(const Study& study, const Findings& pair, const ShapeFindings& findings) {
  Claim claim;
  const std::size_t count = study.configurationCount();
  claim.shape = study.shape;
  claim.bench = study.bench;
  claim.variable = study.variable().name;
  if (study.shape == Shape::Crossed) {
    const bool is_group_first = study.variable().is_group;
    claim.variable = study.variables[is_group_first ? 1 : 0].name;
    claim.other = study.variables[is_group_first ? 0 : 1].name;
    const Variable& moved = study.variables[is_group_first ? 1 : 0];
    claim.baseline = moved.levels[moved.baseline].name;
    claim.changed = moved.levels[moved.baseline == 0 ? 1 : 0].name;
  } else {
    claim.baseline = study.nameOf(configurationAt(0));
    claim.changed = study.nameOf(configurationAt(count - 1));
  }
  claim.steps = static_cast<int>(count) - 1;
  claim.metric = metricNames(study);
  const auto summed = static_cast<std::size_t>(findings.suite_cases);
  claim.cases = study.cases.size() == 1 ? study.cases.front().title()
                : summed < 2 || summed == study.cases.size()
                    ? fmt::format("{} cases", study.cases.size())
                    : fmt::format("{} of {} cases", summed, study.cases.size());
  claim.outcome = pair.recorded_passes > 0 ? "… not measured wherever it matters yet" : "… not measured yet";
  ShapeClaim(study, findings).fill(claim);
  return claim;
}

}  // namespace core
