#include "simbench/truth.h"

#include "simbench/machine.h"

namespace simbench {
namespace {

using nlohmann::json;

Factors factorsFrom(const json& object) {
  return {object.value("processor", 1.0), object.value("graphics", 1.0), object.value("memory", 1.0),
          object.value("link", 1.0)};
}

Truth::Influence influenceFrom(const json& object) {
  return {factorsFrom(object), object.value("machine", json::object()),
          factorsFrom(object.value("beside", json::object()))};
}

CaseTruth caseFrom(const json& object) {
  CaseTruth truth;
  truth.is_time = object.value("result", "frames") == "time";
  truth.processor_ms = object.value("processor_ms", truth.processor_ms);
  truth.graphics_ms = object.value("graphics_ms", truth.graphics_ms);
  truth.memory_ms = object.value("memory_ms", truth.memory_ms);
  truth.link_ms = object.value("link_ms", truth.link_ms);
  truth.overlap = object.value("overlap", truth.overlap);
  truth.seconds = object.value("seconds", truth.seconds);
  truth.pass_sd = object.value("pass_sd", truth.pass_sd);
  truth.frame_sd = object.value("frame_sd", truth.frame_sd);
  truth.frame_rho = object.value("frame_rho", truth.frame_rho);
  truth.stutters_per_minute = object.value("stutters_per_minute", truth.stutters_per_minute);
  truth.stutter_ms = object.value("stutter_ms", truth.stutter_ms);
  truth.load_s = object.value("load_s", truth.load_s);
  truth.needs_gib = object.value("needs_gib", truth.needs_gib);
  truth.warns_below_gib = object.value("warns_below_gib", truth.warns_below_gib);
  truth.stutter_memory_power = object.value("stutter_memory_power", truth.stutter_memory_power);
  return truth;
}

Fault faultFrom(const std::string& name) {
  static const std::map<std::string, Fault> names{
      {"crash", Fault::Crash}, {"hang", Fault::Hang}, {"error", Fault::Error}, {"broken_log", Fault::BrokenLog}};
  return names.at(name);
}

}  // namespace

core::Result<Truth> truthFromJson(const json& object, const std::string& source_name) {
  Truth truth;
  try {
    truth.seed = object.at("seed");
    truth.visit_sd = object.value("visit_sd", truth.visit_sd);
    truth.heat_percent = object.value("heat_percent", truth.heat_percent);
    truth.heat_minutes = object.value("heat_minutes", truth.heat_minutes);
    for (const auto& [name, variable] : object.at("variables").items()) {
      Truth::Variable& target = truth.variables[name];
      target.initial = variable.at("initial");
      target.is_swapped = variable.value("swapped", false);
      target.is_one_way = variable.value("one_way", false);
      for (const auto& [level, influence] : variable.at("levels").items())
        target.levels[level] = influenceFrom(influence);
    }
    truth.beside = factorsFrom(object.value("beside", json::object()));
    truth.machine = object.value("machine", json::object());
    for (const json& accident : object.value("accidents", json::array()))
      truth.accidents[accident.at("at_boot")] = influenceFrom(accident);
    for (const json& restart : object.value("lost_restarts", json::array()))
      truth.lost_restarts.insert(restart.get<std::int64_t>());
    for (const json& fault : object.value("faults", json::array()))
      truth.faults[fault.at("at_run")] = faultFrom(fault.at("fault"));
    for (const auto& [name, a_case] : object.at("cases").items()) truth.cases[name] = caseFrom(a_case);
  } catch (const json::exception& e) {
    return core::Error{core::ErrorKind::Malformed, std::string("the truth does not fit: ") + e.what(), source_name,
                       "Compare it with docs/simulated-bench.md"};
  } catch (const std::out_of_range&) {
    return core::Error{core::ErrorKind::OutOfRange, "the truth plants a fault that is not known", source_name,
                       "Use crash, hang, error or broken_log"};
  }
  // A field that no machine has is found now, not at the restart that would need it.
  Machine tried;
  if (auto fits = overrideMachine(tried, truth.machine); !fits) return fits.error();
  for (const auto& [name, variable] : truth.variables)
    for (const auto& [level, influence] : variable.levels)
      if (auto fits = overrideMachine(tried, influence.machine); !fits) return fits.error();
  for (const auto& [boot, accident] : truth.accidents)
    if (auto fits = overrideMachine(tried, accident.machine); !fits) return fits.error();
  return truth;
}

}  // namespace simbench
