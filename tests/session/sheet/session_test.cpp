#include "session/sheet/session.h"

#include <gtest/gtest.h>

#include <fmt/format.h>

#include <QCoreApplication>
#include <algorithm>

#include "core/judgement/judgement.h"
#include "session/sheet/demo_study.h"
#include "support/forwarding_bench.h"
#include "support/run_session.h"
#include "support/studies.h"
#include "support/test_folder.h"

namespace {

using core::ErrorKind;
using session::Session;
using session::State;

/// Counts what a study starts, and can stand in for a machine that was restarted.
class WatchedBench final : public support::ForwardingBench {
 public:
  [[nodiscard]] core::Result<std::string> readFile(const std::string&) const override { return boot_id; }
  [[nodiscard]] std::unique_ptr<bench::RunningCommand> start(const bench::CommandOrder& order) override {
    started.push_back(core::displayText(order.exact));
    return ForwardingBench::start(order);
  }
  std::string boot_id = "boot-1";
  std::vector<std::string> started;
};

class Sessions : public testing::Test {
 protected:
  std::unique_ptr<Session> open(bool is_approved = true) {
    auto file = store::StudyFile::open(path_);
    EXPECT_TRUE(file.ok()) << file.error().sentence();
    auto session =
        std::make_unique<Session>(*std::move(file), bench_, session::UserFiles::in(folder_ / "user"), "T. Varga");
    if (is_approved) {
      EXPECT_TRUE(session->approve().ok());
    }
    return session;
  }
  std::unique_ptr<Session> sessionFor(const core::Study& study) {
    EXPECT_TRUE(store::StudyFile::create(path_, study).ok());
    return open();
  }
  static void runToEnd(Session& session) {
    const auto started = session.start();
    ASSERT_TRUE(started.ok()) << started.error().sentence();
    ASSERT_TRUE(support::waitUntil([&] { return !session.isRunning(); }));
  }
  static core::Command shell(const std::string& script) {
    return {"sh", "-c", script};
  }  // the test's own workload, as a program with arguments

  support::TestFolder folder_;
  std::string path_ = folder_ / "study.ironlever";
  WatchedBench bench_;
};

// A finding must not mix two programs: what starts next is what was approved, or nothing.
TEST_F(Sessions, StopWhereAProgramIsSwappedWhileTheSheetRuns) {
  const std::string tool = folder_.write("tool",
                                         "#!/bin/sh\ncp other tool.new; mv tool.new tool\n"
                                         "echo '{\"seconds\": 20}'\n");
  folder_.write("other", "#!/bin/sh\necho '{\"seconds\": 1}'\n");
  for (const char* name : {"tool", "other"})
    std::filesystem::permissions(folder_ / name, std::filesystem::perms::owner_all);
  const auto session = sessionFor(support::timedStudyOf({"./tool"}));
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Held);
  ASSERT_TRUE(session->problem());
  EXPECT_EQ(session->problem()->kind, ErrorKind::NotApproved);
  EXPECT_EQ(session->recorded().passes.size(), 1U);
  // Read and approved as it is now, it goes on.
  ASSERT_TRUE(session->approve().ok());
  runToEnd(*session);
  EXPECT_EQ(session->recorded().passes.size(), 4U);
}

TEST_F(Sessions, RunEveryPassOfThePlanInOrder) {
  core::Study study = support::timedStudyOf(shell("echo \"{\\\"seconds\\\": $SECONDS_AT_LEVEL}\""));
  study.variable().levels[0].environment = {{"SECONDS_AT_LEVEL", "20"}};
  study.variable().levels[1].environment = {{"SECONDS_AT_LEVEL", "10"}};
  study.variable().levels[1].set_command = {"true"};
  const auto session = sessionFor(study);
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Finished);
  ASSERT_EQ(session->recorded().passes.size(), 4U);
  EXPECT_EQ(session->recorded().passes[0].value, 20);
  EXPECT_EQ(session->recorded().passes[3].value, 10);
  EXPECT_EQ(session->recorded().visits.size(), 2U);
  EXPECT_EQ(bench_.started.at(2), "true");  // the changed level was set between its visits
}

