#include "session/programs/log_place.h"

#include <string_view>

namespace session {

core::ExactCommand withLogPath(core::ExactCommand exact, const std::string& path) {
  constexpr std::string_view kPlace = "{log}";
  for (std::string& word : exact.command)
    for (auto at = word.find(kPlace); at != std::string::npos; at = word.find(kPlace, at + path.size()))
      word.replace(at, kPlace.size(), path);
  return exact;
}

}  // namespace session
