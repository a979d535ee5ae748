#pragma once

#include <optional>
#include <span>

#include "core/record/act.h"
#include "store/study/study_file.h"

namespace session {

/// The act that takes back what was decided last and can be taken back: a pass left out or put back in, a pin, a cause,
/// a stated fact, a prediction. Nothing where the last decision is of another kind, or there is none. What was taken
/// back stays in the logbook, like the act that takes it back.
struct Undo {
  core::Act act;
  std::string person;  ///< in whose name it was done, and is taken back
};
[[nodiscard]] std::optional<Undo> undoOf(std::span<const store::Event> events);

}  // namespace session