// A restart brings the one variable about and loses what the other's command had set.
TEST_F(Sessions, RunTheOtherVariablesCommandsAgainAfterARestart) {
  core::Study study = support::timedStudyOf(shell("echo '{\"seconds\": 1}'"), 1);
  study.shape = core::Shape::Crossed;
  study.variables.resize(2);
  study.variables[0].name = "governor";
  study.variables[0].kind = "governor";
  study.variables[0].levels[0] = {"powersave", {}, {}, {}, {"echo", "powersave"}};
  study.variables[0].levels[1] = {"performance", {}, {}, {}, {"echo", "performance"}};
  study.variables[1].name = "memory speed";
  study.variables[1].kind = "memory_speed";
  study.variables[1].levels[0].name = "slow";
  study.variables[1].levels[1].name = "fast";
  study.variables[1].levels[1].set_command = {"sleep", "60"};  // takes the machine down
  const auto times = [&](const std::string& command) {
    return std::count(bench_.started.begin(), bench_.started.end(), command);
  };
  {
    const auto session = sessionFor(study);
    ASSERT_TRUE(session->start().ok());
    ASSERT_TRUE(support::waitUntil([&] { return times("sleep 60") == 1; }));
    session->stop(session::Stop::ForRestart);
    ASSERT_TRUE(support::waitUntil([&] { return !session->isRunning(); }));
  }
  const auto before = times("echo powersave") + times("echo performance");
  bench_.boot_id = "boot-2";
  const auto session = open();
  ASSERT_TRUE(session->resume().ok());
  ASSERT_TRUE(support::waitUntil([&] { return times("echo powersave") + times("echo performance") > before; }));
  EXPECT_EQ(times("sleep 60"), 1) << "the restart brought that about";
  session->stop(session::Stop::Now);
  ASSERT_TRUE(support::waitUntil([&] { return !session->isRunning(); }));
}

// A start that cannot be made leaves the study free for the next one.
TEST_F(Sessions, CanBeStartedAgainAfterAStartThatFailed) {
  const auto session = sessionFor(support::timedStudyOf(shell("echo '{\"seconds\": 1}'"), 1));
  const QByteArray temporary = qgetenv("TMPDIR");
  qputenv("TMPDIR", QByteArray::fromStdString(folder_.write("full", "")));  // no folder can be made there
  const auto started = session->start();
  ASSERT_FALSE(started.ok());
  EXPECT_EQ(started.error().kind, ErrorKind::Io);
  if (temporary.isEmpty())
    qunsetenv("TMPDIR");
  else
    qputenv("TMPDIR", temporary);
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Finished);
}

// The kind brings its measuring along; results are typed, since the bench is elsewhere.
TEST_F(Sessions, MeasureNothingOfABenchThatIsElsewhere) {
  core::Study study = support::timedStudyOf({}, 1);
  study.cases[0].source = core::ResultSource::ByHand;
  study.measure_command = {"true"};
  study.stability_command = {"true"};
  const auto session = sessionFor(study);
  ASSERT_TRUE(session->start().ok());
  ASSERT_TRUE(support::waitUntil([&] { return session->state() == State::AwaitingResult; }));
  EXPECT_TRUE(bench_.started.empty());
  session->stop(session::Stop::Now);
}

TEST_F(Sessions, GoOnAfterAFlipThatRestartedTheMachine) {
  // The command that sets a level takes the machine down, and this program with it.
  core::Study study = support::timedStudyOf(shell("echo '{\"seconds\": 1}'"), 1);
  study.variable().levels[1].set_command = {"sleep", "60"};
  const session::StudyList running(session::UserFiles::in(folder_ / "user").running);
  {
    const auto session = sessionFor(study);
    ASSERT_TRUE(session->start().ok());
    ASSERT_TRUE(support::waitUntil([&] { return bench_.started.size() == 2 && bench_.started[1] == "sleep 60"; }));
    EXPECT_EQ(running.all(), std::vector<std::string>{path_});
    session->stop(session::Stop::ForRestart);  // the system ends its programs
    ASSERT_TRUE(support::waitUntil([&] { return !session->isRunning(); }));
  }
  EXPECT_EQ(running.all(), std::vector<std::string>{path_});
  bench_.boot_id = "boot-2";
  const auto session = open();
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Finished);
  EXPECT_EQ(bench_.started.size(), 3U);  // the other pass; the flip was not done twice
  EXPECT_EQ(session->recorded().visits.back().boot_id, "boot-2");
  EXPECT_TRUE(running.all().empty());
}

