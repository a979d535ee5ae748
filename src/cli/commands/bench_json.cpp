#include "cli/commands/bench_json.h"

#include <algorithm>
#include <cmath>
#include <set>

#include "bench/sysfs_text.h"
#include "core/machine/device_path.h"
#include "core/machine/links.h"
#include "core/machine/memory_layout.h"

namespace cli {
namespace {

using nlohmann::ordered_json;

// Three decimals, as link rates are usually given.
ordered_json rounded(double value) { return std::round(value * 1000) / 1000; }

ordered_json textOrNull(const core::Capture& capture, const std::string& name) {
  const core::Fact* fact = capture.find(name);
  return fact && fact->isRead() ? ordered_json(fact->value) : ordered_json();
}

ordered_json wholeOrNull(const std::optional<double>& number) {
  return number ? ordered_json(static_cast<std::int64_t>(std::llround(*number))) : ordered_json();
}

ordered_json hopJson(const core::Hop& hop, bool is_idle) {
  ordered_json object{{"down", hop.down}, {"up", hop.up}, {"where", hop.where}};
  if (hop.isVirtual()) {  // what its ports show says nothing about it
    if (hop.cable)
      object.update({{"gbyte_s", rounded(*hop.rateGBps())},
                     {"to_device_gbyte_s", rounded(hop.cable->to_device_GBps)},
                     {"to_host_gbyte_s", rounded(hop.cable->to_host_GBps)}});
    return object;
  }
  if (hop.now.lanes == 0) return object;
  object["speed_gts"] = hop.now.gts;
  object["width"] = hop.now.lanes;
  if (hop.most.lanes > 0) object.update({{"max_speed_gts", hop.most.gts}, {"max_width", hop.most.lanes}});
  if (hop.target_gts) object["target_speed_gts"] = *hop.target_gts;
  object["gbit_s"] = rounded(core::encodedGbps(hop.now));
  object["gbyte_s"] = rounded(core::encodedGBps(hop.now));
  if (is_idle && hop.where == "slot") object["trust"] = "idle reading, not evidence of the link's real speed";
  return object;
}

void addPath(ordered_json& facts, const core::Capture& capture, const std::string& device) {
  const core::DevicePath path = core::devicePath(capture, device);
  const std::string base = "pci/" + device + "/";
  facts["target_device"] = {{"bdf", device},
                            {"name", textOrNull(capture, base + "product_name")},
                            {"driver", textOrNull(capture, base + "driver")},
                            {"drm", textOrNull(capture, base + "drm")}};
  facts["bridge_chain_root_to_device"] = path.chain;
  facts["links"] = ordered_json::array();
  for (const core::Hop& hop : path.hops) facts["links"].push_back(hopJson(hop, core::isIdle(capture, device)));
  facts["narrowest_hop"] = ordered_json();
  if (!path.narrowest) return;
  const core::Hop& narrowest = path.hops[*path.narrowest];
  facts["narrowest_hop"] = {
      {"down", narrowest.down}, {"up", narrowest.up}, {"gbyte_s", rounded(*narrowest.rateGBps())}};
}

ordered_json sizesMib(std::uint64_t bitmap) {
  ordered_json sizes = ordered_json::array();
  for (int bit = 0; bit < 40; ++bit)
    if (bitmap >> bit & 1U) sizes.push_back(std::uint64_t{1} << bit);  // bit n stands for 2^n MiB
  return sizes;
}

ordered_json apertureJson(const core::Capture& capture, const std::string& device) {
  const std::string base = "pci/" + device + "/";
  const auto size = capture.number(base + "aperture_size");
  if (!size) return {};
  ordered_json object{{"index", ordered_json()}, {"size_bytes", wholeOrNull(size)}};
  for (int i = 0; i < 6; ++i)
    if (object["index"].is_null() && capture.number(base + "bar" + std::to_string(i) + "_size") == size)
      object["index"] = i;
  const auto vram = capture.number(base + "mem_info_vram_total");
  object["vram_bytes"] = wholeOrNull(vram);
  object["full"] = vram ? ordered_json(*size >= *vram) : ordered_json();
  const std::string index = object["index"].is_null() ? "" : std::to_string(object["index"].get<int>());
  const auto bitmap = bench::hexNumber(capture.text(base + "resource" + index + "_resize"));
  object["resizable_sizes_mib"] = bitmap ? sizesMib(*bitmap) : ordered_json();
  return object;
}

/// One value for all modules, or a list where they differ.
ordered_json ofModules(const core::Capture& capture, const char* field) {
  std::set<double> numbers;
  std::set<std::string> texts;
  for (const core::Fact& fact : capture.below("dmi/memory/")) {
    if (!fact.isRead() || !fact.name.ends_with(field)) continue;
    if (fact.number)
      numbers.insert(*fact.number);
    else
      texts.insert(fact.value);
  }
  if (numbers.size() == 1) return wholeOrNull(*numbers.begin());
  if (texts.size() == 1) return *texts.begin();
  if (numbers.empty() && texts.empty()) return {};
  return numbers.empty() ? ordered_json(texts) : ordered_json(numbers);
}

ordered_json memoryJson(const core::Capture& capture) {
  const core::MemoryLayout layout = core::memoryLayout(capture);
  std::vector<std::string> populated;
  for (const core::MemoryLayout::Module& module : layout.modules) populated.push_back(module.locator);
  ordered_json object{{"installed_bytes", wholeOrNull(capture.number("memory/installed"))},
                      {"slots", layout.sockets > 0 ? ordered_json(layout.sockets) : ordered_json()},
                      {"populated", populated},
                      {"type", ofModules(capture, "/type")},
                      {"rated_mts", ofModules(capture, "/rated_speed")},
                      {"configured_mts", ofModules(capture, "/configured_speed")},
                      {"configured_mv", ofModules(capture, "/configured_voltage")}};
  object["peak_gbyte_s"] = layout.mts ? rounded(*layout.peakGBps()) : ordered_json();
  return object;
}

ordered_json processorJson(const core::Capture& capture) {
  const auto boost = capture.number("cpu/boost");
  return {{"logical", wholeOrNull(capture.number("cpu/logical"))},
          {"cores", wholeOrNull(capture.number("cpu/cores"))},
          {"smt", textOrNull(capture, "cpu/smt")},
          {"online", textOrNull(capture, "cpu/online")},
          {"offline", textOrNull(capture, "cpu/offline")},
          {"microcode", textOrNull(capture, "cpu/microcode")},
          {"driver", textOrNull(capture, "cpu/driver")},
          {"governor", textOrNull(capture, "cpu/governor")},
          {"epp", textOrNull(capture, "cpu/epp")},
          {"boost", boost ? ordered_json(*boost != 0) : ordered_json()}};
}

ordered_json firmwareJson(const core::Capture& capture) {
  const core::Fact* secure = capture.find("firmware/secure_boot");
  return {{"version", textOrNull(capture, "firmware/version")},
          {"date", textOrNull(capture, "firmware/date")},
          {"board", textOrNull(capture, "firmware/board")},
          {"secure_boot", secure && secure->isRead() ? ordered_json(secure->value == "on") : ordered_json()}};
}

ordered_json sideJson(const core::Fact& fact) {
  if (!fact.isRead()) return {};
  if (fact.number && *fact.number == std::round(*fact.number)) return wholeOrNull(fact.number);
  return fact.number ? ordered_json(*fact.number) : ordered_json(fact.value);
}

ordered_json differencesJson(const std::vector<core::Difference>& differences) {
  ordered_json list = ordered_json::array();
  for (const core::Difference& difference : differences) {
    ordered_json object{
        {"field", difference.field}, {"from", sideJson(difference.from)}, {"to", sideJson(difference.to)}};
    const std::string& unit = difference.from.isRead() ? difference.from.unit : difference.to.unit;
    if (!unit.empty()) object["unit"] = unit;
    if (!difference.consequences.empty()) object["consequences"] = difference.consequences;
    list.push_back(std::move(object));
  }
  return list;
}

// Counters come as an object of those that are not 0, and the total.
ordered_json evidenceSide(const core::Fact& fact) {
  if (fact.number || fact.name.find("/aer_dev_") == std::string::npos) return sideJson(fact);
  ordered_json counters = ordered_json::object();
  std::string lines = fact.value;
  std::replace(lines.begin(), lines.end(), ',', '\n');
  for (const auto& [name, count] : bench::counterLines(lines)) counters[name] = count;
  return counters;
}

}  // namespace

ordered_json factsJson(const core::Capture& capture, const std::string& device) {
  ordered_json facts;
  if (device.empty())
    facts["target_device"] = ordered_json();
  else
    addPath(facts, capture, device);
  facts["bar"] = apertureJson(capture, device);
  facts["memory"] = memoryJson(capture);
  facts["cpu"] = processorJson(capture);
  facts["firmware"] = firmwareJson(capture);
  return facts;
}

ordered_json comparisonJson(const core::Comparison& comparison, const core::ComparisonOrder& order) {
  ordered_json evidence = ordered_json::array();
  for (const core::Difference& difference : comparison.evidence)
    evidence.push_back({{"field", difference.field},
                        {order.baseline_name, evidenceSide(difference.from)},
                        {order.changed_name, evidenceSide(difference.to)}});
  ordered_json unread = ordered_json::array();
  for (const core::Unverified& one : comparison.unread) unread.push_back({{"field", one.field}, {"why", one.why}});
  const ordered_json moved = comparison.moved == core::Moved::Undetermined
                                 ? ordered_json("undetermined")
                                 : ordered_json(comparison.moved == core::Moved::Yes);
  return {{"diff",
           {{"expected_change", differencesJson(comparison.meant)},
            {"known_side_effects", differencesJson(comparison.comes_along)},
            {"unexpected_changes", differencesJson(comparison.must_not)},
            {"held_and_differs", differencesJson(comparison.held)},
            {"evidence_only", evidence},
            {"ignored_as_volatile", comparison.left_out},
            {"could_not_be_read", unread},
            {"must_be_reported_unchanged", comparison.unchanged}}},
          {"verdict",
           {{"variable_changed", moved},
            {"only_variable_changed", comparison.only_variable_changed},
            {"valid_ab_pair", comparison.isValidPair()},
            {"reason", comparison.reason}}}};
}

}  // namespace cli
