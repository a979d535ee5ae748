#include "core/findings/shape_ladder.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/values/percent.h"

namespace core {
namespace {

// Levels whose resources differ by less have no order.
constexpr double kAlike = 0.02;

class Ladder {
 public:
  Ladder(const Comparable& of, const Study& study, const ShapeFindings& findings)
      : of_(of), study_(study), findings_(findings), one_case_(dynamic_cast<const ComparableCase*>(&of)) {
    ladder_.case_index = of.caseIndex();
    usual_ = usualResource(findings.resources);
  }

  LadderFinding take() {
    ladder_.threshold = of_.threshold();
    for (std::size_t i = 0; i < findings_.asked.size(); ++i)
      if (findings_.asked[i].kind == ContrastKind::Neighbour) addStep(i);
    findEnough();
    if (isFrameTime()) fitModel();
    return std::move(ladder_);
  }

 private:
  // Of the kind that most levels are known by; what is known otherwise enters no sum with them.
  [[nodiscard]] std::optional<LevelResource> resourceAt(ConfigurationId configuration) const {
    const auto& resource = findings_.resources[placeOf(configuration)];
    return resource && usual_ && isOfOneKind(*resource, *usual_) ? resource : std::nullopt;
  }

  [[nodiscard]] std::vector<double> between(ConfigurationId from, ConfigurationId to) const {
    return differenceWeights(study_.configurationCount(), placeOf(from), placeOf(to));
  }

  void addStep(std::size_t asked) {
    LadderStep step;
    step.asked = asked;
    const PairOf& pair = *findings_.asked[asked].pair;
    const auto from = resourceAt(pair.from);
    const auto to = resourceAt(pair.to);
    const ContrastFinding* found = findings_.find(asked, of_.caseIndex());
    const bool is_alike = from && to && std::abs(to->value / from->value - 1) < kAlike;
    if (found) ladder_.is_so_far |= found->marks.is_so_far;
    if (found && found->is_log && from && to && !is_alike) {
      const Direction direction = one_case_ ? one_case_->values().direction : Direction::HigherIsBetter;
      step.elasticity = elasticityOf(found->contrast, direction, {"", from->value}, {"", to->value});
    }
    const auto& interval = found ? found->improvement.interval : std::nullopt;
    const bool is_weaker = from && to && to->value < from->value;  // listed the other way round
    step.is_reversal =
        found && found->is_log && interval && !is_alike && (is_weaker ? interval->lo > 0 : interval->hi < 0);
    ladder_.steps.push_back(step);
  }

  // Over the levels that have a result; where no resource is known their order is that of the list.
  void findEnough() {
    std::vector<ConfigurationId> present;
    for (const ConfigurationId one : configurationsOf(study_))
      if (of_.hasResultAt(one)) present.push_back(one);
    if (present.size() < 2) return;
    const bool are_known =
        std::all_of(present.begin(), present.end(), [&](ConfigurationId one) { return resourceAt(one).has_value(); });
    std::vector<Rung> rungs;
    std::vector<double> goodness;
    for (const ConfigurationId one : present) {
      rungs.push_back({study_.nameOf(one), are_known ? resourceAt(one)->value : static_cast<double>(rungs.size())});
      const auto better = one == present.front() ? ShapeEstimate{} : of_.estimate(between(present.front(), one));
      if (!better || !better->is_log) return;
      goodness.push_back(better->contrast.difference);
    }
    const auto contrast = [&](std::size_t from, std::size_t to) -> Result<Contrast> {
      const auto estimate = of_.estimate(between(present[from], present[to]));
      if (!estimate) return Error{ErrorKind::TooFew, "a level has no result", rungs[from].name, "Run it"};
      return estimate->contrast;
    };
    const std::vector<std::size_t> order = weakestFirst(rungs);
    for (const std::size_t rung : order) ladder_.order.push_back(placeOf(present[rung]));
    findUnmeasured(are_known ? std::optional(rungs[order.back()].resource) : std::nullopt, present.back());
    auto found = enoughPointFrom(goodness, rungs, contrast, of_.threshold().gain_percent);
    if (!found) return;
    read(*found, order);
    ladder_.enough = placedAmongAll(*std::move(found), present);
  }

  // Above all that were measured: by what they offer, or by the list.
  void findUnmeasured(std::optional<double> most, ConfigurationId last) {
    for (const ConfigurationId one : configurationsOf(study_)) {
      if (of_.hasResultAt(one)) continue;
      const bool is_above = most && resourceAt(one) ? resourceAt(one)->value > *most : placeOf(one) > placeOf(last);
      if (is_above) ladder_.unmeasured.push_back(one);
    }
  }