TEST_F(Sessions, FlipAgainWhereTheMachineDidNotRestart) {
  core::Study study = support::timedStudyOf(shell("echo '{\"seconds\": 1}'"), 1);
  study.variable().levels[1].set_command = {"sh", "-c", "test -e twice || { touch twice; sleep 60; }"};
  const auto session = sessionFor(study);
  ASSERT_TRUE(session->start().ok());
  ASSERT_TRUE(support::waitUntil([&] { return bench_.started.size() == 2; }));
  ASSERT_TRUE(support::waitUntil([&] { return std::filesystem::exists(folder_ / "twice"); }));
  session->stop(session::Stop::Now);
  ASSERT_TRUE(support::waitUntil([&] { return !session->isRunning(); }));
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Finished);
  EXPECT_EQ(bench_.started.size(), 4U);  // one pass, the flip twice, the other pass
}

TEST_F(Sessions, RetryAsThePlanSaysAndKeepEveryAttempt) {
  core::Study study =
      support::timedStudyOf(shell("test -e second || { touch second; exit 1; }; echo '{\"seconds\": 1}'"));
  study.plan.retries = 1;
  const auto session = sessionFor(study);
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Finished);
  ASSERT_EQ(session->recorded().passes.size(), 5U);
  EXPECT_EQ(session->recorded().passes[0].status, core::PassStatus::Failed);
  EXPECT_EQ(session->recorded().passes[1].attempt, 2);
  EXPECT_EQ(session->recorded().passes[1].slot, 0U);
}

TEST_F(Sessions, HoldTheSheetAfterSeveralFailuresInARow) {
  core::Study study = support::timedStudyOf(shell("echo broken >&2; exit 3"), 5);
  study.plan.most_failures_in_a_row = 3;
  const auto session = sessionFor(study);
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Held);
  EXPECT_EQ(session->recorded().passes.size(), 3U);
  EXPECT_NE(session->problem()->sentence().find("3 passes in a row failed"), std::string::npos);
  runToEnd(*session);  // a person may go on
  EXPECT_EQ(session->recorded().passes.size(), 6U);
}

TEST_F(Sessions, LetTheBenchSettleAndCanBeStoppedMeanwhile) {
  core::Study study = support::timedStudyOf(shell("echo '{\"seconds\": 1}'"), 1);
  study.plan.settle_s = 0.3;
  const auto session = sessionFor(study);
  ASSERT_TRUE(session->start().ok());
  ASSERT_TRUE(support::waitUntil([&] { return session->state() == State::Settling; }));
  EXPECT_GT(session->secondsToRest(), 0);
  session->stop(session::Stop::AfterPass);
  EXPECT_EQ(session->state(), State::Idle);
  runToEnd(*session);
  EXPECT_EQ(session->recorded().passes.size(), 2U);
  const core::Pass& last = session->recorded().passes.back();
  EXPECT_GE(last.started_ms - session->recorded().visits.back().started_ms, 290);
}

TEST_F(Sessions, RunRoundsInTheOrderThatWasDrawn) {
  core::Study study = support::timedStudyOf(shell("echo \"{\\\"seconds\\\": $SECONDS_AT_LEVEL}\""));
  study.variable().levels[0].environment = {{"SECONDS_AT_LEVEL", "20"}};
  study.variable().levels[1].environment = {{"SECONDS_AT_LEVEL", "10"}};
  study.plan.order = core::Order::BalancedShuffle;
  study.plan.rounds = 3;
  study.plan.passes_per_visit = 1;
  study.plan.drawn = core::pairRounds(
      {core::ConfigurationId::Changed, core::ConfigurationId::Baseline, core::ConfigurationId::Baseline});
  const auto session = sessionFor(study);
  runToEnd(*session);
  std::vector<double> values;
  for (const core::Pass& pass : session->recorded().passes) values.push_back(*pass.value);
  EXPECT_EQ(values, (std::vector<double>{10, 20, 20, 10, 20, 10}));
  EXPECT_EQ(open()->study().plan.drawn, study.plan.drawn);  // the order, not the seed, is what counts
}

