// Preloaded into a program of ours: a disk that is full, read-only or faulty from some act on, and a clock that jumps.
// IRON_LEVER_DRILL_FAULT=full:K|readonly:K|io:K (K from 1; full and readonly last, io happens once), for the files
// below IRON_LEVER_DRILL_PLACE that the program itself writes; how many acts there were goes into
// IRON_LEVER_DRILL_COUNT. IRON_LEVER_DRILL_CLOCK=SEED: the time of day is another one at every twentieth look or so;
// IRON_LEVER_DRILL_AHEAD=S: it is so many seconds ahead.
#include <dlfcn.h>
#include <errno.h>
#include <fcntl.h>
#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/syscall.h>
#include <sys/time.h>
#include <sys/uio.h>
#include <time.h>
#include <unistd.h>

#include <array>
#include <atomic>

namespace {

enum class Kind { None, Full, ReadOnly, Io };
enum class Act { Open, Make, Write, Sync, Name };

struct Order {
  Kind kind = Kind::None;
  long from = 0;
  const char* place = getenv("IRON_LEVER_DRILL_PLACE");
  unsigned long clock_seed = 0;
  long ahead_s = 0;

  Order() {
    if (const char* fault = getenv("IRON_LEVER_DRILL_FAULT")) {
      kind = fault[0] == 'f' ? Kind::Full : fault[0] == 'r' ? Kind::ReadOnly : Kind::Io;
      if (const char* colon = strchr(fault, ':')) from = atol(colon + 1);
    }
    if (const char* ahead = getenv("IRON_LEVER_DRILL_AHEAD")) ahead_s = atol(ahead);
    if (const char* seed = getenv("IRON_LEVER_DRILL_CLOCK")) clock_seed = strtoul(seed, nullptr, 10);
  }
};
const Order& order() {
  static const Order once;
  return once;
}

std::atomic<long> acts = 0;
std::array<std::atomic<bool>, 4096> is_ours;

// The study, its journals and copy, and the small files of the user; not what the simulated bench keeps.
bool isPlace(const char* path) {
  const char* place = order().place;
  if (place == nullptr || path == nullptr) return false;
  const size_t length = strlen(place);
  if (strncmp(path, place, length) != 0) return false;
  return strncmp(path + length, "/study.", 7) == 0 || strncmp(path + length, "/user/", 6) == 0 ||
         strncmp(path + length, "/copy/", 6) == 0;
}

// Does this act fail? Then errno says how.
bool fails(Act act) {
  const long number = ++acts;
  const Order& one = order();
  if (one.kind == Kind::None || number < one.from) return false;
  if (one.kind == Kind::Io) {
    if (number != one.from) return false;
    errno = EIO;
    return true;
  }
  if (one.kind == Kind::Full && act != Act::Make && act != Act::Write) return false;
  if (one.kind == Kind::ReadOnly && act == Act::Sync) return false;
  errno = one.kind == Kind::Full ? ENOSPC : EROFS;
  return true;
}

template <class Function>
Function* real(const char* name) {
  return reinterpret_cast<Function*>(dlsym(RTLD_NEXT, name));
}
#define REAL(name) static auto* const call = real<decltype(name)>(#name)

bool isFdOurs(int fd) {
  return fd >= 0 && static_cast<size_t>(fd) < is_ours.size() && is_ours[static_cast<size_t>(fd)];
}

int opened(const char* path, int flags, int fd) {
  if (fd >= 0 && static_cast<size_t>(fd) < is_ours.size())
    is_ours[static_cast<size_t>(fd)] = (flags & O_ACCMODE) != O_RDONLY && isPlace(path);
  return fd;
}
bool refusesToOpen(const char* path, int flags) {
  if ((flags & O_ACCMODE) == O_RDONLY || !isPlace(path)) return false;
  return fails((flags & O_CREAT) != 0 && access(path, F_OK) != 0 ? Act::Make : Act::Open);
}

__attribute__((destructor)) void tell() {
  const char* path = getenv("IRON_LEVER_DRILL_COUNT");
  if (path == nullptr) return;
  char text[32];
  const int length = snprintf(text, sizeof text, "%ld", acts.load());
  const long fd = syscall(SYS_openat, AT_FDCWD, path, O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0600);
  (void)!syscall(SYS_write, fd, text, static_cast<size_t>(length));
  syscall(SYS_close, fd);
}

// How far the clock is off, seconds: up to a year either way.
long clockOff() {
  static std::atomic<unsigned long> state = order().clock_seed;
  static std::atomic<long> off = 0;
  if (order().clock_seed == 0) return order().ahead_s;
  const unsigned long next = state = state * 6364136223846793005UL + 1442695040888963407UL;
  constexpr long kYear = 365L * 86400;
  if ((next >> 33) % 20 == 0) off = static_cast<long>((next >> 40) % (2 * kYear)) - kYear;
  return off;
}

}  // namespace

