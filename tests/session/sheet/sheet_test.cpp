// The sheet's cards: settling, testing, playing, limits, and what a person may change of the plan.
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <fstream>
#include <iterator>
#include <sstream>

#include "bench/local_bench.h"
#include "core/judgement/judgement.h"
#include "core/record/looks.h"
#include "core/study/exclusion.h"
#include "core/study/schedule.h"
#include "session/sheet/session.h"
#include "session/study/planning_basis.h"
#include "session/user/second_folders.h"
#include "support/run_session.h"
#include "support/studies.h"
#include "support/test_folder.h"

namespace {

using core::ConfigurationId;
using core::ErrorKind;
using session::PlayedStretch;
using session::Session;
using session::State;

std::string noteOf(const store::Event& event) {
  const auto* note = std::get_if<core::NoteMade>(&event.act);
  return note != nullptr ? note->text : "no note";
}

/// A study on a folder that stands for a bench with one sensor and one fan.
class Sheets : public testing::Test {
 protected:
  Sheets() {
    sensor("temp1_input", "45000\n");
    sensor("temp1_crit", "95000\n");
    sensor("fan1_input", "1200\n");
    sensor("name", "chip\n");
    put("/proc/sys/kernel/random/boot_id", "boot-1\n");
  }
  void put(const std::string& path, const std::string& text) const {
    const std::filesystem::path full = (folder_ / "machine") + path;
    std::filesystem::create_directories(full.parent_path());
    std::ofstream(full) << text;
  }
  void sensor(const std::string& file, const std::string& text) const { put("/sys/class/hwmon/hwmon0/" + file, text); }
  [[nodiscard]] static core::Study study(const std::string& script = "echo '{\"seconds\": 1}'", int passes = 1) {
    core::Study study = support::timedStudyOf({"sh", "-c", script}, passes);
    study.machine = "machine";
    return study;
  }
  [[nodiscard]] static core::Study rounds(const std::string& script = "echo '{\"seconds\": 1}'") {
    core::Study one = study(script);
    one.plan.order = core::Order::BalancedShuffle;
    one.plan.rounds = 3;
    one.plan.passes_per_visit = 1;
    one.plan.drawn = core::pairRounds({ConfigurationId::Baseline, ConfigurationId::Changed, ConfigurationId::Baseline});
    one.plan.is_sealed = true;
    return one;
  }
  // The flip is performed, and the level stays.
  [[nodiscard]] static core::Study nullStudy(const std::string& script) {
    core::Study one = rounds(script);
    one.is_null = true;
    one.plan.passes_per_visit = 2;
    one.plan.is_sealed = false;
    return one;
  }
  // The changed level gets too hot. `back` brings the baseline about, as often as it is wanted.
  core::Study tooHot(const std::vector<std::string>& back) {
    core::Study hot = study(
        "test -e hot && echo 97000 > machine/sys/class/hwmon/hwmon0/temp1_input; test -e hot && sleep 30; "
        "echo '{\"seconds\": 1}'");
    hot.variable().levels[0].set_command = back;
    hot.variable().levels[1].set_command = {"touch", "hot"};
    return hot;
  }
  std::unique_ptr<Session> open() {
    auto file = store::StudyFile::open(path_);
    EXPECT_TRUE(file.ok()) << file.error().sentence();
    auto session = std::make_unique<Session>(*std::move(file), bench_, files_, "T. Varga");
    EXPECT_TRUE(session->approve().ok());
    return session;
  }
  std::unique_ptr<Session> sessionFor(const core::Study& study) {
    EXPECT_TRUE(store::StudyFile::create(path_, study).ok());
    return open();
  }
  static void start(Session& session) {
    const auto started = session.start();
    ASSERT_TRUE(started.ok()) << started.error().sentence();
  }
  static void runToEnd(Session& session) {
    start(session);
    ASSERT_TRUE(support::waitUntil([&] { return !session.isRunning(); }));
  }
  static core::Judgement judged(const Session& session) {
    return core::judgementOf(session.study(), store::recordOf(session.recorded()));
  }
  static const core::Doubt* doubt(const core::Judgement& judgement, const std::string& id) {
    for (const core::Doubt& one : judgement.doubts)
      if (one.id == id) return &one;
    return nullptr;
  }

  support::TestFolder folder_;
  std::string path_ = folder_ / "study.ironlever";
  session::UserFiles files_ = session::UserFiles::in(folder_ / "user");
  bench::LocalBench bench_;
};

TEST_F(Sheets, StopAtOnceWhereAPartGetsTooHotAndGoBackToTheBaseline) {
  const auto session = sessionFor(tooHot({"rm", "-f", "hot"}));
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Held);
  EXPECT_NE(session->problem()->what.find("is at 97 °C, its maker's critical temperature is 95 °C"), std::string::npos)
      << session->problem()->sentence();
  EXPECT_FALSE(std::filesystem::exists(folder_ / "hot"));  // back at the baseline
  ASSERT_EQ(session->recorded().passes.size(), 2U);        // the pass that was stopped is on record, as failed
  EXPECT_EQ(session->recorded().passes[1].status, core::PassStatus::Failed);
  EXPECT_LT(session->recorded().passes[1].duration_s, 10);
  EXPECT_EQ(session->recorded().passes[1].samples.at(1).highest, 97);
}

