#include "session/scratch.h"

#include <signal.h>
#include <sys/stat.h>
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

}  // namespace

std::unique_ptr<QTemporaryDir> makeScratch() {
  const QDir place = QDir::temp();
  for (const QString& name : place.entryList({kName + QLatin1Char('*')}, QDir::Dirs | QDir::NoSymLinks))
    if (QDir left(place.filePath(name)); isLeft(left)) left.removeRecursively();
  auto scratch = std::make_unique<QTemporaryDir>(place.filePath(kName + QStringLiteral("XXXXXX")));
  if (!scratch->isValid()) return nullptr;
  QFile owner(scratch->filePath(kOwner));
  if (owner.open(QIODevice::WriteOnly)) owner.write(QByteArray::number(qlonglong{::getpid()}));
  return scratch;
}

}  // namespace session
