#include <QApplication>
#include <QCommandLineParser>
#include <QDialog>
#include <QIcon>
#include <QSettings>
#include <QStandardPaths>
#include <QTimer>
#include <algorithm>
#include <array>
#include <cstdio>
#include <optional>
#include <string>
#include <string_view>

#include "app/cabinet/beside_window.h"
#include "app/model/study_model.h"
#include "app/question/number_field.h"
#include "app/report/printed_report.h"
#include "app/shell/main_window.h"
#include "app/shell/theme.h"
#include "bench/local_bench.h"
#include "session/sheet/demo_study.h"
#include "session/user/guarded.h"
#include "store/cabinet/beside_document.h"
#include "store/files/regular_file.h"

namespace {

struct Options {
  QString study;
  QString theme;
  QString demo_folder;
  QString screenshot;  // saved once the window is up; then the program ends
  QString place;
  QString report;  // written of the study; then the program ends
  session::ReportWish report_wish;
  std::optional<std::string> report_parts;  // in place of all, and a file with a person's own words
  std::optional<std::string> own_words;
};

Options parse(const QCoreApplication& application) {
  QCommandLineParser parser;
  parser.setApplicationDescription(QStringLiteral("What one platform variable changes, in percent, and how sure."));
  parser.addHelpOption();
  parser.addVersionOption();
  parser.addPositionalArgument(QStringLiteral("study"),
                               QStringLiteral("The study file, or the NAME.beside.json, to open."),
                               QStringLiteral("[study]"));
  const QCommandLineOption theme(QStringLiteral("theme"), QStringLiteral("paper or night."), QStringLiteral("name"));
  const QCommandLineOption demo(QStringLiteral("demo"), QStringLiteral("Open the demo, made in this folder."),
                                QStringLiteral("folder"));
  const QCommandLineOption shot(QStringLiteral("screenshot"), QStringLiteral("Save a picture of the window and end."),
                                QStringLiteral("file"));
  const QCommandLineOption place(QStringLiteral("place"),
                                 QStringLiteral("question, question-2 to question-5, bench, sheet, passes, frames, "
                                                "findings, used, desk, at-work, practice or report."),
                                 QStringLiteral("name"));
  const QCommandLineOption report(
      QStringLiteral("report"),
      QStringLiteral("Write the study's report as FILE.pdf or its chart as FILE.png, and end."),
      QStringLiteral("file"));
  const QCommandLineOption names(QStringLiteral("name-people"), QStringLiteral("Name the people in the report."));
  const QCommandLineOption pictures(QStringLiteral("pictures"),
                                    QStringLiteral("Show the visits' pictures in the report."));
  const QCommandLineOption talk(QStringLiteral("talk"), QStringLiteral("Of the report: pictures for a talk."));
  const QCommandLineOption phone(QStringLiteral("phone"), QStringLiteral("Of the report: a picture for a phone."));
  const QCommandLineOption parts(QStringLiteral("parts"),
                                 QStringLiteral("The parts of the report, with commas between."),
                                 QStringLiteral("names"));
  const QCommandLineOption words(QStringLiteral("own-words"), QStringLiteral("A file with own words for the report."),
                                 QStringLiteral("file"));
  parser.addOptions({theme, demo, shot, place, report, names, pictures, talk, phone, parts, words});
  parser.process(application);
  session::ReportWish wish{parser.isSet(names), parser.isSet(pictures)};
  wish.is_night = parser.value(theme) == QLatin1String("night");
  wish.form = parser.isSet(talk)    ? session::ReportWish::Form::Talk
              : parser.isSet(phone) ? session::ReportWish::Form::Phone
                                    : session::ReportWish::Form::Page;
  const auto asked = [&](const QCommandLineOption& option) {
    return parser.isSet(option) ? std::optional(parser.value(option).toStdString()) : std::nullopt;
  };
  return {parser.positionalArguments().value(0),
          parser.value(theme),
          parser.value(demo),
          parser.value(shot),
          parser.value(place),
          parser.value(report),
          wish,
          asked(parts),
          asked(words)};
}

core::Status writeReport(const Options& options) {
  const std::string of = options.study.toStdString();
  const std::string path = options.report.toStdString();
  if (of.ends_with(store::kBesideEnding)) return app::writePrintedBeside(of, path);
  session::ReportWish wish = options.report_wish;
  if (options.report_parts) {
    auto parts = report::pagePartsFrom(*options.report_parts);
    if (!parts) return parts.error();
    wish.order.parts = *std::move(parts);
  }
  if (options.own_words) {
    auto text = store::contentsOf(*options.own_words, 1 << 20);
    if (!text) return text.error();
    wish.order.text = *std::move(text);
  }
  return app::writePrintedOf(of, path, wish);
}

void nameProgram() {
  QCoreApplication::setApplicationName(QStringLiteral("iron-lever"));
  QCoreApplication::setOrganizationName(QStringLiteral("iron-lever"));
  QCoreApplication::setApplicationVersion(QStringLiteral(IRON_LEVER_VERSION));
}

bool asksForWordsOnly(int argc, char** argv) {
  constexpr std::array kAsked{"--version", "-v", "--help", "-h", "--help-all"};
  return std::any_of(argv + 1, argv + argc, [&](std::string_view word) {
    return std::find(kAsked.begin(), kAsked.end(), word) != kAsked.end();
  });
}

// Qt would end the program with a core dump.
bool hasDisplay(int argc, char** argv) {
  constexpr std::array kTold{"DISPLAY", "WAYLAND_DISPLAY", "WAYLAND_SOCKET", "QT_QPA_PLATFORM"};
  return std::any_of(kTold.begin(), kTold.end(), [](const char* name) { return qEnvironmentVariableIsSet(name); }) ||
         std::any_of(argv, argv + argc, [](std::string_view word) {
           return word.starts_with("-platform") || word.starts_with("--platform");
         });
}

bool asksForReport(int argc, char** argv) {
  return std::any_of(argv + 1, argv + argc,
                     [](std::string_view word) { return word == "--report" || word.starts_with("--report="); });
}

app::ThemeName themeFrom(const QString& asked) {
  const QString name = asked.isEmpty() ? QSettings().value(QStringLiteral("theme")).toString() : asked;
  return name == QLatin1String("night") ? app::ThemeName::Night : app::ThemeName::Paper;
}

void goTo(app::MainWindow& window, const QString& place) {
  if (place.startsWith(QLatin1String("question"))) window.goTo(core::Place::Question);
  if (place.startsWith(QLatin1String("question-"))) window.showStep(place.mid(9).toInt());
  if (place == QLatin1String("bench")) window.goTo(core::Place::Bench);
  if (place == QLatin1String("sheet")) window.goTo(core::Place::RunSheet);
  if (place == QLatin1String("passes")) window.goTo(core::Place::Passes);
  if (place == QLatin1String("frames")) window.showFrames();
  if (place == QLatin1String("findings")) window.goTo(core::Place::Findings);
  if (place == QLatin1String("used")) window.showUsed();
  if (place == QLatin1String("desk")) window.openDesk();
  if (place == QLatin1String("at-work")) window.openAtWork();
  if (place == QLatin1String("practice")) window.openPractice();
  if (place == QLatin1String("report")) window.goTo(core::Place::Report);
}

// What stands in front: a window of its own where one was asked for.
QWidget* inFront(app::MainWindow& window) {
  for (auto* dialog : window.findChildren<QDialog*>())
    if (dialog->isVisible()) return dialog;
  return &window;
}

// Waits until a study that was opened to be run has run, then lets the window settle.
void saveWhenStill(app::MainWindow& window, const app::StudyModel& study, const QString& path) {
  auto* timer = new QTimer(&window);
  QObject::connect(timer, &QTimer::timeout, &window, [&window, &study, path, timer] {
    if (study.hasStudy() && study.session().isRunning()) return;
    for (app::BesideWindow* beside : window.findChildren<app::BesideWindow*>())
      if (beside->model().isReading()) return;
    timer->stop();
    constexpr int kSettles_ms = 600;  // studies that are not open are read beside the window
    QTimer::singleShot(kSettles_ms, &window,
                       [&window, path] { QApplication::exit(inFront(window)->grab().save(path) ? 0 : 1); });
  });
  timer->start(100);
}

}  // namespace

