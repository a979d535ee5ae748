#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/findings/contrast_rows.h"
#include "core/findings/headline.h"
#include "core/findings/result_row.h"
#include "core/judgement/claim.h"

namespace core {
namespace {

/// What one subject of the headline, a case or the suite, says of a study's shape.
class ShapeClaim {
 public:
  ShapeClaim(const Study& study, const ShapeFindings& findings, const Subject& of, bool is_plan_complete)
      : study_(study), findings_(findings), of_(of), is_plan_complete_(is_plan_complete) {}

  [[nodiscard]] std::optional<Told> told() const {
    Told told;
    told.metric = of_ ? study_.cases[*of_].metric.name : metricNames(study_, findings_.suite_cases);
    told.cases =
        of_ ? study_.cases[*of_].title() : suiteCasesText(study_.firstPartCases(), findings_.suite_cases.size());
    const bool has_result = study_.shape == Shape::Ladder    ? ladder(told)
                            : study_.shape == Shape::Crossed ? crossed(told)
                                                             : chain(told);
    if (!has_result) return std::nullopt;
    told.verdict += missing();
    return told;
  }

  /// The contrast that the headline is about: the highest level that has a result against the baseline, the whole of a
  /// chain as far as it was measured. By its place among those asked.
  [[nodiscard]] std::optional<std::size_t> headline() const {
    const ContrastKind kind = study_.shape == Shape::Chain ? ContrastKind::Total : ContrastKind::AgainstBaseline;
    const PairOf wanted = headlinePair(study_);
    std::optional<std::size_t> best;
    for (std::size_t i = 0; i < findings_.asked.size(); ++i) {
      const AskedContrast& asked = findings_.asked[i];
      if (asked.kind != kind || !findings_.find(i, of_)) continue;
      if (asked.pair == wanted) return i;
      if (!best || placeOf(asked.pair->to) > placeOf(findings_.asked[*best].pair->to)) best = i;
    }
    return best;
  }

 private:
  // Everything is told on the improvement scale; where lower is better, it says so.
  [[nodiscard]] std::string changeOf(const ContrastFinding& one) const {
    if (one.is_log) return (isLowerBetter() ? "an improvement of " : "") + changeText(one.improvement);
    UnitChange change{one.contrast.difference, {}};
    if (one.contrast.inference) change.interval = {one.contrast.inference->lo, one.contrast.inference->hi};
    return unitChangeText(change, study_.cases[*one.case_index].metric.unit);
  }

  [[nodiscard]] bool isLowerBetter() const {
    const auto is_lower = [&](std::size_t one) {
      return study_.cases[one].metric.direction == Direction::LowerIsBetter;
    };
    return of_ ? is_lower(*of_) : std::any_of(findings_.suite_cases.begin(), findings_.suite_cases.end(), is_lower);
  }

  // A mean of cases that settle in opposite directions says nothing of any of them. ", 3 gain, 1 loses"
  [[nodiscard]] std::string counts(std::size_t asked) const {
    if (of_) return {};
    int gains = 0;
    int losses = 0;
    for (const std::size_t one : findings_.suite_cases) {
      const ContrastFinding* found = findings_.find(asked, one);
      if (found == nullptr) continue;
      gains += found->doesGain();
      losses += found->doesLose();
    }
    const std::string text = gainsAndLossesText(gains, losses);
    return text.empty() ? "" : ", " + text;
  }

  // A finished study names what it has no result of.
  [[nodiscard]] std::string missing() const {
    if (!is_plan_complete_) return {};
    std::string names;
    for (const MissingResult& one : findings_.missing) {
      if (one.case_index && one.case_index != of_) continue;
      names += (names.empty() ? "" : ", ") + one.name;
    }
    return names.empty() ? "" : "; without a result: " + names;
  }

  [[nodiscard]] bool ladder(Told& told) const {
    const auto top = headline();
    if (!top) return false;
    const ContrastFinding& found = *findings_.find(*top, of_);
    const PairOf pair = *findings_.asked[*top].pair;
    told.verdict = verdictText(found.verdict, found.threshold, found.marks);
    told.outcome =
        fmt::format("{} over {} {}{}", study_.nameOf(pair.to), study_.nameOf(pair.from), changeOf(found), counts(*top));
    if (const LadderFinding* of = findings_.ladderOf(of_); of && of->enough)
      told.outcome = enoughInShort(study_, findings_, *of) + "; " + told.outcome;
    return true;
  }

