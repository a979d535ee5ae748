#pragma once

#include <sys/types.h>

#include <vector>

namespace bench {

/// From now on a process that loses its parent becomes a child of this one, however it hides from its process group:
/// what a pass has started can be found. Once is enough.
void adoptOrphans();

/// Every process below this one that began no earlier than `since_ticks` (clock ticks since the boot, as /proc/PID/stat
/// has them).
[[nodiscard]] std::vector<pid_t> descendants(unsigned long long since_ticks = 0);

/// Is there any? Takes what is left of those that ended.
[[nodiscard]] bool hasDescendants(unsigned long long since_ticks);

/// Ends all of them but `spared`, and takes what is left of them.
void endDescendants(unsigned long long since_ticks, pid_t spared);

/// When a process began, in the same ticks; 0 where it is gone.
[[nodiscard]] unsigned long long beganAt(pid_t process);

}  // namespace bench
