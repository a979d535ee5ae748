#include "cli/compute/compute_quality.h"

#include "report/json/or_null.h"

#include <map>

#include "core/estimate/quality.h"
#include "core/planning/extension.h"
#include "core/values/percent.h"

namespace cli {
namespace {

using nlohmann::json;
using nlohmann::ordered_json;

const char* measureName(core::OddPasses::Measure measure) {
  switch (measure) {
    case core::OddPasses::Measure::MedianDeviation: return "MAD";
    case core::OddPasses::Measure::MeanDeviation: return "mean absolute deviation";
    case core::OddPasses::Measure::None: return "none";
  }
  return "unknown";
}

}  // namespace

core::Result<ordered_json> oddPassGroup(const json& input) {
  const auto values = input.at("values").get<std::vector<double>>();
  const auto visits = input.value("visits", std::vector<int>{});
  const core::OddPasses odd = core::oddPasses(values, visits);
  ordered_json out{{"assessed", odd.is_assessed}, {"flagged", ordered_json::array()}};
  if (!odd.is_assessed) return out;
  for (const std::size_t i : odd.flagged) out["flagged"].push_back(i + 1);
  out["scale"] = measureName(odd.measure);
  out["median"] = odd.median;
  out["mad"] = odd.mad;
  out["mean_ad"] = odd.mean_ad;
  out["cut"] = odd.cut;
  out["modified_z"] = odd.modified_z;
  out["odd_visit"] = report::orNull(odd.odd_visit);
  return out;
}

core::Result<ordered_json> driftGroup(const json& input) {
  std::map<std::string, int> levels;
  const auto number = [&](const std::string& level) {
    return levels.try_emplace(level, static_cast<int>(levels.size())).first->second;
  };
  std::vector<core::TimedPass> passes;
  for (const json& pass : input.at("passes"))
    passes.push_back({pass.at("visit"), number(pass.at("level")), pass.at("hours"), pass.at("value")});
  const core::Drift drift =
      core::driftOf(passes, number(input.at("baseline")), number(input.at("changed")), input.value("confidence", 0.95));
  ordered_json out{{"visits", drift.visits},
                   {"exposure_hours", drift.exposure_hours},
                   {"df", drift.df},
                   {"estimable", drift.is_estimable},
                   {"flagged", drift.is_flagged}};
  const auto percent = [&](double ln) {
    return drift.is_estimable ? ordered_json(core::percentOfLn(ln)) : ordered_json();
  };
  out["b_per_hour"] = drift.is_estimable ? ordered_json(drift.per_hour) : ordered_json();
  out["b_percent_per_hour"] = percent(drift.per_hour);
  out["se"] = drift.is_estimable ? ordered_json(drift.se) : ordered_json();
  out["t"] = drift.is_estimable && drift.se > 0 ? ordered_json(drift.per_hour / drift.se) : ordered_json();
  out["p"] = drift.is_estimable ? ordered_json(drift.p) : ordered_json();
  out["b_lo_percent_per_hour"] = percent(drift.lo);
  out["b_hi_percent_per_hour"] = percent(drift.hi);
  out["bias_lo_percent"] = percent(drift.biasLo());
  out["bias_hi_percent"] = percent(drift.biasHi());
  return out;
}

core::Result<ordered_json> warmUpGroup(const json& input) {
  const auto visits = input.at("visits").get<std::vector<std::vector<double>>>();
  const core::WarmUp warm_up = core::warmUpOf(visits, input.value("confidence", 0.95));
  const auto percent = [](std::optional<double> ln) {
    return ln ? ordered_json(core::percentOfLn(*ln)) : ordered_json();
  };
  ordered_json out{{"visits_used", warm_up.visits_used}, {"d", report::orNull(warm_up.difference)}};
  out["percent"] = percent(warm_up.difference);
  out["se"] = report::orNull(warm_up.se);
  const auto& inference = warm_up.inference;
  out["df"] = inference ? ordered_json(inference->df) : ordered_json();
  out["p"] = inference ? ordered_json(inference->p) : ordered_json();
  out["lo_percent"] = inference ? percent(inference->lo) : ordered_json();
  out["hi_percent"] = inference ? percent(inference->hi) : ordered_json();
  return out;
}

core::Result<ordered_json> extensionJson(const json& input, const core::Effect& effect) {
  const auto size = core::extensionSize(effect, input.at("delta_percent"), input.value("confidence", 0.95));
  if (!size)
    return core::Error{core::ErrorKind::TooFew, "there is no interval to narrow", "compute extension",
                       "At least two units are needed at each level"};
  return ordered_json{{"goal_half_width", size->goal},
                      {"half_width_now", size->now},
                      {"further", report::orNull(size->further)},
                      {"half_width_then", report::orNull(size->then)}};
}

}  // namespace cli
