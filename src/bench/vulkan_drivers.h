#pragma once

#include <vector>

#include "core/machine/fact.h"

namespace bench {

/// What Vulkan says of this computer's graphics drivers: "graphics/0000:03:00.0/vulkan_driver", or under the device's
/// name where it has no address. Our own probe asks, so that a driver that crashes takes nothing with it. Empty where
/// there is no Vulkan. Takes a fraction of a second: not while a pass runs.
[[nodiscard]] std::vector<core::Fact> vulkanDriverFacts();

}  // namespace bench
