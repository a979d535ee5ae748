#include "core/machine/bench_likeness.h"

#include <algorithm>
#include <array>

#include <fmt/format.h>

namespace core {
namespace {

constexpr std::array kFixed{"firmware/board", "cpu/model"};

// Display controllers, and drives of their own controller: classes 03 and 0108 of PCI.
bool isCarried(const std::string& pci_class) {
  return pci_class.starts_with("0x03") || pci_class.starts_with("0x0108");
}

}  // namespace

bool mayBeOneMachine(const Capture& one, const Capture& other) {
  return std::all_of(kFixed.begin(), kFixed.end(),
                     [&](const char* fact) { return !one.text(fact).empty() && one.text(fact) == other.text(fact); });
}

std::string machineText(const Capture& capture) {
  std::string text;
  for (const char* fact : kFixed)
    if (const std::string value = capture.text(fact); !value.empty()) text += (text.empty() ? "" : ", ") + value;
  return text;
}

std::vector<CarriedPart> carriedPartsOf(const Capture& capture) {
  constexpr std::string_view kEnding = "/class";
  std::vector<CarriedPart> parts;
  for (const Fact& fact : capture.below("pci/")) {
    if (!fact.name.ends_with(kEnding) || !isCarried(fact.value)) continue;
    const std::string device = fact.name.substr(0, fact.name.size() - kEnding.size() + 1);
    CarriedPart part;
    for (const char* number : {"vendor", "device", "subsystem_vendor", "subsystem_device"})
      part.model += (part.model.empty() ? "" : ":") + capture.text(device + number);
    part.title = capture.text(device + "product_name");
    if (part.title.empty())
      part.title = fmt::format("device {} of {}", capture.text(device + "device"), capture.text(device + "vendor"));
    if (std::find(parts.begin(), parts.end(), part) == parts.end()) parts.push_back(std::move(part));
  }
  return parts;
}

}  // namespace core
