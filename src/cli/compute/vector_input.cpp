#include "cli/compute/vector_input.h"

namespace cli {

using core::Result;
using nlohmann::json;
using Numbers = std::vector<double>;

core::Direction directionOf(const json& input) {
  return input.value("direction", "higher") == "lower" ? core::Direction::LowerIsBetter
                                                       : core::Direction::HigherIsBetter;
}

std::optional<core::FlipSd> flipOf(const json& input) {
  if (!input.contains("flip") || input.at("flip").is_null()) return std::nullopt;
  const json& flip = input.at("flip");
  return core::FlipSd{
      flip.at("sd"), flip.at("df"), {flip.value("visits_baseline", 1.0), flip.value("visits_changed", 1.0)}};
}

std::vector<Numbers> nestedNumbers(const json& list) {
  std::vector<Numbers> all;
  for (const json& values : list) all.push_back(values.get<Numbers>());
  return all;
}

std::vector<core::VisitValues> flatVisits(const json& input) {
  return {{core::ConfigurationId::Baseline, 1, 0, input.at("baseline").get<Numbers>()},
          {core::ConfigurationId::Changed, 2, 0, input.at("changed").get<Numbers>()}};
}

std::vector<core::VisitValues> nestedVisits(const json& input) {
  std::vector<core::VisitValues> visits;
  const auto add = [&](const char* name, core::ConfigurationId configuration) {
    for (const json& values : input.at(name))
      visits.push_back({configuration, static_cast<int>(visits.size()) + 1, 0, values.get<Numbers>()});
  };
  add("baseline", core::ConfigurationId::Baseline);
  add("changed", core::ConfigurationId::Changed);
  return visits;
}

std::vector<core::VisitValues> roundVisits(const json& input) {
  std::vector<core::VisitValues> visits;
  int round = 0;
  for (const json& pair : input.at("rounds")) {
    ++round;
    visits.push_back({core::ConfigurationId::Baseline, 2 * round - 1, round, pair.at("baseline").get<Numbers>()});
    visits.push_back({core::ConfigurationId::Changed, 2 * round, round, pair.at("changed").get<Numbers>()});
  }
  return visits;
}

Result<core::Effect> designedEffect(const json& input) {
  const double confidence = input.value("confidence", 0.95);
  if (!input.contains("round_differences")) {
    const auto& design = input.at("design");
    const auto visits = design == "visits"   ? nestedVisits(input)
                        : design == "rounds" ? roundVisits(input)
                                             : flatVisits(input);
    return core::effectOf(visits, confidence, flipOf(input));
  }
  core::Effect effect;
  effect.design.estimator = core::Estimator::Rounds;
  effect.round_differences = input.at("round_differences").get<Numbers>();
  const auto contrast = core::pairedDifference(effect.round_differences, confidence);
  if (!contrast) return contrast.error();
  effect.contrast = *contrast;
  return effect;
}

}  // namespace cli
