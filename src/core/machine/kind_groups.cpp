#include "core/machine/kind_groups.h"

#include <array>

namespace core {
namespace {

constexpr std::array<std::string_view, 7> kLinkKinds{"pcie_generation", "pcie_width",    "pcie_link", "pcie_links",
                                                     "resizable_bar",   "external_link", "aspm"};
constexpr std::array<std::string_view, 5> kMemoryKinds{"memory_speed", "memory_capacity", "graphics_carve_out",
                                                       "huge_pages", "swappiness"};
constexpr std::array<std::string_view, 4> kProcessorKinds{"governor", "core_count", "core_type", "smt"};
constexpr std::array<std::string_view, 5> kPartKinds{"processor", "board", "host", "device", "firmware_version"};
constexpr std::array<std::string_view, 1> kOtherKinds{"other"};

constexpr std::array<KindGroup, 5> kGroups{
    KindGroup{"processor", kProcessorKinds}, KindGroup{"memory", kMemoryKinds}, KindGroup{"links", kLinkKinds},
    KindGroup{"a whole part, or its firmware", kPartKinds}, KindGroup{"something else", kOtherKinds}};

}  // namespace

std::span<const KindGroup> kindGroups() { return kGroups; }

}  // namespace core
