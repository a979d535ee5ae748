#pragma once

#include <cstdint>
#include <map>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <utility>
#include <vector>

#include <QTemporaryDir>

#include "core/frames/presentation.h"
#include "core/values/result.h"
#include "recorder/frame_ring.h"
#include "recorder/x_shown.h"
#include "session/programs/recorded_programs.h"

namespace session {

/// Records when the programs of one pass present their frames, without their help: a Vulkan layer and an OpenGL preload
/// of ours are turned on through the environment of what is started, and leave the times in shared memory, never on a
/// disk.
class FrameRecorder {
 public:
  /// What is noted beside the moment at which each frame is handed over.
  struct Noted {
    bool processor_time = true;
    bool shown_time = true;
    bool device_time = false;  ///< hands the device two tiny command buffers of ours for each frame
  };
  explicit FrameRecorder(Noted noted);
  FrameRecorder() : FrameRecorder(Noted{}) {}

  /// Why nothing can be recorded: what is loaded into the programs is not beside ours, or there is no shared memory.
  /// Errors  Missing
  [[nodiscard]] static core::Status check();
  /// What is added to a program's environment; variables that are set already keep their content too. What `given` says
  /// is to be noted (IRON_LEVER_FRAMES_NOTE), stays.
  using Environment = std::vector<std::pair<std::string, std::string>>;
  [[nodiscard]] Environment environment(const Environment& given) const;

  /// When to look again: soon while nothing has been shown yet; then so that nothing is written over before it is read,
  /// at up to 60,000 frames a second.
  [[nodiscard]] int lookAgainMs() const;
  /// Takes what was presented since the last look.
  void look();

  /// The frames of one window or swapchain of one process.
  struct Stream {
    core::Presentation presentation;
    std::uint32_t process = 0;
    std::uint64_t x_window = 0;
    std::string window_title;  ///< where an X display tells
    std::vector<recorder::RecordedFrame> frames;
    std::uint64_t lost = 0;  ///< written over before they were read
    int unfit_shown = 0;     ///< the display told of pictures that fit no frame
    std::optional<core::Error> error;

    /// "ring-pass (process 4711), Vulkan, 1280 × 800, FIFO, on software device".
    [[nodiscard]] std::string title() const;

    // How far it has been read, and what the display said of frames that are not there yet.
    std::uint64_t read = 0;
    std::vector<recorder::XShown::Window::Picture> pictures;
    bool is_watched = false;
  };
  /// From one moment to another, CLOCK_MONOTONIC in nanoseconds, both included.
  struct Span {
    std::int64_t from = INT64_MIN;
    std::int64_t to = INT64_MAX;
  };

  [[nodiscard]] std::vector<const Stream*> streams() const;
  /// The stream that counts: of the program of that name or the window of that title, where one is given, else of all,
  /// the one that was handed most frames within the span. Nothing where none was.
  [[nodiscard]] const Stream* counted(const Span& span, const std::string& name = {}) const;
  /// The frames of a stream within the span; they live as long as the stream, and until the next look.
  [[nodiscard]] static std::span<const recorder::RecordedFrame> within(const Stream& stream, const Span& span);
  /// The frames of the counted stream within the span.
  /// Errors  TooFew: nothing was recorded, and why; Malformed; and frames that were lost
  [[nodiscard]] core::Result<std::vector<recorder::RecordedFrame>> frames(const Span& span,
                                                                          const std::string& name = {}) const;

 private:
  Noted noted_;
  std::unique_ptr<QTemporaryDir> folder_;
  std::map<std::string, Stream> streams_;  ///< by the name of its ring
  std::map<std::string, std::unique_ptr<recorder::XShown>> displays_;
  RecordedPrograms programs_;

  [[nodiscard]] std::string ringFolder() const;
  void linkGuests() const;
  void keepSpares() const;
  void readRing(const std::string& path, Stream& stream);
  void readShown(const std::string& display, Stream& stream);
};

/// From one frame to the next, in milliseconds: one fewer than there are frames.
[[nodiscard]] std::vector<double> frameMs(std::span<const recorder::RecordedFrame> frames);

}  // namespace session
