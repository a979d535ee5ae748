#include "recorder/guest/gl_library.h"

#include "recorder/guest/real_functions.h"

namespace recorder {

void* GlLibrary::find(const char* name) const { return functionBehindUs(name, swap); }

void* GlLibrary::findGl(const char* name) const {
  if (void* found = find(name)) return found;
  const KeptError kept;  // the library may look for it as we do
  auto* const address = function<void*(const char*)>(get_address);
  return address == nullptr ? nullptr : address(name);
}

}  // namespace recorder