TEST_F(Sessions, ReadAFrameLog) {
  const auto session = sessionFor(support::studyOf(shell("printf 'frame_ms\\n10\\n30\\n' > \"$0\"")));
  core::Study study = session->study();
  study.cases[0].command.push_back("{log}");
  ASSERT_TRUE(session->replaceStudy(study).ok());
  ASSERT_TRUE(session->approve().ok());
  runToEnd(*session);
  EXPECT_EQ(session->recorded().passes.at(0).value, 50);
  EXPECT_EQ(session->open().file().frames(1)->size(), 2U);
}

TEST_F(Sessions, KeepAFailedPassAndGoOn) {
  const auto run = [&](const std::string& script, const std::string& said) {
    std::filesystem::remove(path_);
    core::Study study = support::timedStudyOf(shell(script));
    study.plan.time_limit_s = 1;
    const auto session = sessionFor(study);
    runToEnd(*session);
    ASSERT_EQ(session->recorded().passes.size(), 4U) << script;
    for (const core::Pass& pass : session->recorded().passes) {
      EXPECT_EQ(pass.status, core::PassStatus::Failed);
      EXPECT_NE(pass.failure.find(said), std::string::npos) << pass.failure;
      EXPECT_NE(pass.failure.find("Ring pass, 4K dome"), std::string::npos) << pass.failure;
    }
  };
  run("echo broken >&2; exit 3", "ended with code 3: broken");
  run("kill -SEGV $$", "crashed (signal 11");
  run("sleep 60", "time limit of 1 s");
}

// A log that never ends, or that is somebody else's file, ends the pass: nobody waits, and nothing else is read.
TEST_F(Sessions, TakeNothingButAPlainFileForALog) {
  for (const char* script : {"mkfifo \"$0\"", "ln -s /dev/zero \"$0\"", "ln -s /etc/hostname \"$0\"", "mkdir \"$0\"",
                             "truncate -s 2G \"$0\""}) {
    std::filesystem::remove(path_);
    const auto session = sessionFor(support::studyOf({"sh", "-c", script, "{log}"}, 1));
    runToEnd(*session);
    ASSERT_EQ(session->recorded().passes.size(), 2U) << script;
    EXPECT_EQ(session->recorded().passes[0].status, core::PassStatus::Failed) << script;
    EXPECT_NE(session->recorded().passes[0].failure.find("frame log"), std::string::npos)
        << session->recorded().passes[0].failure;
  }
}

TEST_F(Sessions, SayWhatIsWrongWithAResult) {
  const auto failureOf = [&](core::Study study) {
    std::filesystem::remove(path_);
    study.plan.passes_per_level = 1;
    const auto session = sessionFor(study);
    runToEnd(*session);
    return session->recorded().passes.at(0).failure;
  };
  EXPECT_NE(failureOf(support::timedStudyOf(shell("echo '{\"time\": 1}'"))).find("no field 'seconds'"),
            std::string::npos);
  core::Study logged = support::studyOf({"sh", "-c", "printf 'frame_ms\\n16\\n-1\\n' > \"$0\"", "{log}"});
  EXPECT_NE(failureOf(logged).find("frame log, line 3"), std::string::npos);
  logged.cases[0].command[2] = ": > \"$0\"";
  EXPECT_NE(failureOf(logged).find("the log is empty"), std::string::npos);
  logged.cases[0].command[2] = "true";
  EXPECT_NE(failureOf(logged).find("wrote no frame log"), std::string::npos);
}

TEST_F(Sessions, StartNothingThatIsNotApproved) {
  ASSERT_TRUE(store::StudyFile::create(path_, support::timedStudyOf(shell("touch " + (folder_ / "ran")))).ok());
  const auto session = open(false);
  EXPECT_EQ(session->start().error().kind, ErrorKind::NotApproved);
  EXPECT_TRUE(bench_.started.empty());
  EXPECT_FALSE(std::filesystem::exists(folder_ / "ran"));
}

TEST_F(Sessions, AskAgainWhenACommandChanges) {
  const auto session = sessionFor(support::timedStudyOf(shell("true")));
  EXPECT_TRUE(session->machine().unapprovedActs().empty());
  core::Study study = session->study();
  study.variable().levels[1].environment = {{"LD_PRELOAD", "elsewhere.so"}};
  ASSERT_TRUE(session->replaceStudy(study).ok());
  EXPECT_EQ(session->machine().unapprovedActs().size(), 1U);
}