extern "C" {

#define OPEN(name)                                       \
  int name(const char* path, int flags, ...) {           \
    REAL(name);                                          \
    va_list more;                                        \
    va_start(more, flags);                               \
    const mode_t mode = va_arg(more, mode_t);            \
    va_end(more);                                        \
    if (refusesToOpen(path, flags)) return -1;           \
    return opened(path, flags, call(path, flags, mode)); \
  }
OPEN(open)
OPEN(open64)
#define OPENAT(name)                                             \
  int name(int folder, const char* path, int flags, ...) {       \
    REAL(name);                                                  \
    va_list more;                                                \
    va_start(more, flags);                                       \
    const mode_t mode = va_arg(more, mode_t);                    \
    va_end(more);                                                \
    if (refusesToOpen(path, flags)) return -1;                   \
    return opened(path, flags, call(folder, path, flags, mode)); \
  }
OPENAT(openat)
OPENAT(openat64)

ssize_t write(int fd, const void* bytes, size_t count) {
  REAL(write);
  return isFdOurs(fd) && fails(Act::Write) ? -1 : call(fd, bytes, count);
}
ssize_t writev(int fd, const iovec* parts, int count) {
  REAL(writev);
  return isFdOurs(fd) && fails(Act::Write) ? -1 : call(fd, parts, count);
}
ssize_t pwrite(int fd, const void* bytes, size_t count, off_t at) {
  REAL(pwrite);
  return isFdOurs(fd) && fails(Act::Write) ? -1 : call(fd, bytes, count, at);
}
ssize_t pwrite64(int fd, const void* bytes, size_t count, off64_t at) {
  REAL(pwrite64);
  return isFdOurs(fd) && fails(Act::Write) ? -1 : call(fd, bytes, count, at);
}
int ftruncate(int fd, off_t size) {
  REAL(ftruncate);
  return isFdOurs(fd) && fails(Act::Sync) ? -1 : call(fd, size);
}
int ftruncate64(int fd, off64_t size) {
  REAL(ftruncate64);
  return isFdOurs(fd) && fails(Act::Sync) ? -1 : call(fd, size);
}
int fsync(int fd) {
  REAL(fsync);
  return isFdOurs(fd) && fails(Act::Sync) ? -1 : call(fd);
}
int fdatasync(int fd) {
  REAL(fdatasync);
  return isFdOurs(fd) && fails(Act::Sync) ? -1 : call(fd);
}
int close(int fd) {
  REAL(close);
  if (fd >= 0 && static_cast<size_t>(fd) < is_ours.size()) is_ours[static_cast<size_t>(fd)] = false;
  return call(fd);
}
int rename(const char* from, const char* to) {
  REAL(rename);
  return isPlace(to) && fails(Act::Name) ? -1 : call(from, to);
}
int unlink(const char* path) {
  REAL(unlink);
  return isPlace(path) && fails(Act::Name) ? -1 : call(path);
}

int clock_gettime(clockid_t clock, timespec* now) {
  REAL(clock_gettime);
  const int code = call(clock, now);
  if (code == 0 && clock == CLOCK_REALTIME) now->tv_sec += clockOff();
  return code;
}
int gettimeofday(timeval* __restrict now, void* __restrict zone) {
  REAL(gettimeofday);
  const int code = call(now, zone);
  if (code == 0) now->tv_sec += clockOff();
  return code;
}
time_t time(time_t* to) {
  REAL(time);
  const time_t now = call(nullptr) + clockOff();
  if (to != nullptr) *to = now;
  return now;
}
}
