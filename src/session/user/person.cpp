#include "session/user/person.h"

#include <cstdlib>

namespace session {

std::string personAtThisMachine() {
  for (const char* name : {"IRON_LEVER_PERSON", "USER", "LOGNAME"})
    if (const char* value = std::getenv(name); value && *value) return value;
  return "unknown";
}

}  // namespace session
