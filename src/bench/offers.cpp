#include "bench/offers.h"

#include <algorithm>
#include <set>

#include <fmt/format.h>

#include "bench/capture.h"
#include "bench/read_budget.h"
#include "bench/sysfs_text.h"
#include "core/machine/device_path.h"

namespace bench {
namespace {

using core::Capture;
using core::Level;

const std::string kCpus = "/sys/devices/system/cpu";

struct Asked {
  const Capture& capture;
  const BenchConnection& bench;
  std::string device;  ///< the graphics device with the picture; empty without one
};

std::vector<std::string> words(const std::string& text) {
  std::vector<std::string> found;
  std::string word;
  for (const char c : text + ' ') {
    if (c != ' ' && c != '\n' && c != '[' && c != ']')
      word += c;
    else if (!word.empty())
      found.push_back(std::exchange(word, {}));
  }
  return found;
}

Level writing(const std::string& name, const std::string& path, const std::string& value) {
  Level level;
  level.name = name;
  level.writes = {{path, value}};
  return level;
}

Level byHand(const std::string& name) {
  Level level;
  level.name = name;
  return level;
}

std::string shownFact(const Capture& capture, std::string_view name) {
  const core::Fact* fact = capture.find(name);
  return fact && fact->isRead() ? fact->shown() : std::string();
}

// A file that lists what it takes, the strongest first, and marks what it has taken: "always [madvise] never".
Offer fromChoices(const Asked& asked, const std::string& path) {
  Offer offer;
  const auto text = asked.bench.readFile(path);
  if (!text) return offer;
  offer.now = chosen(trimmed(*text));
  for (const std::string& choice : words(*text)) offer.levels.push_back(writing(choice, path, choice));
  std::reverse(offer.levels.begin(), offer.levels.end());
  return offer;
}

Offer governors(const Asked& asked) {
  Offer offer;
  offer.now = asked.capture.text("cpu/governor");
  const std::string policies = kCpus + "/cpufreq/policy";
  if (const auto list = asked.bench.readFile(policies + "0/scaling_available_governors"))
    for (const std::string& one : words(*list))
      if (one != "userspace")  // takes a clock of its own besides
        offer.levels.push_back(writing(one, policies + "*/scaling_governor", one));
  // Most frugal first, as far as their names tell.
  std::stable_partition(offer.levels.begin(), offer.levels.end(),
                        [](const Level& one) { return one.name == "powersave"; });
  std::stable_partition(offer.levels.begin(), offer.levels.end(),
                        [](const Level& one) { return one.name != "performance"; });
  if (offer.levels.size() > 1) return offer;
  offer.levels.clear();
  if (const core::Fact* boost = asked.capture.find("cpu/boost"); boost && boost->isRead()) {
    offer.now = boost->value == "1" ? "boost on" : "boost off";
    for (const auto& [name, value] : {std::pair{"boost off", "0"}, {"boost on", "1"}})
      offer.levels.push_back(writing(name, kCpus + "/cpufreq/boost", value));
  }
  return offer;
}

/// Processors that share a core, each core by its first processor.
std::map<int, std::vector<int>> coresOf(const Capture& capture) {
  std::map<std::string, std::vector<int>> by_core;
  for (const core::Fact& fact : capture.below("cpu/cpu"))
    if (fact.isRead() && fact.name.ends_with("/core"))
      if (const auto number = wholeNumber(std::string_view(fact.name).substr(7, fact.name.size() - 12)))
        by_core[fact.value].push_back(static_cast<int>(*number));
  std::map<int, std::vector<int>> cores;
  for (auto& [core, processors] : by_core) {
    std::sort(processors.begin(), processors.end());
    cores[processors.front()] = processors;
  }
  return cores;
}

// Every processor but the first, which never goes: a level says of each whether it is on.
Level coresOn(const std::string& name, const std::set<int>& on, const std::set<int>& all) {
  Level level;
  level.name = name;
  for (const int n : all)
    if (n != 0) level.writes.push_back({fmt::format("{}/cpu{}/online", kCpus, n), on.contains(n) ? "1" : "0"});
  return level;
}

Offer coreCounts(const Asked& asked) {
  const auto named = [](std::size_t count) { return fmt::format("{} {}", count, count == 1 ? "core" : "cores"); };
  Offer offer;
  const auto cores = coresOf(asked.capture);
  if (cores.empty()) return offer;
  offer.now = named(cores.size());
  // Some are off already: which cores those belong to is not known before they are on.
  if (!asked.capture.text("cpu/offline").empty() || cores.size() < 2) return offer;
  std::set<int> all;
  for (const auto& [first, processors] : cores) all.insert(processors.begin(), processors.end());
  std::vector<std::size_t> counts;
  for (std::size_t count = 1; count < cores.size(); count *= 2) counts.push_back(count);
  counts.push_back(cores.size());
  for (const std::size_t count : counts) {
    std::set<int> on;
    std::size_t taken = 0;
    for (const auto& [first, processors] : cores)
      if (taken++ < count) on.insert(processors.begin(), processors.end());
    offer.levels.push_back(coresOn(named(count), on, all));
  }
  return offer;
}

Offer coreTypes(const Asked& asked) {
  Offer offer;
  const auto large = numberList(asked.capture.text("cpu/types/large"));
  const auto small = numberList(asked.capture.text("cpu/types/small"));
  if (!large || !small || large->empty() || small->empty()) return offer;
  offer.now = fmt::format("{} processors on large cores, {} on small ones", large->size(), small->size());
  std::set<int> all(large->begin(), large->end());
  const std::set<int> only_large = all;
  all.insert(small->begin(), small->end());
  offer.levels = {coresOn("large ones alone", only_large, all), coresOn("large and small ones", all, all)};
  return offer;
}

Offer threads(const Asked& asked) {
  Offer offer;
  const std::string path = kCpus + "/smt/control";
  const std::string control = asked.capture.text("cpu/smt");
  if (control != "on" && control != "off") return offer;  // "notsupported", "forceoff"
  offer.now = control;
  offer.levels = {writing("off", path, "off"), writing("on", path, "on")};
  return offer;
}

Offer hugePages(const Asked& asked) { return fromChoices(asked, "/sys/kernel/mm/transparent_hugepage/enabled"); }

Offer linkPowerSaving(const Asked& asked) { return fromChoices(asked, "/sys/module/pcie_aspm/parameters/policy"); }

Offer swappiness(const Asked& asked) {
  Offer offer;
  offer.now = asked.capture.text("kernel/swappiness");
  if (offer.now.empty()) return offer;
  std::set<int> values{10, 60, 100};
  if (const auto now = wholeNumber(offer.now)) values.insert(static_cast<int>(*now));
  for (const int value : values)
    offer.levels.push_back(writing(std::to_string(value), "/proc/sys/vm/swappiness", std::to_string(value)));
  return offer;
}

// As configured, as rated, and the rate at which memory of that kind begins: its modules list no others.
Offer memorySpeeds(const Asked& asked) {
  Offer offer;
  std::set<int> rates;
  for (const core::Fact& fact : asked.capture.below("dmi/memory/")) {
    if (!fact.isRead()) continue;
    const bool is_configured = fact.name.ends_with("/configured_speed");
    if (is_configured) offer.now = fact.shown();
    if ((is_configured || fact.name.ends_with("/rated_speed")) && fact.number)
      rates.insert(static_cast<int>(*fact.number));
    if (fact.name.ends_with("/type")) {
      if (fact.value == "DDR5") rates.insert(4800);
      if (fact.value == "DDR4") rates.insert(2133);
    }
  }
  if (offer.now.empty()) return offer;
  for (const int rate : rates) offer.levels.push_back(byHand(fmt::format("{} MT/s", rate)));
  return offer;
}

// Weak to strong, up to what the slot's port can do.
Offer generations(const Asked& asked) {
  Offer offer;
  const core::DevicePath path = core::devicePath(asked.capture, asked.device);
  const core::Hop* slot = path.slotHop();
  if (!slot) return offer;
  if (const auto now = core::pcieGeneration(slot->now.gts)) offer.now = fmt::format("Gen {}", *now);
  for (int generation = 1; generation <= core::pcieGeneration(slot->most.gts).value_or(0); ++generation)
    offer.levels.push_back(byHand(fmt::format("Gen {}", generation)));
  return offer;
}

Offer widths(const Asked& asked) {
  Offer offer;
  const core::DevicePath path = core::devicePath(asked.capture, asked.device);
  const core::Hop* slot = path.slotHop();
  if (!slot || slot->now.lanes == 0) return offer;
  offer.now = fmt::format("x{}", slot->now.lanes);
  for (int width = 1; width <= slot->most.lanes; width *= 2) offer.levels.push_back(byHand(fmt::format("x{}", width)));
  return offer;
}

// Every generation at the slot's full width, every width at its best generation, weak to strong: the two ways in which
// firmware menus and cables change a link. Other combinations a person names.
Offer wholeLink(const Asked& asked) {
  Offer offer;
  const core::DevicePath path = core::devicePath(asked.capture, asked.device);
  const core::Hop* slot = path.slotHop();
  const auto generation = slot ? core::pcieGeneration(slot->now.gts) : std::nullopt;
  if (!generation || slot->now.lanes == 0) return offer;
  offer.now = fmt::format("Gen {} x{}", *generation, slot->now.lanes);
  std::vector<core::LinkGrade> grades;
  for (const double gts : {2.5, 5.0, 8.0, 16.0, 32.0, 64.0})
    if (gts <= slot->most.gts) grades.push_back({gts, slot->most.lanes});
  for (int width = slot->most.lanes / 2; width >= 1; width /= 2) grades.push_back({slot->most.gts, width});
  std::stable_sort(grades.begin(), grades.end(), [](const core::LinkGrade& a, const core::LinkGrade& b) {
    return core::encodedGbps(a) < core::encodedGbps(b);
  });
  for (const core::LinkGrade& one : grades)
    offer.levels.push_back(byHand(fmt::format("Gen {} x{}", core::pcieGeneration(one.gts).value_or(0), one.lanes)));
  return offer;
}

Offer aperture(const Asked& asked) {
  Offer offer;
  const std::string name = "pci/" + asked.device + "/aperture_size";
  const auto bytes = asked.capture.number(name);
  if (!bytes) return offer;
  constexpr double kClassic = 256.0 * 1024 * 1024;
  offer.now = *bytes > kClassic ? "on" : "off";
  offer.levels = {byHand("off"), byHand("on")};
  return offer;
}

Offer factAlone(const Asked& asked, std::string_view name) { return {shownFact(asked.capture, name), {}, false}; }

Offer unswitched(std::string_view id, const Asked& asked) {
  if (id == "memory_speed") return memorySpeeds(asked);
  if (id == "pcie_generation") return generations(asked);
  if (id == "pcie_width") return widths(asked);
  if (id == "pcie_link" || id == "pcie_links") return wholeLink(asked);
  if (id == "resizable_bar") return aperture(asked);
  if (id == "memory_capacity") return factAlone(asked, "memory/installed");
  if (id == "graphics_carve_out") return factAlone(asked, "memory/firmware_reserve");
  if (id == "firmware_version") return factAlone(asked, "firmware/version");
  if (id == "processor") return factAlone(asked, "cpu/model");
  if (id == "board") return factAlone(asked, "firmware/board");
  if (id == "host") return factAlone(asked, "firmware/product");
  if (id == "device") return factAlone(asked, "pci/" + asked.device + "/product_name");
  return {};
}

Offer switched(std::string_view id, const Asked& asked) {
  if (id == "governor") return governors(asked);
  if (id == "core_count") return coreCounts(asked);
  if (id == "core_type") return coreTypes(asked);
  if (id == "smt") return threads(asked);
  if (id == "aspm") return linkPowerSaving(asked);
  if (id == "huge_pages") return hugePages(asked);
  if (id == "swappiness") return swappiness(asked);
  return {};
}

}  // namespace

std::optional<std::size_t> Offer::levelNow() const {
  const auto found = std::find_if(levels.begin(), levels.end(), [this](const Level& one) { return one.name == now; });
  if (found == levels.end()) return std::nullopt;
  return static_cast<std::size_t>(found - levels.begin());
}

Offer offerOf(const core::VariableKind& kind, const Capture& capture, const BenchConnection& bench) {
  const Asked asked{capture, bench, core::likelyGraphicsDevice(capture)};
  if (kind.writes.empty()) return unswitched(kind.id, asked);
  Offer offer = switched(kind.id, asked);
  offer.is_switched = !offer.levels.empty();
  return offer;
}

Offer BenchNow::offerOf(std::string_view kind_id) const {
  const auto found = offers.find(kind_id);
  return found == offers.end() ? Offer() : found->second;
}

BenchNow benchNow(const BenchConnection& whole, std::stop_token stop) {
  BenchNow now{captureBench(whole, stop), {}};
  const BudgetedBench bench(whole, {}, std::move(stop));
  for (const core::VariableKind& kind : core::variableKinds())
    now.offers.emplace(kind.id, offerOf(kind, now.capture, bench));
  return now;
}

}  // namespace bench
