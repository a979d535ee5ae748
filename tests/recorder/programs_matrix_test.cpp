// Programs of every kind are recorded as they are started from a terminal: each frame that they hand over, at the
// moment at which they do, and none of them behaves otherwise.
#include <signal.h>
#include <unistd.h>

#include <QThread>
#include <algorithm>
#include <cmath>
#include <filesystem>
#include <map>

#include "core/values/number_text.h"
#include "session/programs/recorded_programs.h"
#include "support/headless_compositor.h"
#include "support/pressed_key.h"
#include "support/programs.h"
#include "support/virtual_display.h"

namespace {

using support::Outcome;

QString text(const std::string& s) { return QString::fromStdString(s); }

class Programs : public support::ProgramsTest {
 protected:
  // Sanitizers want to be the first library of a program; with a preload they are not. Graphics drivers leak.
  Programs() {
    environment_.insert(QStringLiteral("ASAN_OPTIONS"), environment_.value(QStringLiteral("ASAN_OPTIONS")) +
                                                            QStringLiteral(":verify_asan_link_order=0:detect_leaks=0"));
  }
  static QString beside(const char* name) {
    return QCoreApplication::applicationDirPath() + QLatin1Char('/') + QLatin1String(name);
  }
  // `record` with its own options, then the command.
  Outcome record(const QStringList& command, const QStringList& options = {QStringLiteral("--quiet")}) const {
    return cli(QStringList{QStringLiteral("record"), QStringLiteral("--json"), QStringLiteral("--out"),
                           text(folder_ / "frames.csv")} +
               options + QStringList{QStringLiteral("--")} + command);
  }
  static QJsonObject json(const Outcome& outcome) {
    // The last object: a program that is not quiet prints before it.
    const auto at = outcome.out.find("{\n");
    return QJsonDocument::fromJson(QByteArray::fromStdString(at == std::string::npos ? "" : outcome.out.substr(at)))
        .object();
  }
  QStringList ownGl(const QString& way, int frames, const QString& end = QStringLiteral("exit"), int every_ms = 0,
                    const QString& library = QStringLiteral("libown_gl.so"),
                    const QString& program = QStringLiteral("own_gl_program")) const {
    const auto place = [](const QString& name) {
      return QCoreApplication::applicationDirPath() + QLatin1Char('/') + name;
    };
    return {place(program),          way, place(library), QString::number(frames), QString::number(every_ms), end,
            text(folder_ / "called")};
  }
  // The moments at which a program says that it called, and those that were recorded of it: how far off, in µs.
  struct Difference {
    double nine_in_ten = 1e9;
    double worst = 1e9;
  };
  Difference difference() const {
    std::ifstream called_file(folder_ / "called");
    std::ifstream frames_file(folder_ / "frames.csv");
    std::vector<double> called;
    for (double ns = 0; called_file >> ns;) called.push_back(ns);
    std::string line;
    std::getline(frames_file, line);
    std::vector<double> differences;
    // Durations, not moments: what is recorded is what counts.
    for (std::size_t i = 1; std::getline(frames_file, line); ++i) {
      if (i >= called.size()) return {};
      differences.push_back(std::abs(core::leadingNumber(line).value() * 1000 - (called[i] - called[i - 1]) / 1000));
    }
    if (differences.empty()) return {};
    std::sort(differences.begin(), differences.end());
    return {differences[differences.size() * 9 / 10], differences.back()};
  }
};

TEST_F(Programs, AreRecordedWhicheverWayTheyFindTheirLibrary) {
  for (const char* way : {"private", "global", "default", "engine"}) {
    const bool is_engine = std::string(way) == "engine";
    const Outcome outcome = record(ownGl(QLatin1String(way), 3000, QStringLiteral("exit"), 0,
                                         is_engine ? QStringLiteral("libengine.so") : QStringLiteral("libown_gl.so")),
                                   {});
    ASSERT_EQ(outcome.code, 0) << way << outcome.err;
    EXPECT_NE(outcome.out.find("{\"shown\": 3000}"), std::string::npos)
        << way << outcome.out;  // its library was called
    EXPECT_EQ(json(outcome)[QStringLiteral("frames")].toInt(), 2999) << way;
  }
}

TEST_F(Programs, OfThirtyTwoBitsAreRecordedToo) {
  if (IRON_LEVER_32_BITS == 0) GTEST_SKIP() << "this compiler builds no programs of 32 bits";
  for (const char* library : {"libown_gl_32.so", "libengine_32.so"}) {
    const QString way = QLatin1String(std::string(library) == "libengine_32.so" ? "engine" : "private");
    const Outcome outcome = record(
        ownGl(way, 500, QStringLiteral("exit"), 0, QLatin1String(library), QStringLiteral("own_gl_program_32")), {});
    EXPECT_EQ(outcome.code, 0) << outcome.err;
    EXPECT_EQ(outcome.err, "") << "the loader found the guest";
    EXPECT_EQ(json(outcome)[QStringLiteral("frames")].toInt(), 499) << library;
  }
}

TEST(RecordedPrograms, AreNotBlamedWhereTheMemoryIsFull) {
  const session::RecordedPrograms none;
  EXPECT_EQ(none.reason("/proc"), "there is no room in the shared memory of /proc");  // it has none to give
  EXPECT_EQ(none.reason("/dev/shm"), "it ended before it could be looked at");
}

TEST_F(Programs, ThatKeepTheFunctionInAVariableOfItsNameGoOn) {
  const Outcome outcome = record(ownGl(QStringLiteral("private"), 200, QStringLiteral("exit"), 0,
                                       QStringLiteral("libown_gl.so"), QStringLiteral("variable_program")),
                                 {});
  ASSERT_EQ(outcome.code, 0) << outcome.err;
  EXPECT_NE(outcome.out.find("{\"shown\": 200}"), std::string::npos);
  EXPECT_EQ(json(outcome)[QStringLiteral("frames")].toInt(), 199);
}

TEST_F(Programs, AreToldWhatTheyWouldBeToldAlone) {
  for (const QStringList& asks : {ownGl(QStringLiteral("asks"), 0), QStringList{beside("vulkan_asks_program")}}) {
    QProcess alone;
    alone.start(asks.front(), asks.mid(1));
    ASSERT_TRUE(alone.waitForFinished());
    const std::string said = alone.readAllStandardOutput().trimmed().toStdString();
    ASSERT_FALSE(said.empty());
    const Outcome outcome = record(asks, {});
    EXPECT_NE(outcome.out.find(said), std::string::npos) << said << "\n---\n" << outcome.out;
  }
}

TEST_F(Programs, WithAnotherPreloadAreCountedOnceInEitherOrder) {
  const std::string guest = beside("libwrapping_preload.so").toStdString();
  const support::VirtualDisplay display;
  environment_.insert(QStringLiteral("DISPLAY"), text(display.name()));
  environment_.insert(QStringLiteral("WRAPPED_LOG"), text(folder_ / "wrapped"));
  for (const bool is_first : {true, false}) {
    // Ours is put behind what is preloaded already; a launcher puts its own behind ours.
    const QStringList command{beside("gl_program"), QStringLiteral("150")};
    QStringList started = command;
    if (is_first)
      environment_.insert(QStringLiteral("LD_PRELOAD"), text(guest));
    else {
      environment_.remove(QStringLiteral("LD_PRELOAD"));
      started = QStringList{QStringLiteral("sh"), QStringLiteral("-c"),
                            QStringLiteral("LD_PRELOAD=\"$LD_PRELOAD:$0\" exec \"$@\""), text(guest)} +
                command;
    }
    const Outcome outcome = record(started);
    ASSERT_EQ(outcome.code, 0) << is_first << outcome.err;
    EXPECT_EQ(json(outcome)[QStringLiteral("frames")].toInt(), 149) << is_first;
    EXPECT_EQ(support::contents(folder_ / "wrapped"), "150") << is_first;
  }
}

TEST_F(Programs, WithALimitOnTheSizeOfFilesGoOnAndAreRecorded) {
  const Outcome outcome = record(ownGl(QStringLiteral("limited"), 200), {});
  EXPECT_EQ(outcome.code, 0) << outcome.err;
  EXPECT_NE(outcome.out.find("{\"shown\": 200}"), std::string::npos) << outcome.out;
  EXPECT_EQ(json(outcome)[QStringLiteral("frames")].toInt(), 199);
}

TEST_F(Programs, ThatMayOpenNothingBeforeTheirFirstFrameGoOnAndAreRecorded) {
  const Outcome outcome = record(ownGl(QStringLiteral("filtered"), 200), {});
  EXPECT_EQ(outcome.code, 0) << outcome.err;
  EXPECT_NE(outcome.out.find("{\"shown\": 200}"), std::string::npos) << outcome.out;
  EXPECT_EQ(json(outcome)[QStringLiteral("frames")].toInt(), 199);
}

TEST_F(Programs, ThatCloseAPluginAndLoadItAgainElsewhereGoOn) {
  const Outcome outcome =
      record(ownGl(QStringLiteral("reloads"), 100, QStringLiteral("exit"), 0, QStringLiteral("libengine.so")), {});
  EXPECT_EQ(outcome.code, 0) << outcome.err;
  EXPECT_NE(outcome.out.find("{\"shown\": 200}"), std::string::npos) << outcome.out;
  EXPECT_EQ(json(outcome)[QStringLiteral("frames")].toInt(), 199) << "of both times";
}

TEST_F(Programs, ReadTheirOwnErrorsAlsoAfterAFrame) {
  const Outcome outcome = record(ownGl(QStringLiteral("says_why_late"), 1), {});
  EXPECT_NE(outcome.out.find("{\"why\": \"no_such_library.so: cannot open"), std::string::npos) << outcome.out;
  EXPECT_NE(outcome.out.find("\"again\": 0}"), std::string::npos) << "an error is read once";
  EXPECT_NE(outcome.out.find("{\"after one that can be loaded\": 0}"), std::string::npos) << outcome.out;
}

TEST_F(Programs, KeepTheirFramesHoweverTheyEnd) {
  const std::map<std::string, int> code_of_end{{"_exit", 0}, {"exit3", 1}, {"abort", 1}, {"kill", 1}, {"crash", 1}};
  for (const auto& [end, code] : code_of_end) {
    const Outcome outcome = record(ownGl(QStringLiteral("private"), 400, text(end)));
    EXPECT_EQ(outcome.code, code) << end << outcome.err;
    EXPECT_EQ(json(outcome)[QStringLiteral("frames")].toInt(), 399) << end;
    if (code != 0) {
      EXPECT_NE(outcome.err.find("frames until then are kept"), std::string::npos) << end << outcome.err;
    }
  }
}

TEST_F(Programs, AreEndedWhenEnoughIsRecorded) {
  const Outcome frames = record(ownGl(QStringLiteral("private"), 100000, QStringLiteral("exit"), 1),
                                {QStringLiteral("--quiet"), QStringLiteral("--frames"), QStringLiteral("100")});
  EXPECT_EQ(frames.code, 0) << frames.err;
  EXPECT_EQ(json(frames)[QStringLiteral("frames")].toInt(), 100);
  const Outcome seconds = record(ownGl(QStringLiteral("private"), 100000, QStringLiteral("exit"), 1),
                                 {QStringLiteral("--quiet"), QStringLiteral("--seconds"), QStringLiteral("0.5")});
  EXPECT_EQ(seconds.code, 0) << seconds.err;
  EXPECT_LE(json(seconds)[QStringLiteral("seconds")].toDouble(), 0.5);
  EXPECT_GT(json(seconds)[QStringLiteral("seconds")].toDouble(), 0.4);
}

TEST_F(Programs, AreReachedByASignalToTheRecording) {
  QProcess recording;
  start(recording, QStringLiteral("iron-lever-cli"),
        QStringList{QStringLiteral("record"), QStringLiteral("--json"), QStringLiteral("--")} +
            ownGl(QStringLiteral("private"), 200, QStringLiteral("waits")));
  QByteArray out;
  while (!out.contains("shown") && recording.waitForReadyRead(20000)) out += recording.readAllStandardOutput();
  const auto process = static_cast<pid_t>(recording.processId());
  ::kill(process, SIGINT);
  ASSERT_TRUE(recording.waitForFinished(20000));
  out += recording.readAllStandardOutput();
  EXPECT_EQ(recording.exitCode(), 3);
  EXPECT_EQ(json({0, out.toStdString(), ""})[QStringLiteral("frames")].toInt(), 199);
  for (const auto& entry : std::filesystem::directory_iterator("/dev/shm"))
    EXPECT_NE(support::contents(entry.path() / "owner"), std::to_string(process)) << entry.path();
}

TEST_F(Programs, HaveTheirInputAndTheirOutputsToThemselves) {
  const Outcome outcome = cli({QStringLiteral("record"), QStringLiteral("--"), QStringLiteral("sh"),
                               QStringLiteral("-c"), QStringLiteral("cat; echo \"$PATH\"; echo error >&2")},
                              "typed\n");
  EXPECT_TRUE(outcome.out.starts_with("typed\n" + qgetenv("PATH").toStdString() + "\n")) << outcome.out;
  EXPECT_TRUE(outcome.err.starts_with("error\n")) << outcome.err;
}

TEST_F(Programs, AreFoundBehindLaunchersThatWaitOrLeave) {
  const QStringList shows = ownGl(QStringLiteral("private"), 300, QStringLiteral("exit"), 1);
  const QStringList fewer =
      ownGl(QStringLiteral("engine"), 50, QStringLiteral("exit"), 1, QStringLiteral("libengine.so"));
  const QString waits = QStringLiteral("\"$@\"");
  const QString leaves = QStringLiteral("\"$@\" &");
  for (const QString& how : {waits, leaves}) {
    const Outcome outcome =
        record(QStringList{QStringLiteral("sh"), QStringLiteral("-c"), how, QStringLiteral("launcher")} + shows);
    EXPECT_EQ(outcome.code, 0) << outcome.err;
    EXPECT_EQ(json(outcome)[QStringLiteral("frames")].toInt(), 299) << how.toStdString();
  }
  const QString both = QStringLiteral("%1 & %2 & wait").arg(shows.join(QLatin1Char(' ')), fewer.join(QLatin1Char(' ')));
  const QJsonObject said = json(record({QStringLiteral("sh"), QStringLiteral("-c"), both}));
  EXPECT_EQ(said[QStringLiteral("frames")].toInt(), 299);  // who shows most
  EXPECT_EQ(said[QStringLiteral("streams")].toArray().size(), 2);
  EXPECT_FALSE(said[QStringLiteral("streams")].toArray()[1].toObject()[QStringLiteral("counts")].toBool());
}

TEST_F(Programs, CountTheOneThatIsNamed) {
  std::filesystem::copy(beside("own_gl_program").toStdString(), folder_ / "splash");
  QStringList splash = ownGl(QStringLiteral("private"), 300, QStringLiteral("exit"), 1);
  splash[0] = text(folder_ / "splash");
  const QString both = QStringLiteral("%1; %2").arg(splash.join(QLatin1Char(' ')),
                                                    ownGl(QStringLiteral("private"), 60).join(QLatin1Char(' ')));
  const QStringList command{QStringLiteral("sh"), QStringLiteral("-c"), both};
  EXPECT_EQ(json(record(command))[QStringLiteral("frames")].toInt(), 299);
  const Outcome named =
      record(command, {QStringLiteral("--quiet"), QStringLiteral("--program"), QStringLiteral("own_gl_program")});
  EXPECT_EQ(json(named)[QStringLiteral("frames")].toInt(), 59) << named.err;
  const Outcome none =
      record(command, {QStringLiteral("--quiet"), QStringLiteral("--program"), QStringLiteral("nobody")});
  EXPECT_NE(none.err.find("nobody\\\" showed no frames"), std::string::npos) << none.err;
}

TEST_F(Programs, WithSeveralWindowsAndThreadsHaveAStreamForEach) {
  const QJsonArray windows = json(record(ownGl(QStringLiteral("windows"), 300)))[QStringLiteral("streams")].toArray();
  ASSERT_EQ(windows.size(), 3);
  for (const auto& window : windows) EXPECT_EQ(window.toObject()[QStringLiteral("frames")].toInt(), 100);
  const Outcome threads = record(ownGl(QStringLiteral("threads"), 5000));
  const QJsonArray of_threads = json(threads)[QStringLiteral("streams")].toArray();
  ASSERT_EQ(of_threads.size(), 4) << threads.err;
  for (const auto& thread : of_threads) EXPECT_EQ(thread.toObject()[QStringLiteral("frames")].toInt(), 5000);
}

TEST_F(Programs, ThatForkLeaveTheParentsFramesAlone) {
  const QJsonArray streams = json(record(ownGl(QStringLiteral("forks"), 100)))[QStringLiteral("streams")].toArray();
  ASSERT_EQ(streams.size(), 2);
  EXPECT_EQ(streams[0].toObject()[QStringLiteral("frames")].toInt(), 100);  // the child's
  EXPECT_EQ(streams[1].toObject()[QStringLiteral("frames")].toInt(), 2);
  EXPECT_NE(streams[0].toObject()[QStringLiteral("process")], streams[1].toObject()[QStringLiteral("process")]);
}

TEST_F(Programs, ThatCannotBeRecordedSayWhy) {
  const QStringList shows = ownGl(QStringLiteral("private"), 300, QStringLiteral("exit"), 2);
  const auto reason = [&](const QStringList& command) { return record(command).err; };
  EXPECT_NE(reason(QStringList{QStringLiteral("env"), QStringLiteral("-i")} + shows).find("cleaned environment"),
            std::string::npos);
  EXPECT_NE(reason({beside("static_program")}).find("linked statically"), std::string::npos);
  EXPECT_NE(reason({QStringLiteral("sleep"), QStringLiteral("0.3")}).find("none loaded a library"), std::string::npos);
  if (::geteuid() == 0) {  // nobody else can make such a file
    const std::string other = std::filesystem::temp_directory_path() / "iron-lever-other-user";
    std::filesystem::copy_file(beside("own_gl_program").toStdString(), other,
                               std::filesystem::copy_options::overwrite_existing);
    ASSERT_EQ(::chown(other.c_str(), 65534, 65534), 0);
    std::filesystem::permissions(other, std::filesystem::perms(04755));
    const std::string said = reason(QStringList{text(other)} + shows.mid(1));
    EXPECT_NE(said.find("rights of another user"), std::string::npos) << said;
    std::filesystem::remove(other);
  }
}

TEST_F(Programs, AreRecordedFromAnInstallPathWithBlanksAndColons) {
  const std::string place = folder_ / "my: programs";
  std::filesystem::create_directory(place);
  const std::string bin = QCoreApplication::applicationDirPath().toStdString();
  std::filesystem::copy(bin + "/recorder", place + "/recorder", std::filesystem::copy_options::recursive);
  std::filesystem::copy_file(bin + "/iron-lever-cli", place + "/iron-lever-cli");
  QProcess process;
  process.start(text(place + "/iron-lever-cli"), QStringList{QStringLiteral("record"), QStringLiteral("--json"),
                                                             QStringLiteral("--quiet"), QStringLiteral("--")} +
                                                     ownGl(QStringLiteral("private"), 100));
  ASSERT_TRUE(process.waitForFinished(60000));
  EXPECT_EQ(json({0, process.readAllStandardOutput().toStdString(), ""})[QStringLiteral("frames")].toInt(), 99)
      << process.readAllStandardError().toStdString();
}

class XPrograms : public Programs {
 protected:
  XPrograms() { environment_.insert(QStringLiteral("DISPLAY"), text(display_.name())); }
  support::VirtualDisplay display_;
};

TEST_F(XPrograms, AreRecordedExactly) {
  const QString log = text(folder_ / "called");
  const QList<QStringList> ways{
      {QStringLiteral("--egl")},
      {},
      {QStringLiteral("--loads"), QStringLiteral("libGL.so.1")},
      {QStringLiteral("--loads"), QStringLiteral("libGLX.so.0")},  // the vendor-neutral one alone
  };
  for (const QStringList& way : ways) {
    double worst = 1e9;
    // A moment's work of somebody else on this machine is no fault of ours: then it is recorded again.
    for (int attempt = 0; attempt < 3 && worst >= 3000; ++attempt) {
      const Outcome outcome = record(QStringList{beside("gl_program"), QStringLiteral("400"), QStringLiteral("--every"),
                                                 QStringLiteral("1"), QStringLiteral("--log"), log} +
                                     way);
      ASSERT_EQ(outcome.code, 0) << outcome.err;
      const QJsonObject said = json(outcome);
      EXPECT_EQ(said[QStringLiteral("frames")].toInt(), 399);
      EXPECT_TRUE(said[QStringLiteral("presentation")].toString().contains(QStringLiteral("200 × 120")));
      const Difference off = difference();
      EXPECT_LT(off.nine_in_ten, 100) << way.join(QLatin1Char(' ')).toStdString();
      worst = off.worst;
    }
    EXPECT_LT(worst, 3000) << way.join(QLatin1Char(' ')).toStdString();
  }
}

TEST_F(XPrograms, CountTheWindowThatIsNamed) {
  const QString splash = ownGl(QStringLiteral("private"), 900, QStringLiteral("exit"), 1).join(QLatin1Char(' '));
  const QString both = splash + QStringLiteral("& %1 100 --every 5; wait").arg(beside("gl_program"));
  const Outcome named =
      record({QStringLiteral("sh"), QStringLiteral("-c"), both},
             {QStringLiteral("--quiet"), QStringLiteral("--program"), QStringLiteral("rings of light")});
  EXPECT_EQ(json(named)[QStringLiteral("frames")].toInt(), 99) << named.err;
}

TEST_F(XPrograms, GoOnInOneStreamWhenTheirSurfaceIsMadeAnew) {
  for (const QStringList& way : {QStringList{}, QStringList{QStringLiteral("--egl")}}) {
    const Outcome outcome = record(
        QStringList{beside("gl_program"), QStringLiteral("120"), QStringLiteral("--anew"), QStringLiteral("40")} + way);
    ASSERT_EQ(outcome.code, 0) << outcome.err;
    EXPECT_EQ(json(outcome)[QStringLiteral("streams")].toArray().size(), 1);
    EXPECT_EQ(json(outcome)[QStringLiteral("frames")].toInt(), 119);
  }
}

TEST_F(XPrograms, OfVulkanAreRecordedAsTheyCountThemselves) {
  const QString log = text(folder_ / "own.csv");
  const Outcome outcome = record({beside("iron-lever-probe"), QStringLiteral("draw"), QStringLiteral("--window"),
                                  QStringLiteral("--load"), QStringLiteral("textures"), QStringLiteral("--frames"),
                                  QStringLiteral("60"), QStringLiteral("--out"), log});
  ASSERT_EQ(outcome.code, 0) << outcome.err;
  EXPECT_EQ(json(outcome)[QStringLiteral("frames")].toInt(), 59);
  EXPECT_FALSE(json(outcome)[QStringLiteral("facts")].toObject().contains(QStringLiteral("device_ms")));
  EXPECT_TRUE(json(outcome)[QStringLiteral("presentation")].toString().startsWith(QStringLiteral("Vulkan, 640 × ")) ||
              json(outcome)[QStringLiteral("presentation")].toString().startsWith(QStringLiteral("Vulkan, 1024 × ")))
      << json(outcome)[QStringLiteral("presentation")].toString().toStdString();
}

TEST_F(XPrograms, OfVulkanTellHowLongTheDeviceWorks) {
  const Outcome outcome =
      record({beside("iron-lever-probe"), QStringLiteral("draw"), QStringLiteral("--window"), QStringLiteral("--load"),
              QStringLiteral("textures"), QStringLiteral("--frames"), QStringLiteral("40")},
             {QStringLiteral("--quiet"), QStringLiteral("--device-time")});
  ASSERT_EQ(outcome.code, 0) << outcome.err;
  const QJsonObject said = json(outcome);
  const double device_ms = said[QStringLiteral("facts")].toObject()[QStringLiteral("device_ms")].toDouble();
  // The device is a program here: it works nearly all of each frame, and never longer than two of them.
  EXPECT_GT(device_ms, 0.2 * said[QStringLiteral("mean_frame_ms")].toDouble());
  EXPECT_LT(device_ms, 3 * said[QStringLiteral("mean_frame_ms")].toDouble());
}

// It says so itself too, through queries of its own that ours stand beside.
TEST_F(XPrograms, OfOpenGlTellHowLongTheDeviceWorks) {
  for (const QStringList& way : {QStringList{}, QStringList{QStringLiteral("--egl")}}) {
    const Outcome outcome = record(QStringList{beside("gl_program"), QStringLiteral("60"), QStringLiteral("--load"),
                                               QStringLiteral("1000"), QStringLiteral("--every"), QStringLiteral("5")} +
                                       way,
                                   {QStringLiteral("--device-time")});
    ASSERT_EQ(outcome.code, 0) << outcome.err;
    const QByteArray line = QByteArray::fromStdString(outcome.out.substr(0, outcome.out.find('\n')));
    const QJsonObject own = QJsonDocument::fromJson(line).object();
    EXPECT_EQ(own[QStringLiteral("gl_error")].toInt(-1), 0) << "nothing of ours fails in its name";
    const double own_ms = own[QStringLiteral("device_ms")].toDouble();
    const double device_ms = json(outcome)[QStringLiteral("facts")].toObject()[QStringLiteral("device_ms")].toDouble();
    ASSERT_GT(own_ms, 1) << line.toStdString();
    EXPECT_GT(device_ms, 0.8 * own_ms);
    EXPECT_LT(device_ms, 1.5 * own_ms + 1) << "the 5 ms between frames are no work";
  }
}

// Long enough to be looked at, however busy the machine is.
TEST_F(XPrograms, OfVulkanWithoutOurLayerSayWhy) {
  const Outcome outcome = record({QStringLiteral("env"), QStringLiteral("VK_LAYER_PATH=/nowhere"), QStringLiteral("sh"),
                                  QStringLiteral("-c"), QStringLiteral("timeout 3 vkcube; true")});
  EXPECT_NE(outcome.err.find("layer path of its own"), std::string::npos) << outcome.err;
}

// "serial moment refresh skipped", as the program itself heard it.
struct Shown {
  double moment = 0;
  double refresh = 0;
  bool is_skipped = false;
};
std::map<int, Shown> heard(const std::string& path) {
  std::map<int, Shown> all;
  std::ifstream file(path);
  int serial = 0;
  for (Shown shown; file >> serial >> shown.moment >> shown.refresh >> shown.is_skipped;) all[serial] = shown;
  return all;
}

TEST_F(XPrograms, SayWhatWasShownAndSkippedAndRepeatedAsTheServerDoes) {
  // Every 50 ms, so that a refresh of 60 Hz repeats each picture; and three at once, of which two are skipped.
  for (const auto& [every, burst] : {std::pair("50", "1"), std::pair("50", "3")}) {
    const Outcome outcome = record({beside("present_program"), QStringLiteral("40"), QLatin1String(every),
                                    QLatin1String(burst), text(folder_ / "heard")});
    ASSERT_EQ(outcome.code, 0) << outcome.err;
    const auto all = heard(folder_ / "heard");
    std::size_t skipped = 0;
    std::size_t repeated = 0;
    double before = 0;
    for (const auto& [serial, shown] : all) {
      if (shown.is_skipped)
        ++skipped;
      else {
        if (before > 0 && shown.refresh > before + 1) repeated += static_cast<std::size_t>(shown.refresh - before - 1);
        before = shown.refresh;
      }
    }
    const QJsonObject display = json(outcome)[QStringLiteral("facts")].toObject()[QStringLiteral("display")].toObject();
    EXPECT_EQ(display[QStringLiteral("known_frames")].toInt(), 40);
    EXPECT_EQ(display[QStringLiteral("skipped_frames")].toInt(), static_cast<int>(skipped)) << burst;
    EXPECT_EQ(display[QStringLiteral("repeated_refreshes")].toInt(), static_cast<int>(repeated)) << burst;
    EXPECT_GT(repeated, 20U);
    EXPECT_NEAR(display[QStringLiteral("refresh_ms")].toDouble(), 16.67, 0.2);
    if (std::string(burst) == "3") {
      EXPECT_GT(skipped, 10U);
    }
  }
}

TEST_F(XPrograms, AreCountedFromTheKeyOn) {
  constexpr int kFrames = 400;  // eight seconds of them
  for (const bool is_pressed : {true, false}) {
    QProcess process;
    start(process, QStringLiteral("iron-lever-cli"),
          {QStringLiteral("record"), QStringLiteral("--json"), QStringLiteral("--quiet"), QStringLiteral("--start-key"),
           QStringLiteral("--"), beside("gl_program"), QString::number(is_pressed ? kFrames : 50),
           QStringLiteral("--every"), QStringLiteral("20")});
    while (is_pressed && process.state() == QProcess::Running && !support::hasWindow(display_.name()))
      QThread::msleep(20);
    QThread::msleep(2000);
    if (is_pressed) support::pressKeys(display_.name(), {support::kControlKey, support::kAltKey, support::kSpaceKey});
    ASSERT_TRUE(process.waitForFinished());
    const Outcome outcome{process.exitCode(), process.readAllStandardOutput().toStdString(),
                          process.readAllStandardError().toStdString()};
    if (is_pressed) {
      EXPECT_EQ(outcome.code, 0) << outcome.err;
      EXPECT_GT(json(outcome)[QStringLiteral("frames")].toInt(), 10);
      EXPECT_LT(json(outcome)[QStringLiteral("frames")].toInt(), kFrames - 10);
    } else {
      EXPECT_NE(outcome.code, 0);
      EXPECT_NE(outcome.err.find("the key was not pressed"), std::string::npos) << outcome.err;
    }
  }
}

TEST_F(Programs, OnWaylandSayWhatWasShownAsTheCompositorDoes) {
  const support::HeadlessCompositor compositor;
  compositor.tell(environment_);
  const Outcome outcome =
      record({beside("wayland_program"), QStringLiteral("60"), QStringLiteral("40"), text(folder_ / "heard")});
  ASSERT_EQ(outcome.code, 0) << outcome.err;
  const QJsonObject said = json(outcome);
  EXPECT_EQ(said[QStringLiteral("frames")].toInt(), 59);
  EXPECT_TRUE(
      said[QStringLiteral("presentation")].toString().startsWith(QStringLiteral("EGL, 200 × 120, swap interval 0")))
      << said[QStringLiteral("presentation")].toString().toStdString();
  std::ifstream file(folder_ / "heard");
  std::map<int, double> shown_at;
  int skipped = 0;
  int frame = 0;
  double refresh = 0;
  for (double moment = 0; file >> frame >> moment >> refresh;)
    if (moment < 0)
      ++skipped;
    else
      shown_at[frame] = moment;
  const QJsonObject display = said[QStringLiteral("facts")].toObject()[QStringLiteral("display")].toObject();
  EXPECT_GE(display[QStringLiteral("known_frames")].toInt(), 55);  // the last ones are told after the program's end
  EXPECT_NEAR(display[QStringLiteral("on_screen_frames")].toInt(), static_cast<double>(shown_at.size()), 4);
  EXPECT_LE(display[QStringLiteral("skipped_frames")].toInt(), skipped);
  ASSERT_GT(shown_at.size(), 2U);
  const double fps =
      static_cast<double>(shown_at.size() - 1) * 1e9 / (shown_at.rbegin()->second - shown_at.begin()->second);
  EXPECT_NEAR(display[QStringLiteral("shown_fps")].toDouble(), fps, 1);
}

TEST_F(Programs, OfVulkanAreRecordedOnWayland) {
  const support::HeadlessCompositor compositor;
  compositor.tell(environment_);
  const Outcome outcome = record({QStringLiteral("vkcube-wayland"), QStringLiteral("--c"), QStringLiteral("60")});
  ASSERT_EQ(outcome.code, 0) << outcome.err;
  EXPECT_EQ(json(outcome)[QStringLiteral("frames")].toInt(), 59);
  EXPECT_GT(json(outcome)[QStringLiteral("facts")]
                .toObject()[QStringLiteral("display")]
                .toObject()[QStringLiteral("on_screen_frames")]
                .toInt(),
            30);
}

}  // namespace
