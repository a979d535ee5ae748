#include "bench/smbios.h"

#include <optional>

#include <fmt/format.h>

#include "bench/sysfs_text.h"

namespace bench {
namespace {

/// One structure: its formatted part and the strings behind it.
class Structure {
 public:
  Structure(std::string_view formatted, std::string_view strings) : formatted_(formatted), strings_(strings) {}

  [[nodiscard]] int type() const { return byte(0).value_or(127); }
  /// A field exists only where the formatted part reaches that far.
  [[nodiscard]] std::optional<std::uint32_t> little(std::size_t offset, std::size_t size) const {
    if (offset + size > formatted_.size()) return std::nullopt;
    std::uint32_t value = 0;
    for (std::size_t i = size; i-- > 0;) value = (value << 8) | static_cast<unsigned char>(formatted_[offset + i]);
    return value;
  }
  [[nodiscard]] std::optional<int> byte(std::size_t offset) const { return asInt(little(offset, 1)); }
  [[nodiscard]] std::optional<int> word(std::size_t offset) const { return asInt(little(offset, 2)); }
  /// Strings are numbered from 1; 0 is none. Firmware pads them with blanks.
  [[nodiscard]] std::string text(std::size_t offset) const {
    int number = byte(offset).value_or(0);
    std::string_view rest = strings_;
    for (; number > 1 && !rest.empty(); --number) rest.remove_prefix(std::min(rest.find('\0') + 1, rest.size()));
    return number < 1 ? "" : trimmed(rest.substr(0, rest.find('\0')));
  }

 private:
  static std::optional<int> asInt(std::optional<std::uint32_t> value) {
    return value ? std::optional(static_cast<int>(*value)) : std::nullopt;
  }
  std::string_view formatted_;
  std::string_view strings_;
};

std::string memoryType(int code) {
  switch (code) {
    case 0x18: return "DDR3";
    case 0x1A: return "DDR4";
    case 0x1D: return "LPDDR3";
    case 0x1E: return "LPDDR4";
    case 0x22: return "DDR5";
    case 0x23: return "LPDDR5";
    default: return fmt::format("type {:#04x}", code);
  }
}

std::uint64_t moduleSize(const Structure& s) {
  constexpr std::uint64_t kMiB = 1U << 20;
  const int size = s.word(0x0C).value_or(0);
  if (size == 0 || size == 0xFFFF) return 0;
  if (size == 0x7FFF) return (s.little(0x1C, 4).value_or(0) & 0x7FFFFFFFU) * kMiB;
  if (size & 0x8000) return static_cast<std::uint64_t>(size & 0x7FFF) * 1024;
  return static_cast<std::uint64_t>(size) * kMiB;
}

// A speed that does not fit in 16 bits has a longer field of its own.
int speedOf(const Structure& s, std::size_t offset, std::size_t extended) {
  const int speed = s.word(offset).value_or(0);
  return speed == 0xFFFF ? static_cast<int>(s.little(extended, 4).value_or(0) & 0x7FFFFFFFU) : speed;
}

MemoryModule moduleOf(const Structure& s) {
  MemoryModule module;
  module.locator = s.text(0x10);
  module.bank = s.text(0x11);
  module.size_bytes = moduleSize(s);
  if (module.isEmpty()) return module;
  module.type = memoryType(s.byte(0x12).value_or(0));
  module.total_width_bits = s.word(0x08).value_or(0);
  module.data_width_bits = s.word(0x0A).value_or(0);
  module.rated_mts = speedOf(s, 0x15, 0x54);
  module.configured_mts = speedOf(s, 0x20, 0x58);
  module.configured_mv = s.word(0x26).value_or(0);
  module.most_mv = s.word(0x24).value_or(0);
  module.maker = s.text(0x17);
  module.part = s.text(0x1A);
  return module;
}

CardSlot slotOf(const Structure& s) {
  CardSlot slot{s.text(0x04), {}, {}};
  switch (s.byte(0x07).value_or(0)) {
    case 3: slot.usage = "free"; break;
    case 4: slot.usage = "in use"; break;
    case 5: slot.usage = "not usable"; break;
    default: break;
  }
  const auto segment = s.word(0x0D);
  const auto bus = s.byte(0x0F);
  const auto function = s.byte(0x10);
  constexpr int kUnknown = 0xFF;
  if (segment && bus && function && *bus != kUnknown && *function != kUnknown)
    slot.address = fmt::format("{:04x}:{:02x}:{:02x}.{:x}", *segment, *bus, *function >> 3, *function & 7);
  return slot;
}

int countOf(const Structure& s, std::size_t byte_offset, std::size_t word_offset) {
  const int count = s.byte(byte_offset).value_or(0);
  return count == 0xFF ? s.word(word_offset).value_or(0xFF) : count;
}

void take(Smbios& tables, const Structure& s) {
  switch (s.type()) {
    case 0:
      tables.firmware_version = s.text(0x05);
      tables.firmware_date = s.text(0x08);
      break;
    case 2:
      if (tables.board.empty()) tables.board = s.text(0x05);
      break;
    case 4:
      tables.processor_cores += countOf(s, 0x23, 0x2A);
      tables.processor_cores_enabled += countOf(s, 0x24, 0x2C);
      tables.processor_threads += countOf(s, 0x25, 0x2E);
      break;
    case 9: tables.card_slots.push_back(slotOf(s)); break;
    case 17: tables.modules.push_back(moduleOf(s)); break;
    default: break;  // vendors have structures of their own
  }
}

}  // namespace

core::Result<Smbios> parseSmbios(std::string_view bytes) {
  Smbios tables;
  std::size_t at = 0;
  while (at + 4 <= bytes.size()) {
    const auto length = static_cast<unsigned char>(bytes[at + 1]);
    const std::size_t strings = at + length;
    // The strings end with an empty one: two zero bytes in a row, also where there are none.
    const std::size_t end = length < 4 || strings > bytes.size() ? std::string_view::npos
                                                                 : bytes.find(std::string_view("\0\0", 2), strings);
    if (end == std::string_view::npos) {
      tables.is_cut_short = true;
      break;
    }
    const Structure structure(bytes.substr(at, length), bytes.substr(strings, end - strings));
    take(tables, structure);
    at = end + 2;
    if (structure.type() == 127) break;
  }
  if (at == 0)
    return core::Error{core::ErrorKind::Malformed, "the firmware's tables cannot be read",
                       "/sys/firmware/dmi/tables/DMI", "Update the firmware, or enter memory facts by hand"};
  return tables;
}

}  // namespace bench
