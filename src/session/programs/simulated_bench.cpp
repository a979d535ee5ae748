#include "session/programs/simulated_bench.h"

#include <QProcess>

namespace session {

core::Status runSimulatedBench(const std::string& folder, const std::vector<std::string>& words,
                               const bench::BenchConnection& bench) {
  const auto program = bench.findProgram("iron-lever-simbench", folder);
  if (!program) return program.error();
  QStringList arguments;
  for (const std::string& word : words) arguments << QString::fromStdString(word);
  QProcess process;
  process.start(QString::fromStdString(*program), arguments);
  process.waitForFinished();
  if (process.exitStatus() == QProcess::NormalExit && process.exitCode() == 0) return core::Done{};
  return core::Error{core::ErrorKind::CommandFailed, process.readAllStandardError().trimmed().toStdString(),
                     "simulated bench", "Choose an empty folder for a bench; see what an exercise says about its own"};
}

}  // namespace session
