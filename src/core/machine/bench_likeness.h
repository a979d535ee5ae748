#pragma once

#include <string>
#include <vector>

#include "core/machine/fact.h"

namespace core {

/// Could two captures be of one machine? Of the same board and the same processor, where both tell both; two of one
/// make are alike, too: who knows asks a person.
[[nodiscard]] bool mayBeOneMachine(const Capture& one, const Capture& other);
/// "Corvane D2, Ostrel Q4 4-Core Processor"; empty where it tells neither.
[[nodiscard]] std::string machineText(const Capture& capture);

/// A part that people carry from bench to bench: a graphics card, a drive.
struct CarriedPart {
  std::string model;  ///< by which it is recognised: vendor, device, and those of who built it
  std::string title;  ///< "Luma-9", else by its numbers
  bool operator==(const CarriedPart&) const = default;
};
/// Each model once, in order.
[[nodiscard]] std::vector<CarriedPart> carriedPartsOf(const Capture& capture);

}  // namespace core
