#pragma once

#include <string>

#include "core/study/study.h"
#include "session/study/open_study.h"
#include "store/benches/bench_names.h"

namespace session {

/// Whose level is taken.
struct LevelSource {
  std::string path;   ///< of the earlier study; it is read, never touched
  std::string level;  ///< how the level is called there; empty: as here
};

/// `names`: how benches are called now; one that was renamed is the same bench.
/// Takes the passes of a level from an earlier study of the same bench, in place of measuring it again: its visits with
/// their captures and measurements, and of each the passes that count there. Places of the plan for which it has no
/// pass are left out, with that reason. All of it is filed, or nothing.
/// Errors  of the study files; Missing for a level or a case that the earlier study does not have as it runs here, or
/// one of which nothing counts there; NotAllowed once a visit was begun here, while the earlier one is sealed, from
/// another bench, from the study itself, for the last level that is left to be measured, and where its captures read
/// another level than this one
[[nodiscard]] core::Result<core::TakenLevel> takeLevel(OpenStudy& open, core::ConfigurationId configuration,
                                                       const LevelSource& from, const store::BenchNames& names);

}  // namespace session
