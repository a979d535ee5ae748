#pragma once

#include <array>

namespace core {

/// Why the earlier of two typed results of one pass is left out.
inline constexpr const char* kTypedWrongly = "a wrong number was typed, or a wrong log was imported";

/// The physical causes for which a person may leave a pass out. That a pass lies far from the others is none of them.
inline constexpr std::array kExclusionCauses{
    "another program was at work: an update, a scan, a backup",
    "the workload did not do what it was to do: a save did not load, a scene was another",
    "a person or an animal disturbed it",
    "the room or the cooling was not as in the other passes",
    "power or the link failed for a moment",
    "it was the cold first run after a change",
    kTypedWrongly,
};

}  // namespace core
