#include "core/machine/device_path.h"

#include <algorithm>
#include <cmath>
#include <sstream>

#include <fmt/format.h>

#include "core/values/number_text.h"

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

// A card may bring a switch of its own; its inner link is constant whatever the slot does. Told by the maker's id; the
// first hop from the processor is never inside a card, whoever made the port.
bool isInsideTheCard(const Capture& capture, const Hop& hop, const std::string& device, bool is_first) {
  const std::string maker = capture.text(pci(device, "vendor"));
  return !is_first && !maker.empty() && isBridge(capture, hop.down) && capture.text(pci(hop.down, "vendor")) == maker &&
         capture.text(pci(hop.up, "vendor")) == maker;
}

bool isOnACable(const Capture& capture, const std::string& device) {
  return capture.text(pci(device, "removable")) == "removable" && !capture.below("thunderbolt/").empty();
}

// Of all cables on the way the narrowest counts; 0-0 is the host's own end and has none.
std::optional<CableRate> cableRate(const Capture& capture) {
  std::optional<CableRate> narrowest;
  for (const Fact& fact : capture.below("thunderbolt/")) {
    if (!fact.name.ends_with("/rx_speed") || !fact.isRead()) continue;
    const std::string end = fact.name.substr(0, fact.name.size() - 8);
    if (end.ends_with("-0")) continue;
    constexpr double kBits = 8;
    const auto rate = [&](const char* speed, const char* lanes) {
      return leadingNumber(capture.text(end + speed)).value_or(0) *
             leadingNumber(capture.text(end + lanes)).value_or(0) / kBits;
    };
    const CableRate one{rate("rx_speed", "rx_lanes"), rate("tx_speed", "tx_lanes")};
    if (one.to_device_GBps <= 0 || one.to_host_GBps <= 0) continue;
    if (!narrowest || one.to_device_GBps < narrowest->to_device_GBps) narrowest = one;
  }
  return narrowest;
}

Hop hopOf(const Capture& capture, const std::string& down, const std::string& up) {
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
  return hop;
}

void placeHops(DevicePath& path, const Capture& capture, const std::string& device) {
  bool is_cable_due = isOnACable(capture, device);
  for (std::size_t i = 0; i < path.hops.size(); ++i) {
    Hop& hop = path.hops[i];
    if (isInsideTheCard(capture, hop, device, i == 0)) {
      hop.where = "inside the card";
    } else if (is_cable_due && hop.now.gts <= 2.5) {  // what the ports of a cable always show
      hop.where = "cable";
      hop.cable = cableRate(capture);
      is_cable_due = false;
    } else {
      path.slot = i;  // the last link before the card
    }
  }
  if (path.slot) path.hops[*path.slot].where = "slot";
}

}  // namespace

std::optional<double> gtsOf(const std::string& text) {
  const auto value = leadingNumber(text);
  const bool has_unit = text.find(" GT/s") != std::string::npos && text.find(" GT/s") == text.find(' ');
  return has_unit && value && *value > 0 ? value : std::nullopt;
}

std::optional<double> Hop::rateGBps() const {
  if (isVirtual()) return cable ? std::optional(std::min(cable->to_device_GBps, cable->to_host_GBps)) : std::nullopt;
  return now.lanes > 0 ? std::optional(encodedGBps(now)) : std::nullopt;
}

std::optional<RateBand> Hop::plausibleCopy() const {
  if (!isVirtual()) return core::plausibleCopy(now);
  return rateGBps() ? std::optional(plausibleCableCopy(*rateGBps())) : std::nullopt;
}

std::string Hop::text() const {
  if (!isVirtual()) return linkText(now);
  return rateGBps() ? fmt::format("cable, {:.1f} GB/s", *rateGBps()) : "cable, rate unknown";
}

const Hop* DevicePath::narrowestHop() const {
  for (const Hop& hop : hops)
    if (!hop.rateGBps()) return nullptr;
  return narrowest ? &hops[*narrowest] : nullptr;
}

bool DevicePath::hasNeck() const {
  return narrowest && std::any_of(hops.begin(), hops.end(), [&](const Hop& hop) {
           return hop.rateGBps() && *hop.rateGBps() > 1.01 * *hops[*narrowest].rateGBps();
         });
}

DevicePath devicePath(const Capture& capture, const std::string& device) {
  DevicePath path;
  std::istringstream words(capture.text(pci(device, "chain")));
  for (std::string word; words >> word;) path.chain.push_back(word);
  // Pairs (1,2), (3,4), ... are links; the step from a switch's upstream to its downstream port is not one.
  for (std::size_t i = 0; i + 1 < path.chain.size(); i += 2)
    path.hops.push_back(hopOf(capture, path.chain[i], path.chain[i + 1]));
  placeHops(path, capture, device);
  for (std::size_t i = 0; i < path.hops.size(); ++i) {
    const auto rate = path.hops[i].rateGBps();
    if (rate && (!path.narrowest || *rate < *path.hops[*path.narrowest].rateGBps())) path.narrowest = i;
  }
  return path;
}

bool isBuiltIn(const Capture& capture, const std::string& device) {
  constexpr double kSlack = 64.0 * (1 << 20);
  if (capture.text(pci(device, "class")).empty()) return false;
  if (devicePath(capture, device).hops.empty()) return true;
  const auto memory = capture.number(pci(device, "mem_info_vram_total"));
  const auto reserve = capture.number("memory/firmware_reserve");
  return memory && reserve && *memory > 0 && *memory <= *reserve + kSlack;
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