// Asked to end, it still has a result to show.
TEST_F(Sheets, KeepNoResultOfAPassThatALimitEnded) {
  core::Study study = tooHot({"rm", "-f", "hot"});
  study.cases[0].command[2] =
      "trap \"echo '{\\\"seconds\\\": 1}'; exit 0\" TERM; "
      "if test -e hot; then echo 97000 > machine/sys/class/hwmon/hwmon0/temp1_input; sleep 30 & wait; fi; "
      "echo '{\"seconds\": 1}'";
  const auto session = sessionFor(study);
  runToEnd(*session);
  ASSERT_EQ(session->recorded().passes.size(), 2U);
  const core::Pass& stopped = session->recorded().passes[1];
  EXPECT_EQ(stopped.status, core::PassStatus::Failed);
  EXPECT_FALSE(stopped.value);
  EXPECT_NE(stopped.failure.find("its maker's critical temperature"), std::string::npos) << stopped.failure;
  EXPECT_TRUE(session->recorded().passes[0].failure.empty());
}

TEST_F(Sheets, SayWhereTheBenchCouldNotGoBackFromALimit) {
  // Works before it is hot, not afterwards.
  const auto session = sessionFor(tooHot({"test", "!", "-e", "hot"}));
  runToEnd(*session);
  ASSERT_EQ(session->state(), State::Held);
  const std::string said = session->problem()->sentence();
  EXPECT_NE(said.find("its maker's critical temperature is 95 °C"), std::string::npos) << said;
  EXPECT_NE(said.find("The bench is not back at the baseline: "), std::string::npos) << said;
}

TEST_F(Sheets, SayThatAPersonKeptTheBenchFromGoingBackFromALimit) {
  const auto session = sessionFor(tooHot({"sh", "-c", "test -e hot || exit 0; touch going-back; sleep 30"}));
  start(*session);
  ASSERT_TRUE(support::waitUntil([&] { return std::filesystem::exists(folder_ / "going-back"); }));
  session->stop(session::Stop::Now);
  ASSERT_TRUE(support::waitUntil([&] { return !session->isRunning(); }));
  EXPECT_EQ(session->state(), State::Held);
  EXPECT_FALSE(session->isStopping());
  const std::string said = session->problem()->sentence();
  EXPECT_NE(said.find("its maker's critical temperature is 95 °C"), std::string::npos) << said;
  EXPECT_NE(said.find("The bench is not back at the baseline: it was stopped on the way"), std::string::npos) << said;
}

TEST_F(Sheets, StopWhereAFanStandsStillOnAHotPart) {
  sensor("temp1_input", "90000\n");
  const auto session = sessionFor(study("sleep 2; echo 0 > machine/sys/class/hwmon/hwmon0/fan1_input; sleep 30"));
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Held);
  EXPECT_NE(session->problem()->what.find("stands still"), std::string::npos);
}

// A header without a fan reads 0 for good, and an input that nothing is wired to reads anything.
TEST_F(Sheets, AreNotStoppedByAFanThatNeverTurned) {
  sensor("temp1_input", "90000\n");
  sensor("fan1_input", "0\n");
  const auto session = sessionFor(study("sleep 1.5; echo '{\"seconds\": 1}'"));
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Finished);
}

TEST_F(Sheets, KeepWhatWasSampledInThePass) {
  const auto session = sessionFor(study("sleep 2.3; echo '{\"seconds\": 1}'"));
  start(*session);
  ASSERT_TRUE(support::waitUntil([&] { return session->pass().samples() && !session->pass().samples()->empty(); }));
  ASSERT_TRUE(support::waitUntil([&] { return !session->recorded().passes.empty(); }));
  session->stop(session::Stop::Now);
  auto file = store::StudyFile::open(path_);
  const auto samples = file->samples(1);
  ASSERT_TRUE(samples.ok());
  ASSERT_EQ(samples->at_s.size(), 2U);  // one a second
  EXPECT_NEAR(samples->at_s[0], 1, 0.5);
  EXPECT_EQ(samples->channels.at(0).name, "chip fan1");
  EXPECT_EQ(samples->channels.at(1).values, (std::vector<double>{45, 45}));
  EXPECT_EQ(samples->channels.at(1).critical, 95);
  EXPECT_EQ(samples->channels.back().role, core::ChannelRole::Cost);
  EXPECT_EQ(file->recorded()->passes.at(0).samples, session->recorded().passes.at(0).samples);
}

TEST_F(Sheets, SettleUntilTheHottestPartIsCool) {
  sensor("temp1_input", "70000\n");
  core::Study one = study();
  one.plan.settle_to_c = 50;
  const auto session = sessionFor(one);
  start(*session);
  ASSERT_TRUE(support::waitUntil([&] { return session->state() == State::Settling; }));
  EXPECT_FALSE(support::waitUntil([&] { return session->state() != State::Settling; }, 1500));
  sensor("temp1_input", "49000\n");
  ASSERT_TRUE(support::waitUntil([&] { return session->state() == State::Finished; }));
}

