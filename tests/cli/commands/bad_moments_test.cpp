// The programs at a bad moment: a signal, a full disk, nobody who reads, a wrong word, a name that is no name.
#include <gtest/gtest.h>

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>
#include <csignal>
#include <filesystem>
#include <fstream>

#include <fmt/format.h>

#include "store/study/study_file.h"
#include "support/programs.h"
#include "support/studies.h"

namespace {

using support::Outcome;

QStringList words(std::initializer_list<const char*> list) {
  QStringList all;
  for (const char* word : list) all << QString::fromUtf8(word);
  return all;
}

class BadMoments : public support::ProgramsTest {
 protected:
  Outcome say(std::initializer_list<const char*> list) const { return cli(words(list)); }
  void make(const core::Study& study, const char* name = "study") {
    ASSERT_TRUE(store::StudyFile::create(folder_ / name, study).ok());
  }
  /// A folder that stands for a bench with one governor, and a study that sets it and then takes its time.
  core::Study settingStudy(const std::string& pass) {
    std::filesystem::create_directories(folder_ / "bench/sys/cpu");
    std::filesystem::create_directories(folder_ / "bench/proc/sys/kernel/random");
    folder_.write("bench/sys/cpu/governor", "powersave");
    folder_.write("bench/proc/sys/kernel/random/boot_id", "boot-1\n");
    core::Study study = support::timedStudyOf({"sh", "-c", pass}, 2);
    study.machine = "bench";
    for (core::Level& level : study.variable().levels) level.writes = {{"/sys/cpu/governor", "performance"}};
    return study;
  }
  [[nodiscard]] std::string governor() const { return support::contents(folder_ / "bench/sys/cpu/governor"); }
  [[nodiscard]] bool waitFor(const std::string& governor_text) const {
    for (int i = 0; i < 600 && governor() != governor_text; ++i) ::usleep(10'000);
    return governor() == governor_text;
  }
};

TEST_F(BadMoments, EndWithACodeThatSaysWhatHappened) {
  make(support::timedStudyOf({"sh", "-c", "echo '{\"seconds\": 1}'"}, 2));
  EXPECT_EQ(say({"run", "study"}).code, 4);               // nobody has approved it
  EXPECT_EQ(say({"run", "--approve", "study"}).code, 0);  // on either side of the study
  EXPECT_EQ(say({"run", "study", "--approve"}).code, 0);  // nothing is left
  EXPECT_EQ(say({"run", "none"}).code, 1);
  EXPECT_EQ(say({"run"}).code, 2);
  make(support::timedStudyOf({"sh", "-c", "exit 3"}, 9), "failing");
  EXPECT_EQ(say({"run", "failing", "--approve"}).code, 1);  // held after failures in a row
}

TEST_F(BadMoments, NameWhatWasMostLikelyMeant) {
  EXPECT_NE(say({"finding", "study"}).err.find("Did you mean 'findings'?"), std::string::npos);
  EXPECT_NE(say({"reprot", "study"}).err.find("Did you mean 'report'?"), std::string::npos);
  EXPECT_EQ(say({"finding", "study"}).code, 2);
  EXPECT_EQ(say({"xyzzy"}).err.find("Did you mean"), std::string::npos);
}

TEST_F(BadMoments, RefuseNumbersThatAreNoneWithTheirRange) {
  make(support::timedStudyOf({"true"}, 2));
  for (const char* number : {"nan", "inf", "-1", "1e99", "2,5", "0x10", ""}) {
    const Outcome outcome = say({"judge-by", "study", "why", "--threshold", number});
    EXPECT_EQ(outcome.code, 2) << number;
    EXPECT_NE(outcome.err.find("0 to 1000 %"), std::string::npos) << outcome.err;
  }
  EXPECT_EQ(say({"predict", "study", "M. Osei", "nan"}).code, 2);
  EXPECT_EQ(say({"plan", "study", "--minutes", "inf"}).code, 2);
  EXPECT_EQ(say({"judge-by", "study", "why", "--threshold", "2.5"}).code, 0);
}

TEST_F(BadMoments, SayAnErrorAsJsonToWhoeverAskedForIt) {
  const Outcome outcome = say({"findings", "none", "--json"});
  EXPECT_EQ(outcome.code, 1);
  const auto error = QJsonDocument::fromJson(QByteArray::fromStdString(outcome.err))[QStringLiteral("error")];
  EXPECT_EQ(error[QStringLiteral("where")].toString(), QStringLiteral("none"));
  EXPECT_FALSE(error[QStringLiteral("remedy")].toString().isEmpty());
}

TEST_F(BadMoments, FailWhereNotAllCouldBeWritten) {
  make(support::timedStudyOf({"true"}, 2));
  for (const QStringList& arguments : {words({"findings", "study"}), words({"status", "study"}), words({"--version"}),
                                       words({"passes", "study", "--json"})}) {
    QProcess process;
    process.setStandardOutputFile(QStringLiteral("/dev/full"));
    start(process, QStringLiteral("iron-lever-cli"), arguments);
    process.waitForFinished();
    EXPECT_EQ(process.exitCode(), 1) << arguments.join(QLatin1Char(' ')).toStdString();
  }
}

TEST_F(BadMoments, PutSettingsBackAfterAHangupAsAfterAnInterrupt) {
  for (const int number : {SIGHUP, SIGINT, SIGTERM}) {
    make(settingStudy("sleep 60"), "set");
    QProcess process;
    start(process, QStringLiteral("iron-lever-cli"), words({"run", "set", "--approve"}));
    ASSERT_TRUE(waitFor("performance"));
    ::kill(static_cast<pid_t>(process.processId()), number);
    ASSERT_TRUE(process.waitForFinished(20000));
    EXPECT_EQ(process.exitStatus(), QProcess::NormalExit) << number;
    EXPECT_EQ(process.exitCode(), 3) << number;
    EXPECT_EQ(governor(), "powersave") << number;
    std::filesystem::remove(folder_ / "set");
  }
}

TEST_F(BadMoments, PutSettingsBackWhenNobodyReadsAnyMore) {
  make(settingStudy("sleep 0.2; echo '{\"seconds\": 1}'"), "set");
  int ends[2];
  ASSERT_EQ(::pipe2(ends, O_CLOEXEC), 0);
  QProcess process;
  process.setStandardOutputFile(QStringLiteral("/proc/self/fd/%1").arg(ends[1]));
  start(process, QStringLiteral("iron-lever-cli"), words({"run", "set", "--approve"}));
  ::close(ends[1]);
  ::close(ends[0]);
  ASSERT_TRUE(process.waitForFinished(20000));
  EXPECT_EQ(process.exitStatus(), QProcess::NormalExit);
  EXPECT_NE(process.exitCode(), 0);
  EXPECT_EQ(governor(), "powersave");
}

// A report is there whole or not at all, and never where a study is.
TEST_F(BadMoments, WriteNothingOntoAStudy) {
  core::Study study = support::timedStudyOf({"sh", "-c", "echo '{\"seconds\": 1}'"}, 2);
  make(study);
  make(study, "other.ironlever");
  ASSERT_EQ(say({"run", "study", "--approve", "--quiet"}).code, 0);
  std::filesystem::create_symlink("other.ironlever", folder_ / "link.html");
  const std::string before = support::contents(folder_ / "other.ironlever");
  for (const char* out : {"study", "other.ironlever", "link.html"}) {
    const Outcome outcome = say({"report", "study", "--out", out});
    EXPECT_EQ(outcome.code, 1) << out;
    EXPECT_NE(outcome.err.find("a study lies there"), std::string::npos) << outcome.err;
  }
  EXPECT_EQ(support::contents(folder_ / "other.ironlever"), before);
  for (const char* out : {"", "folder/", "/dev/null", "."})
    EXPECT_EQ(say({"report", "study", "--out", out}).code, 1) << out;
  folder_.write("page.html", "an earlier one");
  EXPECT_EQ(say({"report", "study", "--out", "page.html"}).code, 0);
  EXPECT_NE(support::contents(folder_ / "page.html").find("<html"), std::string::npos);
}

TEST_F(BadMoments, KeepNothingInWhateverFolderIsAtHand) {
  make(support::timedStudyOf({"true"}, 2));
  for (const char* name : {"XDG_STATE_HOME", "XDG_DATA_HOME", "HOME"}) environment_.remove(QLatin1String(name));
  const Outcome outcome = say({"run", "study", "--approve"});
  EXPECT_EQ(outcome.code, 1);
  EXPECT_NE(outcome.err.find("Set HOME"), std::string::npos) << outcome.err;
  EXPECT_FALSE(std::filesystem::exists(folder_ / ".local"));
  EXPECT_FALSE(std::filesystem::exists(folder_ / "iron-lever"));
}

// Nobody writes to the pipe: whoever opened it as a file would wait for ever.
TEST_F(BadMoments, WaitForNoPipeThatStandsWhereAFileShould) {
  ASSERT_EQ(mkfifo((folder_ / "pipe").c_str(), 0600), 0);
  for (const Outcome& outcome :
       {say({"findings", "pipe"}), say({"status", "pipe"}), say({"passes", "pipe", "--json"}),
        say({"diff", "--variable", "governor", "pipe", "pipe"}), say({"new", "made", "--design", "pipe"}),
        say({"report", "pipe", "--out", "page.html"}), say({"measure", "pipe"})}) {
    EXPECT_EQ(outcome.code, 1) << outcome.err;
    EXPECT_NE((outcome.err + outcome.out).find("regular file"), std::string::npos) << outcome.err << outcome.out;
  }
  EXPECT_FALSE(std::filesystem::exists(folder_ / "made"));
}

// The first program of a pipeline ends by the signal of a pipe that nobody reads, as it does in a shell.
TEST_F(BadMoments, RecordProgramsWithTheSignalsThatATerminalGives) {
  const Outcome outcome = say({"record", "--", "bash", "-c", "yes | head -1; echo \"status ${PIPESTATUS[0]}\""});
  EXPECT_NE(outcome.out.find("status 141"), std::string::npos) << outcome.out << outcome.err;
}

TEST_F(BadMoments, ApproveExactlyWhatAScriptHasRead) {
  make(support::timedStudyOf({"sh", "-c", "echo '{\"seconds\": 1}'"}, 2));
  const Outcome asked = say({"run", "study"});
  EXPECT_NE(asked.out.find("sh -c \"echo '{\\\"seconds\\\": 1}'\""), std::string::npos) << asked.out;
  const auto at = asked.err.find("--approve=") + 10;
  const std::string digest = asked.err.substr(at, 16);
  const Outcome empty = say({"run", "study", "--approve="});
  EXPECT_EQ(empty.code, 2);
  EXPECT_NE(empty.err.find("an empty digest approves nothing"), std::string::npos);
  EXPECT_EQ(say({"run", "study"}).code, 4) << "nothing was approved";
  const Outcome wrong = say({"run", "study", "--approve=0123456789abcdef"});
  EXPECT_EQ(wrong.code, 4);
  EXPECT_EQ(wrong.out.find("Approved"), std::string::npos) << wrong.out;
  EXPECT_NE(wrong.err.find(digest), std::string::npos) << wrong.err;
  EXPECT_TRUE(store::StudyFile::open(folder_ / "study")->recorded()->passes.empty());
  const Outcome right = say({"run", "study", ("--approve=" + digest).c_str()});
  EXPECT_EQ(right.code, 0) << right.err;
  EXPECT_NE(right.out.find("Approved for this machine"), std::string::npos);
}

// What a study says moves no cursor and turns no line around; for scripts it is what it is.
TEST_F(BadMoments, ShowNamesAsTheyAre) {
  core::Study study = support::timedStudyOf({"true"}, 2);
  study.cases[0].workload =
      "\x1b[2Jscene \xE2\x80\xAE"
      "evil";
  study.variable().levels[0].name = "a\rb";
  make(study);
  for (const char* command : {"status", "findings", "plan"}) {
    const Outcome shown = say({command, "study"});
    EXPECT_EQ(shown.out.find_first_of("\x1b\r"), std::string::npos) << shown.out;
    EXPECT_EQ(shown.out.find("\xE2\x80\xAE"), std::string::npos) << shown.out;
  }
  EXPECT_NE(say({"status", "study"}).out.find("␛[2Jscene ⟨U+202E⟩evil"), std::string::npos);
  const Outcome json = say({"status", "study", "--json"});
  EXPECT_EQ(json.out.find("\xE2\x80\xAE"), std::string::npos);
  EXPECT_NE(QJsonDocument::fromJson(QByteArray::fromStdString(json.out))
                .toJson()
                .toStdString()
                .find("scene \xE2\x80\xAE"
                      "evil"),
            std::string::npos);
}

// Output that is no UTF-8 is kept, shown with marks, and spoils no JSON.
TEST_F(BadMoments, KeepBytesThatAreNoText) {
  make(support::timedStudyOf({"sh", "-c", "printf 'caf\\351 {\\n'; printf '\\377\\n' >&2; exit 3"}, 1));
  EXPECT_EQ(say({"run", "study", "--approve"}).code, 0);
  auto file = store::StudyFile::open(folder_ / "study");
  EXPECT_EQ(file->output(1)->output,
            "caf\xE9"
            " {\n");
  const Outcome json = say({"passes", "study", "--json"});
  EXPECT_FALSE(QJsonDocument::fromJson(QByteArray::fromStdString(json.out)).isNull()) << json.out;
  EXPECT_NE(say({"passes", "study"}).out.find("\xEF\xBF\xBD"), std::string::npos);
}

TEST_F(BadMoments, SayOfASkipThatNothingIsLeft) {
  make(support::timedStudyOf({"sh", "-c", "echo '{\"seconds\": 1}'"}, 1));
  ASSERT_EQ(say({"run", "study", "--approve"}).code, 0);
  const Outcome outcome = say({"skip", "study", "why not"});
  EXPECT_NE(outcome.err.find("every planned pass has its result"), std::string::npos) << outcome.err;
  EXPECT_EQ(outcome.err.find("Stop first"), std::string::npos);
}

TEST_F(BadMoments, RemoveWhatAKilledRunLeftInTheTemporaryFolder) {
  std::filesystem::create_directories(folder_ / "tmp");
  environment_.insert(QStringLiteral("TMPDIR"), QString::fromStdString(folder_ / "tmp"));
  const auto left = [this] {
    return std::distance(std::filesystem::directory_iterator(folder_ / "tmp"), std::filesystem::directory_iterator());
  };
  make(support::timedStudyOf({"sh", "-c", "touch begun; sleep 60"}, 1));
  QProcess process;
  start(process, QStringLiteral("iron-lever-cli"), words({"run", "study", "--approve"}));
  for (int i = 0; i < 600 && !std::filesystem::exists(folder_ / "begun"); ++i) ::usleep(10'000);
  process.kill();
  process.waitForFinished();
  EXPECT_EQ(left(), 1);
  make(support::timedStudyOf({"sh", "-c", "echo '{\"seconds\": 1}'"}, 1), "next");
  EXPECT_EQ(say({"run", "next", "--approve"}).code, 0);
  EXPECT_EQ(left(), 0);
}

}  // namespace
