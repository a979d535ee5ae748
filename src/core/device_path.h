#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/fact.h"
#include "core/links.h"

namespace core {

/// One link on the way from the processor to a device: a downstream-facing port and what hangs below it.
struct Hop {
  std::string down;                  ///< PCI address of the port
  std::string up;                    ///< PCI address of the component below it
  std::string where;                 ///< "slot", "inside the card", "board", "tunnel"
  LinkGrade now;                     ///< as negotiated; 0 lanes where it could not be read
  LinkGrade most;                    ///< what the port can do
  std::optional<double> target_gts;  ///< what firmware or software asked for; root-only
  bool ends_differ = false;          ///< both ends should show the same; when they do not, neither is to be trusted
  /// Ports of a USB4 tunnel are virtual: what they show says nothing about the real rate.
  [[nodiscard]] bool isVirtual() const { return where == "tunnel"; }
};

/// The whole way from the processor to a device.
struct DevicePath {
  std::vector<std::string> chain;        ///< root port first, device last
  std::vector<Hop> hops;                 ///< nearest the processor first; empty for a device inside the processor
  std::optional<std::size_t> narrowest;  ///< by encoded rate; of equals the one nearest the processor
  std::optional<std::size_t> slot;       ///< the link of the slot that the card sits in

  [[nodiscard]] const Hop* slotHop() const { return slot ? &hops[*slot] : nullptr; }
};

/// Works the path out of a capture; empty for a device that the capture does not know.
[[nodiscard]] DevicePath devicePath(const Capture& capture, const std::string& device);

/// The lane rate in a text such as "16.0 GT/s"; nothing for anything else ("Unknown").
[[nodiscard]] std::optional<double> gtsOf(const std::string& text);

/// Was the device seen to idle? Its link may have been lowered then to save power. False where nobody could tell.
[[nodiscard]] bool isIdle(const Capture& capture, const std::string& device);

/// The graphics device that a study most likely means: the one that shows the picture, else the first. Empty without
/// one.
[[nodiscard]] std::string likelyGraphicsDevice(const Capture& capture);

}  // namespace core