TEST_F(Sheets, SaySoWhereTheBenchDoesNotCoolDown) {
  sensor("temp1_input", "70000\n");
  core::Study one = study();
  one.plan.settle_to_c = 50;
  one.plan.most_settle_s = 0.2;
  const auto session = sessionFor(one);
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Finished);
  EXPECT_EQ(noteOf(session->recorded().events.at(0)).find("Settling: the bench did not cool to 50 °C"), 0U);
}

TEST_F(Sheets, WaitForOtherProgramsToKeepStillAndSayWhenTheyDoNot) {
  put("/proc/stat", "cpu 0 0 0 0 0 0 0 0\ncpu0 0 0 0 0 0 0 0 0\n");
  core::Study one = study();
  one.plan.quiet_wait_s = 1;
  const auto session = sessionFor(one);
  start(*session);
  ASSERT_TRUE(support::waitUntil([&] { return session->state() == State::AwaitingQuiet; }));
  put("/proc/stat", "cpu 90 0 0 10 0 0 0 0\ncpu0 90 0 0 10 0 0 0 0\n");  // 90 % of a core
  ASSERT_TRUE(support::waitUntil([&] { return !session->recorded().events.empty(); }, 5000));
  EXPECT_EQ(noteOf(session->recorded().events.at(0)), "Before a pass: other programs did not keep still in 1 s");
  session->stop(session::Stop::Now);
}

TEST_F(Sheets, TestALevelOnceAndGoOnWithoutOneThatMakesErrors) {
  core::Study one = study("echo '{\"seconds\": 1}'", 2);
  one.variable().kind = "memory_speed";
  one.variable().levels[0].prefix = {"env", "LEVEL=good"};
  one.variable().levels[1].prefix = {"env", "LEVEL=bad"};
  one.stability_command = {"sh", "-c",
                           "echo $LEVEL >> tested; test $LEVEL = good || { echo 3 wrong words >&2; exit 1; }"};
  const auto session = sessionFor(one);
  runToEnd(*session);  // asks for the first level: memory is not set by a variable of the environment
  EXPECT_EQ(session->state(), State::Idle);
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Idle);
  put("/proc/sys/kernel/random/boot_id", "boot-2\n");
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Finished);
  EXPECT_EQ(support::contents(folder_ / "tested"), "good\nbad\n");
  const auto judgement = judged(*session);
  ASSERT_EQ(judgement.unreachable.size(), 1U);
  EXPECT_EQ(judgement.unreachable[0].configuration, ConfigurationId::Changed);
  EXPECT_NE(judgement.unreachable[0].reason.find("3 wrong words"), std::string::npos);
  EXPECT_EQ(doubt(judgement, "untested/baseline"), nullptr);
  EXPECT_EQ(doubt(judgement, "untested/changed"), nullptr) << "its own test found errors";
  ASSERT_TRUE(session->decisions().stateStable(ConfigurationId::Changed, "four hours off-line, no error").ok());
  runToEnd(*session);  // what was tested elsewhere counts
  EXPECT_EQ(session->state(), State::Finished);
}

TEST_F(Sheets, CountTheFramesOfTheStretchThatWasPlayed) {
  // A workload that writes its log as it goes, each frame as long as it took: no less than 40 ms until the marker is
  // there, then little more than 2 ms, unless the machine is busy.
  folder_.write("played.py",
                "import os, signal, sys, time\n"
                "signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))\n"
                "log = open(sys.argv[1], 'w', buffering=1)\n"
                "log.write('frame_ms\\n')\n"
                "before = time.monotonic()\n"
                "while True:\n"
                "  is_after = os.path.exists('there')\n"
                "  time.sleep(0.002 if is_after else 0.04)\n"
                "  now = time.monotonic()\n"
                "  log.write(f'{1000 * (now - before):.4f}\\n')\n"
                "  if is_after:\n"
                "    with open('after', 'a') as after: after.write(f'{1000 * (now - before):.4f}\\n')\n"
                "  before = now\n");
  core::Study played = study();
  core::Case& a_case = played.cases[0];
  a_case = support::studyOf({"python3", "played.py", "{log}"}).cases[0];
  a_case.is_played = true;
  a_case.route = "once around the rings";
  a_case.played_s = 1;
  const auto session = sessionFor(played);
  start(*session);
  ASSERT_TRUE(support::waitUntil([&] { return session->state() == State::AwaitingPlayer; }));
  EXPECT_EQ(session->pass().beginStretch().error().kind, ErrorKind::NotAllowed);  // nothing runs yet
  ASSERT_TRUE(session->startPlaying().ok());
  ASSERT_TRUE(support::waitUntil([&] { return session->pass().stretch() && session->pass().secondsInPass() > 0.5; }));
  ASSERT_TRUE(session->pass().beginStretch().ok());
  std::ofstream(folder_ / "there") << "";
  EXPECT_EQ(session->pass().stretch()->phase(session->pass().secondsInPass()), PlayedStretch::Phase::LeadIn);
  ASSERT_TRUE(support::waitUntil([&] { return !session->recorded().passes.empty(); }, 15000));
  const core::Pass& pass = session->recorded().passes[0];
  ASSERT_EQ(pass.status, core::PassStatus::Finished) << pass.failure;
  // Only frames of the stretch, each as it was logged and none left out between them.
  std::istringstream logged(support::contents(folder_ / "after"));
  const std::vector<double> after{std::istream_iterator<double>(logged), {}};
  auto file = store::StudyFile::open(path_);
  const auto counted = file->frames(pass.id);
  ASSERT_TRUE(counted.ok());
  EXPECT_EQ(counted->size(), pass.frames->frames);
  const auto is_alike = [](double a, double b) { return std::abs(a - b) < 1e-6; };
  EXPECT_NE(std::search(after.begin(), after.end(), counted->begin(), counted->end(), is_alike), after.end());
  EXPECT_GT(counted->size(), 20U);
  EXPECT_NEAR(static_cast<double>(pass.frames->frames) / *pass.value, a_case.played_s, 0.1);
  // How it felt is asked before the next one; the sheet waits for its player again.
  EXPECT_EQ(session->pass().passToFeel(), pass.id);
  EXPECT_EQ(session->decisions().feel(pass.id, "grand").error().kind, ErrorKind::OutOfRange);
  ASSERT_TRUE(session->decisions().feel(pass.id, "hitches").ok());
  EXPECT_EQ(session->pass().passToFeel(), std::nullopt);
  ASSERT_TRUE(support::waitUntil([&] { return session->state() == State::AwaitingPlayer; }));
  session->stop(session::Stop::AfterPass);
  EXPECT_EQ(session->state(), State::Idle);
  EXPECT_EQ(store::recordOf(open()->recorded()).felt.at(0).word, "hitches");
}