TEST_F(Sessions, NameAProgramThatIsMissingBeforeAnythingRuns) {
  core::Study study = support::timedStudyOf({"no-such-workload"});
  study.variable().levels[0].prefix = {"env"};  // behind a prefix the program is not the first word
  study.variable().levels[1].prefix = {"env"};
  const auto started = sessionFor(study)->start();
  EXPECT_EQ(started.error().kind, ErrorKind::Missing);
  EXPECT_EQ(started.error().where, "no-such-workload");
  EXPECT_TRUE(bench_.started.empty());
}

TEST_F(Sessions, StopAndGoOnWhereTheyStood) {
  const auto session = sessionFor(support::timedStudyOf(shell("echo '{\"seconds\": 1}'"), 3));
  QObject::connect(session.get(), &Session::passFiled, session.get(), [&] {
    if (session->recorded().passes.size() == 2) session->stop(session::Stop::AfterPass);
  });
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Idle);
  EXPECT_EQ(session->recorded().passes.size(), 2U);
  const auto again = open();
  runToEnd(*again);
  EXPECT_EQ(again->recorded().passes.size(), 6U);
  EXPECT_EQ(again->recorded().visits.size(), 2U);  // the visit was gone on with
}

TEST_F(Sessions, BeginAnotherVisitAfterARestart) {
  const auto session = sessionFor(support::timedStudyOf(shell("echo '{\"seconds\": 1}'"), 3));
  QObject::connect(session.get(), &Session::passFiled, session.get(), [&] { session->stop(session::Stop::AfterPass); });
  runToEnd(*session);
  bench_.boot_id = "boot-2";
  const auto again = open();
  runToEnd(*again);
  ASSERT_EQ(again->recorded().visits.size(), 3U);
  EXPECT_EQ(again->recorded().visits[1].planned, 1);
  EXPECT_EQ(again->recorded().visits[1].boot_id, "boot-2");
}

TEST_F(Sessions, DoNotRecordAPassThatAPersonStopped) {
  const auto session = sessionFor(support::timedStudyOf(shell("sleep 30")));
  ASSERT_TRUE(session->start().ok());
  ASSERT_TRUE(support::waitUntil([&] { return session->pass().secondsInPass() > 0.05; }));
  session->stop(session::Stop::Now);
  ASSERT_TRUE(support::waitUntil([&] { return !session->isRunning(); }, 5000));
  EXPECT_TRUE(session->recorded().passes.empty());
}

TEST_F(Sessions, StopACommandThatIsStillComingUp) {
  // The stop arrives at every moment between the order and the running process.
  for (int turns = 0; turns < 8; ++turns) {
    const auto command = bench_.start({{{}, shell("sleep 30")}, folder_.path(), 60});
    std::optional<bench::Ending> ending;
    QObject::connect(command.get(), &bench::RunningCommand::finished, command.get(),
                     [&](const bench::CommandOutcome& outcome) { ending = outcome.ending; });
    for (int i = 0; i < turns; ++i) QCoreApplication::processEvents();
    command->stop();
    ASSERT_TRUE(support::waitUntil([&] { return ending.has_value(); }, 5000))
        << "after " << turns << " turns of the loop";
    EXPECT_EQ(*ending, bench::Ending::Stopped);
  }
}

TEST_F(Sessions, AreHeldWhenALevelCannotBeSet) {
  core::Study study = support::timedStudyOf(shell("echo '{\"seconds\": 1}'"));
  study.variable().levels[0].set_command = shell("echo no such profile >&2; exit 4");
  const auto session = sessionFor(study);
  runToEnd(*session);
  ASSERT_EQ(session->state(), State::Held);
  EXPECT_NE(session->problem()->sentence().find(
                "setting memory speed to 4800 MT/s: the program ended with code 4: no such profile"),
            std::string::npos);
  EXPECT_TRUE(session->recorded().passes.empty());
}

TEST_F(Sessions, GiveFailedPassesOneMoreAttempt) {
  const auto session = sessionFor(support::timedStudyOf(shell("test -e again && echo '{\"seconds\": 1}'")));
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Finished);
  folder_.write("again", "");
  ASSERT_TRUE(session->decisions().repeatFailed().ok());
  runToEnd(*session);
  ASSERT_EQ(session->recorded().passes.size(), 8U);  // failures stay on record
  EXPECT_EQ(session->recorded().passes.back().attempt, 2);
  EXPECT_EQ(session->recorded().passes.back().status, core::PassStatus::Finished);
}

