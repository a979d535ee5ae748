#pragma once

#include <sys/types.h>

#include <chrono>
#include <optional>
#include <vector>

namespace bench {

/// From now on a process that loses its parent becomes a child of this one, however it hides from its process group:
/// what a pass has started can be found. Once is enough.
void adoptOrphans();

/// Every process below this one.
[[nodiscard]] std::vector<pid_t> descendants();

/// A command's process and all that it has started, while it runs. Where several commands run at once, what is in the
/// process group of one of them, or below it, is that one's; what has left both belongs to whichever asks first.
class ProcessTree {
 public:
  ProcessTree() = default;
  ~ProcessTree() { close(); }
  ProcessTree(const ProcessTree&) = delete;
  ProcessTree& operator=(const ProcessTree&) = delete;

  /// `leader`: a child of this process that leads a group of its own.
  void open(pid_t leader);
  /// From now on nothing is kept apart from others for it.
  void close();
  /// 0 where it was never opened.
  [[nodiscard]] pid_t leader() const { return leader_; }

  /// All of them but the leader.
  [[nodiscard]] std::vector<pid_t> members() const;
  /// The leader and its members as they were within the last few seconds: looking through all processes of a machine
  /// each second would take more than watching a pass may.
  [[nodiscard]] const std::vector<pid_t>& lately() const;
  /// Is there any? Takes what is left of those that ended.
  [[nodiscard]] bool hasMembers() const;
  /// Ends them, and takes what is left of them; the leader is spared.
  void endMembers() const;
  /// Processor time that the leader and its members have used so far, in seconds.
  [[nodiscard]] double processorSeconds() const;

 private:
  pid_t leader_ = 0;
  mutable std::vector<pid_t> lately_;
  mutable std::optional<std::chrono::steady_clock::time_point> looked_;
  unsigned long long began_ = 0;  ///< in clock ticks since the boot, as /proc/PID/stat has them
};

}  // namespace bench