  // Enough is a statement about the levels above: of the highest there is none, and what was not shown is not said.
  void read(EnoughPoint& found, const std::vector<std::size_t>& order) {
    const double matters = lnOfPercent(of_.threshold().gain_percent);
    const std::size_t highest = order.back();
    const std::size_t below = order[order.size() - 2];
    if (found.enough && *found.enough != highest) {
      ladder_.reading = EnoughReading::Enough;
    } else if (found.enough) {
      ladder_.reading = EnoughReading::NoLowerLevel;
      ladder_.is_below_proved = found.levels[below].lower > matters;
      found.enough.reset();
    } else if (found.levels[highest].lower > matters) {
      ladder_.reading = EnoughReading::NoLevel;
    }
  }

  [[nodiscard]] EnoughPoint placedAmongAll(EnoughPoint found, const std::vector<ConfigurationId>& present) const {
    const auto placed = [&](const std::optional<std::size_t>& level) {
      return level ? std::optional(placeOf(present[*level])) : std::nullopt;
    };
    EnoughPoint all;
    all.best = placeOf(present[found.best]);
    all.enough = placed(found.enough);
    all.lowest_by_itself = placed(found.lowest_by_itself);
    all.levels.resize(study_.configurationCount());
    for (std::size_t i = 0; i < present.size(); ++i) all.levels[placeOf(present[i])] = found.levels[i];
    return all;
  }

  [[nodiscard]] bool isFrameTime() const {
    if (!one_case_) return false;
    const std::string& unit = study_.cases[*of_.caseIndex()].metric.unit;
    return asFps(1, unit).has_value() && !one_case_->lnVisits().empty();
  }

  [[nodiscard]] double inMs(double value) const {
    return 1000 / *asFps(value, study_.cases[*of_.caseIndex()].metric.unit);
  }
  [[nodiscard]] double fromMs(double ms) const {
    return study_.cases[*of_.caseIndex()].metric.unit == "ms" ? ms : 1000 / ms;
  }

  // Only a rate is something that data go over.
  void fitModel() {
    std::map<std::size_t, std::vector<std::vector<double>>> visits;  // frame times of each visit, by level
    for (const VisitValues& visit : one_case_->values().visits) {
      std::vector<double> ms;
      for (const double value : visit.values) ms.push_back(inMs(value));
      if (!ms.empty()) visits[placeOf(visit.configuration)].push_back(std::move(ms));
    }
    std::erase_if(visits, [&](const auto& level) { return !resourceAt(configurationAt(level.first)); });
    if (!usual_ || usual_->unit != "GB/s") return;
    const bool are_visits =
        std::all_of(visits.begin(), visits.end(), [](const auto& level) { return level.second.size() >= 2; });
    std::vector<std::pair<double, std::vector<double>>> units;
    for (const auto& [place, of_level] : visits) {
      units.emplace_back(resourceAt(configurationAt(place))->value, std::vector<double>());
      for (const std::vector<double>& ms : of_level) {
        if (are_visits)
          units.back().second.push_back(meanOf(ms));
        else
          units.back().second.insert(units.back().second.end(), ms.begin(), ms.end());
      }
    }
    const auto model = transferModel(pooledLevels(units).levels, study_.confidence);
    if (!model) return;
    ladder_.model = *model;
    foretell();
  }

  void foretell() {
    for (const ConfigurationId level : configurationsOf(study_)) {
      if (of_.hasResultAt(level) || !resourceAt(level)) continue;
      const double rate = resourceAt(level)->value;
      const double ms = ladder_.model->predictedMs(rate);
      if (ms <= 0) continue;
      Foretold foretold{level, fromMs(ms), {}};
      if (const auto interval = ladder_.model->predictionInterval(rate); interval && interval->first > 0) {
        const double one = fromMs(interval->first);
        const double other = fromMs(interval->second);
        foretold.interval = std::minmax({one, other});
      }
      ladder_.foretold.push_back(foretold);
    }
  }

  const Comparable& of_;
  const Study& study_;
  const ShapeFindings& findings_;
  const ComparableCase* one_case_;
  std::optional<LevelResource> usual_;
  LadderFinding ladder_;
};

}  // namespace

LadderFinding ladderOf(const Comparable& of, const Study& study, const ShapeFindings& findings) {
  return Ladder(of, study, findings).take();
}

std::optional<ChainFinding> chainOf(const Comparable& of, const Study& study) {
  const std::vector<double> everywhere(study.configurationCount(), 1);
  const std::vector<VisitValues> visits = of.lnVisits();
  for (const ConfigurationId one : configurationsOf(study))
    if (!of.hasResultAt(one)) return std::nullopt;
  if (visits.empty()) return std::nullopt;
  const EstimatorChoice choice = chooseEstimator(visits, everywhere);
  const Units units = unitsOf(visits, everywhere, choice.estimator);
  for (const std::vector<double>& at : units.at)
    if (at.empty()) return std::nullopt;
  auto chain = lossChainOf(units, study.confidence);
  if (!chain) return std::nullopt;
  return ChainFinding{of.caseIndex(), *chain, percentChangeOf(chain->total)};
}

}  // namespace core
