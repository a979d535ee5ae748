// What a study from elsewhere may do on this machine: only what a person here has approved, as it was then.
#include "session/study/acts.h"

#include <gtest/gtest.h>
#include <sys/stat.h>

#include <filesystem>

#include "bench/local_bench.h"
#include "session/sheet/demo_study.h"
#include "session/sheet/setting_journal.h"
#include "session/study/approvals.h"
#include "session/user/study_list.h"
#include "session/user/user_files.h"
#include "support/studies.h"
#include "support/test_folder.h"

namespace {

using core::ErrorKind;
using session::Act;

class Acts : public testing::Test {
 protected:
  Acts() {
    folder_.write("tool", "#!/bin/sh\necho tool\n");
    std::filesystem::permissions(folder_ / "tool", std::filesystem::perms::owner_all);
    folder_.write("scene.py", "print(1)\n");
    folder_.write("settings.ini", "quality=1\n");
    study_.variable().levels[1].writes = {{"/sys/devices/x/governor", "performance"}};
    study_.variable().levels[1].environment = {{"LEVEL", "2"}};
    study_.measure_command = {"python3", "scene.py"};
    std::filesystem::create_directories(folder_ / "bench/sys/devices/x");
    study_.machine = "bench";
  }
  [[nodiscard]] std::vector<Act> acts() const { return session::actsOf(study_, folder_.path(), bench_); }
  [[nodiscard]] std::size_t missing() const { return approvals_.missing(acts()).size(); }

