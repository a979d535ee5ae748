#pragma once

#include <cstdint>
#include <optional>
#include <string>

#include "core/record/record.h"
#include "core/study/study.h"

namespace core {

/// What the first capture of a visit says against its level, before its first pass: the part was not swapped, the menu
/// was not saved, the restart did not happen. A sentence: "32 GiB was asked, 16 GiB is read, and the boot is the same".
/// Nothing where nothing speaks against it, where somebody said that it is to be measured all the same, or once a pass
/// is recorded. A link that idles shows nothing, and nothing is said of it.
/// Source  the expected reading of each variable's level; flips that need a restart; what the visit before read
[[nodiscard]] std::optional<std::string> contradictionOf(const Study& study, const Record& record, const Visit& visit);

/// What a capture reads in place of a configuration: "32 GiB was asked, 16 GiB is read". Nothing where nothing speaks
/// against it.
[[nodiscard]] std::optional<std::string> readOtherwise(const Study& study, ConfigurationId configuration,
                                                       const Capture& capture);

/// Does a capture read that the bench is at a configuration: each variable whose level says what must be read there?
/// False where one cannot be told.
[[nodiscard]] bool readsAs(const Study& study, ConfigurationId configuration, const Capture& capture);

}  // namespace core