TEST_F(Sheets, KeepAPassThatWasNotPlayedToItsEndAsFailed) {
  core::Study played = study("echo '{\"seconds\": 1}'");
  played.cases[0].is_played = true;
  played.cases[0].route = "once around";
  const auto session = sessionFor(played);
  start(*session);
  ASSERT_TRUE(support::waitUntil([&] { return session->state() == State::AwaitingPlayer; }));
  ASSERT_TRUE(session->startPlaying().ok());
  ASSERT_TRUE(support::waitUntil([&] { return !session->recorded().passes.empty(); }));
  EXPECT_NE(session->recorded().passes[0].failure.find("before the counted stretch"), std::string::npos);
  session->stop(session::Stop::Now);
}

TEST(PlayedStretches, EndEarlyOnlyWhileTheyAreCounted) {
  PlayedStretch stretch;
  stretch.end(1);
  EXPECT_EQ(stretch.phase(1), PlayedStretch::Phase::Waiting);
  stretch.ready(2, 3, 10);
  stretch.ready(4, 0, 1);  // said twice: the first counts
  stretch.end(4.9);        // still the lead-in
  EXPECT_EQ(stretch.phase(4.9), PlayedStretch::Phase::LeadIn);
  EXPECT_DOUBLE_EQ(stretch.secondsLeft(4), 1);
  EXPECT_EQ(stretch.phase(5), PlayedStretch::Phase::Counting);
  EXPECT_DOUBLE_EQ(stretch.secondsLeft(6), 9);
  EXPECT_FALSE(stretch.played(14.9));
  stretch.end(9);
  EXPECT_EQ(stretch.phase(9), PlayedStretch::Phase::Over);
  ASSERT_TRUE(stretch.played(9));
  EXPECT_DOUBLE_EQ(stretch.played(9)->from_s, 5);
  EXPECT_DOUBLE_EQ(stretch.played(9)->to_s, 9);
  stretch.end(12);  // it is over: nothing makes it longer
  EXPECT_DOUBLE_EQ(stretch.stretch(12)->to_s, 9);
  EXPECT_EQ(stretch.secondsLeft(12), 0);
}

TEST(PlayedStretches, FindTheirPlaceInALogThatLags) {
  PlayedStretch stretch;
  EXPECT_EQ(stretch.stretch(100), std::nullopt);
  stretch.ready(10, 5, 60);
  EXPECT_EQ(stretch.phase(12), PlayedStretch::Phase::LeadIn);
  EXPECT_EQ(stretch.secondsLeft(12), 3);
  stretch.observe(20, 16.5);  // the log is behind by its start of 2 s and a delay
  stretch.observe(75, 73);
  stretch.observe(76, 73.2);
  EXPECT_EQ(stretch.phase(30), PlayedStretch::Phase::Counting);
  const auto played = stretch.stretch(76);
  ASSERT_TRUE(played);
  EXPECT_DOUBLE_EQ(played->from_s, 13);
  EXPECT_DOUBLE_EQ(played->to_s, 73);
  stretch.ready(80, 5, 60);  // a second key changes nothing
  EXPECT_EQ(stretch.phase(80), PlayedStretch::Phase::Over);
}