TEST_F(Sessions, LetNobodyElseRunTheSameStudy) {
  const auto session = sessionFor(support::timedStudyOf(shell("sleep 5")));
  ASSERT_TRUE(session->start().ok());
  const core::Status refused = open()->start();
  EXPECT_EQ(refused.error().kind, ErrorKind::Busy);
  EXPECT_NE(refused.error().what.find(": T. Varga, process " + std::to_string(::getpid())), std::string::npos)
      << "and says who it is: " << refused.error().what;
  session->stop(session::Stop::Now);
  ASSERT_TRUE(support::waitUntil([&] { return !session->isRunning(); }, 5000));
  EXPECT_FALSE(std::filesystem::exists(path_ + ".lock"));
}

// A link, or a second name, is no second study; and two studies do not run on one bench at once.
TEST_F(Sessions, LetNobodyElseRunItByAnotherName) {
  const auto session = sessionFor(support::timedStudyOf(shell("sleep 5")));
  ASSERT_TRUE(session->start().ok());
  std::filesystem::create_symlink(path_, folder_ / "link.ironlever");
  std::filesystem::create_hard_link(path_, folder_ / "second.ironlever");
  const auto opened = [&](const std::string& name, const std::string& user = "user") {
    auto other = std::make_unique<Session>(*store::StudyFile::open(folder_ / name), bench_,
                                           session::UserFiles::in(folder_ / user), "Ada");
    EXPECT_TRUE(other->approve().ok());
    return other;
  };
  for (const char* name : {"link.ironlever", "second.ironlever"}) {
    const core::Status refused = opened(name)->start();
    ASSERT_FALSE(refused.ok()) << name;
    EXPECT_EQ(refused.error().kind, ErrorKind::Busy) << refused.error().sentence();
    EXPECT_FALSE(std::filesystem::exists(folder_ / (std::string(name) + ".lock")));
  }
  ASSERT_TRUE(store::StudyFile::create(folder_ / "another.ironlever", support::timedStudyOf(shell("true"))).ok());
  EXPECT_EQ(opened("another.ironlever")->start().error().what, "another study's sheet runs on this bench");
  session->stop(session::Stop::Now);
  ASSERT_TRUE(support::waitUntil([&] { return !session->isRunning(); }, 5000));
  EXPECT_TRUE(opened("another.ironlever")->start().ok());
}

TEST_F(Sessions, AcceptADoubtWithAReasonOnly) {
  const auto session = sessionFor(support::timedStudyOf(shell("true")));
  EXPECT_EQ(session->decisions().acceptDoubt("drift", "  ").error().kind, ErrorKind::OutOfRange);
  ASSERT_TRUE(session->decisions().acceptDoubt("drift", "cooled room").ok());
  EXPECT_EQ(std::get<core::DoubtAccepted>(open()->recorded().events.back().act).reason, "cooled room");
}

TEST_F(Sessions, FindOutWhatMovedWithTheVariable) {
  // The machine is a tree; setting a level puts another one in its place, and there the memory has fallen back too.
  const std::string trees = std::string(IRON_LEVER_FIXTURES) + "/dome-node/";
  core::Study study =
      support::timedStudyOf(shell("test -e asleep || sleep 1.8; touch asleep; echo '{\"seconds\": 1}'"));
  study.variable().kind = "pcie_generation";
  study.machine = "machine";
  for (std::size_t i = 0; i < 2; ++i)
    study.variable().levels[i].set_command =
        shell("rm -rf machine && cp -a '" + trees + (i == 0 ? "gen4" : "gen3") + "' machine");
  const auto session = sessionFor(study);
  runToEnd(*session);
  const store::Recorded& recorded = session->recorded();
  std::vector<core::CaptureMoment> moments;
  for (const core::VisitCapture& one : recorded.captures) moments.push_back(one.moment);
  using enum core::CaptureMoment;
  EXPECT_EQ(moments, (std::vector{Start, UnderLoad, End, Start, End}));  // only the first pass was long enough
  const auto judged = core::judgementOf(study, store::recordOf(recorded));
  EXPECT_EQ(judged.proof.levels->moved, core::Moved::Yes);
  EXPECT_EQ(judged.doubts.front().sentence,
            "Between the levels also changed: memory configured speed dropped from 6000 to 4800 MT/s on both modules");
  EXPECT_EQ(open()->recorded().captures.size(), 5U);  // and it is all in the file
}

