#include "bench/confined.h"

#include <sys/prctl.h>

#include <QDir>
#include <QFileInfo>
#include <QStandardPaths>
#include <algorithm>

namespace bench {
namespace {

using core::Error;
using core::ErrorKind;

const QStringList kShared{QStringLiteral("/tmp"), QStringLiteral("/var/tmp")};

bool isShared(const QString& path) {
  return std::any_of(kShared.begin(), kShared.end(),
                     [&](const QString& folder) { return path.startsWith(folder + QLatin1Char('/')); });
}

// What of the shared folder a command cannot do without: where it lies and works, our own folders, and the display.
QStringList keptOf(const CommandOrder& order, const QString& program, const QProcessEnvironment& environment) {
  QStringList kept{QString::fromStdString(order.folder),
                   QString::fromStdString(order.scratch),
                   QFileInfo(program).path(),
                   program,
                   QStringLiteral("/tmp/.X11-unix"),
                   QStringLiteral("/tmp/.ICE-unix"),
                   environment.value(QStringLiteral("XAUTHORITY")),
                   environment.value(QStringLiteral("XDG_RUNTIME_DIR"))};
  kept.removeIf([](const QString& path) { return !isShared(path) || !QFileInfo::exists(path); });
  kept.removeDuplicates();
  return kept;
}

}  // namespace

core::Result<Confined> Confined::make(const CommandOrder& order, const QStringList& command,
                                      const QProcessEnvironment& environment) {
  const QString wrapper = QStandardPaths::findExecutable(QStringLiteral("bwrap"), {QStringLiteral("/usr/bin")});
  if (wrapper.isEmpty())
    return Error{ErrorKind::Missing, "this machine cannot start a command with fewer rights: bubblewrap is missing",
                 "bwrap", "Install the package bubblewrap, or let the command keep its rights in the question"};
  Confined made;
  made.words_ << wrapper << QStringLiteral("--die-with-parent") << QStringLiteral("--dev-bind") << QStringLiteral("/")
              << QStringLiteral("/");
  if (order.exact.without.network) made.words_ << QStringLiteral("--unshare-net");
  if (order.exact.without.shared_temporary_folder) {
    made.temporary_ =
        std::make_shared<QTemporaryDir>(QString::fromStdString(order.scratch) + QStringLiteral("/own-XXXXXX"));
    if (order.scratch.empty() || !made.temporary_->isValid())
      return Error{ErrorKind::Io, "no temporary folder of the command's own can be made", order.scratch,
                   "Free some space there"};
    for (const QString& folder : kShared) made.words_ << QStringLiteral("--bind") << made.temporary_->path() << folder;
    made.words_ << QStringLiteral("--setenv") << QStringLiteral("TMPDIR") << kShared.front();
    for (const QString& path : keptOf(order, command.front(), environment))
      made.words_ << QStringLiteral("--dev-bind") << path << path;
  }
  made.words_ << QStringLiteral("--chdir") << QString::fromStdString(order.folder) << QStringLiteral("--") << command;
  return made;
}

void giveUpNewPrivileges() { ::prctl(PR_SET_NO_NEW_PRIVS, 1, 0, 0, 0); }

}  // namespace bench
