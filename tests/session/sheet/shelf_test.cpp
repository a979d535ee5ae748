// What is at hand to measure with, and trying it.
#include <gtest/gtest.h>

#include "bench/local_bench.h"
#include "session/sheet/trial.h"
#include "session/user/installed_programs.h"
#include "support/run_session.h"
#include "support/test_folder.h"

namespace {

using session::wordsOfExec;

TEST(InstalledPrograms, AreReadFromTheirEntriesAndNeverThroughAShell) {
  support::TestFolder own;
  support::TestFolder system;
  const std::string head = "[Desktop Entry]\nType=Application\n";
  own.write("ring.desktop", head +
                                "Name=Ring pass\nName[de]=Ringflug\nExec=\"/opt/ring pass/ring\" --fast %U\n"
                                "Categories=Game;\n[Desktop Action New]\nExec=rm -rf /\n");
  system.write("ring.desktop", head + "Name=Older ring\nExec=ring\n");  // this user's own counts
  system.write("atlas.desktop", head + "Name=Atlas\nExec=atlas %%1 $(id);id %f\n");
  system.write("hidden.desktop", head + "Name=Hidden\nExec=hidden\nNoDisplay=true\n");
  system.write("shell.desktop", head + "Name=Shell\nExec=sh\nTerminal=true\n");
  system.write("link.desktop", "[Desktop Entry]\nType=Link\nName=Page\nURL=x\n");
  system.write("cut.desktop", head + "Name=Cut\nExec=\"half\n");
  system.write("nothing.desktop", "");
  const auto found = session::installedPrograms({own.path(), system.path(), "/nonexistent"});
  ASSERT_EQ(found.size(), 2U);
  EXPECT_EQ(found[0].a_case.workload, "Ring pass");  // what draws much comes first
  EXPECT_EQ(found[0].a_case.command, (core::Command{"/opt/ring pass/ring", "--fast"}));
  EXPECT_TRUE(found[0].a_case.is_played);
  EXPECT_EQ(found[0].a_case.source, core::ResultSource::Recorded);
  EXPECT_EQ(found[1].a_case.command, (core::Command{"atlas", "%1", "$(id);id"}));  // words, whatever they say
}

TEST(InstalledPrograms, HaveTheWordsOfTheirCommandLine) {
  EXPECT_EQ(wordsOfExec("a  b"), (core::Command{"a", "b"}));
  EXPECT_EQ(wordsOfExec(R"(a "b \"c\" d" "")"), (core::Command{"a", R"(b "c" d)", ""}));
  EXPECT_EQ(wordsOfExec("a --name=%c %i"), (core::Command{"a", "--name="}));
  EXPECT_TRUE(wordsOfExec("").empty());
  EXPECT_TRUE(wordsOfExec("\"open").empty());
}

class Trials : public testing::Test {
 protected:
  /// Runs a case to the end.
  session::MeasuredPass tried(const core::Case& a_case, double limit_s = 60) {
    std::optional<session::MeasuredPass> got;
    const auto told = QObject::connect(&trial_, &session::Trial::finished, &trial_,
                                       [&](const session::MeasuredPass& pass, double) { got = pass; });
    trial_.start(a_case, folder_.path(), {60}, limit_s);
    EXPECT_TRUE(support::waitUntil([&] { return got.has_value(); }));
    QObject::disconnect(told);
    return got.value_or(session::MeasuredPass());
  }
  support::TestFolder folder_;
  bench::LocalBench bench_;
  session::Trial trial_{bench_};
};

TEST_F(Trials, YieldWhatAPassWouldAndTakeTheNextOne) {
  core::Case logged;
  logged.command = {"sh", "-c", "printf 'frame_ms\\n10\\n10\\n20\\n' > \"$0\"", "{log}"};
  const session::MeasuredPass pass = tried(logged);
  ASSERT_TRUE(pass.pass.value) << pass.pass.failure;
  EXPECT_NEAR(*pass.pass.value, 75, 1e-9);  // three frames in 40 ms
  EXPECT_EQ(pass.frame_ms.size(), 3U);
  EXPECT_FALSE(trial_.isRunning());
  core::Case counted;
  counted.command = {"echo", R"({"seconds": 1.5})"};
  counted.source = core::ResultSource::JsonField;
  counted.field = "seconds";
  EXPECT_EQ(tried(counted).pass.value, 1.5);
  folder_.write("result.json", R"({"seconds": 2.5})");  // beside the study, where a pass would find it
  counted.command = {"cat", "result.json"};
  EXPECT_EQ(tried(counted).pass.value, 2.5);
}

TEST_F(Trials, SayWhatWentWrong) {
  core::Case failing;
  failing.command = {"sh", "-c", "echo no lamp >&2; exit 3"};
  EXPECT_NE(tried(failing).pass.failure.find("no lamp"), std::string::npos);
  core::Case endless;
  endless.command = {"sleep", "60"};
  EXPECT_NE(tried(endless, 0.2).pass.failure.find("time"), std::string::npos);
  core::Case played;
  played.command = {"true"};
  played.is_played = true;
  EXPECT_FALSE(session::canBeTried(played));
}

TEST_F(Trials, EndAtOnceOnWish) {
  core::Case endless;
  endless.command = {"sleep", "600"};
  bool has_ended = false;
  QObject::connect(&trial_, &session::Trial::finished, &trial_, [&] { has_ended = true; });
  trial_.start(endless, folder_.path(), {60}, 600);
  EXPECT_TRUE(trial_.isRunning());
  trial_.stop();
  EXPECT_TRUE(support::waitUntil([&] { return has_ended; }));
  EXPECT_FALSE(trial_.isRunning());
}

}  // namespace
