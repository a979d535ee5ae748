#pragma once

#include <optional>
#include <string>
#include <vector>

#include "store/study/study_file.h"

namespace session {

/// Commands were begun to bring a level about, and no visit has begun since.
struct FlipUnderWay {
  int visit = 0;                      ///< the planned visit that is to be there
  std::string boot_id;                ///< in which they were begun, the last time
  std::vector<std::string> settings;  ///< variables whose command was begun, where several have one
};

/// The latest one on record; nothing where no visit waits for its level, or nobody knows in which boot it was begun.
[[nodiscard]] std::optional<FlipUnderWay> flipUnderWay(const store::Recorded& recorded);

}  // namespace session
