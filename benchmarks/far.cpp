// What does being reached cost a bench? A study is run over a real sshd of this machine, and in each of its passes the
// processor time is read of everything there that is ours, or carries us: the end, what keeps the passes, and sshd.
//   far_benchmark [PASSES [SECONDS OF A PASS]]
#include <QCoreApplication>
#include <QProcess>
#include <QTemporaryDir>
#include <QThread>
#include <chrono>
#include <cstdlib>
#include <fstream>
#include <map>
#include <set>
#include <vector>

#include <fmt/format.h>

#include "core/estimate/contrast.h"
#include "core/values/median.h"
#include "support/sshd.h"

namespace {

using Clock = std::chrono::steady_clock;

// Of all threads of a process, those that ended too, as the scheduler counts it.
double processorSeconds(pid_t process) {
  std::ifstream file(fmt::format("/proc/{}/schedstat", process));
  double nanoseconds = 0;
  file >> nanoseconds;
  std::error_code code;
  double threads = 0;
  for (const auto& task : std::filesystem::directory_iterator(fmt::format("/proc/{}/task", process), code)) {
    std::ifstream own(task.path() / "schedstat");
    double of_thread = 0;
    own >> of_thread;
    threads += of_thread;
  }
  return std::max(nanoseconds, threads) / 1e9;
}

std::map<pid_t, double> ours(const support::Sshd& bench) {
  std::map<pid_t, double> seconds;
  for (const char* word : {"bench-end", "bench-run", "sshd"})
    for (const pid_t process : bench.processes(word)) seconds[process] = processorSeconds(process);
  return seconds;
}

// Percent of one processor that ours take in so many seconds.
double shareOver(const support::Sshd& bench, double seconds) {
  const auto before = ours(bench);
  const auto begun = Clock::now();
  QThread::msleep(static_cast<unsigned long>(1000 * seconds));
  const std::chrono::duration<double> took = Clock::now() - begun;
  double used = 0;
  for (const auto& [process, now] : ours(bench)) {
    const auto was = before.find(process);
    used += now - (was == before.end() ? 0 : was->second);
  }
  return 100 * used / took.count();
}

std::string designOf(const support::Sshd& bench, int passes, double seconds) {
  return fmt::format(
      R"({{"bench": "Dome node 3", "reach": "ssh:{}", "ssh_config": "{}", "variable": "factor",
      "levels": [{{"name": "one"}}, {{"name": "two"}}],
      "cases": [{{"workload": "Star survey", "command": ["sh", "-c", "sleep {:g}; echo '{{\"score\": 1000}}'"], "result": "json_field",
                "field": "score", "metric": {{"name": "score", "unit": "points", "direction": "higher"}}}}],
      "plan": {{"order": "blocked", "passes_per_level": {}, "warm_ups": 0}}}})",
      support::Sshd::kName, bench.config(), seconds, (passes + 1) / 2);
}

}  // namespace

int main(int argc, char** argv) {
  QCoreApplication application(argc, argv);
  const int passes = argc > 1 ? std::atoi(argv[1]) : 20;
  const double seconds = argc > 2 ? std::atof(argv[2]) : 10;
  const QTemporaryDir folder;
  const std::string home = folder.path().toStdString();
  support::Sshd bench(home + "/bench");
  bench.start();
  std::ofstream(home + "/design.json") << designOf(bench, passes, seconds);
  QProcess desk;
  desk.setWorkingDirectory(folder.path());
  const QString program = QCoreApplication::applicationDirPath() + QStringLiteral("/iron-lever-cli");
  desk.start(program, {QStringLiteral("new"), QStringLiteral("s"), QStringLiteral("--design"), QStringLiteral("design.json")});
  desk.waitForFinished();
  desk.start(program, {QStringLiteral("run"), QStringLiteral("s"), QStringLiteral("--approve"), QStringLiteral("--quiet")});
  std::vector<double> shares;
  std::set<pid_t> seen;
  while (desk.state() != QProcess::NotRunning && static_cast<int>(shares.size()) < passes) {
    desk.waitForFinished(50);
    for (const pid_t pass : bench.processes("sleep"))
      if (seen.insert(pass).second) {
        QThread::msleep(500);  // what begins a pass is not what it costs
        shares.push_back(shareOver(bench, seconds - 1.5));
        fmt::print(stderr, "{:.4f} %\n", shares.back());
      }
  }
  desk.waitForFinished(-1);
  const auto mean = core::pairedDifference(shares, 0.95);
  if (!mean || !mean->inference) {
    fmt::print(stderr, "too few passes could be watched: {}\n", desk.readAllStandardError().toStdString());
    return 1;
  }
  const double half = mean->inference->t_quantile * *mean->se;
  fmt::print("{} passes of {:g} s: being reached takes {:.4f} % of one processor ({:.4f} to {:.4f}), half of them less than {:.4f} %. The first pass "
             "of each visit holds a capture of the whole bench.\n",
             shares.size(), seconds, mean->difference, mean->difference - half, mean->difference + half,
             core::medianOf(shares));
  return 0;
}
