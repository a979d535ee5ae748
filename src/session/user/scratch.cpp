#include "session/user/scratch.h"

#include <linux/magic.h>
#include <signal.h>
#include <sys/stat.h>
#include <sys/vfs.h>
#include <unistd.h>

#include <QDir>
#include <QFile>
#include <cerrno>

namespace session {
namespace {

const QString kName = QStringLiteral("iron-lever-pass-");
const QString kOwner = QStringLiteral("owner");

// Ours by its owner on the disk, and of a process that is no more.
bool isLeft(const QDir& folder) {
  struct stat status {};
  if (::lstat(QFile::encodeName(folder.path()).constData(), &status) != 0 || !S_ISDIR(status.st_mode)) return false;
  if (status.st_uid != ::geteuid()) return false;
  QFile owner(folder.filePath(kOwner));
  if (!owner.open(QIODevice::ReadOnly)) return false;
  const auto process = static_cast<pid_t>(owner.read(20).toLongLong());
  return process > 0 && ::kill(process, 0) != 0 && errno == ESRCH;
}

std::unique_ptr<QTemporaryDir> makeIn(const QDir& place) {
  for (const QString& name : place.entryList({kName + QLatin1Char('*')}, QDir::Dirs | QDir::NoSymLinks))
    if (QDir left(place.filePath(name)); isLeft(left)) left.removeRecursively();
  auto scratch = std::make_unique<QTemporaryDir>(place.filePath(kName + QStringLiteral("XXXXXX")));
  if (!scratch->isValid()) return nullptr;
  QFile owner(scratch->filePath(kOwner));
  if (owner.open(QIODevice::WriteOnly)) owner.write(QByteArray::number(qlonglong{::getpid()}));
  return scratch;
}

bool isInMemory(const QString& path) {
  struct statfs status {};
  return ::statfs(QFile::encodeName(path).constData(), &status) == 0 && status.f_type == TMPFS_MAGIC;
}

}  // namespace

std::unique_ptr<QTemporaryDir> makeScratch() { return makeIn(QDir::temp()); }

std::unique_ptr<QTemporaryDir> makeSharedScratch() {
  for (const QString& place : {QStringLiteral("/dev/shm"), qEnvironmentVariable("XDG_RUNTIME_DIR")}) {
    if (place.isEmpty() || place.contains(QLatin1Char(':')) || place.contains(QLatin1Char(' '))) continue;
    if (!isInMemory(place)) continue;
    if (auto made = makeIn(QDir(place))) return made;
  }
  return nullptr;
}

}  // namespace session
