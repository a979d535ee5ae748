#pragma once

#include <optional>
#include <string>

namespace core {

/// Link and memory arithmetic. Rates in GB/s (10^9 bytes a second) per direction, sizes in bytes; never an unqualified
/// "G".

/// One PCI Express link as it stands: transfers a second on one lane, and lanes.
struct LinkGrade {
  double gts = 0;  ///< GT/s: 2.5, 5, 8, 16, 32 or 64
  int lanes = 0;

  bool operator==(const LinkGrade&) const = default;
};

/// Generation of a lane rate, 1 to 6; nothing for any other rate.
[[nodiscard]] std::optional<int> pcieGeneration(double gts);

/// What the lanes carry after line encoding, Gb/s: 8b/10b for 2.5 and 5.0, 128b/130b for 8 to 32, none for 64.
/// The measure by which hops are compared: neither lanes nor GT/s alone say which is the narrowest.
/// Source  PCI Express base specification
[[nodiscard]] double encodedGbps(const LinkGrade& link);
[[nodiscard]] double encodedGBps(const LinkGrade& link);

/// A span of rates, GB/s, both ends included.
struct RateBand {
  double lo_GBps = 0;
  double hi_GBps = 0;
};
/// Where a copy over the link plausibly lands: 0.80 to 0.90 of the encoded rate. A plausibility band, never a pass
/// mark; nothing for Gen 6, of which there are few measurements.
[[nodiscard]] std::optional<RateBand> plausibleCopy(const LinkGrade& link);

/// The same over an external cable of so many GB/s one way: 0.50 to 0.72. Its packets are tunnelled in others and are
/// short, and controllers differ.
[[nodiscard]] RateBand plausibleCableCopy(double rate_GBps);

/// Share of the encoded rate that is payload: P / (P + H). `payload_bytes` is the packet size in use along the path,
/// `header_bytes` 20 for read completions, 24 for writes to 64-bit addresses.
[[nodiscard]] double payloadFactor(int payload_bytes, int header_bytes);

/// Peak of system memory: MT/s times bus width. `bus_bits` counts all channels, 64 for each DDR module's.
[[nodiscard]] double memoryPeakGBps(double mts, int bus_bits);

/// Where an all-thread read plausibly lands: 0.70 to 0.90 of the peak.
[[nodiscard]] RateBand plausibleMemoryRead(double peak_GBps);

/// "Gen 4 x16, 31.5 GB/s"; "x0: no link" where there is none.
[[nodiscard]] std::string linkText(const LinkGrade& link);

/// Is a fact the speed or the width at which one end of a link runs?
[[nodiscard]] bool isLinkEnd(const std::string& field);

}  // namespace core
