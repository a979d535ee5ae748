#pragma once

#include <ostream>
#include <string>

#include "cli/commands.h"
#include "core/machine/fact.h"
#include "session/far/ssh_link.h"

namespace cli {

/// As runCommand, of a study whose bench is another computer: its sheet runs there. Errors besides: those of FarSheet
[[nodiscard]] core::Result<ExitCode> runFarCommand(const RunOptions& options, std::ostream& out);

/// How the sheet of such a study stands; what was filed there is in the study here, unless it runs.
struct FarStanding {
  std::string name;
  bool is_running = false;
  double clock_ahead_ms = 0;
  std::string clock;
};
[[nodiscard]] core::Result<FarStanding> farStanding(const std::string& study_path);

/// What a bench over ssh says about itself.
[[nodiscard]] core::Result<core::Capture> farCapture(const session::SshLink::To& to);

}  // namespace cli
