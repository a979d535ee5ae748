#include "recorder/guest/real_functions.h"

#include <dlfcn.h>
#include <elf.h>
#include <link.h>

#include <string.h>

#include <algorithm>
#include <atomic>
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

std::atomic<unsigned> unloaded = 0;

// The error that waited when we began to search. The loader knows nothing of it any more, but a search of ours for this
// name was its last failure: whatever the program does with the loader next takes its place, as it would have without
// us.
constexpr const char* kStandIn = "iron_lever_error_that_waits";
thread_local char waiting_error[512];

// Ours stand in front of these too. Found as this library is loaded, for a search forgets the error that waits.
struct Loader {
  char* (*error)() = reinterpret_cast<char* (*)()>(realDlsym()(RTLD_NEXT, "dlerror"));
  int (*close)(void*) = reinterpret_cast<int (*)(void*)>(realDlsym()(RTLD_NEXT, "dlclose"));
};
const Loader& loader() {
  static const Loader once;
  return once;
}
__attribute__((constructor)) void findLoader() { (void)loader(); }

// What a loaded library, or what it depends on, has under that name.
void* inLibrary(const link_map* library, const char* name) {
  if (library->l_name == nullptr || library->l_name[0] == '\0') return nullptr;
  void* handle = dlopen(library->l_name, RTLD_LAZY | RTLD_NOLOAD);
  if (handle == nullptr) return nullptr;
  void* found = usable(realDlsym()(handle, name));
  loader().close(handle);
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

KeptError::KeptError() {
  const char* waits = loader().error();
  is_waiting_ = waits != nullptr;
  if (!is_waiting_ || strstr(waits, kStandIn) != nullptr) return;
  const std::size_t length = std::min(strlen(waits), sizeof waiting_error - 1);
  memcpy(waiting_error, waits, length);
  waiting_error[length] = '\0';
}

KeptError::~KeptError() {
  loader().error();
  if (is_waiting_) realDlsym()(RTLD_NEXT, kStandIn);
}

char* programsError() {
  char* said = loader().error();
  return said != nullptr && strstr(said, kStandIn) != nullptr ? waiting_error : said;
}

unsigned unloads() { return unloaded.load(std::memory_order_acquire); }
int giveBack(void* handle) {
  const int code = loader().close(handle);
  unloaded.fetch_add(1, std::memory_order_acq_rel);
  return code;
}

bool isOurs(const void* address) {
  const link_map* library = libraryOf(address);
  return library != nullptr && library == ourLibrary();
}

bool isLoaded(const void* address) { return libraryOf(address) != nullptr; }

void* functionInScope(const char* name, const void* caller) {
  if (void* found = usable(realDlsym()(RTLD_NEXT, name))) return found;
  const link_map* library = libraryOf(caller);
  if (library == nullptr) return nullptr;
  if (void* found = inLibrary(library, name)) return found;
  const bool is_program = library->l_prev == nullptr;
  return is_program ? nullptr : inAnyLibrary(name, library);
}

void* functionBehindUs(const char* name, const void* caller) {
  const KeptError kept;
  void* found = functionInScope(name, caller);
  if (found == nullptr) found = inAnyLibrary(name, libraryOf(caller));
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
