#pragma once

#include <string>

namespace core {

/// A fact's name in words, as sentences and pages say it: "link width of 0000:00:01.0", "memory configured speed",
/// "kernel", "siblings of processor 3".
[[nodiscard]] std::string factTitle(const std::string& name);

/// A number of bytes for a person: "256 MiB", "31.3 GiB".
[[nodiscard]] std::string sizeText(double bytes);

}  // namespace core
