#pragma once

#include <cstdint>
#include <vector>

#include "core/machine/samples.h"
#include "recorder/frame_ring.h"

namespace session {

/// Adds what recorded frames say beside the moments at which they were handed over, as channels of the pass: for each
/// moment of `samples` the middle of the frames since the moment before. Processor time of the thread that hands over
/// and of the whole program, and the wait within the hand-over, ms a frame; frames that came onto the screen, FPS,
/// where the system tells; frames that are possibly generated, percent, where there are any. And the same frame by
/// frame, from the second on, as its frame times are counted. `began_ns`: when the pass began, CLOCK_MONOTONIC.
void addFrameChannels(core::Samples& samples, const std::vector<recorder::RecordedFrame>& frames,
                      std::int64_t began_ns);

}  // namespace session