  // The first variable's effect at each level of the other, and whether it depends on it.
  [[nodiscard]] bool crossed(Told& told) const {
    constexpr std::size_t kMost = 3;
    const bool is_group_first = study_.variable().is_group;
    const Variable& moved = study_.variables[is_group_first ? 1 : 0];
    const Variable& other = study_.variables[is_group_first ? 0 : 1];
    std::size_t said = 0;
    std::string to;
    const ContrastFinding* first = nullptr;
    for (std::size_t i = 0; i < findings_.asked.size(); ++i) {
      const AskedContrast& asked = findings_.asked[i];
      if (asked.kind != ContrastKind::Simple || asked.variable != moved.name) continue;
      const ContrastFinding* found = findings_.find(i, of_);
      if (!found || (!to.empty() && asked.to != to) || ++said > kMost) continue;
      if (to.empty()) {
        to = asked.to;
        first = found;
        told.outcome = fmt::format("{} against {}: ", to, moved.levels[moved.baseline].name);
      }
      told.outcome += fmt::format("{}{}{} with {} {}", said == 1 ? "" : ", ", changeOf(*found), counts(i),
                                  said == 1 ? other.name : "it", asked.at);
    }
    if (first == nullptr) return false;
    if (said > kMost) told.outcome += fmt::format(", and at {} more", said - kMost);
    told.verdict = verdictText(first->verdict, first->threshold, first->marks);
    for (std::size_t i = 0; i < findings_.asked.size(); ++i)
      if (findings_.asked[i].kind == ContrastKind::Interaction && findings_.asked[i].to == to &&
          findings_.find(i, of_)) {
        told.verdict = interactionText(findings_, i, of_);
        break;
      }
    return true;
  }

  [[nodiscard]] bool chain(Told& told) const {
    const auto whole = headline();
    if (!whole) return false;
    const ContrastFinding& total = *findings_.find(*whole, of_);
    told.outcome = changeOf(total) + counts(*whole);
    told.verdict = verdictText(total.verdict, total.threshold, total.marks);
    for (const ChainFinding& one : findings_.chains) {
      if (one.case_index != of_ || !one.chain.is_clear_of_zero) continue;
      const auto largest = std::max_element(one.chain.steps.begin(), one.chain.steps.end(),
                                            [](const LossStep& a, const LossStep& b) { return a.share < b.share; });
      const auto step = static_cast<std::size_t>(largest - one.chain.steps.begin());
      told.outcome += fmt::format(", {:.0f} % of it in the step to “{}”", 100 * largest->share,
                                  study_.nameOf(configurationAt(step + 1)));
    }
    return true;
  }

  const Study& study_;
  const ShapeFindings& findings_;
  Subject of_;
  bool is_plan_complete_;
};

// What a case yields at the only configuration where it runs: no change, but a result.
std::string onlyLevel(const Study& study, const ShapeFindings& findings) {
  for (const ValuesOf& values : findings.values) {
    if (!values.case_index) continue;
    std::vector<std::size_t> places;
    for (std::size_t i = 0; i < values.at.size(); ++i)
      if (values.at[i].alone) places.push_back(i);
    if (places.size() != 1) continue;
    return fmt::format("… {} has a result at {} only, {}", study.cases[*values.case_index].title(),
                       study.nameOf(configurationAt(places.front())),
                       levelText(*values.at[places.front()].alone, study.cases[*values.case_index].metric, study));
  }
  return {};
}

}  // namespace

Claim shapeClaimOf(const Study& study, const Findings& pair, const ShapeFindings& findings) {
  Claim claim;
  claim.shape = study.shape;
  claim.bench = study.bench;
  claim.confidence = pair.confidence;
  claim.variable = study.variable().name;
  if (study.shape == Shape::Crossed) {
    const bool is_group_first = study.variable().is_group;
    claim.variable = study.variables[is_group_first ? 1 : 0].name;
    claim.other = study.variables[is_group_first ? 0 : 1].name;
  }
  std::size_t last = study.configurationCount() - 1;
  std::vector<Told> told;
  std::vector<std::size_t> spoken_of;
  for (const Subject& subject : findings.subjects) {
    if (subject) spoken_of.push_back(*subject);
    const ShapeClaim one(study, findings, subject, pair.done.is_first_done);
    if (auto said = one.told()) {
      if (told.empty())
        if (const auto headline = one.headline()) last = placeOf(findings.asked[*headline].pair->to);
      told.push_back(*std::move(said));
    }
  }
  claim.baseline = study.nameOf(configurationAt(0));
  claim.changed = study.nameOf(configurationAt(last));
  claim.steps = static_cast<int>(last);
  claim.metric = metricNames(study, findings.suite_cases.size() >= 2 ? findings.suite_cases : spoken_of);
  claim.cases =
      study.firstPartCases() == 1 ? study.cases.front().title() : fmt::format("{} cases", study.firstPartCases());
  const bool has_passes = pair.recorded_passes > 0;
  const std::string only = onlyLevel(study, findings);
  claim.outcome = pair.done.is_first_done && !only.empty()
                      ? only
                      : notMeasured(has_passes ? " at every level that the answer needs" : "", pair.done.is_first_done);
  fillClaim(claim, std::move(told));
  return claim;
}

}  // namespace core
