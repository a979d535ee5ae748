#pragma once

#include <memory>

#include <QTemporaryDir>

namespace session {

/// A folder for what passes write while they run, for this process alone; removed with the object. Those that a
/// program left which was killed are removed first. Empty where none can be made.
[[nodiscard]] std::unique_ptr<QTemporaryDir> makeScratch();

/// The same in memory, on a path without blanks and colons; empty where the machine has no shared memory.
[[nodiscard]] std::unique_ptr<QTemporaryDir> makeSharedScratch();

}  // namespace session