TEST_F(Sheets, FindAPresetThatResetItself) {
  core::Study one = study(
      "echo x >> count; test $(wc -l < count) -lt 3 || echo 'quality=low' > ring.conf; echo "
      "'{\"seconds\": 1}'",
      2);
  one.cases[0].settings_file = "ring.conf";
  folder_.write("ring.conf", "shadows=on\nquality=high\n");
  const auto session = sessionFor(one);
  runToEnd(*session);
  const auto judgement = judged(*session);
  const core::Doubt* reset = doubt(judgement, "preset_reset/Ring pass, 4K dome");
  ASSERT_NE(reset, nullptr);
  EXPECT_EQ(reset->rank, core::DoubtRank::Stop);
  EXPECT_NE(reset->sentence.find("in visit 2, line 1: “shadows=on” became “quality=low”"), std::string::npos)
      << reset->sentence;
}

TEST_F(Sheets, SayThatSettingsCouldNotBeCompared) {
  core::Study one = study();
  one.cases[0].settings_file = "absent.conf";
  const auto session = sessionFor(one);
  runToEnd(*session);
  const auto judgement = judged(*session);
  ASSERT_NE(doubt(judgement, "settings_unread/Ring pass, 4K dome"), nullptr);
  EXPECT_EQ(doubt(judgement, "preset_reset/Ring pass, 4K dome"), nullptr);
}

TEST_F(Sheets, RunThePlanThatAnotherProgramHasAddedTo) {
  const auto here = sessionFor(rounds());
  const auto there = open();
  ASSERT_TRUE(there->decisions().addRound("a door stood open").ok());
  runToEnd(*there);
  EXPECT_EQ(there->recorded().passes.size(), 8U);
  EXPECT_EQ(here->open().schedule().size(), 6U);  // as it was read
  runToEnd(*here);
  EXPECT_EQ(here->open().schedule().size(), 8U);
  EXPECT_EQ(here->state(), State::Finished);
  EXPECT_EQ(here->recorded().passes.size(), 8U);
}

TEST_F(Sheets, StartNothingThatAnotherProgramPutIntoTheQuestion) {
  const auto here = sessionFor(study());
  auto file = store::StudyFile::open(path_);
  core::Study other = file->study();
  other.cases[0].command = {"touch", "ran"};
  ASSERT_TRUE(file->replaceStudy(other).ok());
  EXPECT_EQ(here->start().error().kind, ErrorKind::NotApproved);
  EXPECT_FALSE(std::filesystem::exists(folder_ / "ran"));
}

TEST_F(Sheets, TellOfOtherProgramsAtWork) {
  put("/proc/stat", "cpu 0 0 0 0 0 0 0 0\ncpu0 0 0 0 0 0 0 0 0\n");
  const auto session = sessionFor(
      study("printf 'cpu 60 0 0 40 0 0 0 0\\ncpu0 60 0 0 40 0 0 0 0\\n' > machine/proc/stat; echo '{\"seconds\": 1}'"));
  runToEnd(*session);
  EXPECT_NEAR(session->recorded().passes[0].others_busy_percent.value_or(0), 60, 5);
  const auto judgement = judged(*session);
  ASSERT_NE(doubt(judgement, "others_at_work"), nullptr);
  EXPECT_NEAR(open()->recorded().passes[0].others_busy_percent.value_or(0), 60, 5);
}

TEST_F(Sheets, LeaveAPassOutWithAReasonOnly) {
  const auto session = sessionFor(study("echo '{\"seconds\": 1}'", 2));
  EXPECT_EQ(session->decisions().skipNext(" ").error().kind, ErrorKind::OutOfRange);
  ASSERT_TRUE(session->decisions().skipNext("the save is broken").ok());
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Finished);
  EXPECT_EQ(session->recorded().passes.size(), 3U);
  EXPECT_EQ(session->recorded().passes[0].slot, 1U);
  const auto judgement = judged(*session);
  EXPECT_TRUE(judgement.findings.done.is_first_done);
  EXPECT_NE(doubt(judgement, "skipped"), nullptr);
  EXPECT_EQ(session->decisions().skipNext("again").error().kind, ErrorKind::NotAllowed);
}

TEST_F(Sheets, LeaveAPilotForLaterPlansWheneverTheyStop) {
  const auto session = sessionFor(study(
      "n=$(cat n 2>/dev/null || echo 0); echo $((n+1)) > n; echo \"{\\\"seconds\\\": 10$((n%3))}\"; test $n -lt 3 || "
      "sleep 30",
      5));
  start(*session);
  ASSERT_TRUE(support::waitUntil([&] { return session->recorded().passes.size() == 3; }));
  session->stop(session::Stop::Now);
  ASSERT_TRUE(support::waitUntil([&] { return !session->isRunning(); }));
  const auto basis = session::planningBasis(session->study(), session->benches(), session->machine().registeredName());
  ASSERT_TRUE(basis.measured);
  EXPECT_TRUE(basis.measured->measured.isPilot());
  EXPECT_NEAR(basis.planning.noise.pass_sd, 0.01, 0.001);
  EXPECT_FALSE(basis.planning.noise.null);
}

