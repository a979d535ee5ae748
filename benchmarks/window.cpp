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

// The middle of five, ms of processor time, from the press to the picture.
double milliseconds(app::MainWindow& window, const std::function<void(int)>& act) {
  std::vector<double> taken;
  for (int i = 0; i < 5; ++i) {
    const std::clock_t begin = std::clock();
    act(i);
    QCoreApplication::sendPostedEvents();
    window.repaint();
    QCoreApplication::processEvents();
    taken.push_back(1000.0 * static_cast<double>(std::clock() - begin) / CLOCKS_PER_SEC);
  }
  std::sort(taken.begin(), taken.end());
  return taken[2];
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
  for (const char* place : {"questionAction", "benchAction", "runSheetAction", "passesAction", "findingsAction"}) {
    auto* go = window.findChild<QAction*>(QString::fromLatin1(place));
    auto* away = window.findChild<QAction*>(QStringLiteral("benchAction"));
    std::printf("%-16s there and back %6.1f ms\n", place, milliseconds(window, [&](int) {
                  go->trigger();
                  QCoreApplication::processEvents();
                  away->trigger();
                }));
  }
  for (const char* place : {"passesAction", "findingsAction"}) {
    window.findChild<QAction*>(QString::fromLatin1(place))->trigger();
    QCoreApplication::processEvents();
    std::printf("at %-13s note     %6.1f ms\n", place, milliseconds(window, [&](int) {
                  study.act([](session::Session& s) { return s.decisions().addNote("x"); });
                }));
    std::printf("at %-13s leave out %6.1f ms\n", place, milliseconds(window, [&](int i) {
                  study.act([&](session::Session& s) {
                    return s.decisions().exclude(i + 1, std::string(core::kExclusionCauses[0]));
                  });
                }));
  }
  return 0;
}
