#include "core/frames/presentation.h"

#include <fmt/format.h>

namespace core {

std::string Presentation::sentence() const {
  std::string text = interface;
  if (width > 0) text += fmt::format(", {} × {}", width, height);
  if (!present_mode.empty()) text += ", " + present_mode;
  return device.empty() ? text : text + ", on " + device;
}

}  // namespace core
