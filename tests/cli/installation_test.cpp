// The programs as they are installed: in a folder of their own, reached by their names in the path.
#include <filesystem>

#include "support/programs.h"

namespace {

namespace fs = std::filesystem;

class Installation : public support::ProgramsTest {
 protected:
  Installation() {
    // Sanitizers want to be the first library of a program; with what we load into it they are not.
    environment_.insert(QStringLiteral("ASAN_OPTIONS"), environment_.value(QStringLiteral("ASAN_OPTIONS")) +
                                                            QStringLiteral(":verify_asan_link_order=0:detect_leaks=0"));
    QProcess install;
    install.start(QStringLiteral("cmake"), {QStringLiteral("--install"), QStringLiteral(IRON_LEVER_BUILD),
                                            QStringLiteral("--prefix"), QString::fromStdString(folder_ / "usr")});
    EXPECT_TRUE(install.waitForFinished(120000));
    EXPECT_EQ(install.exitCode(), 0) << install.readAllStandardError().toStdString();
  }
  support::Outcome installed(const char* program, const QStringList& arguments) const {
    QProcess process;
    process.setProcessEnvironment(environment_);
    process.setWorkingDirectory(QString::fromStdString(folder_.path()));
    process.start(QString::fromStdString(folder_ / "usr/bin/") + QLatin1String(program), arguments);
    EXPECT_TRUE(process.waitForFinished(60000)) << program;
    return {process.exitCode(), process.readAllStandardOutput().toStdString(),
            process.readAllStandardError().toStdString()};
  }
};

TEST_F(Installation, RunsAStudyAndRecordsFromWhereItWasPut) {
  EXPECT_EQ(installed("iron-lever-cli", {QStringLiteral("--version")}).code, 0);
  ASSERT_EQ(installed("iron-lever-cli", {QStringLiteral("demo"), QStringLiteral("demo"), QStringLiteral("--study"),
                                         QStringLiteral("memory-speed")})
                .code,
            0)
      << "it finds its simulated bench";
  const QString beside = QCoreApplication::applicationDirPath();
  const support::Outcome recorded = installed(
      "iron-lever-cli",
      {QStringLiteral("record"), QStringLiteral("--json"), QStringLiteral("--quiet"), QStringLiteral("--"),
       beside + QStringLiteral("/own_gl_program"), QStringLiteral("private"), beside + QStringLiteral("/libown_gl.so"),
       QStringLiteral("200"), QStringLiteral("0"), QStringLiteral("exit"), QString::fromStdString(folder_ / "called")});
  ASSERT_EQ(recorded.code, 0) << recorded.err;
  EXPECT_EQ(QJsonDocument::fromJson(QByteArray::fromStdString(recorded.out))[QStringLiteral("frames")].toInt(), 199)
      << "it finds what it loads into programs";
}

TEST_F(Installation, BringsWhatADesktopWants) {
  for (const char* file :
       {"share/applications/iron-lever.desktop", "share/mime/packages/iron-lever.xml",
        "share/metainfo/local.ironlever.IronLever.metainfo.xml", "share/icons/hicolor/scalable/apps/iron-lever.svg",
        "share/bash-completion/completions/iron-lever-cli", "share/doc/iron-lever/docs/method.md"})
    EXPECT_TRUE(fs::exists(fs::path(folder_ / "usr") / file)) << file;
  // Each program that can be started has its page in the manual, and says its version where there is no display.
  for (const char* display : {"QT_QPA_PLATFORM", "DISPLAY", "WAYLAND_DISPLAY"})
    environment_.remove(QLatin1String(display));
  int programs = 0;
  for (const auto& program : fs::directory_iterator(folder_ / "usr/bin")) {
    const std::string name = program.path().filename().string();
    const bool has_page = fs::exists(fs::path(folder_ / "usr/share/man/man1") / (name + ".1.gz")) ||
                          fs::exists(fs::path(folder_ / "usr/share/man/man8") / (name + ".8.gz"));
    EXPECT_TRUE(has_page && fs::exists(program)) << name;
    const support::Outcome version = installed(name.c_str(), {QStringLiteral("--version")});
    EXPECT_EQ(version.code, 0) << name << version.err;
    EXPECT_TRUE(version.out.starts_with(name + " ")) << version.out;
    ++programs;
  }
  EXPECT_GE(programs, 4);
  if (!fs::exists(fs::path(folder_ / "usr/bin/iron-lever"))) return;  // built without the window
  const support::Outcome blind = installed("iron-lever", {});
  EXPECT_EQ(blind.code, 1);
  EXPECT_EQ(blind.err, "There is no display here. In a terminal: iron-lever-cli --help\n");
}

// Built as ./lever package does, and looked at as a distribution would.
TEST_F(Installation, IsAPackageThatADistributionWouldTake) {
#if defined(__SANITIZE_ADDRESS__) || defined(__clang__)
  GTEST_SKIP() << "what is packed is not built for the sanitizers";
#endif
  QProcess pack;
  pack.setWorkingDirectory(QString::fromStdString(folder_.path()));
  pack.start(QStringLiteral("cpack"), {QStringLiteral("-G"), QStringLiteral("DEB"), QStringLiteral("--config"),
                                       QStringLiteral(IRON_LEVER_BUILD "/CPackConfig.cmake"), QStringLiteral("-B"),
                                       QString::fromStdString(folder_ / "packed")});
  ASSERT_TRUE(pack.waitForFinished(300000));
  ASSERT_EQ(pack.exitCode(), 0) << pack.readAllStandardOutput().toStdString();
  QStringList packages;
  for (const auto& entry : fs::directory_iterator(folder_ / "packed"))
    if (entry.path().extension() == ".deb") packages << QString::fromStdString(entry.path().string());
  ASSERT_FALSE(packages.isEmpty());
  QProcess look;
  look.start(QStringLiteral("lintian"), QStringList{QStringLiteral("--allow-root")} + packages);
  if (!look.waitForFinished(300000)) GTEST_SKIP() << "lintian is not installed";
  const QStringList said = QString::fromUtf8(look.readAllStandardOutput()).split(QLatin1Char('\n'));
  EXPECT_EQ(said.filter(QStringLiteral("E: ")).join(QLatin1Char('\n')).toStdString(), "");
}

}  // namespace
