#pragma once

#include <functional>

#include "session/far/far_sheet.h"

namespace session {

/// Whoever watches a sheet at a far bench is told as it goes.
struct FarWatcher {
  std::function<void(const FarSheet& sheet)> connected;
  std::function<void(bool ran_already)> begun;  ///< it runs there, from now on or since before
  FarSheet::Said said;
};

/// How it ended for whoever followed it.
struct FarEnd {
  enum class How {
    WasComplete,  ///< nothing was left to run
    Left,         ///< it goes on there by itself
    Ended
  };
  How how = How::Ended;
  int code = 0;  ///< the exit code with which it ended there
};

/// The whole way of a sheet at a far bench: connect, take in what lies there, bring the study, start it unless it runs
/// already, follow it, take in what it filed. Errors of FarSheet; whatever was filed before them is taken in
[[nodiscard]] core::Result<FarEnd> runThere(FarSheet& sheet, OpenStudy& open, const ReachedOrder& order,
                                            const FarWatcher& watcher);

}  // namespace session
