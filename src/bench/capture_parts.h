#pragma once

#include "bench/fact_reader.h"

namespace bench {

/// The parts of a capture, one for each corner of the machine. Each adds its facts and fails at nothing.
void captureKernel(FactReader& reader);  ///< kernel, firmware, boot
void captureProcessor(FactReader& reader);
void captureMemory(FactReader& reader);  ///< firmware tables, memory map, NUMA
void capturePci(FactReader& reader);     ///< every PCI device with its link, and what its graphics driver says
/// Of a device and of every port on its way, who they are and their links: enough for its path.
void capturePath(FactReader& reader, const std::string& address);
void captureUsb4(FactReader& reader);
void captureSensors(FactReader& reader);  ///< temperatures, power, fans, drives, power source, foreign load

}  // namespace bench