TEST_F(Sheets, CopyTheBenchsNullStudyWhereTheirOwnFlipsAreNotRepeated) {
  // A value that differs from visit to visit, and a little from pass to pass.
  const char* const script =
      "n=$(cat n 2>/dev/null || echo 0); echo $((n+1)) > n; echo \"{\\\"seconds\\\": 1$(((n/2)%5))$((n%2))}\"";
  runToEnd(*sessionFor(nullStudy(script)));
  std::filesystem::remove(path_);
  core::Study once = study(script, 2);
  once.plan.order = core::Order::Blocked;
  const auto session = sessionFor(once);
  runToEnd(*session);
  const auto record = store::recordOf(session->recorded());
  ASSERT_TRUE(record.null_study);
  EXPECT_EQ(record.null_study->cases.at(0).visits.size(), 6U);
  EXPECT_FALSE(judged(*session).findings.cases.at(0).marks.holds_if_flips_add_nothing);
  EXPECT_FALSE(judged(*open()).findings.null_study_date.empty());
}

// What flips add belongs to how it was flipped and to what was measured: of another variable, or another command under
// the same name, it stands in no interval; of the passes it still tells a plan where they are the same.
TEST_F(Sheets, TakeNoNullStudyOfAnotherFlipOrOfWhatIsNotTheirCase) {
  const char* const script = "echo \"{\\\"seconds\\\": 1$(($$ % 9))}\"";
  runToEnd(*sessionFor(nullStudy(script)));
  const auto taken = [&](const core::Study& once) {
    std::filesystem::remove(path_);
    const auto session = sessionFor(once);
    const bool knows_flips =
        session::planningBasis(session->study(), session->benches(), session->machine().registeredName())
            .planning.noise.null.has_value();
    runToEnd(*session);
    const bool is_taken = store::recordOf(session->recorded()).null_study.has_value();
    EXPECT_EQ(knows_flips, is_taken);
    EXPECT_NE(is_taken, judged(*session).findings.cases.at(0).marks.holds_if_flips_add_nothing);
    return is_taken;
  };
  core::Study once = study(script, 2);
  once.plan.order = core::Order::Blocked;
  EXPECT_TRUE(taken(once));
  core::Study by_environment = once;
  for (core::Level& level : by_environment.variable().levels) level.environment = {{"UNHEARD_OF", level.name}};
  EXPECT_FALSE(taken(by_environment));
  core::Study other_command = once;
  other_command.cases[0].command.emplace_back("another word");
  EXPECT_FALSE(taken(other_command));
}

TEST_F(Sheets, SayThatAnUpdateRan) {
  put("/proc/4711/comm", "dpkg\n");
  const auto session = sessionFor(study());
  runToEnd(*session);
  const core::Judgement judgement = judged(*session);
  const core::Doubt* said = doubt(judgement, "updating");
  ASSERT_NE(said, nullptr);
  EXPECT_EQ(said->sentence, "dpkg was installing software when 2 passes began");
}

TEST_F(Sheets, ShowNoLookWhileAPassMayStillBeTriedAgain) {
  core::Study looked = rounds("exit 1");
  looked.plan.looks = {3};
  looked.plan.retries = 1;
  const std::vector<core::Visit> visits{{1, 1, 1, ConfigurationId::Baseline, "boot", 0}};
  std::vector<core::Pass> passes;
  for (std::size_t slot = 0; slot < core::scheduleOf(looked).size(); ++slot) {
    core::Pass pass;
    pass.slot = slot;
    passes.push_back(pass);
  }
  passes.back().status = core::PassStatus::Failed;
  core::Record record;
  record.visits = visits;
  record.passes = passes;
  EXPECT_FALSE(core::lookReached(looked, record));
  looked.plan.retries = 0;
  EXPECT_EQ(core::lookReached(looked, record), 3);
}

TEST_F(Sheets, LeavePassesOutForAPhysicalCauseAndTakeItBack) {
  const auto session = sessionFor(study("echo '{\"seconds\": 1}'", 2));
  runToEnd(*session);
  const std::int64_t id = session->recorded().passes[0].id;
  EXPECT_EQ(session->decisions().exclude(id, "it looks odd").error().kind, ErrorKind::OutOfRange);
  EXPECT_EQ(session->decisions().exclude(99, core::kExclusionCauses[0]).error().kind, ErrorKind::Missing);
  ASSERT_TRUE(session->decisions().exclude(id, core::kExclusionCauses[0]).ok());
  EXPECT_EQ(judged(*open()).findings.cases[0].counted_baseline, 1);  // and it is in the file
  ASSERT_TRUE(session->decisions().include(id).ok());
  EXPECT_EQ(judged(*open()).findings.cases[0].counted_baseline, 2);
  EXPECT_EQ(session->decisions().include(id).error().kind, ErrorKind::Missing);
}

TEST_F(Sheets, LockPredictionsAtTheFirstCountedPass) {
  const auto session = sessionFor(study());
  ASSERT_TRUE(session->decisions().predict("M. Osei", 4).ok());
  ASSERT_TRUE(session->decisions().predict("T. Varga", 0).ok());
  ASSERT_TRUE(session->decisions().predict("M. Osei", 3.5).ok());
  runToEnd(*session);
  EXPECT_EQ(session->decisions().predict("M. Osei", 9).error().kind, ErrorKind::NotAllowed);
  EXPECT_EQ(judged(*open()).predictions, (std::vector<core::Prediction>{{"T. Varga", 0}, {"M. Osei", 3.5}}));
}

