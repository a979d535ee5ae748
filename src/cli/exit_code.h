#pragma once

#include "core/values/result.h"

namespace cli {

/// What a program that started us is told; docs/command-line.md lists them.
enum class ExitCode { Done = 0, Failed = 1, BadCall = 2, Stopped = 3, WaitsForPerson = 4 };

/// Of an error: a wrong option is a bad call, and what nobody has approved waits for a person.
[[nodiscard]] inline ExitCode exitCodeOf(const core::Error& error) {
  if (error.where.starts_with("--")) return ExitCode::BadCall;
  return error.kind == core::ErrorKind::NotApproved ? ExitCode::WaitsForPerson : ExitCode::Failed;
}

}  // namespace cli
