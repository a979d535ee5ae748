#include "bench/graphics_use.h"

#include <filesystem>
#include <fstream>
#include <map>
#include <set>
#include <sstream>
#include <utility>

#include "core/values/number_text.h"

namespace bench {
namespace {

namespace fs = std::filesystem;

// A browser holds thousands of files, of which few are devices'.
constexpr int kMostFiles = 5000;

/// One open device file: "drm-engine-render: 25662044495 ns", by its key.
using Fields = std::map<std::string, std::string>;

Fields fieldsOf(const fs::path& file) {
  Fields fields;
  std::ifstream text(file);
  for (std::string line; std::getline(text, line);) {
    const auto colon = line.find(':');
    if (!line.starts_with("drm-") || colon == std::string::npos) continue;
    const auto value = line.find_first_not_of(" \t", colon + 1);
    fields[line.substr(0, colon)] = value == std::string::npos ? "" : line.substr(value);
  }
  return fields;
}

// "2048 KiB", "0", "25662044495 ns".
std::optional<double> amountOf(const std::string& text) {
  std::istringstream words(text);
  std::string number;
  std::string unit;
  words >> number >> unit;
  const auto amount = core::numberOf(number);
  if (!amount || *amount < 0) return std::nullopt;
  if (unit == "KiB") return *amount * 1024;
  if (unit == "MiB") return *amount * 1024 * 1024;
  return amount;
}

void add(std::optional<double>& sum, std::optional<double> more) {
  if (more) sum = sum.value_or(0) + *more;
}

// Regions have the drivers' names; "vram" and "local" are the device's own.
std::optional<double> memoryOf(const Fields& fields) {
  for (const std::string kind : {"drm-resident-", "drm-memory-"}) {
    std::optional<double> own;
    std::optional<double> all;
    for (const auto& [key, value] : fields) {
      if (!key.starts_with(kind)) continue;
      const std::string region = key.substr(kind.size());
      add(all, amountOf(value));
      if (region.starts_with("vram") || region.starts_with("local")) add(own, amountOf(value));
    }
    if (own || all) return own ? own : all;
  }
  return std::nullopt;
}

void addFile(GraphicsUse& use, const Fields& fields) {
  for (const auto& [key, value] : fields)
    if (key.starts_with("drm-engine-") && !key.starts_with("drm-engine-capacity-")) {
      constexpr double kNsPerS = 1e9;
      const auto ns = amountOf(value);
      add(use.busy_s, ns ? std::optional(*ns / kNsPerS) : std::nullopt);
    }
  add(use.memory_bytes, memoryOf(fields));
}

}  // namespace

std::optional<GraphicsUse> graphicsUse(std::span<const pid_t> processes, const std::string& proc) {
  GraphicsUse use;
  std::set<std::pair<std::string, std::string>> seen;
  int files = 0;
  for (const pid_t process : processes) {
    const fs::path place = fs::path(proc) / std::to_string(process);
    std::error_code code;
    for (const auto& entry : fs::directory_iterator(place / "fd", code)) {
      if (++files > kMostFiles) break;
      std::error_code gone;
      if (!fs::read_symlink(entry.path(), gone).string().starts_with("/dev/dri/")) continue;
      const Fields fields = fieldsOf(place / "fdinfo" / entry.path().filename());
      const auto client = fields.find("drm-client-id");
      const auto device = fields.find("drm-pdev");
      if (client == fields.end()) continue;
      if (seen.emplace(device == fields.end() ? "" : device->second, client->second).second) addFile(use, fields);
    }
  }
  return use == GraphicsUse{} ? std::nullopt : std::optional(use);
}

}  // namespace bench
