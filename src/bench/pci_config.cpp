#include "bench/pci_config.h"

#include <array>
#include <cstddef>

namespace bench {
namespace {

constexpr std::size_t kCapabilityEnd = 0x34;  // bytes from the capability's start up to link control 2
constexpr std::array<double, 7> kRates{0, 2.5, 5, 8, 16, 32, 64};

unsigned byteAt(std::string_view bytes, std::size_t at) { return static_cast<unsigned char>(bytes[at]); }
unsigned wordAt(std::string_view bytes, std::size_t at) { return byteAt(bytes, at) | (byteAt(bytes, at + 1) << 8); }

std::optional<std::size_t> findCapability(std::string_view bytes, unsigned id) {
  if (bytes.size() < 256) return std::nullopt;
  std::size_t at = byteAt(bytes, 0x34) & 0xFCU;
  for (int steps = 0; at >= 0x40 && steps < 48; ++steps) {  // 48 is all that fit: a longer list is a circle
    if (byteAt(bytes, at) == id) return at;
    at = byteAt(bytes, at + 1) & 0xFCU;
  }
  return std::nullopt;
}

int sizeOf(unsigned code) { return 128 << (code & 7U); }

}  // namespace

std::optional<PciExpress> parsePciConfig(std::string_view bytes) {
  const auto capability = findCapability(bytes, 0x10);
  if (!capability || *capability + kCapabilityEnd > bytes.size()) return std::nullopt;
  const std::size_t c = *capability;
  PciExpress express;
  express.port_type = static_cast<int>((wordAt(bytes, c + 2) >> 4) & 0xFU);
  express.payload_most_bytes = sizeOf(wordAt(bytes, c + 4));
  express.payload_bytes = sizeOf(wordAt(bytes, c + 8) >> 5);
  express.read_request_bytes = sizeOf(wordAt(bytes, c + 8) >> 12);
  express.power_saving = static_cast<int>(wordAt(bytes, c + 0x10) & 3U);
  const unsigned target = wordAt(bytes, c + 0x30) & 0xFU;
  const bool faces_downward = express.port_type == 4 || express.port_type == 6;
  if (faces_downward && target >= 1 && target < kRates.size()) express.target_gts = kRates[target];
  return express;
}

}  // namespace bench
