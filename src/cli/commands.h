#pragma once

#include <ostream>
#include <string>

#include "core/result.h"

namespace cli {

/// The commands behind `iron-lever-cli`, one function each. All print to `out`; an error is returned, not printed.

/// Makes a study file from a design (JSON, docs/study-format.md).
[[nodiscard]] core::Status newCommand(const std::string& study_path, const std::string& design_path, std::ostream& out);

struct RunOptions {
  std::string study_path;
  bool is_approved = false;      ///< the person has read the commands and approves them
  bool repeats_failed = false;   ///< another attempt at passes that failed
  bool is_quiet = false;
};
/// Runs a study to the end of its plan, or goes on where it stood. Ctrl+C stops it after ending the pass in hand, which
/// will run again. Needs a QCoreApplication.
[[nodiscard]] core::Status runCommand(const RunOptions& options, std::ostream& out);

/// Prints what the study found, for reading or as JSON.
[[nodiscard]] core::Status findingsCommand(const std::string& study_path, bool as_json, std::ostream& out);

/// One calculation of the core: JSON in, JSON out.
[[nodiscard]] core::Status computeCommand(const std::string& group, std::istream& in, std::ostream& out);

/// Makes the demo study in a folder and runs it on its simulated bench. A finished one is left as it is.
[[nodiscard]] core::Status demoCommand(const std::string& folder, std::ostream& out);

/// The whole command line. Returns 0, 1 for a failure, 2 for a command line that cannot be understood.
int runCommandLine(int argc, char** argv);

}  // namespace cli