int main(int argc, char** argv) {
  nameProgram();
  if (asksForWordsOnly(argc, argv)) {  // which need no display
    const QCoreApplication words(argc, argv);
    parse(words);  // ends the program
  }
  if (asksForReport(argc, argv)) qputenv("QT_QPA_PLATFORM", "offscreen");  // it is drawn, and not shown
  if (!hasDisplay(argc, argv)) {
    std::fputs("There is no display here. In a terminal: iron-lever-cli --help\n", stderr);
    return 1;
  }
  session::Guarded<QApplication> application(argc, argv);
  app::keepPlainNumbers();
  QApplication::setDesktopFileName(QStringLiteral("iron-lever"));
  QApplication::setWindowIcon(QIcon::fromTheme(QStringLiteral("iron-lever")));
  const Options options = parse(application);
  app::applyColours(application, themeFrom(options.theme));
  if (!options.report.isEmpty()) {
    const core::Status written = writeReport(options);
    if (!written) std::fprintf(stderr, "%s\n", written.error().sentence().c_str());
    return written ? 0 : 1;
  }

  const auto files = session::UserFiles::ofThisUser();
  if (!files) {
    std::fprintf(stderr, "%s\n", files.error().sentence().c_str());
    return 1;
  }
  bench::LocalBench bench;
  app::StudyModel study(bench, *files);
  app::DialogPrompts prompts;
  const QString demo_folder = options.demo_folder.isEmpty()
                                  ? QStandardPaths::writableLocation(QStandardPaths::AppLocalDataLocation) +
                                        QStringLiteral("/demo-") + QString::fromStdString(session::demoMark())
                                  : options.demo_folder;
  app::MainWindow window(study, prompts, demo_folder);
  application.setPlace([&study] { return study.hasStudy() ? study.session().open().path() : std::string(); });
  application.setOnFault([&study](const core::Error& fault) {
    QTimer::singleShot(0, &study, [&study, fault] { study.tell(fault); });  // not in the middle of what threw
  });
  app::applyStyleSheet(application);
  if (options.screenshot.isEmpty()) window.restorePlace();  // a picture has the size that it always has
  window.show();
  study.putBackLeftOvers();
  if (options.study.endsWith(QLatin1String(".beside.json")))
    window.openBeside(options.study);
  else if (!options.study.isEmpty())
    study.openStudy(options.study);
  else if (!options.demo_folder.isEmpty())
    window.openDemo();
  goTo(window, options.place);
  if (!options.screenshot.isEmpty()) saveWhenStill(window, study, options.screenshot);
  return QApplication::exec();
}
