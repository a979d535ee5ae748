#include "core/device_path.h"

#include <cmath>
#include <cstdlib>
#include <sstream>

namespace core {
namespace {

std::string pci(const std::string& address, const char* field) { return "pci/" + address + "/" + field; }

LinkGrade gradeOf(const Capture& capture, const std::string& address, const char* speed, const char* width) {
  const auto gts = gtsOf(capture.text(pci(address, speed)));
  const auto lanes = capture.number(pci(address, width));
  if (!gts || !lanes) return {};
  return {*gts, static_cast<int>(*lanes)};
}

bool isBridge(const Capture& capture, const std::string& address) {
  return capture.text(pci(address, "class")).starts_with("0x0604");
}

// A card may bring a switch of its own; its inner link is constant whatever the slot does. Told by the maker's id.
bool isInsideTheCard(const Capture& capture, const Hop& hop, const std::string& device) {
  const std::string maker = capture.text(pci(device, "vendor"));
  return !maker.empty() && isBridge(capture, hop.down) && capture.text(pci(hop.down, "vendor")) == maker &&
         capture.text(pci(hop.up, "vendor")) == maker;
}

bool isTunnelled(const Capture& capture, const std::string& device) {
  return capture.text(pci(device, "removable")) == "removable" && !capture.below("thunderbolt/").empty();
}

Hop hopOf(const Capture& capture, const std::string& down, const std::string& up, const std::string& device,
          bool is_tunnelled) {
  Hop hop{down,
          up,
          "board",
          gradeOf(capture, down, "current_link_speed", "current_link_width"),
          gradeOf(capture, down, "max_link_speed", "max_link_width"),
          {},
          false};
  hop.target_gts = gtsOf(capture.text(pci(down, "config (link control 2, target speed)")));
  const LinkGrade below = gradeOf(capture, up, "current_link_speed", "current_link_width");
  hop.ends_differ = below.lanes > 0 && !(below == hop.now);
  if (hop.now.lanes == 0) hop.now = below;
  if (isInsideTheCard(capture, hop, device))
    hop.where = "inside the card";
  else if (is_tunnelled && hop.now.gts <= 2.5)
    hop.where = "tunnel";
  return hop;
}

}  // namespace

std::optional<double> gtsOf(const std::string& text) {
  char* end = nullptr;
  const double value = std::strtod(text.c_str(), &end);
  if (end == text.c_str() || !std::string_view(end).starts_with(" GT/s") || !std::isfinite(value) || value <= 0)
    return std::nullopt;
  return value;
}

DevicePath devicePath(const Capture& capture, const std::string& device) {
  DevicePath path;
  std::istringstream words(capture.text(pci(device, "chain")));
  for (std::string word; words >> word;) path.chain.push_back(word);
  // Pairs (1,2), (3,4), ... are links; the step from a switch's upstream to its downstream port is not one.
  const bool is_tunnelled = isTunnelled(capture, device);
  for (std::size_t i = 0; i + 1 < path.chain.size(); i += 2)
    path.hops.push_back(hopOf(capture, path.chain[i], path.chain[i + 1], device, is_tunnelled));
  for (std::size_t i = 0; i < path.hops.size(); ++i) {
    const Hop& hop = path.hops[i];
    if (hop.where == "board") path.slot = i;  // the last link before the card
    if (hop.isVirtual() || hop.now.lanes == 0) continue;
    if (!path.narrowest || encodedGbps(hop.now) < encodedGbps(path.hops[*path.narrowest].now)) path.narrowest = i;
  }
  if (path.slot) path.hops[*path.slot].where = "slot";
  return path;
}

bool isIdle(const Capture& capture, const std::string& device) {
  constexpr double kIdleBusyPercent = 10;
  const auto busy = capture.number(pci(device, "gpu_busy_percent"));
  return busy && *busy < kIdleBusyPercent;
}

std::string likelyGraphicsDevice(const Capture& capture) {
  std::string first;
  for (const Fact& fact : capture.below("pci/")) {
    if (!fact.name.ends_with("/class") || !fact.value.starts_with("0x03")) continue;
    const std::string address = fact.name.substr(4, fact.name.size() - 4 - 6);
    if (first.empty()) first = address;
    if (capture.text(pci(address, "boot_vga")) == "1") return address;
  }
  return first;
}

}  // namespace core