  support::TestFolder folder_;
  bench::LocalBench bench_;
  core::Study study_ = support::studyOf({"./tool", "{log}"});
  session::Approvals approvals_{folder_ / "own/approved"};
};

TEST_F(Acts, AreApprovedAsTheyAreAndAskedAgainWhenAPartChanges) {
  const std::size_t all = acts().size();
  EXPECT_EQ(all, 5U);  // the tool and the measurement at both levels, and the setting
  EXPECT_EQ(missing(), all);
  ASSERT_TRUE(approvals_.approve(acts()).ok());
  EXPECT_EQ(missing(), 0U);

  folder_.write("tool", "#!/bin/sh\nrm -r /\n");  // the same name, and another program
  EXPECT_EQ(missing(), 2U);
  ASSERT_TRUE(approvals_.approve(acts()).ok());
  folder_.write("scene.py", "print(2)\n");  // what an interpreter is handed counts as much
  EXPECT_EQ(missing(), 2U);
  ASSERT_TRUE(approvals_.approve(acts()).ok());
  study_.variable().levels[1].environment[0].first = "LD_PRELOAD";
  EXPECT_EQ(missing(), 2U);
  ASSERT_TRUE(approvals_.approve(acts()).ok());
  study_.variable().levels[1].writes[0].value = "powersave";
  EXPECT_EQ(missing(), 1U);
}

// Whatever decides what a command does is a part of what was approved, whichever way it comes in.
TEST_F(Acts, AreAskedAgainWhereOtherCodeWouldRunInTheEnd) {
  const auto executable = [&](const std::string& name, const std::string& text) {
    folder_.write(name, text);
    std::filesystem::permissions(folder_ / name, std::filesystem::perms::owner_all);
  };
  std::filesystem::create_directories(folder_ / "bin");
  executable("reader", "first\n");
  executable("by-reader", "#!" + (folder_ / "reader") + " -x\n");
  executable("bin/hidden", "first\n");
  executable("behind", "first\n");
  folder_.write("plain", "echo first\n");
  folder_.write("true", "echo first\n");
  folder_.write("preloaded.so", "first\n");
  folder_.write("env", "first\n");
  folder_.write("data.json", "{}\n");
  struct Way {
    core::Command command;
    std::vector<std::pair<std::string, std::string>> environment;
    std::string swapped;
  };
  const std::vector<Way> ways{
      {{"bash", "-e", "plain", "data.json"}, {}, "plain"},
      {{"nice", "bash", "plain"}, {}, "plain"},
      {{"nice", "/bin/bash", "plain"}, {}, "plain"},
      {{"bash", "true"}, {}, "true"},  // a script is looked for in the folder before a program of its name is
      {{"./by-reader"}, {}, "reader"},
      {{"nice", "-n", "5", "./behind"}, {}, "behind"},
      {{"nice", "hidden"}, {{"PATH", folder_ / "bin" + ":/usr/bin"}}, "bin/hidden"},
      {{"nice", "hidden"}, {{"PATH", "bin:/usr/bin"}}, "bin/hidden"},
      {{"true"}, {{"LD_PRELOAD", "./preloaded.so"}}, "preloaded.so"},
      {{"bash", "plain"}, {{"BASH_ENV", folder_ / "env"}}, "env"},
  };
  for (const Way& way : ways) {
    core::Study study = support::studyOf(way.command);
    study.variable().levels[1].environment = way.environment;
    const auto asked = [&] { return session::actsOf(study, folder_.path(), bench_); };
    ASSERT_TRUE(approvals_.approve(asked()).ok());
    EXPECT_TRUE(approvals_.missing(asked()).empty());
    const std::string was = support::contents(folder_ / way.swapped);
    folder_.write(way.swapped, "other\n");
    EXPECT_FALSE(approvals_.missing(asked()).empty()) << way.swapped << " behind " << way.command.front();
    folder_.write(way.swapped, was);
    EXPECT_TRUE(approvals_.missing(asked()).empty()) << "it is what was approved again";
    folder_.write("data.json", "{\"changed\": 1}\n");  // what a program reads is its own affair
    EXPECT_TRUE(approvals_.missing(asked()).empty());
  }
}

TEST_F(Acts, SayWhatNobodyLooksAt) {
  std::filesystem::create_directories(folder_ / "modules");
  study_.variable().levels[1].environment = {{"PYTHONPATH", "modules"}};
  const auto all = acts();
  EXPECT_TRUE(std::any_of(all.begin(), all.end(), [&](const Act& one) {
    return one.sentence().find("what it loads from " + (folder_ / "modules") + " is not looked at") !=
           std::string::npos;
  }));
}

// What was approved for a folder that stands for the bench is not approved for the kernel of this machine.
TEST_F(Acts, OnAStandInAreNotApprovedForTheMachine) {
  ASSERT_TRUE(approvals_.approve(acts()).ok());
  study_.machine.clear();
  EXPECT_EQ(missing(), acts().size());
  EXPECT_NE(acts().back().sentence().find("on this machine"), std::string::npos);
}

TEST_F(Acts, InAnotherFolderAreOthers) {
  ASSERT_TRUE(approvals_.approve(acts()).ok());
  const support::TestFolder elsewhere;
  std::filesystem::copy(folder_.path(), elsewhere.path(), std::filesystem::copy_options::recursive);
  EXPECT_EQ(approvals_.missing(session::actsOf(study_, elsewhere.path(), bench_)).size(), acts().size());
}

TEST_F(Acts, NameEveryPathThatLeavesTheStudysFolder) {
  const auto reads = [this] {
    std::vector<std::string> read;
    for (const Act& act : acts())
      if (!act.reads.empty()) read.push_back(act.reads);
    return read;
  };
  study_.cases[0].settings_file = "settings.ini";
  EXPECT_TRUE(reads().empty());
  for (const char* path : {"/etc/passwd", "../../etc/passwd", "link"}) {
    std::filesystem::remove(folder_ / "link");
    std::filesystem::create_symlink("/etc/passwd", folder_ / "link");
    study_.cases[0].settings_file = path;
    EXPECT_EQ(reads().size(), 1U) << path;
  }
  EXPECT_EQ(reads()[0], "/etc/passwd");
  study_.machine = "/";
  EXPECT_EQ(reads().size(), 2U);
}

TEST_F(Acts, AreShownSoThatNoWordHides) {
  core::ExactCommand exact;
  exact.command = {"tool", "a b", "quote\" rm", "\x1b[2Kx", "\xE2\x80\xAEtxt", "\xFF", ""};
  EXPECT_EQ(core::displayText(exact), "tool \"a b\" \"quote\\\" rm\" \"␛[2Kx\" \"⟨U+202E⟩txt\" \"\xEF\xBF\xBD\" \"\"");
}

TEST_F(Acts, HaveOneDigestThatChangesWithThem) {
  const std::string before = session::digestOf(acts());
  EXPECT_EQ(session::digestOf(acts()), before);
  folder_.write("tool", "#!/bin/sh\necho other\n");
  EXPECT_NE(session::digestOf(acts()), before);
}

TEST_F(Acts, ApprovedInAFileThatOthersMayWriteToAreNotApproved) {
  ASSERT_TRUE(approvals_.approve(acts()).ok());
  ::chmod((folder_ / "own/approved").c_str(), 0666);
  EXPECT_EQ(missing(), acts().size());
  EXPECT_EQ(approvals_.approve(acts()).error().kind, ErrorKind::Denied);
  std::filesystem::remove(folder_ / "own/approved");
  std::filesystem::create_symlink(folder_ / "settings.ini", folder_ / "own/approved");
  EXPECT_FALSE(approvals_.approve(acts()).ok());
  EXPECT_EQ(support::contents(folder_ / "settings.ini"), "quality=1\n");
}

// A journal is only as good as who may write to it, and puts back nothing but settings of the kernel's.
TEST_F(Acts, PutBackOnlyWhatOurOwnJournalSaysOfSettings) {
  const std::string journal = folder_ / "own/journal";
  ASSERT_TRUE(session::makeOwnFile(journal).ok());
  folder_.write("own/journal",
                "{\"boot_id\":\"\",\"root\":\"\",\"study\":\"/s\",\"path\":\"" + folder_ / "settings.ini" +
                    "\",\"before\":\"x\"}\n"
                    "{\"boot_id\":\"\",\"root\":\"\",\"study\":\"/s\",\"path\":\"/sys/../etc/x\",\"before\":\"x\"}\n"
                    "{\"boot_id\":\"\",\"root\":\"b\",\"study\":\"/s\",\"path\":\"/sys/a\",\"before\":\"x\"}\n"
                    "{\"boot_id\":7}\nhalf a li");
  EXPECT_TRUE(session::SettingJournal(journal).entries().empty());
  folder_.write("own/journal",
                "{\"boot_id\":\"b\",\"root\":\"/x\",\"study\":\"/s\",\"path\":\"/sys/a\",\"before\":\"x\"}\n");
  EXPECT_EQ(session::SettingJournal(journal).entries().size(), 1U);
  ::chmod(journal.c_str(), 0620);
  EXPECT_TRUE(session::SettingJournal(journal).entries().empty());
}

TEST_F(Acts, OfWhateverLiesInTheDemosPlaceAreNotApproved) {
  folder_.write("ran", "");
  study_ = support::timedStudyOf({"touch", "ran-by-a-stranger"});
  ASSERT_TRUE(store::StudyFile::create(session::demoStudyPath(folder_.path()), study_).ok());
  const auto demo = session::openDemo(folder_.path(), bench_);
  ASSERT_FALSE(demo.ok());
  EXPECT_EQ(demo.error().kind, ErrorKind::NotAllowed);
  EXPECT_EQ(store::StudyFile::open(session::demoStudyPath(folder_.path()))->study().cases[0].command[0], "touch");
}

TEST_F(Acts, GoOnAfterARestartWhateverTheirPathIs) {
  const session::StudyList running(folder_ / "own/running");
  const std::string path = folder_ / "two\nlines \"quoted\".ironlever";
  running.add(path);
  running.add("/other");
  EXPECT_EQ(running.all(), (std::vector<std::string>{path, "/other"}));
  running.remove(path);
  EXPECT_EQ(running.all(), std::vector<std::string>{"/other"});
}

TEST(OwnFiles, NeedAHome) {
  const auto with = [](const char* home) {
    home ? ::setenv("HOME", home, 1) : ::unsetenv("HOME");
    const auto files = session::UserFiles::ofThisUser();
    return files ? files->approvals : std::string();
  };
  const char* before = std::getenv("HOME");
  const std::string home = before ? before : "";
  const std::string state = std::getenv("XDG_STATE_HOME") ? std::getenv("XDG_STATE_HOME") : "";
  ::unsetenv("XDG_STATE_HOME");
  EXPECT_EQ(with("/home/m"), "/home/m/.local/state/iron-lever/approved-commands.jsonl");
  EXPECT_EQ(with(nullptr), "");
  EXPECT_EQ(with("."), "");
  ::setenv("HOME", home.c_str(), 1);
  if (!state.empty()) ::setenv("XDG_STATE_HOME", state.c_str(), 1);
}

}  // namespace
