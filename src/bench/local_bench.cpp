#include "bench/local_bench.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>
#include <QStandardPaths>

#include "bench/process_command.h"

namespace bench {
namespace {

// The program's own workloads lie beside it, installed or not.
QString ownFolder() { return QCoreApplication::applicationDirPath(); }

}  // namespace

core::Result<std::string> LocalBench::findProgram(const std::string& name, const std::string& folder) const {
  const QString program = QString::fromStdString(name);
  QString found;
  if (program.contains(QLatin1Char('/'))) {
    const QFileInfo file(QDir(QString::fromStdString(folder)), program);
    if (file.isFile() && file.isExecutable()) found = file.absoluteFilePath();
  } else {
    found = QStandardPaths::findExecutable(program, {ownFolder()});
    if (found.isEmpty()) found = QStandardPaths::findExecutable(program);
  }
  if (!found.isEmpty()) return found.toStdString();
  return core::Error{core::ErrorKind::Missing, "the program '" + name + "' is not on this machine", name,
                     "Install it, or correct its name or path in the question"};
}

std::unique_ptr<RunningCommand> LocalBench::start(const CommandOrder& order) {
  return std::make_unique<ProcessCommand>(order, *this, ownFolder());
}

}  // namespace bench
