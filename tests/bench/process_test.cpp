// Commands as real processes, and what is kept of their output.
#include <gtest/gtest.h>

#include <QEventLoop>
#include <QTimer>
#include <csignal>
#include <filesystem>
#include <fstream>
#include <optional>

#include "bench/kept_output.h"
#include "bench/local_bench.h"
#include "core/values/shown_text.h"
#include "support/test_folder.h"

namespace {

using bench::Ending;

class Commands : public testing::Test {
 protected:
  bench::CommandOutcome run(const core::ExactCommand& exact, double limit_s = 20) {
    const auto command = bench_.start({exact, folder_.path(), limit_s});
    std::optional<bench::CommandOutcome> outcome;
    QEventLoop loop;
    QObject::connect(command.get(), &bench::RunningCommand::finished, &loop, [&](const bench::CommandOutcome& done) {
      outcome = done;
      loop.quit();
    });
    loop.exec();
    return outcome.value_or(bench::CommandOutcome{});
  }
  bench::CommandOutcome script(const std::string& text, double limit_s = 20) {
    return run({{}, {"sh", "-c", text}}, limit_s);
  }

  bench::LocalBench bench_;
  support::TestFolder folder_;
};

TEST_F(Commands, ReportHowTheyEnded) {
  const auto good = script("echo out; echo err >&2");
  EXPECT_EQ(good.ending, Ending::Exited);
  EXPECT_EQ(good.exit_code, 0);
  EXPECT_EQ(good.output, "out\n");
  EXPECT_EQ(good.error_output, "err\n");
  EXPECT_EQ(script("exit 7").exit_code, 7);
  const auto crashed = script("kill -ABRT $$");
  EXPECT_EQ(crashed.ending, Ending::Crashed);
  EXPECT_EQ(crashed.signal_number, SIGABRT);
  const auto slow = script("sleep 30", 0.3);
  EXPECT_EQ(slow.ending, Ending::TimedOut);
  EXPECT_LT(slow.duration_s, 20);
}

TEST_F(Commands, TellHowMuchProcessorTimeTheyUsed) {
  const auto busy = script("i=0; while [ $i -lt 200000 ]; do i=$((i+1)); done");
  EXPECT_GT(busy.processor_s, 0.01);
  EXPECT_LE(busy.processor_s, busy.duration_s + 0.1);  // one thread
  EXPECT_LT(script("sleep 0.3").processor_s, 0.2);
}

TEST_F(Commands, EndWhenTheyAreAskedTo) {
  const auto ended = [&](const std::string& text) {
    const auto command = bench_.start({{{}, {"sh", "-c", text}}, folder_.path(), 20});
    bench::CommandOutcome outcome;
    QEventLoop loop;
    QObject::connect(command.get(), &bench::RunningCommand::finished, &loop, [&](const bench::CommandOutcome& done) {
      outcome = done;
      loop.quit();
    });
    QTimer::singleShot(300, &loop, [&] { command->askToEnd(); });
    loop.exec();
    return outcome;
  };
  const auto polite = ended("trap 'echo saved; exit 0' TERM; sleep 10 & wait");
  EXPECT_EQ(polite.ending, Ending::Ended);
  EXPECT_EQ(polite.output, "saved\n");
  const auto stubborn = ended("trap '' TERM; while :; do sleep 0.1; done");
  EXPECT_EQ(stubborn.ending, Ending::Ended);  // its time is up all the same
  EXPECT_LT(stubborn.duration_s, 10);
}

TEST_F(Commands, SayThatTheyCouldNotBeStarted) {
  const auto outcome = run({{}, {"no-such-program"}});
  EXPECT_EQ(outcome.ending, Ending::NotStarted);
  EXPECT_NE(outcome.what.find("no-such-program"), std::string::npos);
}

TEST_F(Commands, GoThroughNoShell) {
  const auto outcome = run({{}, {"printf", "%s\n", "$HOME; touch ran", "*", "`date`"}});
  EXPECT_EQ(outcome.output, "$HOME; touch ran\n*\n`date`\n");
  EXPECT_FALSE(std::filesystem::exists(folder_ / "ran"));
}

TEST_F(Commands, RunInTheirFolderWithTheirVariables) {
  EXPECT_EQ(run({{{"WORDS", "two words"}}, {"sh", "-c", "echo \"$WORDS\" >made; cat made"}}).output, "two words\n");
  EXPECT_TRUE(std::filesystem::exists(folder_ / "made"));
}

TEST_F(Commands, TakeTheirChildrenWithThem) {
  // The shell ends at once; what it left running would disturb the next pass.
  const auto outcome = script("sleep 60 & echo $!");
  EXPECT_EQ(outcome.ending, Ending::Exited);
  const pid_t child = std::stoi(outcome.output);
  for (int i = 0; i < 100 && ::kill(child, 0) == 0; ++i) ::usleep(20000);
  std::ifstream status("/proc/" + std::to_string(child) + "/stat");
  std::string line;
  std::getline(status, line);
  EXPECT_TRUE(line.empty() || line.find(") Z ") != std::string::npos) << line;  // gone, or waiting to be reaped
}

// A session of its own, a parent that is gone, an environment that is empty: the pass has started it all the same.
TEST_F(Commands, EndWhatHasLeftTheirGroupToo) {
  const auto outcome = script(
      "setsid sleep 4711 >/dev/null 2>&1 & "
      "(setsid env -i sh -c 'sleep 4712 & sleep 4713' >/dev/null 2>&1 &) ; sleep 0.3; echo begun");
  EXPECT_EQ(outcome.output, "begun\n");
  EXPECT_LT(outcome.duration_s, 5);
  for (const char* left : {"4711", "4712", "4713"}) {
    bool is_left = false;
    for (const auto& entry : std::filesystem::directory_iterator("/proc")) {
      const std::string line = support::contents(entry.path().string() + "/cmdline");
      is_left = is_left || line == std::string("sleep") + '\0' + left + '\0';
    }
    EXPECT_FALSE(is_left) << left;
  }
}

// A workload takes signals as it is used to, whatever the program that starts it waits for.
TEST_F(Commands, StartWithNoSignalHeldBack) {
  sigset_t held, before;
  sigemptyset(&held);
  sigaddset(&held, SIGTERM);
  ::pthread_sigmask(SIG_BLOCK, &held, &before);
  const auto outcome = script("grep SigBlk /proc/self/status");
  ::pthread_sigmask(SIG_SETMASK, &before, nullptr);
  EXPECT_EQ(outcome.output, "SigBlk:\t0000000000000000\n");
}

TEST(KeptOutput, CutsNoCharacter) {
  bench::KeptOutput kept;
  const std::string two = "\xC3\xA9";  // 2 bytes, behind an odd first one
  std::string text = "x";
  while (text.size() < 4 * bench::KeptOutput::kHalf) text += two;
  kept.append(text);
  EXPECT_EQ(core::shownText(kept.text()), kept.text());
}

TEST_F(Commands, KeepTheBeginningAndTheEndOfVeryLongOutput) {
  const auto outcome = script("echo first; head -c 3000000 /dev/zero | tr '\\0' x; echo last");
  EXPECT_LT(outcome.output.size(), 4 * bench::KeptOutput::kHalf);
  EXPECT_TRUE(outcome.output.starts_with("first\n"));
  EXPECT_TRUE(outcome.output.ends_with("last\n"));
  EXPECT_NE(outcome.output.find("bytes left out]"), std::string::npos);
}

TEST(KeptOutput, LosesNothingThatFits) {
  bench::KeptOutput kept;
  std::string whole;
  for (int i = 0; i < 1000; ++i) {
    const std::string piece = std::to_string(i) + ",";
    kept.append(piece);
    whole += piece;
  }
  EXPECT_EQ(kept.text(), whole);
}

}  // namespace
