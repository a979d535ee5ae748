#pragma once

namespace recorder {

/// The C library's own dlsym: ours stands in front of it. Null where it cannot be found.
using Dlsym = void* (*)(void*, const char*) noexcept;
[[nodiscard]] Dlsym realDlsym() noexcept;

/// Does an address lie in this library?
[[nodiscard]] bool isOurs(const void* address);

/// Is the library that an address was in still loaded?
[[nodiscard]] bool isLoaded(const void* address);

/// The function of that name in the scope of `caller`, an address in some code, as it would be without us: in the
/// global scope behind us, else in the caller's own library and what it depends on. A caller that is itself a
/// dependency of something loaded later sees that thing's scope too, which nobody tells: for it, any library that is
/// loaded.
[[nodiscard]] void* functionInScope(const char* name, const void* caller);

/// The function that a call of `name` from `caller` reaches without us. Null where there is none. Takes microseconds:
/// keep what it says.
[[nodiscard]] void* functionBehindUs(const char* name, const void* caller);

/// Null, as dlsym answers for what is not there: dlerror says so. `name` is what was looked for.
[[nodiscard]] void* notFound(const char* name);

/// While it lives, what the loader says of our searches stays with us: a program finds the error that waits to be read
/// by its dlerror as it left it.
class KeptError {
 public:
  KeptError();
  ~KeptError();
  KeptError(const KeptError&) = delete;
  KeptError& operator=(const KeptError&) = delete;

 private:
  bool is_waiting_ = false;
};
/// What the program's dlerror says.
[[nodiscard]] char* programsError();

/// How often a library was given back: what was found before may be gone.
[[nodiscard]] unsigned unloads();
/// The program's dlclose.
int giveBack(void* handle);

/// Does dlsym(RTLD_NEXT) from `caller` look at us? It looks at what was loaded after the caller.
[[nodiscard]] bool isLoadedBeforeUs(const void* caller);

}  // namespace recorder
