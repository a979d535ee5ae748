#pragma once

#include "core/machine/fact.h"

namespace core {

/// `changed` with devices that only moved to another address called by the address that `baseline` knows them by, where
/// their ids leave no doubt.
[[nodiscard]] Capture withFamiliarAddresses(const Capture& baseline, const Capture& changed);

}  // namespace core
