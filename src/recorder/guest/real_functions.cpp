#include "recorder/guest/real_functions.h"

#include <dlfcn.h>
#include <elf.h>
#include <link.h>

#include <initializer_list>

namespace recorder {
namespace {

link_map* libraryOf(const void* address) {
  Dl_info info{};
  void* library = nullptr;
  const bool is_known = dladdr1(address, &info, &library, RTLD_DL_LINKMAP) != 0;
  return is_known ? static_cast<link_map*>(library) : nullptr;
}

const link_map* ourLibrary() {
  static const link_map* once = libraryOf(reinterpret_cast<const void*>(&ourLibrary));
  return once;
}

// A program may export a variable of that name, such as the pointer in which it keeps the function.
bool isFunction(const void* address) {
  Dl_info info{};
  void* entry = nullptr;
  if (dladdr1(address, &info, &entry, RTLD_DL_SYMENT) == 0 || entry == nullptr || info.dli_saddr != address)
    return true;
  return ELF32_ST_TYPE(static_cast<const ElfW(Sym)*>(entry)->st_info) != STT_OBJECT;
}

void* usable(void* found) { return found != nullptr && !isOurs(found) && isFunction(found) ? found : nullptr; }

// What a loaded library, or what it depends on, has under that name.
void* inLibrary(const link_map* library, const char* name) {
  if (library->l_name == nullptr || library->l_name[0] == '\0') return nullptr;
  void* handle = dlopen(library->l_name, RTLD_LAZY | RTLD_NOLOAD);
  if (handle == nullptr) return nullptr;
  void* found = usable(realDlsym()(handle, name));
  dlclose(handle);
  return found;
}

void* inAnyLibrary(const char* name, const link_map* but) {
  const link_map* one = ourLibrary();
  while (one != nullptr && one->l_prev != nullptr) one = one->l_prev;
  for (; one != nullptr; one = one->l_next)
    if (one != ourLibrary() && one != but)
      if (void* found = inLibrary(one, name)) return found;
  return nullptr;
}

}  // namespace

Dlsym realDlsym() noexcept {
  static const Dlsym real = [] {
    for (const char* version : {"GLIBC_2.34", "GLIBC_2.17", "GLIBC_2.2.5", "GLIBC_2.0"})
      if (void* found = dlvsym(RTLD_NEXT, "dlsym", version)) return reinterpret_cast<Dlsym>(found);
    return Dlsym{nullptr};
  }();
  return real;
}

bool isOurs(const void* address) {
  const link_map* library = libraryOf(address);
  return library != nullptr && library == ourLibrary();
}

void* functionInScope(const char* name, const void* caller) {
  if (void* found = usable(realDlsym()(RTLD_NEXT, name))) return found;
  const link_map* library = libraryOf(caller);
  if (library == nullptr) return nullptr;
  if (void* found = inLibrary(library, name)) return found;
  const bool is_program = library->l_prev == nullptr;
  return is_program ? nullptr : inAnyLibrary(name, library);
}

void* functionBehindUs(const char* name, const void* caller) {
  void* found = functionInScope(name, caller);
  if (found == nullptr) found = inAnyLibrary(name, libraryOf(caller));
  dlerror();  // what we looked for in vain is nothing to the program
  return found;
}

void* notFound(const char* name) {
  void* found = realDlsym()(RTLD_NEXT, name);
  asm volatile("" : "+r"(found));  // no jump: the C library is to look behind us, not behind whoever called us
  return usable(found);
}

bool isLoadedBeforeUs(const void* caller) {
  const link_map* library = libraryOf(caller);
  for (; library != nullptr; library = library->l_next)
    if (library == ourLibrary()) return true;
  return false;
}

}  // namespace recorder
