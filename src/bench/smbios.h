#pragma once

#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

#include "core/values/result.h"

namespace bench {

/// A memory socket as the firmware describes it (structure 17).
struct MemoryModule {
  std::string locator;
  std::string bank;
  std::uint64_t size_bytes = 0;  ///< 0: the socket is empty
  std::string type;              ///< "DDR5"; "type 0x42" where the number is not known here
  int total_width_bits = 0;
  int data_width_bits = 0;
  int rated_mts = 0;       ///< what the module can do; 0: not said
  int configured_mts = 0;  ///< what it runs at; 0: not said
  int configured_mv = 0;
  int most_mv = 0;  ///< the highest that the module names; 0: not said
  std::string maker;
  std::string part;
  [[nodiscard]] bool isEmpty() const { return size_bytes == 0; }
  [[nodiscard]] bool hasEcc() const { return total_width_bits > data_width_bits; }
};

/// A slot for cards as the board is labelled (structure 9).
struct CardSlot {
  std::string label;    ///< "SLOT 1"
  std::string usage;    ///< "in use", "free", "not usable"; empty where the firmware does not know
  std::string address;  ///< PCI address of its port, "0000:00:01.0"; empty where it is not said
};

/// What the firmware says about the machine, as far as the tables could be read.
struct Smbios {
  std::string firmware_version;
  std::string firmware_date;  ///< as printed, mm/dd/yyyy
  std::string board;
  int processor_cores = 0;
  int processor_cores_enabled = 0;
  int processor_threads = 0;
  std::vector<MemoryModule> modules;
  std::vector<CardSlot> card_slots;
  bool is_cut_short = false;  ///< a structure was corrupt: what came before it stands
};

/// Parses the packed structures of /sys/firmware/dmi/tables/DMI. Any bytes may come in.
/// Errors  Malformed where not even the first structure can be read
/// Source  DMTF SMBIOS reference specification, offsets as in the kernel's own reader
[[nodiscard]] core::Result<Smbios> parseSmbios(std::string_view bytes);

}  // namespace bench
