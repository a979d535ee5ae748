#pragma once

#include <string>

#include "core/machine/fact.h"
#include "session/far/ssh_link.h"

namespace session {

/// What a bench over ssh says of itself before anything is measured there.
struct FarLook {
  FarHello hello;
  core::ClockDifference clocks;
  core::Capture capture;
};

/// Reads all of it in one connection. `study`: the identity of the one for which it is asked; empty for none.
/// Errors of SshLink; Busy while that study's sheet runs there: it is not disturbed
[[nodiscard]] core::Result<FarLook> lookThere(const SshLink::To& to, const std::string& study = {});

}  // namespace session
