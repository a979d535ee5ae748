#pragma once

#include <ostream>
#include <string>

#include "cli/commands.h"
#include "store/benches/bench_register.h"

namespace cli {

/// Prints the papers of a bench, each with its number.
[[nodiscard]] core::Status papersOfBench(const store::BenchRegister& benches, const std::string& bench, bool as_json,
                                         std::ostream& out);
/// Adds the paper that is asked for, or removes one. Errors  OutOfRange for an unknown kind, an empty text, no day;
/// Missing for a number that is none of them
[[nodiscard]] core::Status changePapers(store::BenchRegister& benches, const BenchesOptions& options);

}  // namespace cli
