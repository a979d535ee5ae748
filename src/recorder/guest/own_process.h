#pragma once

namespace recorder {

/// What this process was asked to record; asked once, from the environment that it was started with, since reading the
/// living one while a thread changes it is not safe.
struct Wanted {
  char folder[256] = {};    ///< where its rings go; empty: nothing is recorded
  char x_display[64] = {};  ///< the X display that its windows are likely on
  bool processor_time = false;
  bool shown_time = false;
  bool device_time = false;

  [[nodiscard]] bool any() const { return folder[0] != '\0'; }
};
[[nodiscard]] const Wanted& wanted();

/// Is this a child that was forked since the last call that said yes? It must leave its parent's rings alone.
[[nodiscard]] bool isNewlyForked();

}  // namespace recorder
