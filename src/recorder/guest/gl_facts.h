#pragma once

namespace recorder {

struct Stream;

/// What is looked up once of a surface: the device, how long it works where that is wanted, and for a window on X its
/// display. `swap` is the library's own
/// function that hands over frames; the library's other functions are found beside it. Nothing here asks a server.
void describeGlx(Stream& stream, const void* swap, void* display, unsigned long drawable);
void describeEgl(Stream& stream, const void* swap);

/// The swap interval that the program has set for what it shows from now on; said of a stream once it is known.
void setSwapInterval(int interval);
void describeInterval(Stream& stream);

}  // namespace recorder
