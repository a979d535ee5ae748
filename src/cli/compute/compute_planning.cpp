#include "cli/compute/compute_planning.h"

#include "report/json/or_null.h"

#include "core/planning/planner.h"
#include "core/values/percent.h"

namespace cli {
namespace {

using core::PlanDesign;
using nlohmann::json;
using nlohmann::ordered_json;

struct Asked {
  PlanDesign design = PlanDesign::Rounds;
  int passes_per_visit = 1;
  core::NoiseFloor noise;
  core::PlanAim aim;
};

PlanDesign designOf(const std::string& name) {
  if (name == "passes") return PlanDesign::Passes;
  return name == "visits" ? PlanDesign::Visits : PlanDesign::Rounds;
}

Asked askedOf(const json& input) {
  Asked asked;
  asked.design = designOf(input.at("design"));
  asked.passes_per_visit = input.value("m", 1);
  asked.noise.pass_sd = input.at("s");
  asked.noise.flip_sd = input.at("s_f");
  if (input.contains("null_study") && !input.at("null_study").is_null()) {
    const json& null = input.at("null_study");
    asked.noise.null =
        core::NoiseFloor::Null{null.at("visits"), null.at("passes_per_visit").get<int>(), null.at("flip_df")};
  }
  asked.aim = {input.at("delta_percent"), input.value("confidence", 0.95), input.value("power", 0.9)};
  return asked;
}

std::optional<int> roundsInstead(const Asked& asked, double flip_sd) {
  core::NoiseFloor noise = asked.noise;
  noise.flip_sd = flip_sd;
  return core::smallestSize(PlanDesign::Rounds, asked.passes_per_visit, noise, asked.aim);
}

void addValue(ordered_json& out, const Asked& asked, int size) {
  const core::PlanValue value = core::planValue(asked.design, size, asked.passes_per_visit, asked.noise, asked.aim);
  out["se"] = value.se;
  out["df"] = value.df;
  out["half_width"] = value.half_width;
  out["half_width_percent"] = core::percentOfLn(value.half_width);
  out["median_half_width_percent"] = core::percentOfLn(value.median_half_width);
  out["ncp"] = value.ncp;
  out["power"] = value.power;
  out["chance_gain"] = value.chance_gain;
  out["chance_nothing_matters"] = value.chance_nothing_matters;
  out["sufficient"] = value.reaches(asked.aim) && !value.is_flip_unseen;
  if (!value.is_flip_unseen) return;
  out["assumed_flip_sd"] = value.assumed_flip_sd;
  out["interval_right"] = value.interval_right;
  out["rounds_instead"] = report::orNull(roundsInstead(asked, value.assumed_flip_sd));
}

ordered_json size(const json& input) {
  const Asked asked = askedOf(input);
  const auto found = core::smallestSize(asked.design, asked.passes_per_visit, asked.noise, asked.aim);
  if (!found) {
    const auto rounds = roundsInstead(asked, asked.noise.flip_sd);
    ordered_json out{{"possible", false},
                     {"sufficient", false},
                     {"rounds_instead", report::orNull(rounds)},
                     {"m", asked.passes_per_visit}};
    if (rounds)
      out["rounds_power"] =
          core::planValue(PlanDesign::Rounds, *rounds, asked.passes_per_visit, asked.noise, asked.aim).power;
    return out;
  }
  const char* name = asked.design == PlanDesign::Passes   ? "n"
                     : asked.design == PlanDesign::Visits ? "visits"
                                                          : "rounds";
  ordered_json out{{"possible", true}, {name, *found}};
  addValue(out, asked, *found);
  out["power_one_fewer"] = nullptr;
  if (*found > core::leastSize(asked.design))
    out["power_one_fewer"] =
        core::planValue(asked.design, *found - 1, asked.passes_per_visit, asked.noise, asked.aim).power;
  return out;
}

ordered_json plan(const json& input) {
  const Asked asked = askedOf(input);
  const int size = input.at("size");
  ordered_json out = ordered_json::object();
  addValue(out, asked, size);
  out["smallest_detectable_percent"] =
      core::smallestDetectable(asked.design, size, asked.passes_per_visit, asked.noise, asked.aim);
  return out;
}

ordered_json time(const json& input) {
  const core::BenchTimes times{input.at("flip_minutes"), input.at("settle_minutes"), input.at("pass_minutes"),
                               input.at("pause_minutes")};
  const int passes = input.at("passes_per_visit");
  const int warm_ups = input.at("warm_ups_per_visit");
  ordered_json out{{"minutes", core::planMinutes(input.at("visits"), passes, warm_ups, times)}};
  if (!input.contains("order")) return out;
  std::vector<core::TimedVisit> visits;
  for (const json& level : input.at("order"))
    visits.push_back(
        {level == input.at("baseline") ? core::ConfigurationId::Baseline : core::ConfigurationId::Changed, passes});
  out["exposure_hours"] =
      core::exposureHours(visits, core::ConfigurationId::Baseline, core::ConfigurationId::Changed, warm_ups, times);
  return out;
}

}  // namespace

core::Result<ordered_json> planningGroup(const json& input) {
  const std::string ask = input.at("ask");
  if (ask == "size") return size(input);
  if (ask == "plan") return plan(input);
  if (ask == "time") return time(input);
  return core::Error{core::ErrorKind::OutOfRange, "'" + ask + "' cannot be asked", "compute planning",
                     "Ask size, plan or time"};
}

}  // namespace cli
