#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "core/record/level_measurement.h"
#include "core/values/result.h"

namespace store {

/// Finds a number in the JSON object that a workload printed. `field` is a path of names joined by dots; a number in
/// the path picks an element of a list, from 0. Text around the object (before its first line, after its last) is
/// allowed, because programs greet.
/// Errors  Malformed when no JSON object is found, Missing{field}, OutOfRange when the field is no finite number
[[nodiscard]] core::Result<double> numberFromJson(std::string_view output, const std::string& field);

/// Everything that a measuring command printed as {"NAME": {"values": [...]}}; other fields of its object are passed
/// over. Errors  Malformed when no JSON object is found, OutOfRange for a value that is no positive number, Missing
/// when nothing was measured, NotAllowed when the command itself says that it measured a software device, which proves
/// nothing
[[nodiscard]] core::Result<std::vector<core::Reading>> readingsFromJson(std::string_view output);

}  // namespace store
