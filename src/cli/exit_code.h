#pragma once

#include <functional>

#include "core/values/result.h"

namespace cli {

/// What a program that started us is told; docs/command-line.md lists them.
enum class ExitCode { Done = 0, Failed = 1, BadCall = 2, Stopped = 3, WaitsForPerson = 4 };

/// Of an error: a wrong option is a bad call; what nobody has approved, and a bench that is not at its level, wait for
/// a person.
[[nodiscard]] inline ExitCode exitCodeOf(const core::Error& error) {
  if (error.where.starts_with("--")) return ExitCode::BadCall;
  const bool waits = error.kind == core::ErrorKind::NotApproved || error.kind == core::ErrorKind::NotAtLevel;
  return waits ? ExitCode::WaitsForPerson : ExitCode::Failed;
}

/// Runs a command; what it throws is an error like any other, and nobody's core dump.
[[nodiscard]] core::Result<ExitCode> guarded(const std::function<core::Result<ExitCode>()>& run);

}  // namespace cli
