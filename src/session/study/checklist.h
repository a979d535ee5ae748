#pragma once

#include <string>
#include <vector>

#include "session/study/open_study.h"

namespace session {

/// A point that a person ticks before a visit.
struct ChecklistPoint {
  std::string text;
  bool is_done = false;
};

/// The checklist for the visit that is in hand, or comes next, as it stands on record; empty where there is none.
[[nodiscard]] std::vector<ChecklistPoint> dueChecklist(const OpenStudy& open);

/// One of its points was done, or is not after all; on record at once. Errors of the study file; Missing where the
/// checklist has no such point
core::Status tick(OpenStudy& open, const std::string& point, bool is_done);

}  // namespace session
