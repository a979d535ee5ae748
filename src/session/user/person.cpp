#include "session/user/person.h"

#include <unistd.h>

#include <array>
#include <cstdlib>

namespace session {

std::string personAtThisMachine() {
  for (const char* name : {"IRON_LEVER_PERSON", "USER", "LOGNAME"})
    if (const char* value = std::getenv(name); value && *value) return value;
  return "unknown";
}

std::string hostName() {
  std::array<char, 256> host{};
  return ::gethostname(host.data(), host.size() - 1) == 0 ? host.data() : "";
}

}  // namespace session
