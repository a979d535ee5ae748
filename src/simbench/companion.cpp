#include "simbench/companion.h"

#include <fcntl.h>
#include <signal.h>
#include <sys/file.h>
#include <unistd.h>

namespace simbench {
namespace {

// Whoever runs beside a pass holds this file; the kernel lets it go when the process is gone, however that ended.
int openLock(const std::string& folder) {
  return ::open((folder + "/beside").c_str(), O_RDWR | O_CREAT | O_CLOEXEC, 0644);
}

}  // namespace

core::Status runCompanion(const std::string& folder, std::ostream& out) {
  sigset_t ends;
  sigemptyset(&ends);
  sigaddset(&ends, SIGTERM);
  sigaddset(&ends, SIGINT);
  ::sigprocmask(SIG_BLOCK, &ends, nullptr);
  const int lock = openLock(folder);
  if (lock < 0 || ::flock(lock, LOCK_SH) != 0)
    return core::Error{core::ErrorKind::Missing, "there is no bench beside whose passes one could run", folder,
                       "Make one with iron-lever-simbench init"};
  out << "recording\n" << std::flush;
  int got = 0;
  ::sigwait(&ends, &got);
  ::close(lock);
  out << "recorded until it was asked to end\n";
  return core::Done{};
}

bool hasCompanion(const std::string& folder) {
  const int lock = openLock(folder);
  if (lock < 0) return false;
  const bool is_held = ::flock(lock, LOCK_EX | LOCK_NB) != 0;
  ::close(lock);
  return is_held;
}

}  // namespace simbench
