#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include <nlohmann/json.hpp>

#include "core/values/result.h"

namespace simbench {

/// What the simulated machine shows of itself in its fake /sys and /proc. A level, or an accident, overrides single
/// fields; the names in JSON are those of the fields.
struct Machine {
  std::string firmware_version = "D2-1.14";
  std::string board = "Corvane D2";
  std::string processor = "Ostrel Q4 4-Core Processor";
  int cores = 4;
  int threads_per_core = 2;
  int small_cores = 0;  ///< of `cores`, the last ones
  std::string offline;  ///< a list such as "3,7"
  std::string governor = "performance";
  int boost = 1;
  int memory_modules = 2;  ///< of four sockets
  int memory_gib = 16;     ///< each
  int memory_rated_mts = 6000;
  int memory_mts = 6000;
  int memory_mv = 1350;
  int carve_out_mib = 256;
  double link_gts = 16;  ///< of the graphics slot
  int link_width = 16;
  int link_power_saving = 0;
  int aperture_mib = 16384;
  std::string graphics_id = "0x9010";
  int busy_percent = 97;
  bool is_external = false;  ///< the card sits in a box on a cable
  double cable_gbps = 20;    ///< per lane
  std::string kernel = "6.12.48-corvane";
  int swappiness = 60;
  int graphics_c = 61;                    ///< what the card's sensor shows
  int fan_rpm = 1450;                     ///< and its fan
  double graphics_memory_mib = 5400;      ///< what a pass has in use of the card's memory
  double memory_in_use_mib = 11800;       ///< and of the machine's
  int memory_errors = 0;                  ///< that a test of the memory finds
  int memory_most_mv = 0;                 ///< the highest voltage that the modules name; 0: they name none
  int corrected_errors = 0;               ///< of memory, that each pass adds to the controller's counter
  int link_errors = 0;                    ///< corrected, that each pass adds to the counter of the slot's port
  int graphics_number = 0;                ///< that the kernel deals out to the card: card0, card1
  std::string driver_version = "3A1F0C";  ///< of the graphics driver
  double yields = 1;  ///< share of what it shows that it really yields; shown nowhere, only a measurement finds it
};

/// /proc/meminfo of a machine that has so much memory in use; a fiftieth is always left.
[[nodiscard]] std::string meminfoText(const Machine& machine, double in_use_mib);

/// Applies overrides. Errors  Malformed for a field that a machine has not
[[nodiscard]] core::Status overrideMachine(Machine& machine, const nlohmann::json& overrides);

/// Writes the tree: `folder`/proc and `folder`/sys, as a kernel would show this machine, and how far its clock is
/// ahead. What was there goes as a whole. Errors  Io
[[nodiscard]] core::Status writeMachine(const Machine& machine, const std::string& boot_id, std::int64_t boots,
                                        const std::string& folder, std::int64_t clock_ahead_ms = 0);

}  // namespace simbench
