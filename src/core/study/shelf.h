#pragma once

#include <optional>
#include <span>
#include <string>

#include "core/study/study.h"

namespace core {

/// A workload ready to be put into a study.
struct ShelfItem {
  Case a_case;
  std::string loads;        ///< "processor", "memory": what of the machine a pass asks most of
  std::string about;        ///< "drawn by the processor": what it does, in a few words
  double pass_seconds = 0;  ///< what a pass of it takes, about; 0: nobody knows
};

/// The workloads that ship with the program, each with a sound length of a pass. They run on any machine; those for the
/// graphics device need its Vulkan driver.
[[nodiscard]] std::span<const ShelfItem> shippedWorkloads();

/// The study with a workload put in, or taken out where it has it already. As a control: it should not move.
[[nodiscard]] Study withWorkload(Study study, const ShelfItem& item, bool as_control);
[[nodiscard]] bool hasWorkload(const Study& study, const ShelfItem& item);

/// What a pass of every case takes together, in minutes; nothing where the shelf does not know each of them.
[[nodiscard]] std::optional<double> knownPassMinutes(const Study& study);

}  // namespace core
