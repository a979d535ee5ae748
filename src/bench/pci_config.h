#pragma once

#include <optional>
#include <string_view>

namespace bench {

/// What a function's PCI Express capability says beyond the attribute files.
struct PciExpress {
  int port_type = 0;             ///< 0 endpoint, 1 legacy endpoint, 4 root, 5 switch upstream, 6 switch downstream, ...
  int payload_bytes = 128;       ///< in use
  int payload_most_bytes = 128;  ///< supported
  int read_request_bytes = 128;
  int power_saving = 0;              ///< enabled link states: 0 none, 1 L0s, 2 L1, 3 both
  std::optional<double> target_gts;  ///< asked for by firmware or software; on ports that face downward
};

/// Parses configuration space (64 bytes without privilege, 256 or 4096 with). Nothing for a function without the
/// capability, for fewer bytes than it needs, or for a list of capabilities that runs in a circle.
/// Source  PCI Express base specification: capability list from byte 0x34, capability id 0x10
[[nodiscard]] std::optional<PciExpress> parsePciConfig(std::string_view bytes);

}  // namespace bench
