// Shows frames through a GL library of its own, in one of the ways in which programs come by its functions, and ends in
// one of the ways in which programs end. It writes when it called, and how many calls its library saw.
//   own_gl_program WAY LIBRARY FRAMES EVERY_MS END [LOG]
#include <dlfcn.h>
#include <linux/filter.h>
#include <linux/seccomp.h>
#include <signal.h>
#include <sys/mman.h>
#include <sys/prctl.h>
#include <sys/resource.h>
#include <sys/syscall.h>
#include <sys/wait.h>
#include <time.h>
#include <unistd.h>

#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <thread>
#include <vector>

using Swap = void (*)(void*, unsigned long);

#ifdef EXPORTS_VARIABLE
// Many programs keep the function's address in a variable of its name.
extern "C" {
__attribute__((visibility("default"))) Swap glXSwapBuffers = nullptr;
}
#endif

namespace {

bool is(const char* word, const char* wanted) { return std::strcmp(word, wanted) == 0; }

long long nowNs() {
  timespec now{};
  clock_gettime(CLOCK_MONOTONIC, &now);
  return now.tv_sec * 1000000000LL + now.tv_nsec;
}

struct Library {
  void (*swap)(unsigned long window) = nullptr;
  long (*shown)() = nullptr;
};
Swap swap_of_library = nullptr;
void swapDirectly(unsigned long window) { swap_of_library(nullptr, window); }

Library load(const char* way, const char* path) {
  Library library;
  void* handle = dlopen(path, RTLD_NOW | (is(way, "global") || is(way, "default") ? RTLD_GLOBAL : RTLD_LOCAL));
  if (handle == nullptr) {
    std::fprintf(stderr, "%s\n", dlerror());
    std::exit(9);
  }
  if (is(way, "engine")) {
    library.swap = reinterpret_cast<void (*)(unsigned long)>(dlsym(handle, "engineSwap"));
    library.shown = reinterpret_cast<long (*)()>(dlsym(handle, "engineShown"));
    return library;
  }
  library.shown = reinterpret_cast<long (*)()>(dlsym(handle, "framesShown"));
  swap_of_library = reinterpret_cast<Swap>(dlsym(is(way, "default") ? RTLD_DEFAULT : handle, "glXSwapBuffers"));
#ifdef EXPORTS_VARIABLE
  glXSwapBuffers = swap_of_library;
#endif
  library.swap = swapDirectly;
  return library;
}

// From now on whoever opens, makes or renames a file is killed, as some programs have it for what they load later.
void openNothingMore() {
  std::vector<sock_filter> filter{BPF_STMT(BPF_LD | BPF_W | BPF_ABS, 0)};
  for (const long call : {
#ifdef SYS_open
           static_cast<long>(SYS_open), static_cast<long>(SYS_rename), static_cast<long>(SYS_creat),
#endif
           static_cast<long>(SYS_openat), static_cast<long>(SYS_renameat), static_cast<long>(SYS_renameat2)}) {
    filter.push_back(BPF_JUMP(BPF_JMP | BPF_JEQ | BPF_K, static_cast<unsigned>(call), 0, 1));
    filter.push_back(BPF_STMT(BPF_RET | BPF_K, SECCOMP_RET_KILL_PROCESS));
  }
  filter.push_back(BPF_STMT(BPF_RET | BPF_K, SECCOMP_RET_ALLOW));
  const sock_fprog program{static_cast<unsigned short>(filter.size()), filter.data()};
  if (prctl(PR_SET_NO_NEW_PRIVS, 1, 0, 0, 0) != 0 || prctl(PR_SET_SECCOMP, SECCOMP_MODE_FILTER, &program) != 0)
    std::exit(8);
}

// A plugin that is closed and loaded again, with its library elsewhere: the old place is taken.
long reloaded(const char* path, int frames) {
  void* handle = dlopen(path, RTLD_NOW | RTLD_LOCAL);
  const auto show = [&] {
    auto* const swap = reinterpret_cast<void (*)(unsigned long)>(dlsym(handle, "engineSwap"));
    for (int i = 0; i < frames; ++i) swap(1);
    return reinterpret_cast<long (*)()>(dlsym(handle, "engineShown"))();
  };
  const long before = show();
  Dl_info library{};
  dladdr(dlsym(handle, "framesShown"), &library);  // the GL library's own
  auto* const place = static_cast<char*>(library.dli_fbase);
  dlclose(handle);
  constexpr std::size_t kPage = 4096;
  mmap(place, kPage, PROT_NONE, MAP_PRIVATE | MAP_ANONYMOUS | MAP_FIXED_NOREPLACE, -1, 0);
  handle = dlopen(path, RTLD_NOW | RTLD_LOCAL);
  return before + show();
}

// A program that reads why a library could not be loaded only after a frame.
int saysWhyLate(const Library& library) {
  void* missing = dlopen("no_such_library.so", RTLD_NOW);
  library.swap(1);
  library.swap(1);
  const char* why = dlerror();
  std::printf("{\"why\": \"%s\", ", why == nullptr ? "" : why);
  std::printf("\"again\": %d}\n", dlerror() != nullptr);
  missing = dlopen("no_such_library.so", RTLD_NOW);
  library.swap(2);  // a surface of its own
  missing = dlopen(nullptr, RTLD_NOW);
  std::printf("{\"after one that can be loaded\": %d}\n", dlerror() != nullptr);
  return missing == nullptr;
}

void endAs(const char* end) {
  std::fflush(nullptr);
  if (is(end, "exit3")) std::exit(3);
  if (is(end, "_exit")) _exit(0);
  if (is(end, "abort")) std::abort();
  if (is(end, "kill")) kill(getpid(), SIGKILL);
  if (is(end, "crash")) *static_cast<volatile int*>(nullptr) = 1;
  if (is(end, "waits"))
    for (;;) pause();
}

}  // namespace

