#include "core/machine/kind_groups.h"

#include <array>

namespace core {
namespace {

constexpr std::array<std::string_view, 5> kLinks{"pcie_generation", "pcie_width", "resizable_bar", "external_link",
                                                 "aspm"};
constexpr std::array<std::string_view, 5> kMemory{"memory_speed", "memory_capacity", "graphics_carve_out", "huge_pages",
                                                  "swappiness"};
constexpr std::array<std::string_view, 4> kProcessor{"governor", "core_count", "core_type", "smt"};
constexpr std::array<std::string_view, 5> kParts{"processor", "board", "host", "device", "firmware_version"};
constexpr std::array<std::string_view, 1> kElse{"other"};

constexpr std::array<KindGroup, 5> kGroups{
    KindGroup{"processor", kProcessor}, KindGroup{"memory", kMemory}, KindGroup{"links", kLinks},
    KindGroup{"a whole part, or its firmware", kParts}, KindGroup{"something else", kElse}};

}  // namespace

std::span<const KindGroup> kindGroups() { return kGroups; }

}  // namespace core