TEST_F(Sheets, AddARoundWhileTheResultsAreSealed) {
  const auto session = sessionFor(rounds());
  ASSERT_TRUE(session->decisions().addRound("a door stood open").ok());
  EXPECT_EQ(session->open().schedule().size(), 8U);
  EXPECT_EQ(session->study().plan.drawn.back().front(), ConfigurationId::Changed);  // as many rounds begin with each
  runToEnd(*session);
  EXPECT_EQ(session->recorded().passes.size(), 8U);
  EXPECT_EQ(session->decisions().addRound("one more").error().kind,
            ErrorKind::NotAllowed);  // now the results can be seen
  EXPECT_NE(doubt(judged(*open()), "plan_changed"), nullptr);
}

TEST_F(Sheets, AreJudgedOtherwiseOnlyWithAReasonAndOnRecord) {
  core::Study planned = study("echo '{\"seconds\": 1}'", 2);
  planned.plan.is_sealed = true;
  const auto session = sessionFor(planned);
  core::Judging judging = core::judgingOf(session->study());
  ASSERT_TRUE(session->decisions().changeJudging(judging, "").ok());  // nothing differs: nothing is recorded
  judging.notice_threshold_percent = 1;
  EXPECT_EQ(session->decisions().changeJudging(judging, " ").error().kind, ErrorKind::OutOfRange);
  start(*session);
  EXPECT_EQ(session->decisions().changeJudging(judging, "while it runs").error().kind, ErrorKind::NotAllowed);
  session->stop(session::Stop::AfterPass);
  ASSERT_TRUE(support::waitUntil([&] { return session->state() == State::Idle; }));
  ASSERT_TRUE(session->decisions().changeJudging(judging, "users notice less").ok());
  const core::Judgement before = judged(*open());
  const core::Doubt* early = doubt(before, "judged_otherwise");
  ASSERT_NE(early, nullptr);
  EXPECT_EQ(early->rank, core::DoubtRank::Note);
  EXPECT_NE(early->sentence.find("threshold 2 % became 1 %: users notice less"), std::string::npos);
  start(*session);
  ASSERT_TRUE(support::waitUntil([&] { return session->state() == State::Finished; }));
  judging.yardstick = core::Yardstick::FixedBand;
  judging.band_percent = 0;
  EXPECT_EQ(session->decisions().changeJudging(judging, "a band of nothing").error().kind, ErrorKind::OutOfRange);
  judging.band_percent = 4;
  ASSERT_TRUE(session->decisions().changeJudging(judging, "the house rule").ok());
  const auto file = open();
  EXPECT_EQ(core::judgingOf(file->study()), judging);
  const core::Judgement after = judged(*file);
  const core::Doubt* late = doubt(after, "judged_after");
  ASSERT_NE(late, nullptr);
  EXPECT_EQ(late->rank, core::DoubtRank::Caution);
  EXPECT_NE(late->sentence.find("yardstick interval became fixed band, band 3 % became 4 %"), std::string::npos);
}

TEST_F(Sheets, ExtendAFinishedPlanOnceAndByItsSpreadAlone) {
  // Times that scatter by some percent from round to round, the same at both levels.
  const auto session =
      sessionFor(rounds("n=$(cat n 2>/dev/null || echo 0); echo $((n+1)) > n; set -- 100 101 99.5 100.4 99.2 101.3 100 "
                        "100.6; shift $((n%8)); "
                        "echo \"{\\\"seconds\\\": $1}\""));
  runToEnd(*session);
  const auto judgement = judged(*session);
  ASSERT_TRUE(judgement.extension);
  EXPECT_GT(judgement.extension->rounds, 1);
  EXPECT_LE(judgement.extension->extended_half_width_percent, 0.6 * 2 + 0.01);
  EXPECT_GT(judgement.extension->half_width_percent, 1.2);
  ASSERT_TRUE(session->decisions().extendPlan(*judgement.extension).ok());
  EXPECT_EQ(session->state(), State::Idle);
  EXPECT_EQ(session->study().plan.rounds, 3 + judgement.extension->rounds);
  EXPECT_TRUE(judged(*session).is_sealed);  // until the extension is complete
  runToEnd(*session);
  EXPECT_EQ(session->recorded().passes.size(), static_cast<std::size_t>(2 * session->study().plan.rounds));
  EXPECT_FALSE(judged(*session).extension);  // never twice
  EXPECT_EQ(session->decisions().extendPlan({1, 0, 0}).error().kind, ErrorKind::NotAllowed);
}

TEST_F(Sheets, WaitAtAPlannedLookAndMayEndThere) {
  core::Study looked = rounds();
  looked.plan.rounds = 6;
  looked.plan.drawn = core::drawRounds(2, 6, 3);
  looked.plan.looks = {3, 6};
  const auto session = sessionFor(looked);
  EXPECT_EQ(session->decisions().stopAtLook().error().kind, ErrorKind::NotAllowed);
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Idle);
  EXPECT_EQ(session->recorded().passes.size(), 6U);
  EXPECT_FALSE(judged(*session).is_sealed);
  ASSERT_TRUE(session->decisions().stopAtLook().ok());
  EXPECT_EQ(session->state(), State::Finished);
  EXPECT_EQ(open()->nextSlot(), std::nullopt);
}

