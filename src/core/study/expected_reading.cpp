#include "core/study/expected_reading.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <regex>
#include <set>
#include <vector>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "core/machine/device_path.h"
#include "core/machine/path_readings.h"
#include "core/machine/variable_kind.h"
#include "core/study/study.h"
#include "core/values/number_text.h"

namespace core {
namespace {

// A rate that the firmware rounds otherwise than the standard does is the same rate: 2666 and 2667.
constexpr double kRounding = 0.005;

std::string lower(std::string_view text) {
  std::string result(text);
  std::transform(result.begin(), result.end(), result.begin(),
                 [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
  return result;
}

/// A number with what it is counted in.
struct Quantity {
  double value = 0;
  std::string unit;  ///< in lower case
};

std::optional<Quantity> quantityOf(std::string_view text) {
  static const std::regex kQuantity(R"(^\s*([0-9]+(?:\.[0-9]+)?)\s*([a-z/]*).*$)");
  std::smatch match;
  const std::string low = lower(text);
  if (!std::regex_match(low, match, kQuantity)) return std::nullopt;
  return Quantity{numberOf(match[1].str()).value_or(0), match[2]};
}

// In the unit that facts have: bytes, MT/s.
double inFactUnit(const Quantity& quantity, const std::string& fact_unit) {
  if (fact_unit == "bytes") {
    constexpr double kKi = 1024;
    if (quantity.unit.starts_with("k")) return quantity.value * kKi;
    if (quantity.unit.starts_with("m")) return quantity.value * kKi * kKi;
    if (quantity.unit.starts_with("g")) return quantity.value * kKi * kKi * kKi;
  }
  // Two transfers a clock.
  if (fact_unit == "MT/s" && quantity.unit == "mhz") return 2 * quantity.value;
  return quantity.value;
}

struct NamePattern {
  std::string_view kind;
  const char* pattern;  ///< of the level's name in lower case; its first group is the number
  std::string_view fact;
  const char* unit;  ///< put behind the number; null: it is a generation
};

constexpr const char* kGenerationAlone = R"(^(?!.*(?:\bx|×) ?[0-9]).*\bgen(?:eration)?[ .]*([1-6])\b)";
constexpr const char* kLanesAlone = R"(^(?!.*\bgen).*(?:\bx|×) ?([0-9]{1,2})\b)";

const std::vector<NamePattern>& namePatterns() {
  static const std::vector<NamePattern> patterns{
      {"pcie_generation", R"(\bgen(?:eration)?[ .]*([1-6])\b)", "pci/{slot}/current_link_speed", nullptr},
      {"pcie_generation", R"(\b([0-9]+(?:\.[0-9])?) ?gt/s)", "pci/{slot}/current_link_speed", " GT/s"},
      {"pcie_width", R"((?:\bx|×) ?([0-9]{1,2})\b)", "pci/{slot}/current_link_width", " lanes"},
      {"pcie_width", R"(\b([0-9]{1,2}) lanes?\b)", "pci/{slot}/current_link_width", " lanes"},
      {"pcie_link", kGenerationAlone, "pci/{slot}/current_link_speed", nullptr},
      {"pcie_link", kLanesAlone, "pci/{slot}/current_link_width", " lanes"},
      {"pcie_links", kGenerationAlone, "pci/{slot}/current_link_speed", nullptr},
      {"pcie_links", kLanesAlone, "pci/{slot}/current_link_width", " lanes"},
      {"memory_speed", R"(\b([0-9]{3,5}) ?mhz\b)", "dmi/memory/*/configured_speed", " MHz"},
      {"memory_speed", R"(\b([0-9]{3,5}) ?(?:mt/?s)?(?:$|[^0-9a-z]))", "dmi/memory/*/configured_speed", " MT/s"},
      {"memory_capacity", R"((?:^|[^x0-9 ])\s*([0-9]{1,4}) ?gi?b\b)", "memory/installed", " GiB"},
      {"core_count", R"(\b([0-9]{1,3}) cores?\b)", "cpu/cores", ""},
      {"core_count", R"(\b([0-9]{1,3}) threads?\b)", "cpu/logical", ""},
      {"swappiness", R"(^(?:swappiness )?([0-9]{1,3})$)", "kernel/swappiness", ""},
      {"resizable_bar", R"(\b([0-9]{1,4}) ?gi?b\b)", "pci/{device}/aperture_size", " GiB"},
      {"resizable_bar", R"(\b([0-9]{1,4}) ?mi?b\b)", "pci/{device}/aperture_size", " MiB"}};
  return patterns;
}

constexpr const char* kRates[] = {"2.5", "5.0", "8.0", "16.0", "32.0", "64.0"};

// "on", "off", "enabled", "disabled" as a word of its own; nothing where the name has neither, or both.
std::optional<bool> switchOf(const std::string& low_name) {
  static const std::regex kOn(R"(\b(on|enabled)\b)");
  static const std::regex kOff(R"(\b(off|disabled)\b)");
  const bool is_on = std::regex_search(low_name, kOn);
  const bool is_off = std::regex_search(low_name, kOff);
  return is_on == is_off ? std::nullopt : std::optional(is_on);
}

std::optional<ExpectedReading> ofSwitch(std::string_view kind_id, const std::string& low_name) {
  const auto is_on = switchOf(low_name);
  if (!is_on) return std::nullopt;
  if (kind_id == "resizable_bar")
    return ExpectedReading{"pci/{device}/aperture_size", *is_on ? "> 256 MiB" : "< 257 MiB"};
  if (kind_id == "smt") return ExpectedReading{"cpu/smt_active", *is_on ? "1" : "0"};
  return std::nullopt;
}

std::optional<ExpectedReading> ofWord(std::string_view kind_id, const std::string& low_name) {
  static const std::set<std::string> kGovernors{"performance", "powersave",    "schedutil",
                                                "ondemand",    "conservative", "userspace"};
  static const std::set<std::string> kPolicies{"default", "performance", "powersave", "powersupersave"};
  if (kind_id == "governor" && kGovernors.contains(low_name)) return ExpectedReading{"cpu/governor", low_name};
  static const std::set<std::string> kHugePages{"never", "madvise", "always"};
  if (kind_id == "aspm" && kPolicies.contains(low_name)) return ExpectedReading{"kernel/aspm_policy", low_name};
  if (kind_id == "huge_pages" && kHugePages.contains(low_name)) return ExpectedReading{"kernel/huge_pages", low_name};
  return std::nullopt;
}

// "Gen 4 x8", "x8 at Gen 4": both in one name are read as one.
std::optional<ExpectedReading> ofWholeLink(std::string_view kind_id, const std::string& low_name) {
  static const std::regex kGeneration(R"(\bgen(?:eration)?[ .]*([1-6])\b)");
  static const std::regex kLanes(R"((?:\bx|×) ?([0-9]{1,2})\b)");
  std::smatch generation;
  std::smatch lanes;
  if ((kind_id != "pcie_link" && kind_id != "pcie_links") || !std::regex_search(low_name, generation, kGeneration) ||
      !std::regex_search(low_name, lanes, kLanes))
    return std::nullopt;
  return ExpectedReading{std::string(kSlotLink), fmt::format("Gen {} x{}", generation[1].str(), lanes[1].str())};
}

// A cable or a port with its rate: "40 Gb/s", "USB4 20 Gbit/s". A capital B would be bytes, of which no link tells.
std::optional<ExpectedReading> ofCable(std::string_view kind_id, std::string_view name) {
  static const std::regex kRate(R"(\b([0-9]{1,3}) ?G(?:bit/s|b/s|bps)(?:$|[^0-9A-Za-z]))");
  std::match_results<std::string_view::const_iterator> match;
  if (kind_id != "external_link" || !std::regex_search(name.begin(), name.end(), match, kRate)) return std::nullopt;
  return ExpectedReading{std::string(kCableRate), match[1].str() + " Gb/s"};
}

// What a part or a version is called by the machine itself.
std::vector<std::string> namesOf(const Study& study, const Capture& capture, const std::string& device) {
  const VariableKind* kind = findVariableKind(study.variable().kind);
  if (!kind || (!kind->is_whole && kind->id != "firmware_version")) return {};
  std::vector<std::string> names;
  for (const std::string& fact :
       {std::string("firmware/version"), std::string("firmware/board"), std::string("firmware/product"),
        std::string("cpu/model"), "pci/" + device + "/product_name"})
    if (const std::string text = capture.text(fact); !text.empty()) names.push_back(lower(text));
  return names;
}

}  // namespace

std::optional<ExpectedReading> proposedReading(std::string_view kind_id, std::string_view level_name) {
  const std::string name = lower(level_name);
  for (const NamePattern& one : namePatterns()) {
    if (one.kind != kind_id) continue;
    std::smatch match;
    if (!std::regex_search(name, match, std::regex(one.pattern))) continue;
    const std::string number = match[1];
    if (one.unit) return ExpectedReading{std::string(one.fact), number + one.unit};
    return ExpectedReading{std::string(one.fact), std::string(kRates[number[0] - '1']) + " GT/s"};
  }
  if (auto of_switch = ofSwitch(kind_id, name)) return of_switch;
  if (auto of_link = ofWholeLink(kind_id, name)) return of_link;
  if (auto of_cable = ofCable(kind_id, level_name)) return of_cable;
  return ofWord(kind_id, name);
}

std::array<std::optional<ExpectedReading>, 2> expectedReadings(const Study& study) {
  std::array<std::optional<ExpectedReading>, 2> expected{study.variable().levels[0].reads,
                                                         study.variable().levels[1].reads};
  if (study.is_null) return {};
  std::array<std::optional<ExpectedReading>, 2> proposed;
  for (std::size_t configuration = 0; configuration < 2; ++configuration)
    proposed[configuration] = proposedReading(study.variable().kind, study.variable().levels[configuration].name);
  // A number that both names share says nothing about the variable: "x16 slot, cable A" and "x16 slot, cable B".
  const bool is_shared = proposed[0] && proposed[0] == proposed[1];
  for (std::size_t configuration = 0; configuration < 2; ++configuration)
    if (!expected[configuration] && !is_shared) expected[configuration] = proposed[configuration];
  return expected;
}

bool agrees(const ExpectedReading& expected, const Fact& fact) {
  std::string_view wanted = expected.value;
  const char bound = !wanted.empty() && (wanted.front() == '>' || wanted.front() == '<') ? wanted.front() : '=';
  if (bound != '=') wanted.remove_prefix(1);
  const auto quantity = quantityOf(wanted);
  const auto read = fact.number ? std::optional(Quantity{*fact.number, {}}) : quantityOf(fact.value);
  if (!quantity || !read) return bound == '=' && lower(wanted) == lower(fact.value);
  const double due = inFactUnit(*quantity, fact.unit);
  if (bound == '>') return read->value > due;
  if (bound == '<') return read->value < due;
  return std::abs(read->value - due) <= kRounding * std::abs(due);
}

ReadAtLevel readAtLevel(const ExpectedReading& expected, const Capture& capture, const std::string& device) {
  ReadAtLevel read;
  // A link that idles is lowered to save power: it shows nothing about a setting.
  const bool is_link = expected.fact.find("current_link_speed") != std::string::npos || expected.fact == kSlotLink;
  if (is_link && isIdle(capture, device)) return read;
  if (const auto worked_out = pathReading(expected.fact, capture, device)) {
    read.answer = agrees(expected, *worked_out) ? ReadAtLevel::Answer::Agrees : ReadAtLevel::Answer::Disagrees;
    read.shown = worked_out->shown();
    return read;
  }
  const auto patterns = placedPatterns(expected.fact, device, devicePath(capture, device));
  std::set<std::string> shown;
  bool agrees_everywhere = true;
  bool is_amount_of_each = expected.fact == "memory/installed";  // "16 GB modules" is said of each of them
  for (const Fact& fact : capture.facts) {
    if (!fact.isRead()) continue;
    if (matchesPattern("dmi/memory/*/size", fact.name) && fact.number.value_or(0) > 0)
      is_amount_of_each = is_amount_of_each && agrees(expected, fact);
    const bool fits = std::any_of(patterns.begin(), patterns.end(),
                                  [&](const std::string& pattern) { return matchesPattern(pattern, fact.name); });
    if (!fits) continue;
    shown.insert(fact.shown());
    agrees_everywhere = agrees_everywhere && agrees(expected, fact);
  }
  if (shown.empty()) return read;
  read.answer = agrees_everywhere || is_amount_of_each ? ReadAtLevel::Answer::Agrees : ReadAtLevel::Answer::Disagrees;
  read.shown = fmt::format("{}", fmt::join(shown, ", "));
  return read;
}

bool areNamesSwapped(const Study& study, const Capture& baseline, const Capture& changed, const std::string& device) {
  constexpr std::size_t kTelling = 3;  // letters or digits; less fits anything
  const std::string first = lower(study.nameOf(ConfigurationId::Baseline));
  const std::string second = lower(study.nameOf(ConfigurationId::Changed));
  if (first.size() < kTelling || second.size() < kTelling) return false;
  const auto holds = [](const std::vector<std::string>& names, const std::string& word) {
    return std::any_of(names.begin(), names.end(),
                       [&](const std::string& name) { return name.find(word) != std::string::npos; });
  };
  const auto at_baseline = namesOf(study, baseline, device);
  const auto at_changed = namesOf(study, changed, device);
  return holds(at_baseline, second) && holds(at_changed, first) && !holds(at_baseline, first) &&
         !holds(at_changed, second);
}

}  // namespace core
