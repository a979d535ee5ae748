// Runs a study to its end on a disk that may lose its power, and tells of every pass the moment it is filed.
#include <QCoreApplication>
#include <cstdio>
#include <cstdlib>

#include "bench/local_bench.h"
#include "drill/runner/cutting_disk.h"
#include "session/sheet/session.h"

int main(int argc, char** argv) {
  if (argc != 4) {
    std::fputs("usage: sheet_runner FOLDER CUT_AT SEED\n", stderr);
    return 2;
  }
  QCoreApplication application(argc, argv);
  const std::string folder = argv[1];
  drill::installCuttingDisk(std::atoll(argv[2]), std::strtoull(argv[3], nullptr, 10));
  auto file = store::StudyFile::open(folder + "/study.ironlever");
  if (!file) {
    std::fputs((file.error().sentence() + "\n").c_str(), stderr);
    return 1;
  }
  bench::LocalBench bench;
  session::Session session(*std::move(file), bench, session::UserFiles::in(folder + "/user"), "T. Varga");
  QObject::connect(&session, &session::Session::passFiled, &application, [](const core::Pass& pass) {
    std::printf("filed %zu %d %d\n", pass.slot, pass.attempt, static_cast<int>(pass.status));
    std::fflush(stdout);
  });
  QObject::connect(&session, &session::Session::stateChanged, &application, [&] {
    if (!session.isRunning()) QCoreApplication::exit(0);
  });
  // Where a copy cannot be made just now, the sheet runs all the same.
  (void)session.secondCopy().setFolder(folder + "/copy");
  const auto started = session.approve() ? session.start() : core::Status(core::Error{});
  if (!started) {
    std::fputs((started.error().sentence() + "\n").c_str(), stderr);
    return 1;
  }
  application.exec();
  std::printf("acts %lld\n", static_cast<long long>(drill::actsOnDisk()));
  if (session.state() == session::State::Held) std::fputs((session.problem()->sentence() + "\n").c_str(), stderr);
  return session.state() == session::State::Finished ? 0 : 3;
}
