#include "cli/compute/compute_levels.h"
#include "report/json/shape_json.h"

#include "report/json/or_null.h"

#include <cmath>
#include <map>

#include <fmt/format.h>

#include "cli/compute/vector_input.h"
#include "core/estimate/ladder.h"
#include "core/estimate/loss_chain.h"
#include "core/estimate/transfer_model.h"
#include "core/values/percent.h"

namespace cli {
namespace {

using core::Contrast;
using core::Result;
using nlohmann::json;
using nlohmann::ordered_json;

// One visit's passes, or one pass alone.
std::vector<double> valuesOf(const json& data) {
  return data.is_array() ? data.get<std::vector<double>>() : std::vector{data.get<double>()};
}

core::Error bad(const std::string& what, const std::string& where) {
  return {core::ErrorKind::OutOfRange, what, where, "Give every level, in every round, at least one value above 0"};
}

// Levels as passes, as visits of passes, or as rounds of visits: `levels` of them everywhere. ln scale.
Result<core::Units> unitsOf(const json& input, const json& data, std::size_t levels) {
  const auto& design = input.at("design");
  const bool is_rounds = design == "rounds";
  core::Units units{is_rounds            ? core::Estimator::Rounds
                    : design == "visits" ? core::Estimator::Visits
                                         : core::Estimator::Passes,
                    std::vector<std::vector<double>>(levels)};
  const auto take = [&](std::size_t level, const json& unit) -> core::Status {
    double sum = 0;
    const std::vector<double> values = valuesOf(unit);
    for (const double value : values) {
      if (!(value > 0)) return bad("a value is not above 0", fmt::format("level {}", level + 1));
      sum += std::log(value);
    }
    if (values.empty()) return bad("there is no value", fmt::format("level {}", level + 1));
    units.at[level].push_back(sum / static_cast<double>(values.size()));
    return core::Done{};
  };
  if (!is_rounds && data.size() != levels)
    return bad(fmt::format("there are {} lists for {} levels", data.size(), levels), "data");
  for (std::size_t i = 0; i < data.size(); ++i) {
    if (is_rounds && data[i].size() != levels)
      return bad(fmt::format("it holds {} levels of {}", data[i].size(), levels), fmt::format("round {}", i + 1));
    for (std::size_t j = 0; j < data[i].size(); ++j)
      if (auto taken = take(is_rounds ? j : i, data[i][j]); !taken) return taken.error();
  }
  for (std::size_t level = 0; level < levels; ++level)
    if (units.at[level].empty()) return bad("there is no value", fmt::format("level {}", level + 1));
  return units;
}

double confidenceOf(const json& input) { return input.value("confidence", 0.95); }

std::vector<core::Rung> rungsOf(const json& input) {
  std::vector<core::Rung> rungs;
  for (const json& level : input.at("levels")) rungs.push_back({level.at("name"), level.at("resource")});
  return rungs;
}

ordered_json evidenceJson(const Contrast& contrast) {
  return {
      {"d", contrast.difference}, {"se", *contrast.se}, {"df", contrast.inference->df}, {"p", contrast.inference->p}};
}

// The ends on the improvement scale, lower first.
std::pair<double, double> improvementEnds(const Contrast& contrast, core::Direction direction) {
  const double one = core::signOf(direction) * contrast.inference->lo;
  const double other = core::signOf(direction) * contrast.inference->hi;
  return {std::min(one, other), std::max(one, other)};
}

ordered_json stepJson(const Contrast& contrast, core::Direction direction) {
  ordered_json out = evidenceJson(contrast);
  const auto [lo, hi] = improvementEnds(contrast, direction);
  out["change_percent"] = core::percentOfLn(contrast.difference);
  out["change_lo_percent"] = core::percentOfLn(contrast.inference->lo);
  out["change_hi_percent"] = core::percentOfLn(contrast.inference->hi);
  out["improvement_percent"] = core::percentOfLn(core::signOf(direction) * contrast.difference);
  out["improvement_lo_percent"] = core::percentOfLn(lo);
  out["improvement_hi_percent"] = core::percentOfLn(hi);
  return out;
}

core::Error tooFew() {
  return {core::ErrorKind::TooFew, "a level has too few passes for an interval", "compute",
          "Hand in at least two for each"};
}

void addEnds(ordered_json& out, const std::string& lo, const std::string& hi,
             const std::optional<std::pair<double, double>>& ends) {
  out[lo] = ends ? ordered_json(ends->first) : ordered_json();
  out[hi] = ends ? ordered_json(ends->second) : ordered_json();
}

}  // namespace

Result<ordered_json> enoughPointGroup(const json& input) {
  const auto rungs = rungsOf(input);
  const auto units = unitsOf(input, input.at("data"), rungs.size());
  if (!units) return units.error();
  const auto found =
      core::enoughPointOf(*units, rungs, directionOf(input), input.at("delta_percent"), confidenceOf(input));
  if (!found) return found.error();
  const auto name = [&](const std::optional<std::size_t>& level) {
    return level ? ordered_json(rungs[*level].name) : ordered_json();
  };
  ordered_json out{{"best_level", rungs[found->best].name},
                   {"enough_level", name(found->enough)},
                   {"lowest_level_enough_by_itself", name(found->lowest_by_itself)},
                   {"levels", ordered_json::array()}};
  for (std::size_t i = 0; i < rungs.size(); ++i)
    out["levels"].push_back({{"name", rungs[i].name},
                             {"shortfall", found->levels[i].value},
                             {"shortfall_upper", found->levels[i].upper},
                             {"shortfall_percent", -core::percentOfLn(-found->levels[i].value)},
                             {"shortfall_upper_percent", -core::percentOfLn(-found->levels[i].upper)},
                             {"is_enough", found->levels[i].is_enough}});
  return out;
}

Result<ordered_json> ladderGroup(const json& input) {
  const auto rungs = rungsOf(input);
  const auto units = unitsOf(input, input.at("data"), rungs.size());
  if (!units) return units.error();
  const auto difference = [&](std::size_t from, std::size_t to) {
    return core::contrastOf(*units, core::differenceWeights(rungs.size(), from, to), confidenceOf(input));
  };
  std::size_t baseline = 0;
  for (std::size_t i = 0; i < rungs.size(); ++i)
    if (rungs[i].name == input.at("baseline")) baseline = i;
  ordered_json out{{"against_baseline", ordered_json::object()}, {"neighbours", ordered_json::array()}};
  for (std::size_t i = 0; i < rungs.size(); ++i) {
    if (i == baseline) continue;
    const auto step = difference(baseline, i);
    if (!step || !step->inference) return step ? tooFew() : step.error();
    out["against_baseline"][rungs[i].name] = stepJson(*step, directionOf(input));
  }
  for (std::size_t i = 0; i + 1 < rungs.size(); ++i) {
    const auto step = difference(i, i + 1);
    if (!step || !step->inference) return step ? tooFew() : step.error();
    ordered_json one = stepJson(*step, directionOf(input));
    one["from"] = rungs[i].name;
    one["to"] = rungs[i + 1].name;
    const auto elasticity = core::elasticityOf(*step, directionOf(input), rungs[i], rungs[i + 1]);
    one["elasticity"] = elasticity ? ordered_json(elasticity->value) : ordered_json();
    one["elasticity_lo"] = elasticity ? ordered_json(elasticity->lo) : ordered_json();
    one["elasticity_hi"] = elasticity ? ordered_json(elasticity->hi) : ordered_json();
    out["neighbours"].push_back(one);
  }
  return out;
}

// Cells a0b0, a1b0, a0b1, a1b1: simple effects, main effects as their means, and the interaction as a ratio of ratios.
Result<ordered_json> factorialGroup(const json& input) {
  static constexpr std::array kCells{"a0b0", "a1b0", "a0b1", "a1b1"};
  static const std::array<std::pair<const char*, std::array<double, 4>>, 7> kContrasts{
      {{"a_at_b0", {-1, 1, 0, 0}},
       {"a_at_b1", {0, 0, -1, 1}},
       {"b_at_a0", {-1, 0, 1, 0}},
       {"b_at_a1", {0, -1, 0, 1}},
       {"main_a", {-0.5, 0.5, -0.5, 0.5}},
       {"main_b", {-0.5, -0.5, 0.5, 0.5}},
       {"interaction", {1, -1, -1, 1}}}};
  json data = json::array();
  if (input.at("design") == "rounds") {
    for (const json& round : input.at("rounds")) {
      json cells = json::array();
      for (const char* cell : kCells) cells.push_back(round.at(cell));
      data.push_back(cells);
    }
  } else {
    for (const char* cell : kCells) data.push_back(input.at("cells").at(cell));
  }
  const auto cells = unitsOf(input, data, kCells.size());
  if (!cells) return cells.error();
  ordered_json out;
  for (const auto& [name, weights] : kContrasts) {
    const auto contrast = core::contrastOf(*cells, weights, confidenceOf(input));
    if (!contrast || !contrast->inference) return contrast ? tooFew() : contrast.error();
    const auto [lo, hi] = improvementEnds(*contrast, directionOf(input));
    out[name] = evidenceJson(*contrast);
    out[name]["ratio"] = std::exp(core::signOf(directionOf(input)) * contrast->difference);
    out[name]["ratio_lo"] = std::exp(lo);
    out[name]["ratio_hi"] = std::exp(hi);
  }
  return out;
}

Result<ordered_json> lossGroup(const json& input) {
  const auto names = input.at("chain").get<std::vector<std::string>>();
  const auto units = unitsOf(input, input.at("data"), names.size());
  if (!units) return units.error();
  const auto chain = core::lossChainOf(*units, confidenceOf(input));
  if (!chain) return chain.error();
  if (!chain->total.inference) return tooFew();
  ordered_json out{
      {"total_d", chain->total.difference},     {"total_lo", chain->total.inference->lo},
      {"total_hi", chain->total.inference->hi}, {"total_percent", core::percentOfLn(chain->total.difference)},
      {"df", chain->total.inference->df},       {"total_clear_of_zero", chain->is_clear_of_zero},
      {"steps", ordered_json::array()}};
  double sum = 0;
  for (std::size_t i = 0; i < chain->steps.size(); ++i) {
    const core::LossStep& step = chain->steps[i];
    ordered_json one{{"from", names.at(i)},
                     {"to", names.at(i + 1)},
                     {"d", step.difference},
                     {"step_percent", core::percentOfLn(step.difference)},
                     {"share", step.share}};
    addEnds(one, "share_lo", "share_hi", step.interval);
    out["steps"].push_back(one);
    sum += step.share;
  }
  out["share_sum"] = sum;
  return out;
}

namespace {

// Configurations by name, each with its weight; one that the contrast does not name has none.
struct NamedVisits {
  std::vector<core::VisitValues> visits;
  std::vector<double> weights;
};

Result<NamedVisits> namedVisits(const json& input) {
  NamedVisits named;
  std::map<std::string, std::size_t> places;
  for (const auto& [name, weight] : input.at("weights").items()) {
    places[name] = named.weights.size();
    named.weights.push_back(weight.get<double>());
  }
  const auto add = [&](const std::string& name, int round, const json& values) {
    const auto place = places.try_emplace(name, named.weights.size()).first->second;
    if (place == named.weights.size()) named.weights.push_back(0);
    named.visits.push_back({static_cast<core::ConfigurationId>(place), static_cast<int>(named.visits.size()) + 1, round,
                            valuesOf(values)});
  };
  const auto& design = input.at("design");
  if (design == "rounds") {
    int round = 0;
    for (const json& each : input.at("rounds")) {
      ++round;
      for (const auto& [name, values] : each.items()) add(name, round, values);
    }
  } else if (design == "visits") {
    for (const auto& [name, visits] : input.at("visits").items())
      for (const json& visit : visits) add(name, 0, visit);
  } else {
    for (const auto& [name, values] : input.at("passes").items()) add(name, 0, values);
  }
  constexpr std::size_t kMost = 1000;
  if (named.weights.size() > kMost) return bad("there are more than 1000 configurations", "compute contrast");
  return named;
}

}  // namespace

// Any weighted sum of configurations.
Result<ordered_json> contrastGroup(const json& input) {
  const auto named = namedVisits(input);
  if (!named) return named.error();
  const bool is_difference = input.value("scale", "ratio") == "difference";
  auto flip = flipOf(input);
  if (flip) flip->visits.assign(named->weights.size(), 1);
  const auto effect = core::weightedEffectOf(named->visits, named->weights, confidenceOf(input), flip,
                                             is_difference ? core::Scale::Difference : core::Scale::Ratio);
  if (!effect) return effect.error();
  const Contrast& contrast = effect->contrast;
  if (!contrast.inference) return tooFew();
  ordered_json out{{"estimator", core::estimatorName(effect->design.estimator)}};
  out.update(evidenceJson(contrast));
  out["t"] = contrast.inference->t;
  out["d_lo"] = contrast.inference->lo;
  out["d_hi"] = contrast.inference->hi;
  if (effect->design.estimator == core::Estimator::Rounds) out["rounds_used"] = effect->design.complete_rounds;
  if (effect->is_log) out.update(stepJson(contrast, directionOf(input)));
  return out;
}

Result<ordered_json> transferGroup(const json& input) {
  std::vector<core::LinkLevel> levels;
  std::vector<std::pair<double, std::vector<double>>> units;
  for (const json& level : input.at("levels")) {
    if (level.contains("passes_ms"))
      units.emplace_back(level.at("gb_per_s").get<double>(), level.at("passes_ms").get<std::vector<double>>());
    else
      levels.push_back({level.at("gb_per_s"), level.at("mean_ms"), level.at("var_of_mean")});
  }
  ordered_json out = ordered_json::object();
  if (!units.empty()) {
    core::PooledLevels pooled = core::pooledLevels(units);
    levels = std::move(pooled.levels);
    out["pooled_ln_sd"] = pooled.ln_sd;
  }
  const auto model = core::transferModel(levels, confidenceOf(input));
  if (!model) return model.error();
  out.update(report::transferJson(*model));
  if (!input.contains("predict_gb_per_s")) return out;
  const double rate = input.at("predict_gb_per_s");
  out["predicted_ms"] = model->predictedMs(rate);
  out["predicted_fps"] = 1000 / model->predictedMs(rate);
  addEnds(out, "predicted_lo_ms", "predicted_hi_ms", model->predictionInterval(rate));
  return out;
}

}  // namespace cli
