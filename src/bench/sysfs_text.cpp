#include "bench/sysfs_text.h"

#include <algorithm>
#include <array>
#include <charconv>

#include <fmt/format.h>

namespace bench {
namespace {

constexpr std::string_view kBlanks = " \t\r\n";
constexpr std::size_t kMostInAList = 65536;

std::string_view bare(std::string_view text) {
  const auto begin = text.find_first_not_of(kBlanks);
  if (begin == std::string_view::npos) return {};
  return text.substr(begin, text.find_last_not_of(kBlanks) - begin + 1);
}

template <class Number>
std::optional<Number> parsed(std::string_view text, int base) {
  Number value = 0;
  const auto [end, code] = std::from_chars(text.data(), text.data() + text.size(), value, base);
  if (code != std::errc() || end != text.data() + text.size() || text.empty()) return std::nullopt;
  return value;
}

template <class Each>
void forEachLine(std::string_view text, const Each& each) {
  while (!text.empty()) {
    const std::size_t end = std::min(text.find('\n'), text.size());
    each(text.substr(0, end));
    text.remove_prefix(std::min(end + 1, text.size()));
  }
}

}  // namespace

std::string withoutNewline(std::string text) {
  if (!text.empty() && text.back() == '\n') text.pop_back();
  return text;
}

std::string trimmed(std::string_view text) { return std::string(bare(text)); }

std::optional<std::int64_t> wholeNumber(std::string_view text) { return parsed<std::int64_t>(bare(text), 10); }

std::optional<std::uint64_t> hexNumber(std::string_view text) {
  text = bare(text);
  if (text.starts_with("0x") || text.starts_with("0X")) text.remove_prefix(2);
  return parsed<std::uint64_t>(text, 16);
}

std::optional<std::vector<int>> numberList(std::string_view text) {
  text = bare(text);
  std::vector<int> numbers;
  while (!text.empty()) {
    const std::size_t end = std::min(text.find(','), text.size());
    const std::string_view part = text.substr(0, end);
    const auto dash = part.find('-');
    const auto first = parsed<int>(part.substr(0, dash), 10);
    const auto last = dash == std::string_view::npos ? first : parsed<int>(part.substr(dash + 1), 10);
    if (!first || !last || *first < 0 || *last < *first) return std::nullopt;
    if (numbers.size() + static_cast<std::size_t>(*last - *first) >= kMostInAList) return std::nullopt;
    for (int n = *first; n <= *last; ++n) numbers.push_back(n);
    if (end == text.size()) break;
    text.remove_prefix(end + 1);
    if (text.empty()) return std::nullopt;  // a comma at the end
  }
  return numbers;
}

std::string chosen(std::string_view text) {
  const auto begin = text.find('[');
  const auto end = text.find(']', begin == std::string_view::npos ? 0 : begin);
  if (begin == std::string_view::npos || end == std::string_view::npos) return trimmed(text);
  return std::string(text.substr(begin + 1, end - begin - 1));
}

std::optional<std::string> linkSpeed(std::string_view text) {
  text = bare(text);
  if (text.ends_with(" PCIe")) text.remove_suffix(5);
  if (!text.ends_with(" GT/s")) return std::nullopt;
  const std::string_view number = text.substr(0, text.size() - 5);
  const auto dot = number.find('.');
  const auto whole = parsed<int>(number.substr(0, dot), 10);
  if (!whole || *whole < 0) return std::nullopt;
  if (dot == std::string_view::npos) return fmt::format("{}.0 GT/s", *whole);  // older kernels leave the decimal out
  return parsed<unsigned>(number.substr(dot + 1), 10) ? std::optional(std::string(text)) : std::nullopt;
}

std::optional<std::vector<ResourceLine>> resourceLines(std::string_view text) {
  std::vector<ResourceLine> lines;
  bool is_good = true;
  forEachLine(text, [&](std::string_view line) {
    std::array<std::uint64_t, 3> numbers{};
    for (std::uint64_t& number : numbers) {
      line = line.substr(std::min(line.find_first_not_of(kBlanks), line.size()));
      const std::size_t end = std::min(line.find(' '), line.size());
      const auto value = hexNumber(line.substr(0, end));
      is_good = is_good && value.has_value();
      number = value.value_or(0);
      line.remove_prefix(end);
    }
    is_good = is_good && bare(line).empty();
    lines.push_back({numbers[0], numbers[1], numbers[2]});
  });
  if (!is_good) return std::nullopt;
  return lines;
}

std::vector<std::pair<std::string, std::int64_t>> counterLines(std::string_view text) {
  std::vector<std::pair<std::string, std::int64_t>> counters;
  forEachLine(text, [&](std::string_view line) {
    const auto blank = line.rfind(' ');
    if (blank == std::string_view::npos) return;
    if (const auto count = wholeNumber(line.substr(blank + 1)))
      counters.emplace_back(trimmed(line.substr(0, blank)), *count);
  });
  return counters;
}

std::string linkLevels(std::string_view text) {
  int count = 0;
  std::string active = "none";
  forEachLine(text, [&](std::string_view line) {
    line = bare(line);
    const auto colon = line.find(':');
    if (colon == std::string_view::npos) return;
    ++count;
    if (!line.ends_with('*')) return;
    // "2: 16.0GT/s, x16 619Mhz *": the rate and the lanes
    const std::string_view level = bare(line.substr(colon + 1));
    const auto comma = level.find(',');
    const auto lanes = comma == std::string_view::npos ? std::string_view() : bare(level.substr(comma + 1));
    active = std::string(level.substr(0, comma)) + " " +
             std::string(lanes.substr(0, std::min(lanes.find(' '), lanes.size())));
  });
  return fmt::format("{} levels, {} active", count, active);
}

std::optional<std::uint64_t> meminfoBytes(std::string_view text, std::string_view key) {
  std::optional<std::uint64_t> bytes;
  forEachLine(text, [&](std::string_view line) {
    if (bytes || !line.starts_with(key) || line.substr(key.size(), 1) != ":") return;
    std::string_view value = bare(line.substr(key.size() + 1));
    const bool is_kib = value.ends_with("kB");  // says kB and means KiB
    if (is_kib) value = bare(value.substr(0, value.size() - 2));
    const auto number = wholeNumber(value);
    if (number && *number >= 0 && *number < (std::int64_t{1} << 50))
      bytes = static_cast<std::uint64_t>(*number) * (is_kib ? 1024 : 1);
  });
  return bytes;
}

std::string isoDate(std::string_view text) {
  text = bare(text);
  if (text.size() != 10 || text[2] != '/' || text[5] != '/') return std::string(text);
  for (const std::size_t i : {0, 1, 3, 4, 6, 7, 8, 9})
    if (text[i] < '0' || text[i] > '9') return std::string(text);
  return fmt::format("{}-{}-{}", text.substr(6, 4), text.substr(0, 2), text.substr(3, 2));
}

// Parameters whose values say how the machine runs; of any other the name alone is taken, for its value may name a
// disk, a host or a person.
static bool isValueTaken(std::string_view name) {
  static constexpr std::array kTaken{"amd_iommu",
                                     "amd_pstate",
                                     "audit",
                                     "clocksource",
                                     "default_hugepagesz",
                                     "efi",
                                     "elevator",
                                     "hpet",
                                     "hugepages",
                                     "hugepagesz",
                                     "idle",
                                     "intel_idle.max_cstate",
                                     "intel_iommu",
                                     "intel_pstate",
                                     "iommu",
                                     "irqaffinity",
                                     "isolcpus",
                                     "kthread_cpus",
                                     "l1tf",
                                     "maxcpus",
                                     "mce",
                                     "mds",
                                     "mem",
                                     "mitigations",
                                     "nmi_watchdog",
                                     "nohz",
                                     "nohz_full",
                                     "noirqdebug",
                                     "nosmt",
                                     "nr_cpus",
                                     "nvme_core.default_ps_max_latency_us",
                                     "numa_balancing",
                                     "pci",
                                     "pcie_aspm",
                                     "pcie_aspm.policy",
                                     "pcie_port_pm",
                                     "preempt",
                                     "processor.max_cstate",
                                     "rcu_nocbs",
                                     "selinux",
                                     "apparmor",
                                     "skew_tick",
                                     "spec_store_bypass_disable",
                                     "spectre_v2",
                                     "split_lock_detect",
                                     "threadirqs",
                                     "transparent_hugepage",
                                     "tsc",
                                     "tsx",
                                     "vm.swappiness",
                                     "workqueue.power_efficient"};
  static constexpr std::array kModules{"amdgpu.", "i915.",    "xe.",        "nouveau.", "radeon.",
                                       "nvidia",  "cpufreq.", "cpuidle.",   "drm.",     "thunderbolt.",
                                       "nvme.",   "usbcore.", "pcie_aspm.", "kvm"};
  const auto begins = [&](const char* module) { return name.starts_with(module); };
  return std::find(kTaken.begin(), kTaken.end(), name) != kTaken.end() ||
         std::any_of(kModules.begin(), kModules.end(), begins);
}

// "ro", "quiet", "nvme_load": a word of a few letters. A flag may be somebody's own, and hold anything.
static bool isPlainName(std::string_view name) {
  constexpr std::size_t kLongest = 40;
  const bool is_plain = std::all_of(name.begin(), name.end(), [](char c) {
    return (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9') || c == '_' || c == '.' || c == '-';
  });
  const auto digits = std::count_if(name.begin(), name.end(), [](char c) { return c >= '0' && c <= '9'; });
  return is_plain && name.size() <= kLongest && digits <= 4;
}

std::string commandLineTaken(std::string_view text) {
  std::string taken;
  text = bare(text);
  while (!text.empty()) {
    const std::size_t end = std::min(text.find(' '), text.size());
    const std::string_view word = text.substr(0, end);
    const auto equals = word.find('=');
    const std::string_view name = word.substr(0, equals);
    const bool has_value = equals != std::string_view::npos;
    std::string said = "(not taken)";
    if (isPlainName(name))
      said = !has_value || isValueTaken(name) ? std::string(word) : std::string(name) + "=(not taken)";
    taken += (taken.empty() ? "" : " ") + said;
    text.remove_prefix(end);
    text = bare(text);
  }
  return taken;
}

std::string cpuinfoField(std::string_view text, std::string_view key) {
  std::string found;
  forEachLine(text, [&](std::string_view line) {
    const auto colon = line.find(':');
    if (found.empty() && colon != std::string_view::npos && bare(line.substr(0, colon)) == key)
      found = trimmed(line.substr(colon + 1));
  });
  return found;
}

}  // namespace bench