TEST_F(Sheets, GoOnAfterAPlannedLook) {
  core::Study looked = rounds();
  looked.plan.rounds = 4;
  looked.plan.drawn = core::drawRounds(2, 4, 3);
  looked.plan.looks = {3, 4};
  const auto session = sessionFor(looked);
  runToEnd(*session);
  EXPECT_EQ(session->recorded().passes.size(), 6U);
  runToEnd(*session);
  EXPECT_EQ(session->recorded().passes.size(), 8U);
  EXPECT_EQ(session->state(), State::Finished);
}

TEST_F(Sheets, CopyTheStudyToASecondFolderAfterEachPass) {
  std::filesystem::create_directories(folder_ / "stick");
  const auto session = sessionFor(study());
  ASSERT_TRUE(session->secondCopy().setFolder(folder_ / "stick").ok());
  runToEnd(*session);
  const std::string copy = session::copyPath(path_, folder_ / "stick");
  auto copied = store::StudyFile::open(copy);
  ASSERT_TRUE(copied.ok()) << copied.error().sentence();
  EXPECT_EQ(copied->recorded()->passes.size(), 2U);
  EXPECT_EQ(open()->secondCopy().folder(), folder_ / "stick");  // remembered for this user
}

TEST_F(Sheets, GoOnWithoutTheSecondFolderAndSaySoOnce) {
  std::filesystem::create_directories(folder_ / "stick");
  const auto session = sessionFor(study("echo '{\"seconds\": 1}'", 3));
  ASSERT_TRUE(session->secondCopy().setFolder(folder_ / "stick").ok());
  std::filesystem::remove_all(folder_ / "stick");
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Finished);
  EXPECT_EQ(std::count_if(session->recorded().events.begin(), session->recorded().events.end(),
                          [](const auto& event) {
                            return noteOf(event).find("the copy could not be made") != std::string::npos;
                          }),
            1);
}

TEST_F(Sheets, NeverReplaceSomethingElseByACopy) {
  const std::string copy = session::copyPath(path_, folder_.path());
  std::ofstream(copy) << "a shopping list";
  const auto session = sessionFor(study());
  EXPECT_EQ(session->secondCopy().setFolder(folder_.path()).error().kind, ErrorKind::ForeignFile);
  EXPECT_EQ(support::contents(copy), "a shopping list");
}

TEST_F(Sheets, NeverReplaceACopyOfAnotherStudy) {
  std::filesystem::create_directories(folder_ / "stick");
  const auto session = sessionFor(study());
  runToEnd(*session);
  ASSERT_TRUE(session->secondCopy().setFolder(folder_ / "stick").ok());
  // One of the same name, begun at another moment; elsewhere its copy has a name of its own.
  EXPECT_NE(session::copyPath(folder_ / "elsewhere/study.ironlever", folder_ / "stick"),
            session::copyPath(path_, folder_ / "stick"));
  auto other = store::StudyFile::create(folder_ / "other.ironlever", study());
  ASSERT_TRUE(other->addVisit({0, 1, 1, core::ConfigurationId::Baseline, "", 42}).ok());
  EXPECT_EQ(other->copyTo(session::copyPath(path_, folder_ / "stick")).error().kind, ErrorKind::NotAllowed);
  EXPECT_EQ(store::StudyFile::open(session::copyPath(path_, folder_ / "stick"))->recorded()->passes.size(), 2U);
}

TEST_F(Sheets, WaitForTheFlipAlsoWhereTheyWereInterruptedInTheVisitBefore) {
  core::Study one = study("test -e twice || { touch twice; sleep 30; }; echo '{\"seconds\": 1}'", 2);
  one.variable().kind = "memory_speed";  // set by hand: nothing here sets a level
  const auto session = sessionFor(one);
  runToEnd(*session);  // asks for the first level
  start(*session);
  ASSERT_TRUE(support::waitUntil([&] { return std::filesystem::exists(folder_ / "twice"); }));
  session->stop(session::Stop::Now);
  ASSERT_TRUE(support::waitUntil([&] { return !session->isRunning(); }));
  runToEnd(*session);  // the person goes on with the visit; that says nothing of the next level
  EXPECT_EQ(session->state(), State::Idle);
  EXPECT_EQ(session->recorded().passes.size(), 2U);
}

TEST_F(Sheets, AskForAPersonWhereALevelGoesBeyondTheMaker) {
  core::Study one = study();
  put("/sys/class/powercap/zone0/constraint_0_power_limit_uw", "65000000");
  one.variable().levels[1].writes = {{"/sys/class/powercap/zone0/constraint_0_power_limit_uw", "95000000"}};
  const auto session = sessionFor(one);
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Idle);  // the raised level is not left unattended
  EXPECT_EQ(session->recorded().passes.size(), 1U);
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Finished);
}

}  // namespace
