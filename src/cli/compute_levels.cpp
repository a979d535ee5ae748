#include "cli/compute_levels.h"

#include "cli/or_null.h"

#include <cmath>

#include "cli/vector_input.h"
#include "core/ladder.h"
#include "core/loss_chain.h"
#include "core/percent.h"
#include "core/transfer_model.h"

namespace cli {
namespace {

using core::Contrast;
using core::Result;
using nlohmann::json;
using nlohmann::ordered_json;

double meanLn(const json& passes) {
  double sum = 0;
  for (const json& value : passes) sum += std::log(value.get<double>());
  return sum / static_cast<double>(passes.size());
}

// Levels as passes, as visits of passes, or as rounds of visits.
core::LevelData levelData(const json& input, const json& data) {
  core::LevelData levels;
  const auto& design = input.at("design");
  if (design == "rounds") {
    levels.estimator = core::Estimator::Rounds;
    levels.levels.resize(data.at(0).size());
    for (const json& round : data)
      for (std::size_t i = 0; i < round.size(); ++i) levels.levels[i].push_back(meanLn(round[i]));
    return levels;
  }
  levels.estimator = design == "visits" ? core::Estimator::Visits : core::Estimator::Passes;
  for (const json& level : data) {
    std::vector<double> units;
    for (const json& unit : level) units.push_back(design == "visits" ? meanLn(unit) : std::log(unit.get<double>()));
    levels.levels.push_back(std::move(units));
  }
  return levels;
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
  const auto found = core::enoughPointOf(levelData(input, input.at("data")), rungs, directionOf(input),
                                         input.at("delta_percent"), confidenceOf(input));
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
  const core::LevelData data = levelData(input, input.at("data"));
  std::size_t baseline = 0;
  for (std::size_t i = 0; i < rungs.size(); ++i)
    if (rungs[i].name == input.at("baseline")) baseline = i;
  ordered_json out{{"against_baseline", ordered_json::object()}, {"neighbours", ordered_json::array()}};
  for (std::size_t i = 0; i < rungs.size(); ++i) {
    if (i == baseline) continue;
    const auto step = core::levelDifference(data, baseline, i, confidenceOf(input));
    if (!step || !step->inference) return step ? tooFew() : step.error();
    out["against_baseline"][rungs[i].name] = stepJson(*step, directionOf(input));
  }
  for (std::size_t i = 0; i + 1 < rungs.size(); ++i) {
    const auto step = core::levelDifference(data, i, i + 1, confidenceOf(input));
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
  const core::LevelData cells = levelData(input, data);
  ordered_json out;
  for (const auto& [name, weights] : kContrasts) {
    const auto contrast = core::weightedContrast(cells, weights, confidenceOf(input));
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
  const auto chain = core::lossChainOf(levelData(input, input.at("data")), confidenceOf(input));
  if (!chain) return chain.error();
  if (!chain->total.inference) return tooFew();
  const auto names = input.at("chain").get<std::vector<std::string>>();
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
  out["t0_ms"] = model->t0_ms;
  out["D_mb_per_frame"] = model->mb_per_frame;
  out["df"] = model->df;
  out["ceiling_fps"] = orNull(model->ceiling_fps);
  out["residual_scale"] = orNull(model->residual_scale);
  out["se_t0"] = orNull(model->se_t0);
  out["se_D"] = orNull(model->se_mb);
  addEnds(out, "t0_lo_ms", "t0_hi_ms", model->t0_interval);
  addEnds(out, "D_lo", "D_hi", model->mb_interval);
  if (!input.contains("predict_gb_per_s")) return out;
  const double rate = input.at("predict_gb_per_s");
  out["predicted_ms"] = model->predictedMs(rate);
  out["predicted_fps"] = 1000 / model->predictedMs(rate);
  addEnds(out, "predicted_lo_ms", "predicted_hi_ms", model->predictionInterval(rate));
  return out;
}

}  // namespace cli
