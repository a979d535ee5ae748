#pragma once

#include <string>

#include "store/study/study_file.h"

namespace store {

/// What a copy brought that went on elsewhere.
struct Merged {
  int visits = 0;
  int passes = 0;
  int events = 0;
};

/// Takes into a study what a copy of it has beyond it, after the copy went on elsewhere while the study did not:
/// visits, passes with all that belongs to them, captures, measurements, and what stands in the logbook. All of it or
/// nothing, and each thing once, however often it is asked. `copy`: one that StudyFile::open has checked; it is read.
/// Errors of the study file; NotAllowed for a copy of another study, and where both went on by themselves
[[nodiscard]] core::Result<Merged> takeRecorded(StudyFile& into, const std::string& copy);

}  // namespace store
