#include <map>
#include <set>

#include <fmt/format.h>

#include "bench/capture_parts.h"
#include "bench/sysfs_text.h"

namespace bench {
namespace {

using core::FactKind;
using Reading = FactReader::Reading;

const std::string kCpus = "/sys/devices/system/cpu";

// Processors with their own folder: cpu0, cpu1, ...
std::vector<int> processors(const FactReader& reader) {
  std::vector<int> numbers;
  for (const std::string& name : reader.list(kCpus))
    if (name.starts_with("cpu"))
      if (const auto number = wholeNumber(name.substr(3)); number && *number >= 0)
        numbers.push_back(static_cast<int>(*number));
  return numbers;
}

// "performance" where all policies agree; else who has what: "0-3: performance, 4: powersave".
void capturePolicies(FactReader& reader, const std::string& name, const std::string& file,
                     const std::string& unit = "") {
  std::map<std::string, std::vector<std::string>> policies;
  std::optional<core::Error> trouble;
  const std::string base = kCpus + "/cpufreq";
  for (const std::string& policy : reader.list(base)) {
    if (!policy.starts_with("policy")) continue;
    const auto text = reader.bench().readFile(base + "/" + policy + "/" + file);
    if (text)
      policies[trimmed(*text)].push_back(policy.substr(6));
    else if (text.error().kind != core::ErrorKind::Missing)
      trouble = text.error();  // a processor that is off answers "busy"
  }
  if (policies.empty()) {
    if (trouble) reader.missing(name, *trouble);
    return;
  }
  std::string value = policies.begin()->first;
  if (policies.size() > 1) {
    value.clear();
    for (const auto& [setting, who] : policies)
      value += fmt::format("{}{}: {}", value.empty() ? "" : ", ", fmt::join(who, " "), setting);
  }
  const auto number = policies.size() == 1 && !unit.empty() ? wholeNumber(value) : std::nullopt;
  reader.derived(name, value, number ? std::optional(static_cast<double>(*number)) : std::nullopt, unit,
                 base + "/policy*/" + file);
}

void captureTopology(FactReader& reader) {
  std::set<std::pair<std::string, std::string>> cores;
  int logical = 0;
  for (const int n : processors(reader)) {
    const std::string topology = kCpus + "/cpu" + std::to_string(n) + "/topology";
    const std::string core = reader.raw(topology + "/core_id");
    if (core.empty()) continue;  // off: its folder has lost its contents
    const std::string package = reader.raw(topology + "/physical_package_id");
    cores.emplace(package, core);
    ++logical;
    reader.derived(fmt::format("cpu/cpu{}/core", n), fmt::format("package {}, core {}", package, core), {}, "",
                   topology + "/core_id");
    reader.text(fmt::format("cpu/cpu{}/siblings", n), topology + "/thread_siblings_list");
  }
  if (logical == 0) return;
  reader.derived("cpu/logical", std::to_string(logical), logical, "", kCpus + "/cpu*/topology");
  reader.derived("cpu/cores", std::to_string(cores.size()), static_cast<double>(cores.size()), "",
                 kCpus + "/cpu*/topology");
}

void captureCaches(FactReader& reader) {
  std::map<std::string, std::set<std::string>> by_level;
  for (const int n : processors(reader)) {
    const std::string base = kCpus + "/cpu" + std::to_string(n) + "/cache";
    for (const std::string& index : reader.list(base)) {
      if (!index.starts_with("index")) continue;
      const std::string level = reader.raw(base + "/" + index + "/level");
      if (!level.empty())
        by_level["L" + level + " " + reader.raw(base + "/" + index + "/type")].insert(
            reader.raw(base + "/" + index + "/size"));
    }
  }
  for (const auto& [level, sizes] : by_level)
    reader.derived("cpu/cache/" + level, fmt::format("{}", fmt::join(sizes, ", ")), {}, "", kCpus + "/cpu*/cache");
}

void captureIdentity(FactReader& reader) {
  const std::string info = reader.raw("/proc/cpuinfo");
  const std::pair<const char*, const char*> fields[] = {{"cpu/model", "model name"},    {"cpu/vendor", "vendor_id"},
                                                        {"cpu/family", "cpu family"},   {"cpu/stepping", "stepping"},
                                                        {"cpu/microcode", "microcode"}, {"cpu/flags", "flags"}};
  for (const auto& [name, key] : fields)
    if (std::string value = cpuinfoField(info, key); !value.empty())
      reader.derived(name, std::move(value), {}, "", "/proc/cpuinfo");
}

void captureIdle(FactReader& reader) {
  std::map<std::string, std::string> states;  // by name, "enabled" or "disabled", mixed
  for (const int n : processors(reader)) {
    const std::string base = kCpus + "/cpu" + std::to_string(n) + "/cpuidle";
    for (const std::string& state : reader.list(base)) {
      const std::string name = reader.raw(base + "/" + state + "/name");
      const std::string now = reader.raw(base + "/" + state + "/disable") == "1" ? "disabled" : "enabled";
      const auto [known, is_new] = states.try_emplace(name, now);
      if (!is_new && known->second != now) known->second = "mixed";
    }
  }
  for (const auto& [name, now] : states)
    if (!name.empty()) reader.derived("cpu/idle/" + name, now, {}, "", kCpus + "/cpu*/cpuidle");
  reader.text("cpu/idle_driver", kCpus + "/cpuidle/current_driver");
}

// A count that rose during a visit says that heat or power held the processor back.
void captureThrottling(FactReader& reader) {
  std::int64_t count = 0;
  bool is_told = false;
  for (const int n : processors(reader)) {
    const std::string base = kCpus + "/cpu" + std::to_string(n) + "/thermal_throttle/core_throttle_count";
    const auto one = wholeNumber(reader.raw(base));
    is_told = is_told || one;
    count += one.value_or(0);
  }
  if (is_told)
    reader.derived("cpu/throttle_count", std::to_string(count), static_cast<double>(count), "",
                   kCpus + "/cpu*/thermal_throttle", core::FactKind::Evidence);
}

}  // namespace

void captureProcessor(FactReader& reader) {
  captureIdentity(reader);
  for (const char* list : {"online", "offline", "present", "isolated"})
    reader.text(std::string("cpu/") + list, kCpus + "/" + list);
  reader.text("cpu/smt", kCpus + "/smt/control");
  reader.number("cpu/smt_active", kCpus + "/smt/active", {});
  captureTopology(reader);
  captureCaches(reader);
  reader.text("cpu/types/large", "/sys/bus/event_source/devices/cpu_core/cpus");
  reader.text("cpu/types/small", "/sys/bus/event_source/devices/cpu_atom/cpus");
  capturePolicies(reader, "cpu/driver", "scaling_driver");
  capturePolicies(reader, "cpu/governor", "scaling_governor");
  capturePolicies(reader, "cpu/epp", "energy_performance_preference");
  capturePolicies(reader, "cpu/min_khz", "cpuinfo_min_freq", "kHz");
  capturePolicies(reader, "cpu/max_khz", "cpuinfo_max_freq", "kHz");
  capturePolicies(reader, "cpu/limit_khz", "scaling_max_freq", "kHz");
  reader.number("cpu/boost", kCpus + "/cpufreq/boost", {});
  reader.number("cpu/no_turbo", kCpus + "/intel_pstate/no_turbo", {});
  for (const char* driver : {"amd_pstate", "intel_pstate"})
    reader.text(std::string("cpu/") + driver, kCpus + "/" + driver + "/status");
  const std::string holes = kCpus + "/vulnerabilities";
  for (const std::string& name : reader.list(holes)) reader.text("cpu/vulnerabilities/" + name, holes + "/" + name);
  const std::string uncore = kCpus + "/intel_uncore_frequency";
  for (const std::string& die : reader.list(uncore))
    for (const char* end : {"min", "max"})
      reader.number("cpu/uncore/" + die + "/" + end, uncore + "/" + die + "/" + end + "_freq_khz",
                    {FactKind::Configuration, "kHz"});
  captureIdle(reader);
  captureThrottling(reader);
}

}  // namespace bench
