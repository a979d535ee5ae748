// How long each act in the window takes at a large study: window_benchmark STUDY (large_study makes one). Runs
// offscreen.
#include <QAction>
#include <QApplication>
#include <QFileInfo>
#include <algorithm>
#include <cstdio>
#include <ctime>
#include <functional>
#include <string>
#include <vector>

#include "app/shell/main_window.h"
#include "app/shell/prompts.h"
#include "app/shell/theme.h"
#include "bench/local_bench.h"
#include "core/study/exclusion.h"

namespace {

/// Processor time of the window's own thread, ms: what others do meanwhile keeps nobody waiting.
double spentMs() {
  timespec spent{};
  clock_gettime(CLOCK_THREAD_CPUTIME_ID, &spent);
  return 1e3 * static_cast<double>(spent.tv_sec) + 1e-6 * static_cast<double>(spent.tv_nsec);
}

/// From the press to the picture: the first time, and the middle of five.
void measure(
    const std::string& name, app::MainWindow& window, const std::function<void(int)>& act,
    const std::function<void()>& back = [] {}) {
  std::vector<double> taken;
  for (int i = 0; i < 5; ++i) {
    const double begin = spentMs();
    act(i);
    QCoreApplication::sendPostedEvents();
    window.repaint();
    QCoreApplication::processEvents();
    taken.push_back(spentMs() - begin);
    back();
    QCoreApplication::processEvents();
  }
  const double first = taken[0];
  std::sort(taken.begin(), taken.end());
  std::printf("%-28s %6.1f ms, the first time %6.1f ms\n", name.c_str(), taken[2], first);
}

}  // namespace

int main(int argc, char** argv) {
  if (argc < 2) return std::fputs("window_benchmark STUDY\n", stderr), 2;
  const QString study_path = QString::fromLocal8Bit(argv[1]);
  const QString folder = QFileInfo(study_path).absolutePath();
  qputenv("QT_QPA_PLATFORM", "offscreen");
  qputenv("XDG_CONFIG_HOME", folder.toLocal8Bit());  // what it remembers is nobody's
  QApplication application(argc, argv);
  app::applyColours(application, app::ThemeName::Paper);
  bench::LocalBench bench;
  app::StudyModel study(bench, session::UserFiles::in(folder.toStdString()));
  app::DialogPrompts prompts;
  app::MainWindow window(study, prompts, folder);
  app::applyStyleSheet(application);
  window.show();
  study.openStudy(study_path);
  if (!study.hasStudy()) return 1;
  const auto go = [&](const char* place) { window.findChild<QAction*>(QString::fromLatin1(place))->trigger(); };
  QCoreApplication::processEvents();
  measure(
      "to reportPlaceAction", window, [&](int) { go("reportPlaceAction"); }, [&] { go("findingsAction"); });
  go("reportPlaceAction");
  QCoreApplication::processEvents();
  for (const char* place : {"questionAction", "benchAction", "runSheetAction", "passesAction", "findingsAction"})
    measure(
        std::string("to ") + place, window, [&](int) { go(place); }, [&] { go("reportPlaceAction"); });
  for (const char* place : {"passesAction", "findingsAction"}) {
    go(place);
    QCoreApplication::processEvents();
    measure(std::string("note at ") + place, window,
            [&](int) { study.act([](session::Session& s) { return s.decisions().addNote("x"); }); });
    measure(std::string("leave out at ") + place, window, [&](int i) {
      study.act(
          [&](session::Session& s) { return s.decisions().exclude(i + 1, std::string(core::kExclusionCauses[0])); });
    });
  }
  return 0;
}
