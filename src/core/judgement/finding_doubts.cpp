#include "core/judgement/finding_doubts.h"

#include <algorithm>
#include <array>
#include <cmath>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "core/estimate/wording.h"
#include "core/machine/variable_kind.h"
#include "core/values/percent.h"

namespace core {
namespace {

class FindingDoubts {
 public:
  FindingDoubts(const Study& study, const Findings& findings, const BenchProof& proof)
      : study_(study), findings_(findings), proof_(proof) {}

  std::vector<Doubt> all() {
    for (const CaseFinding& finding : findings_.cases) {
      addBound(finding);
      addSecondOpinion(finding);
      addMoreThanGained(finding);
    }
    addUpsideDown();
    addYardsticks();
    addReadings();
    addLeftOutOfSuite();
    addZeros();
    return doubts_.take();
  }

 private:
  // Another preset of the same workload that is not held back so.
  [[nodiscard]] std::string otherPreset(const CaseFinding& finding) const {
    const Case& own = study_.cases[finding.case_index];
    for (const CaseFinding& other : findings_.cases)
      if (study_.cases[other.case_index].workload == own.workload && !other.is_bound_elsewhere)
        return study_.cases[other.case_index].variant();
    return {};
  }

  void addBound(const CaseFinding& finding) {
    if (!finding.is_bound_elsewhere || !study_.cases[finding.case_index].shouldRespond()) return;
    const Bound bound = finding.bound[0].bound;
    const std::string preset = otherPreset(finding);
    const std::string other = !preset.empty()            ? "Try " + preset
                              : bound == Bound::Capped   ? "Lift the cap"
                              : bound == Bound::Graphics ? "Try a smaller picture or lower quality"
                                                         : "Try a larger picture or higher quality";
    // What holds the average back need not hold the slow frames.
    const SecondaryMetric* moved = movedLow(finding);
    doubts_.add(
        doubt::kBoundElsewhere, {finding.title, finding.case_index},
        fmt::format(
            "{} is {} at both levels ({}): its {} cannot show the change{}", finding.title, boundName(bound),
            finding.bound[1].evidence, finding.metric.name,
            moved ? fmt::format(", but its {} moved by {}", moved->name, percentText(moved->change->value)) : ""),
        other + "; the suite is given with and without it");
  }

  [[nodiscard]] static const SecondaryMetric* movedLow(const CaseFinding& finding) {
    for (const SecondaryMetric& one : finding.secondary)
      if (one.fewest_frames > 0 && one.change && one.improvement &&
          (one.improvement->lo > 0 || one.improvement->hi < 0))
        return &one;
    return nullptr;
  }

  void addSecondOpinion(const CaseFinding& finding) {
    if (!finding.second_opinion || finding.second_opinion->is_too_few_to_tell) return;
    const double alpha = 1 - findings_.confidence;
    const double p = finding.effect->contrast.inference->p;
    if ((p < alpha) == (finding.second_opinion->p < alpha)) return;
    doubts_.add(doubt::kSecondOpinion, {finding.title, finding.case_index},
                fmt::format("{}: the permutation test disagrees: p = {:.3g}, against {:.3g} by the interval",
                            finding.title, finding.second_opinion->p, p),
                "Look for odd passes, or a spread that differs between the levels; more passes decide it");
  }

  void addMoreThanGained(const CaseFinding& finding) {
    const VariableKind* kind = findVariableKind(study_.variable().kind);
    const MeasuredStep* step = proof_.decidingStep();
    // Only where the resource itself was to grow, and surely did.
    if (!kind || !kind->bounds_gain || !step || *step->expected <= 1 || step->ratio_lo <= 1) return;
    const double gained = 100 * (step->ratio_hi - 1);
    if (!finding.improvement.interval || finding.improvement.interval->lo <= gained) return;
    doubts_.add(doubt::kMoreThanGained, {finding.title, finding.case_index},
                fmt::format("{} gained {}, more than the {} that the resource itself gained", finding.title,
                            sizeText({finding.improvement.value, {}}), sizeText({gained, {}})),
                "Something else moved with it, or the measurement of the resource is wrong");
  }

