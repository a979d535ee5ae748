#pragma once

#include <string_view>
#include <vector>

namespace core {

/// "0-2,5" -> 0, 1, 2, 5. What is no number is passed over.
[[nodiscard]] std::vector<int> processorsIn(std::string_view list);

/// Is a setting that each processor has of its own the same on every processor that runs in both captures? A setting
/// is one text for all, or who has what: "0 1 2: performance, 3: powersave". A processor that is off in one of them
/// has none there, and that is no difference of its own.
[[nodiscard]] bool isSameOnSharedProcessors(std::string_view setting, std::string_view online,
                                            std::string_view other_setting, std::string_view other_online);

}  // namespace core