TEST(Demo, BeginsWithAPairThatSaysSomethingAtFirstSight) {
  const support::TestFolder folder;
  bench::LocalBench bench;
  auto demo = session::openDemo(folder.path(), bench);
  ASSERT_TRUE(demo.ok()) << demo.error().sentence();
  ASSERT_TRUE((*demo)->start().ok());
  ASSERT_TRUE(support::waitUntil([&] { return !(*demo)->isRunning(); }));
  const core::Judgement judged = core::judgementOf((*demo)->study(), store::recordOf((*demo)->recorded()));
  EXPECT_EQ(judged.proof.verdict, core::ProofVerdict::MovedAsDeclared);
  EXPECT_TRUE(judged.findings.done.is_first_done);
  EXPECT_EQ(judged.findings.retired_passes, 0);
  for (const core::Doubt& doubt : judged.doubts) EXPECT_NE(doubt.rank, core::DoubtRank::Stop) << doubt.sentence;
  EXPECT_TRUE(judged.claim.sentence().ends_with(": gain")) << judged.claim.sentence();
  // An afternoon at the bench, by its own clock: passes of a minute, minutes between the visits.
  const std::vector<core::Pass>& passes = (*demo)->recorded().passes;
  const QDateTime first = QDateTime::fromMSecsSinceEpoch(passes.front().started_ms);
  EXPECT_EQ(first.date(), QDate::currentDate().addDays(-1));
  EXPECT_EQ(first.time().hour(), 13);
  const double hours = static_cast<double>(passes.back().started_ms - passes.front().started_ms) / 3.6e6;
  EXPECT_GT(hours, 2);
  EXPECT_LT(hours, 5);
  for (std::size_t i = 1; i < passes.size(); ++i) {
    const double gap_s = static_cast<double>(passes[i].started_ms - passes[i - 1].started_ms) / 1000;
    EXPECT_GE(gap_s, passes[i - 1].duration_s - 0.01);
    EXPECT_GT(gap_s, passes[i].visit_id == passes[i - 1].visit_id ? 5 : 200);
  }
  for (const core::VisitCapture& one : (*demo)->recorded().captures)
    EXPECT_LT(std::abs(one.capture.taken_ms - passes.front().started_ms), 5 * 3'600'000);
}

TEST(Demo, IsProducedByTheSimulatedBenchAndTellsItsStory) {
  const support::TestFolder folder;
  bench::LocalBench bench;
  auto demo = session::openDemo(folder.path(), bench, "memory-accident");
  ASSERT_TRUE(demo.ok()) << demo.error().sentence();
  ASSERT_TRUE((*demo)->start().ok());
  ASSERT_TRUE(support::waitUntil([&] { return !(*demo)->isRunning(); }));
  const auto judge = [&] { return core::judgementOf((*demo)->study(), store::recordOf((*demo)->recorded())); };
  // One restart left the graphics link at half width: its visit is left out until somebody takes it upon themselves.
  const core::Judgement before = judge();
  ASSERT_FALSE(before.doubts.empty());
  EXPECT_EQ(before.doubts.front().rank, core::DoubtRank::Stop);
  EXPECT_EQ(before.doubts.front().sentence,
            "Visit 3 differs from its level's other visits: link width of 0000:00:01.0 dropped from 16 to 8 lanes at "
            "both ends");
  EXPECT_EQ(before.findings.retired_passes, 35);
  EXPECT_TRUE(before.claim.sentence().ends_with("… not yet a single-variable comparison"));
  EXPECT_EQ(before.proof.verdict, core::ProofVerdict::MovedAsDeclared);
  ASSERT_TRUE(before.proof.decidingStep());
  EXPECT_EQ(before.proof.decidingStep()->agreement, core::Agreement::Agrees);  // it yields a quarter more, as it should
  EXPECT_EQ((*demo)->recorded().measurements.size(), 8U);                      // before and after each of four visits
  ASSERT_TRUE((*demo)->decisions().acceptDoubt(before.doubts.front().id, "no case here waits for the link").ok());
  const core::Judgement after = judge();
  const core::Findings& findings = after.findings;
  EXPECT_TRUE(findings.done.is_first_done);
  EXPECT_EQ(findings.retired_passes, 0);
  EXPECT_TRUE(after.claim.sentence().ends_with(": gain")) << after.claim.sentence();
  const auto verdictOf = [&](const std::string& title) {
    for (const core::CaseFinding& finding : findings.cases)
      if (finding.title == title) return finding.verdict;
    ADD_FAILURE() << "no case " << title;
    return core::Verdict::NotSettled;
  };
  EXPECT_EQ(verdictOf("Nebula volume, 8K dome"), core::Verdict::Gain);
  EXPECT_EQ(verdictOf("Comet close-up, 4K dome"),
            core::Verdict::NoDifferenceThatMatters);                              // the graphics board is its limit
  EXPECT_EQ(verdictOf("Star sweep, 2K dome"), core::Verdict::RealButNegligible);  // loses a little
  EXPECT_EQ(verdictOf("Aurora field, 2K dome"), core::Verdict::NoDifferenceThatMatters);  // but its lows move
  EXPECT_TRUE(std::any_of(after.doubts.begin(), after.doubts.end(),
                          [](const auto& doubt) { return doubt.id == "lows_disagree/Aurora field, 2K dome"; }));
}

