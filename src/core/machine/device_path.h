#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/machine/fact.h"
#include "core/machine/links.h"

namespace core {

/// What an external cable carries, one way each, by the link's own figures: lane speed times lanes.
struct CableRate {
  double to_device_GBps = 0;
  double to_host_GBps = 0;
  bool operator==(const CableRate&) const = default;
};

/// One link on the way from the processor to a device: a downstream-facing port and what hangs below it.
struct Hop {
  std::string down;                     ///< PCI address of the port
  std::string up;                       ///< PCI address of the component below it
  std::string where;                    ///< "slot", "inside the card", "board", "cable"
  LinkGrade now;                        ///< as negotiated; 0 lanes where it could not be read
  LinkGrade most;                       ///< what the port can do
  std::optional<double> target_gts;     ///< what firmware or software asked for; root-only
  bool ends_differ = false;             ///< both ends should show the same; when they do not, neither is to be trusted
  std::optional<CableRate> cable = {};  ///< of a cable that tells its figures
  /// The ports at the ends of a cable are virtual: what they show says nothing about its real rate.
  [[nodiscard]] bool isVirtual() const { return where == "cable"; }
  /// What it carries one way, GB/s: a link's encoded rate, a cable's own figure towards the device; nothing where
  /// nobody knows.
  [[nodiscard]] std::optional<double> rateGBps() const;
  /// Where a copy over it plausibly lands; nothing where nobody knows.
  [[nodiscard]] std::optional<RateBand> plausibleCopy() const;
  /// "Gen 4 x16, 31.5 GB/s", "cable, 5.0 GB/s".
  [[nodiscard]] std::string text() const;
};

/// The whole way from the processor to a device.
struct DevicePath {
  std::vector<std::string> chain;        ///< root port first, device last
  std::vector<Hop> hops;                 ///< nearest the processor first; empty for a device inside the processor
  std::optional<std::size_t> narrowest;  ///< by its rate; of equals the one nearest the processor
  std::optional<std::size_t> slot;       ///< the link of the slot that the card sits in

  [[nodiscard]] const Hop* slotHop() const { return slot ? &hops[*slot] : nullptr; }
  /// The narrowest hop, where the rate of every hop is known: a cable without figures may be narrower than any other.
  [[nodiscard]] const Hop* narrowestHop() const;
  /// Is one hop narrower than all others? Where all are alike, none is the narrow one.
  [[nodiscard]] bool hasNeck() const;
};

/// Works the path out of a capture; empty for a device that the capture does not know.
[[nodiscard]] DevicePath devicePath(const Capture& capture, const std::string& device);

/// The lane rate in a text such as "16.0 GT/s"; nothing for anything else ("Unknown").
[[nodiscard]] std::optional<double> gtsOf(const std::string& text);

/// Is a graphics device built into the processor, so that main memory is its own? It has no link of its own, or its
/// memory is a share of main memory that the firmware keeps.
[[nodiscard]] bool isBuiltIn(const Capture& capture, const std::string& device);

/// Was the device seen to idle? Its link may have been lowered then to save power. False where nobody could tell.
[[nodiscard]] bool isIdle(const Capture& capture, const std::string& device);

/// The graphics device that a study most likely means: the one that shows the picture, else the first. Empty without
/// one.
[[nodiscard]] std::string likelyGraphicsDevice(const Capture& capture);

}  // namespace core
