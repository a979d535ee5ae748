#pragma once

#include <map>
#include <optional>
#include <stop_token>
#include <string>
#include <string_view>
#include <vector>

#include "bench/bench_connection.h"
#include "core/machine/fact.h"
#include "core/machine/variable_kind.h"
#include "core/study/variable.h"

namespace bench {

/// What a bench shows of a kind of variable now, and between which levels it could be moved.
struct Offer {
  std::string now;                  ///< "4800 MT/s", "performance"; empty: the bench does not show it
  std::vector<core::Level> levels;  ///< weak to strong, with what brings each about where the program can; else by hand
  bool is_switched = false;         ///< the program brings its levels about on the running system

  /// The level that the bench is at now; nothing where that is none of them.
  [[nodiscard]] std::optional<std::size_t> levelNow() const;
};

/// What is offered for a kind. Reads a few files beside the capture, and writes none.
/// Source  Documentation/admin-guide of the kernel: pm/cpufreq, mm/transhuge, sysctl/vm; PCIe and JEDEC rates
[[nodiscard]] Offer offerOf(const core::VariableKind& kind, const core::Capture& capture, const BenchConnection& bench);

/// A bench at one moment: what it says about itself, and what it offers for each kind, by the kind's id.
struct BenchNow {
  core::Capture capture;
  std::map<std::string, Offer, std::less<>> offers;

  /// Nothing offered for an id that is not known, as of a variable whose kind is not declared.
  [[nodiscard]] Offer offerOf(std::string_view kind_id) const;
};
/// Cost  as captureBench
[[nodiscard]] BenchNow benchNow(const BenchConnection& bench, std::stop_token stop = {});

}  // namespace bench
