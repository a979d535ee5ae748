#pragma once

#include <string>
#include <string_view>

#include "core/desk/desk.h"
#include "core/machine/fact.h"

namespace core {

/// What a person types for a number of an ask, with or without units, in any common spelling: "2.5", "15750 MB/s",
/// "+25 %", several with blanks between. What tells other numbers of the same ask tells them too: "8 GT/s x4",
/// "Gen 4 x8", "3600 MT/s CL16", "3840x2160". Of memory that is installed GB is GiB, as it is sold.
/// Shapes  numbers by their keys, in the units that the ask has them in
/// Errors  Malformed for what is no number, for a unit that measures something else, and for two numbers in place of
/// one
[[nodiscard]] Result<DeskNumbers> deskTyped(const DeskAsk& ask, const DeskInput& input, std::string_view text);

/// What a bench tells of an ask by itself: the link of its graphics device's slot, its memory. Empty where it tells
/// nothing.
[[nodiscard]] DeskNumbers deskFromBench(const DeskAsk& ask, const Capture& capture, const std::string& device);

/// A number of an answer in words, with its unit: "15.7538 GB/s", "none", "Gen 3 x8 (100.0 % of it)".
[[nodiscard]] std::string deskValueText(const DeskValue& value);

}  // namespace core
