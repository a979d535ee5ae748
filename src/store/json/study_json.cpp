#include "store/json/study_json.h"

#include <algorithm>
#include <optional>

#include "store/json/fields.h"
#include "store/json/json_text.h"

namespace store {
namespace {

using core::Error;
using core::ErrorKind;
using json = nlohmann::ordered_json;  // keeps the order in which a person wrote the fields

// A value may be written as the number that it is.
core::ExpectedReading readReading(const json& object, const std::string& where, std::optional<Error>& error) {
  core::ExpectedReading reading;
  Fields fields(object, where, error);
  fields.allow({"fact", "value"});
  fields.required("fact", reading.fact);
  const json* value = fields.find("value");
  if (value && value->is_number())
    reading.value = value->dump();
  else
    fields.required("value", reading.value);
  return reading;
}

core::Level readLevel(const json& object, const std::string& where, std::optional<Error>& error) {
  core::Level level;
  Fields fields(object, where, error);
  fields.allow({"name", "prefix", "environment", "set_command", "writes", "menu_path", "reads"});
  fields.required("name", level.name);
  fields.optional("prefix", level.prefix);
  fields.optional("environment", level.environment);
  fields.optional("set_command", level.set_command);
  std::vector<std::pair<std::string, std::string>> writes;
  fields.optional("writes", writes);
  for (auto& [path, value] : writes) level.writes.push_back({std::move(path), std::move(value)});
  fields.optional("menu_path", level.menu_path);
  if (const json* reads = fields.find("reads")) level.reads = readReading(*reads, fields.path("reads"), error);
  return level;
}

core::Metric readMetric(const json& object, const std::string& where, std::optional<Error>& error) {
  core::Metric metric;
  Fields fields(object, where, error);
  fields.allow({"name", "unit", "direction", "scale", "threshold"});
  fields.choice("scale", {{"ratio", core::Scale::Ratio}, {"difference", core::Scale::Difference}}, metric.scale);
  fields.optional("threshold", metric.threshold);
  fields.required("name", metric.name);
  fields.required("unit", metric.unit);
  fields.choice("direction", {{"higher", core::Direction::HigherIsBetter}, {"lower", core::Direction::LowerIsBetter}},
                metric.direction);
  return metric;
}

core::Case readCase(const json& object, const std::string& where, std::optional<Error>& error) {
  core::Case a_case;
  Fields fields(object, where, error);
  fields.allow({"workload", "preset", "command", "result", "field", "metric", "trim_first_s", "trim_last_s",
                "is_synthetic", "is_control", "feature_acts", "is_played", "route", "played_s", "settings_file",
                "recorded_program", "declared"});
  fields.required("workload", a_case.workload);
  fields.optional("preset", a_case.preset);
  fields.optional("command", a_case.command);
  fields.optional("is_synthetic", a_case.is_synthetic);
  fields.optional("is_control", a_case.is_control);
  fields.choice(
      "feature_acts",
      {{"unknown", core::FeatureActs::Unknown}, {"yes", core::FeatureActs::Yes}, {"no", core::FeatureActs::No}},
      a_case.feature);
  fields.optional("is_played", a_case.is_played);
  fields.optional("route", a_case.route);
  fields.optional("played_s", a_case.played_s);
  fields.optional("settings_file", a_case.settings_file);
  fields.optional("recorded_program", a_case.recorded_program);
  if (const json* declared = fields.find("declared")) {
    Fields facts(*declared, fields.path("declared"), error);
    for (const core::DeclaredFact& fact : core::kDeclaredFacts) {
      std::string text;
      facts.optional(fact.key.data(), text);
      if (!text.empty()) a_case.declared.emplace_back(fact.key, text);
    }
    facts.allow({"settings", "upscaling", "generated_frames", "automatic_quality", "frame_cap", "background_load"});
  }
  fields.choice("result",
                {{"frame_log", core::ResultSource::FrameLog},
                 {"json_field", core::ResultSource::JsonField},
                 {"recorded", core::ResultSource::Recorded},
                 {"by_hand", core::ResultSource::ByHand}},
                a_case.source);
  if (a_case.source == core::ResultSource::JsonField)
    fields.required("field", a_case.field);
  else
    fields.optional("field", a_case.field);
  if (const json* metric = fields.find("metric")) {
    a_case.metric = readMetric(*metric, fields.path("metric"), error);
  } else if (!a_case.hasFrames()) {
    core::Metric unused;
    Fields(json::object(), fields.path("metric"), error).required("name", unused.name);
  }
  fields.optional("trim_first_s", a_case.trim_first_s);
  fields.optional("trim_last_s", a_case.trim_last_s);
  return a_case;
}

core::PlanningGuess readGuess(const json& object, std::optional<Error>& error) {
  core::PlanningGuess guess;
  Fields fields(object, "plan.guess", error);
  fields.allow({"pass_spread_percent", "flip_spread_percent", "flip_minutes", "visit_pass_minutes"});
  fields.optional("pass_spread_percent", guess.pass_spread_percent);
  fields.optional("flip_spread_percent", guess.flip_spread_percent);
  fields.optional("flip_minutes", guess.flip_minutes);
  fields.optional("visit_pass_minutes", guess.visit_pass_minutes);
  return guess;
}

core::Plan readPlan(const json& object, std::optional<Error>& error) {
  core::Plan plan;
  Fields fields(object, "plan", error);
  fields.allow({"passes_per_level", "warm_ups", "order", "time_limit_s", "rounds", "passes_per_visit", "seed", "drawn",
                "guess", "settle_s", "settle_to_c", "most_settle_s", "quiet_wait_s", "retries",
                "most_failures_in_a_row", "is_sealed", "extension_rounds", "looks", "one_way"});
  fields.optional("passes_per_level", plan.passes_per_level);
  fields.optional("warm_ups", plan.warm_ups);
  fields.choice("order",
                {{"blocked", core::Order::Blocked},
                 {"there_and_back", core::Order::ThereAndBack},
                 {"balanced_shuffle", core::Order::BalancedShuffle}},
                plan.order);
  fields.optional("time_limit_s", plan.time_limit_s);
  fields.optional("settle_s", plan.settle_s);
  fields.optional("settle_to_c", plan.settle_to_c);
  fields.optional("most_settle_s", plan.most_settle_s);
  fields.optional("quiet_wait_s", plan.quiet_wait_s);
  fields.optional("extension_rounds", plan.extension_rounds);
  fields.optional("looks", plan.looks);
  fields.optional("one_way", plan.is_one_way);
  fields.optional("retries", plan.retries);
  fields.optional("most_failures_in_a_row", plan.most_failures_in_a_row);
  fields.optional("is_sealed", plan.is_sealed);
  fields.optional("rounds", plan.rounds);
  fields.optional("passes_per_visit", plan.passes_per_visit);
  fields.optional("seed", plan.seed);
  core::Command drawn;
  fields.optional("drawn", drawn);
  for (const std::string& side : drawn)
    plan.drawn.push_back(side == "changed" ? core::Side::Changed : core::Side::Baseline);
  // The order that was drawn is what counts; where a design leaves it out, it is drawn here, once.
  if (plan.order == core::Order::BalancedShuffle && plan.drawn.empty() && plan.rounds > 0 && plan.rounds <= 500)
    plan.drawn = core::drawRounds(plan.rounds, plan.seed);
  if (const json* guess = fields.find("guess")) plan.guess = readGuess(*guess, error);
  return plan;
}

core::Study readStudy(const json& object, std::optional<Error>& error) {
  core::Study study;
  Fields fields(object, "", error);
  fields.allow({"bench",
                "variable",
                "kind",
                "device",
                "fields",
                "held",
                "released",
                "bench_is_this_machine",
                "measure_command",
                "stability_command",
                "school",
                "machine",
                "is_null",
                "levels",
                "cases",
                "plan",
                "notice_threshold_percent",
                "confidence",
                "target_fps",
                "band_percent",
                "yardstick"});
  fields.required("bench", study.bench);
  fields.required("variable", study.variable);
  fields.optional("kind", study.kind);
  fields.optional("device", study.device);
  fields.optional("fields", study.fields);
  fields.optional("held", study.held);
  std::vector<std::pair<std::string, std::string>> released;
  fields.optional("released", released);
  study.released.insert(released.begin(), released.end());
  if (fields.find("bench_is_this_machine")) fields.optional("bench_is_this_machine", study.is_this_machine.emplace());
  fields.optional("measure_command", study.measure_command);
  fields.optional("stability_command", study.stability_command);
  fields.choice("school", {{"as_delivered", core::School::AsDelivered}, {"with_headroom", core::School::WithHeadroom}},
                study.school);
  fields.optional("machine", study.machine);
  fields.optional("is_null", study.is_null);
  const json* levels = fields.find("levels");
  if (levels && levels->is_array() && levels->size() == 2) {
    for (std::size_t i = 0; i < 2; ++i)
      study.levels[i] = readLevel((*levels)[i], "levels[" + std::to_string(i) + "]", error);
  } else if (!error) {
    error = Error{ErrorKind::Malformed, "a list of two levels is expected here, baseline first", "levels",
                  "List both levels"};
  }
  if (const json* cases = fields.find("cases"); cases && cases->is_array()) {
    for (std::size_t i = 0; i < cases->size(); ++i)
      study.cases.push_back(readCase((*cases)[i], "cases[" + std::to_string(i) + "]", error));
  } else if (!error) {
    error = Error{ErrorKind::Malformed, "a list of cases is expected here", "cases", "List at least one case"};
  }
  if (const json* plan = fields.find("plan")) study.plan = readPlan(*plan, error);
  fields.optional("notice_threshold_percent", study.notice_threshold_percent);
  fields.optional("confidence", study.confidence);
  fields.optional("target_fps", study.target_fps);
  fields.optional("band_percent", study.band_percent);
  fields.choice("yardstick",
                {{"interval", core::Yardstick::Interval},
                 {"fixed_band", core::Yardstick::FixedBand},
                 {"two_run_to_run_sds", core::Yardstick::TwoRunToRunSds}},
                study.yardstick);
  return study;
}

json levelJson(const core::Level& level) {
  json object{{"name", level.name}};
  if (!level.prefix.empty()) object["prefix"] = level.prefix;
  for (const auto& [name, value] : level.environment) object["environment"][name] = value;
  if (!level.set_command.empty()) object["set_command"] = level.set_command;
  for (const core::SettingWrite& write : level.writes) object["writes"][write.path] = write.value;
  if (!level.menu_path.empty()) object["menu_path"] = level.menu_path;
  if (level.reads) object["reads"] = {{"fact", level.reads->fact}, {"value", level.reads->value}};
  return object;
}

// What is as it usually is stays unsaid.
void addNature(json& object, const core::Case& a_case) {
  if (a_case.is_synthetic) object["is_synthetic"] = true;
  if (a_case.is_control) object["is_control"] = true;
  if (a_case.feature != core::FeatureActs::Unknown)
    object["feature_acts"] = a_case.feature == core::FeatureActs::Yes ? "yes" : "no";
  if (a_case.is_played) object["is_played"] = true;
  if (!a_case.route.empty()) object["route"] = a_case.route;
  if (a_case.is_played) object["played_s"] = a_case.played_s;
  if (!a_case.settings_file.empty()) object["settings_file"] = a_case.settings_file;
  if (!a_case.recorded_program.empty()) object["recorded_program"] = a_case.recorded_program;
  for (const auto& [key, text] : a_case.declared) object["declared"][key] = text;
}

const char* sourceName(core::ResultSource source) {
  switch (source) {
    case core::ResultSource::FrameLog: return "frame_log";
    case core::ResultSource::JsonField: return "json_field";
    case core::ResultSource::Recorded: return "recorded";
    case core::ResultSource::ByHand: return "by_hand";
  }
  return "unknown";
}

json caseJson(const core::Case& a_case) {
  json object{{"workload", a_case.workload},
              {"preset", a_case.preset},
              {"command", a_case.command},
              {"result", sourceName(a_case.source)},
              {"field", a_case.field},
              {"metric",
               {{"name", a_case.metric.name},
                {"unit", a_case.metric.unit},
                {"direction", a_case.metric.direction == core::Direction::HigherIsBetter ? "higher" : "lower"}}},
              {"trim_first_s", a_case.trim_first_s},
              {"trim_last_s", a_case.trim_last_s}};
  if (a_case.metric.scale == core::Scale::Difference) {
    object["metric"]["scale"] = "difference";
    object["metric"]["threshold"] = a_case.metric.threshold;
  }
  addNature(object, a_case);
  return object;
}

json planJson(const core::Plan& plan) {
  json object{{"order", plan.order == core::Order::Blocked        ? "blocked"
                        : plan.order == core::Order::ThereAndBack ? "there_and_back"
                                                                  : "balanced_shuffle"},
              {"passes_per_level", plan.passes_per_level},
              {"rounds", plan.rounds},
              {"passes_per_visit", plan.passes_per_visit},
              {"warm_ups", plan.warm_ups},
              {"time_limit_s", plan.time_limit_s},
              {"settle_s", plan.settle_s},
              {"settle_to_c", plan.settle_to_c},
              {"most_settle_s", plan.most_settle_s},
              {"quiet_wait_s", plan.quiet_wait_s},
              {"retries", plan.retries},
              {"most_failures_in_a_row", plan.most_failures_in_a_row},
              {"is_sealed", plan.is_sealed}};
  if (plan.order == core::Order::BalancedShuffle) {
    object["seed"] = plan.seed;
    object["drawn"] = json::array();
    for (const core::Side side : plan.drawn)
      object["drawn"].push_back(side == core::Side::Baseline ? "baseline" : "changed");
  }
  if (!plan.looks.empty()) object["looks"] = plan.looks;
  if (plan.is_one_way) object["one_way"] = true;
  if (plan.extension_rounds > 0) object["extension_rounds"] = plan.extension_rounds;
  object["guess"] = {{"pass_spread_percent", plan.guess.pass_spread_percent},
                     {"flip_spread_percent", plan.guess.flip_spread_percent},
                     {"flip_minutes", plan.guess.flip_minutes},
                     {"visit_pass_minutes", plan.guess.visit_pass_minutes}};
  return object;
}

}  // namespace

std::string studyToJson(const core::Study& study) {
  json object{{"bench", study.bench}, {"variable", study.variable}};
  for (const auto& [name, text] :
       {std::pair{"kind", &study.kind}, std::pair{"device", &study.device}, std::pair{"machine", &study.machine}})
    if (!text->empty()) object[name] = *text;
  if (!study.fields.empty()) object["fields"] = study.fields;
  if (!study.held.empty()) object["held"] = study.held;
  for (const auto& [id, reason] : study.released) object["released"][id] = reason;
  if (study.is_this_machine) object["bench_is_this_machine"] = *study.is_this_machine;
  if (!study.measure_command.empty()) object["measure_command"] = study.measure_command;
  if (!study.stability_command.empty()) object["stability_command"] = study.stability_command;
  object["school"] = study.school == core::School::AsDelivered ? "as_delivered" : "with_headroom";
  object["levels"] = {levelJson(study.levels[0]), levelJson(study.levels[1])};
  object["cases"] = json::array();
  for (const core::Case& a_case : study.cases) object["cases"].push_back(caseJson(a_case));
  object["plan"] = planJson(study.plan);
  if (study.is_null) object["is_null"] = true;
  object["notice_threshold_percent"] = study.notice_threshold_percent;
  object["confidence"] = study.confidence;
  object["target_fps"] = study.target_fps;
  if (study.band_percent != core::Study().band_percent) object["band_percent"] = study.band_percent;
  if (study.yardstick == core::Yardstick::FixedBand) object["yardstick"] = "fixed_band";
  if (study.yardstick == core::Yardstick::TwoRunToRunSds) object["yardstick"] = "two_run_to_run_sds";
  return jsonText(object, 2);
}

core::Result<core::Study> studyFromJson(std::string_view text, const std::string& source_name) {
  json object;
  try {
    object = parseJson(text);
    if (object.is_discarded()) {
      object = json::parse(text);  // tells the place of the flaw; without one the text is out of all bounds
      return Error{ErrorKind::OutOfRange, "this is far more than any design says", source_name,
                   "See docs/study-format.md"};
    }
  } catch (const json::parse_error& e) {
    const auto line =
        1 + std::count(text.begin(), text.begin() + static_cast<std::ptrdiff_t>(std::min(e.byte, text.size())), '\n');
    return Error{ErrorKind::Malformed, "this is not valid JSON", source_name + ", line " + std::to_string(line),
                 "Look for a missing comma, quote or bracket there or just before"};
  } catch (const json::exception& e) {
    return Error{ErrorKind::OutOfRange, std::string("a number is larger than any: ") + e.what(), source_name,
                 "Correct it"};
  }
  std::optional<Error> error;
  core::Study study = readStudy(object, error);
  if (error) {
    error->where = source_name + ", " + error->where;
    return *error;
  }
  return study;
}

}  // namespace store