int main(int count, char** words) {
  if (count < 6) return 2;
  const char* way = words[1];
  const int frames = std::atoi(words[3]);
  const int every_ms = std::atoi(words[4]);
  // A program that asks whether the function is there must get the answer that it gets alone.
  if (is(way, "asks")) {
    std::printf("{\"default\": %d, \"next\": %d}\n", dlsym(RTLD_DEFAULT, "eglSwapBuffers") != nullptr,
                dlsym(RTLD_NEXT, "eglSwapBuffers") != nullptr);
    return 0;
  }
  if (is(way, "reloads")) {
    std::printf("{\"shown\": %ld}\n", reloaded(words[2], frames));
    return 0;
  }
  if (is(way, "limited")) {
    const rlimit small{4096, 4096};
    setrlimit(RLIMIT_FSIZE, &small);
  }
  const Library library = load(way, words[2]);
  if (is(way, "says_why_late")) return saysWhyLate(library);
  if (is(way, "filtered")) {
    openNothingMore();
    count = 6;  // no log
  }
  std::vector<long long> called;
  const auto show = [&](int windows) {
    for (int i = 0; i < frames; ++i) {
      called.push_back(nowNs());
      library.swap(static_cast<unsigned long>(1 + i % windows));
      if (every_ms > 0) usleep(static_cast<useconds_t>(every_ms) * 1000);
    }
  };
  if (is(way, "forks")) {
    library.swap(1);  // the parent has a ring already
    library.swap(1);
    if (fork() == 0) {
      show(1);
      _exit(0);
    }
    wait(nullptr);
    return 0;
  }
  if (is(way, "threads")) {
    std::vector<std::thread> all;
    for (unsigned long t = 1; t <= 4; ++t)
      all.emplace_back([&, t] {
        for (int i = 0; i < frames; ++i) {
          setenv("SPINNING", "1", 1);
          library.swap(t);
        }
      });
    for (std::thread& one : all) one.join();
  } else {
    show(is(way, "windows") ? 3 : 1);
  }
  std::printf("{\"shown\": %ld}\n", library.shown());
  if (count > 6)
    if (FILE* log = std::fopen(words[6], "w")) {
      for (const long long ns : called) std::fprintf(log, "%lld\n", ns);
      std::fclose(log);
    }
  endAs(words[5]);
  return 0;
}