// A restart may have lost any of them: at each visit every variable is set, in the order of the variables.
TEST_F(Sessions, SetEveryVariableOfACrossingAtEachVisit) {
  core::Study study = support::crossedOf(3);
  study.cases[0].command = {"echo", "{\"seconds\": 1}"};
  study.cases[0].source = core::ResultSource::JsonField;
  study.cases[0].field = "seconds";
  study.cases[0].metric = {"render time", "s", core::Direction::LowerIsBetter};
  study.plan.passes_per_visit = 1;
  for (core::Variable& variable : study.variables)
    for (core::Level& level : variable.levels) {
      level.set_command = {"echo", variable.name, "=", level.name};
      level.environment = {{variable.name == "graphics link" ? "LINK" : "FEATURE", level.name}};
    }
  ASSERT_TRUE(store::StudyFile::create(path_, study).ok());
  const auto session = open();
  ASSERT_TRUE(session->start().ok());
  ASSERT_TRUE(support::waitUntil([&] { return !session->isRunning(); }));
  EXPECT_EQ(session->state(), State::Finished);
  ASSERT_EQ(bench_.started.size(), 3U * 12U);  // two settings and a pass, at each of twelve visits
  for (std::size_t visit = 0; visit < 12; ++visit) {
    const core::ConfigurationId at = session->recorded().visits[visit].configuration;
    const auto levels = study.levelsAt(at);
    const std::string link = study.variables[0].levels[levels[0]].name;
    const std::string feature = study.variables[1].levels[levels[1]].name;
    EXPECT_EQ(bench_.started[3 * visit], fmt::format("echo \"graphics link\" = \"{}\"", link));
    EXPECT_EQ(bench_.started[3 * visit + 1], fmt::format("echo \"large aperture\" = {}", feature));
    EXPECT_TRUE(bench_.started[3 * visit + 2].find(fmt::format("FEATURE={}", feature)) != std::string::npos);
  }
}

// One that fails holds the sheet: half a configuration is none.
TEST_F(Sessions, HoldTheSheetWhereOneOfSeveralVariablesCannotBeSet) {
  core::Study study = support::crossedOf(3);
  study.cases[0].command = {"true", "{log}"};
  for (core::Level& level : study.variables[0].levels) level.set_command = {"true"};
  for (core::Level& level : study.variables[1].levels) level.set_command = {"false"};
  ASSERT_TRUE(store::StudyFile::create(path_, study).ok());
  const auto session = open();
  ASSERT_TRUE(session->start().ok());
  ASSERT_TRUE(support::waitUntil([&] { return !session->isRunning(); }));
  EXPECT_EQ(session->state(), State::Held);
  EXPECT_TRUE(session->recorded().visits.empty());
  EXPECT_TRUE(session->problem()->sentence().find("setting Gen") != std::string::npos)
      << session->problem()->sentence();
}

}  // namespace
