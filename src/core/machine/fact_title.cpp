#include "core/machine/fact_title.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <string_view>
#include <utility>

#include <fmt/format.h>

namespace core {
namespace {

// What the trade calls it, where the name alone would not say it.
constexpr std::array<std::pair<std::string_view, std::string_view>, 44> kTitles{{
    {"cpu/model", "processor"},
    {"cpu/cores", "cores"},
    {"cpu/logical", "threads"},
    {"cpu/online", "running processors"},
    {"cpu/present", "processors that are there"},
    {"cpu/offline", "processors that are off"},
    {"cpu/smt", "two threads a core"},
    {"cpu/smt_active", "two threads a core in use"},
    {"cpu/governor", "governor"},
    {"cpu/epp", "energy preference"},
    {"cpu/boost", "boost"},
    {"cpu/no_turbo", "boost switched off"},
    {"cpu/driver", "clock driver"},
    {"cpu/limit_khz", "highest clock allowed"},
    {"cpu/max_khz", "highest clock of the processor"},
    {"cpu/min_khz", "lowest clock of the processor"},
    {"cpu/microcode", "microcode"},
    {"cpu/flags", "processor features"},
    {"cpu/types/large", "large cores"},
    {"cpu/types/small", "small cores"},
    {"memory/installed", "memory installed"},
    {"memory/total", "memory usable"},
    {"memory/system_ram", "memory given to the system"},
    {"memory/firmware_reserve", "memory kept by the firmware"},
    {"memory/swap_total", "swap"},
    {"memory/configured_speed", "memory speed"},
    {"dmi/processor/cores", "cores by the firmware"},
    {"dmi/processor/cores_enabled", "cores enabled by the firmware"},
    {"dmi/processor/threads", "threads by the firmware"},
    {"firmware/board", "board"},
    {"firmware/product", "machine"},
    {"firmware/secure_boot", "Secure Boot"},
    {"kernel/osrelease", "kernel"},
    {"kernel/version", "kernel build"},
    {"kernel/cmdline", "kernel command line"},
    {"kernel/aspm_policy", "link power saving policy"},
    {"kernel/swappiness", "swappiness"},
    {"kernel/huge_pages", "huge pages"},
    {"kernel/iommu", "IOMMU"},
    {"device/link_speed", "link speed of the device"},
    {"device/link_width", "link width of the device"},
    {"device/aperture", "aperture of the device"},
    {"device/driver", "graphics driver"},
    {"device/display", "display"},
}};

// "configured_speed" -> "configured speed"; a link's "current_" says nothing in a comparison of two moments.
std::string leafTitle(const std::string& name) {
  std::string leaf = name.substr(name.rfind('/') + 1);
  std::replace(leaf.begin(), leaf.end(), '_', ' ');
  return leaf.starts_with("current ") ? leaf.substr(8) : leaf;
}

}  // namespace

std::string factTitle(const std::string& name) {
  for (const auto& [known, title] : kTitles)
    if (known == name) return std::string(title);
  if (name.starts_with("dmi/memory/")) return "memory " + leafTitle(name);
  const auto first = name.find('/');
  const std::string family = name.substr(0, first);
  if (family == "pci" || family == "storage" || family == "thunderbolt" || family == "graphics") {
    const std::string owner = name.substr(first + 1, name.find('/', first + 1) - first - 1);
    const std::string leaf = leafTitle(name);
    if (name.ends_with("/vendor") || name.ends_with("/device")) return fmt::format("{} id of {}", leaf, owner);
    return fmt::format("{} of {}", leaf == "drm" ? "graphics node" : leaf, owner);
  }
  if (name.starts_with("cpu/cpu"))
    return fmt::format("{} of processor {}", leafTitle(name), name.substr(7, name.find('/', 7) - 7));
  if (family == "power") return "mains power";
  if (family == "stated") return leafTitle(name) + " (stated)";
  if (name.starts_with("cpu/")) return "processor " + leafTitle(name);
  return first == std::string::npos ? leafTitle(name) : family + " " + leafTitle(name);
}

std::string sizeText(double bytes) {
  constexpr std::array<std::pair<double, const char*>, 3> kUnits{
      {{double{1U << 30}, "GiB"}, {double{1U << 20}, "MiB"}, {double{1U << 10}, "KiB"}}};
  for (const auto& [unit, name] : kUnits) {
    if (std::abs(bytes) < unit) continue;
    const double value = bytes / unit;
    const bool is_whole = std::abs(value - std::round(value)) < 0.005;
    return is_whole ? fmt::format("{:.0f} {}", value, name) : fmt::format("{:.2f} {}", value, name);
  }
  return fmt::format("{:.0f} bytes", bytes);
}

}  // namespace core