  // The level that yields more is the slower one.
  void addUpsideDown() {
    const MeasuredStep* step = proof_.decidingStep();
    if (!step || !findings_.suite || !findings_.suite->improvement.interval) return;
    constexpr double kAlike = 0.02;  // levels whose resources differ by less have no order
    const bool is_stronger = step->ratio_lo > 1 && step->ratio > 1 + kAlike;
    const bool is_weaker = step->ratio_hi < 1 && step->ratio < 1 - kAlike;
    const PercentInterval& interval = *findings_.suite->improvement.interval;
    if ((is_stronger && interval.hi < 0) || (is_weaker && interval.lo > 0))
      doubts_.add(doubt::kUpsideDown,
                  fmt::format("The order is upside down: {} measured stronger, but its results are slower",
                              study_.nameOf(is_stronger ? ConfigurationId::Changed : ConfigurationId::Baseline)),
                  "Check what came along with it: latency, heat, a limit");
  }

  static Standing standingOf(Verdict verdict) {
    return verdict == Verdict::Gain ? Standing::Gain : verdict == Verdict::Loss ? Standing::Loss : Standing::Within;
  }

  // One sentence for all cases: yardsticks part often, and that is what they are for.
  void addYardsticks() {
    std::vector<std::string> titles;
    for (const CaseFinding& finding : findings_.cases) {
      if (!finding.by_band || !finding.by_two_sds || !isSettled(finding.verdict) || finding.marks.any()) continue;
      const Standing own = standingOf(finding.verdict);
      if (own != *finding.by_band || own != *finding.by_two_sds) titles.push_back(finding.title);
    }
    if (titles.empty()) return;
    doubts_.add(doubt::kYardsticks,
                fmt::format("Another yardstick judges {} differently from the interval",
                            titles.size() == 1 ? titles.front() : fmt::format("{} cases", titles.size())),
                "All three stand in the evidence; say which one a claim rests on");
  }

  void addReadings() {
    if (!findings_.readings) return;
    const SuiteReadings& readings = *findings_.readings;
    if (readings.doSyntheticAndRealDisagree())
      doubts_.add(doubt::kSyntheticAndReal,
                  fmt::format("Synthetic and real cases disagree: {} against {}",
                              changeText(readings.kinds[1].improvement), changeText(readings.kinds[0].improvement)),
                  "Decide by the real ones; a synthetic case shows what could be, not what is");
    if (readings.without_one.empty()) return;
    const SuiteReading& strongest = readings.without_one.front();
    doubts_.add(
        doubt::kCarriedByOne,
        fmt::format("One case carries the suite: {} it shows {}", strongest.name, changeText(strongest.improvement)),
        "Read the cases, not only their mean");
  }

  // A case of counts that are 0 has no percentage to be summed up; the others stand.
  void addZeros() {
    std::vector<std::string> titles;
    for (const CaseFinding& finding : findings_.cases)
      if (study_.cases[finding.case_index].shouldRespond() && finding.metric.scale == Scale::Ratio && finding.effect &&
          !finding.effect->is_log)
        titles.push_back(finding.title);
    if (titles.empty()) return;
    doubts_.add(
        doubt::kNotInSuite, {"zero"},
        fmt::format("Told in its unit and not summed up, since a value is 0 or below: {}", fmt::join(titles, "; ")),
        "Check whether it measured anything; a metric that can be 0 is compared as a difference");
  }

  // One sentence for each level at which cases have no result: the suite of the others stands.
  void addLeftOutOfSuite() {
    for (const ConfigurationId configuration : {ConfigurationId::Baseline, ConfigurationId::Changed}) {
      std::vector<std::string> titles;
      for (const CaseFinding& finding : findings_.cases)
        if (findings_.suite &&
            (configuration == ConfigurationId::Baseline ? finding.counted_baseline : finding.counted_changed) == 0)
          titles.push_back(finding.title);
      if (titles.empty()) continue;
      doubts_.add(doubt::kNotInSuite, {configuration == ConfigurationId::Baseline ? "baseline" : "changed"},
                  fmt::format("Not in the suite, since no pass counts at {}: {}", study_.nameOf(configuration),
                              fmt::join(titles, "; ")),
                  "That it does not run at a level is a result of its own; read why on the run sheet");
    }
  }

  const Study& study_;
  const Findings& findings_;
  const BenchProof& proof_;
  DoubtList doubts_;
};

}  // namespace

std::vector<Doubt> findingDoubts(const Study& study, const Findings& findings, const BenchProof& proof) {
  return FindingDoubts(study, findings, proof).all();
}

}  // namespace core
