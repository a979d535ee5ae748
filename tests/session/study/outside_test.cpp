// Passes from outside: typed results, and logs that were made elsewhere.
#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>

#include "bench/local_bench.h"
#include "core/judgement/judgement.h"
#include "core/study/exclusion.h"
#include "session/study/log_import.h"
#include "support/run_session.h"
#include "support/studies.h"
#include "support/test_folder.h"

namespace {

using core::ConfigurationId;
using core::ErrorKind;
using session::Session;
using session::State;

class Outside : public testing::Test {
 protected:
  core::Study byHand(int passes) {
    core::Study study = support::timedStudyOf({}, passes);
    study.cases[0].source = core::ResultSource::ByHand;
    study.cases[0].command.clear();
    return study;
  }
  std::unique_ptr<Session> sessionFor(const core::Study& study) {
    EXPECT_TRUE(store::StudyFile::create(path_, study).ok());
    return open();
  }
  std::unique_ptr<Session> open() {
    auto session = std::make_unique<Session>(*store::StudyFile::open(path_), bench_,
                                             session::UserFiles::in(folder_ / "user"), "T. Varga");
    EXPECT_TRUE(session->approve().ok());
    return session;
  }
  static core::TypedValue typed(const char* text) { return *core::parseTyped(text); }
  static core::Judgement judged(const Session& session) {
    return core::judgementOf(session.study(), store::recordOf(session.recorded()));
  }

  support::TestFolder folder_;
  std::string path_ = folder_ / "study.ironlever";
  bench::LocalBench bench_;
};

TEST_F(Outside, TypedResultsFillThePlanAndKeepTheirDigits) {
  const auto session = sessionFor(byHand(2));
  const auto schedule = session->open().schedule();
  for (std::size_t slot = 0; slot < schedule.size(); ++slot)
    ASSERT_TRUE(
        session->outside()
            .type(slot, typed(schedule[slot].configuration == ConfigurationId::Baseline ? "50,1" : "40.1; sky 7"))
            .ok());
  EXPECT_EQ(session->state(), State::Finished);
  const auto again = open();
  ASSERT_EQ(again->recorded().passes.size(), schedule.size());
  EXPECT_EQ(again->recorded().passes[0].typed->text, "50,1");
  EXPECT_EQ(again->recorded().passes[0].typed->person, "T. Varga");
  EXPECT_DOUBLE_EQ(again->recorded().passes[0].typed->resolution, 0.1);
  EXPECT_TRUE(judged(*again).findings.done.is_first_done);
}

TEST_F(Outside, TheNewestWordCountsAndTheFirstStaysOnRecord) {
  const auto session = sessionFor(byHand(1));
  ASSERT_TRUE(session->outside().type(0, typed("501")).ok());
  ASSERT_TRUE(session->outside().type(0, typed("50.1")).ok());
  ASSERT_EQ(session->recorded().passes.size(), 2U);
  EXPECT_FALSE(session->recorded().passes[0].excluded_because.empty());
  EXPECT_TRUE(session->recorded().passes[1].excluded_because.empty());
  EXPECT_EQ(session->recorded().passes[1].attempt, 2);
  EXPECT_EQ(session->outside().type(99, typed("1")).error().kind, ErrorKind::Missing);
}

TEST_F(Outside, ASheetWaitsForResultsAndGoesOnWithEach) {
  const auto session = sessionFor(byHand(1));
  ASSERT_TRUE(session->start().ok());
  for (int passes = 1; session->nextSlot(); ++passes) {
    ASSERT_TRUE(support::waitUntil([&] { return session->state() == State::AwaitingResult; }));
    ASSERT_TRUE(session->outside().type(*session->nextSlot(), typed("50.1")).ok());
    ASSERT_TRUE(
        support::waitUntil([&] { return session->recorded().passes.size() == static_cast<std::size_t>(passes); }));
  }
  ASSERT_TRUE(support::waitUntil([&] { return session->state() == State::Finished; }));
  for (const core::Visit& visit : session->recorded().visits) EXPECT_TRUE(visit.boot_id.empty());
  EXPECT_TRUE(session->recorded().captures.empty());  // this computer is not the bench that was read off
}

TEST_F(Outside, ThisComputerIsTheBenchWhereSomebodySaysSo) {
  core::Study study = byHand(1);
  study.is_this_machine = true;
  const auto session = sessionFor(study);
  ASSERT_TRUE(session->start().ok());
  ASSERT_TRUE(support::waitUntil([&] { return session->state() == State::AwaitingResult; }));
  EXPECT_FALSE(session->recorded().captures.empty());
  session->stop(session::Stop::Now);
}

TEST_F(Outside, AllResultsOfAVisitMayBeGivenAtOnceAndNeedNoWarmUp) {
  core::Study study = byHand(2);
  study.plan.order = core::Order::Blocked;
  study.plan.warm_ups = 1;  // of cases that run by command
  study.cases[0].command = {"no-such-program"};
  const auto session = sessionFor(study);
  ASSERT_TRUE(session->start().ok());
  ASSERT_TRUE(support::waitUntil([&] { return session->state() == State::AwaitingResult; }));
  const std::size_t next = *session->nextSlot();
  EXPECT_FALSE(session->open().schedule()[next].is_warm_up);
  EXPECT_EQ(session->outside()
                .type(session->open().ledger().pendingOf(0, ConfigurationId::Changed).front(), typed("40"))
                .error()
                .kind,
            ErrorKind::NotAllowed);  // another level is set
  ASSERT_TRUE(session->outside().type(next + 1, typed("50.2")).ok());
  ASSERT_TRUE(support::waitUntil([&] { return session->state() == State::AwaitingResult; }));
  EXPECT_EQ(session->nextSlot(), next);
  ASSERT_TRUE(session->outside().type(next, typed("50.1")).ok());
  ASSERT_TRUE(support::waitUntil(
      [&] { return session->state() == State::AwaitingResult && session->recorded().visits.size() == 2; }));
  session->stop(session::Stop::Now);
}

TEST_F(Outside, MeasuredResultsAreNotTyped) {
  const auto session = sessionFor(support::timedStudyOf({"true"}, 1));
  EXPECT_EQ(session->outside().type(0, typed("1")).error().kind, ErrorKind::NotAllowed);
}

TEST_F(Outside, APictureIsKeptAsProof) {
  const auto session = sessionFor(byHand(1));
  ASSERT_TRUE(session->outside().type(0, typed("50.1")).ok());
  const std::string picture = std::string("\x89PNG\r\n\x1a\n", 8) + "picture";
  folder_.write("screen.png", picture);
  const std::int64_t pass = session->recorded().passes[0].id;
  EXPECT_EQ(session->outside().keepProof(pass, folder_ / "absent.png").error().kind, ErrorKind::Missing);
  EXPECT_EQ(session->outside().keepProof(77, folder_ / "screen.png").error().kind, ErrorKind::Missing);
  ASSERT_TRUE(session->outside().keepProof(pass, folder_ / "screen.png").ok());
  const auto proofs = open()->open().file().attachments(pass);
  ASSERT_EQ(proofs->size(), 1U);
  EXPECT_EQ(proofs->at(0).name, "screen.png");
  EXPECT_EQ(proofs->at(0).bytes, picture);
  folder_.write("notes.png", "no picture");
  EXPECT_EQ(session->outside().keepProof(pass, folder_ / "notes.png").error().kind, ErrorKind::Malformed);
}

TEST_F(Outside, SlipsAndRangesAreDoubts) {
  const auto session = sessionFor(byHand(4));
  const auto open_slots = session->open().ledger().pendingOf(0, ConfigurationId::Baseline);
  for (const std::size_t slot : open_slots) ASSERT_TRUE(session->outside().type(slot, typed("50.1")).ok());
  ASSERT_TRUE(session->outside().type(open_slots.back(), typed("5.02")).ok());
  ASSERT_TRUE(session->outside()
                  .type(session->open().ledger().pendingOf(0, ConfigurationId::Changed).front(), typed("40 to 60"))
                  .ok());
  std::vector<std::string> ids;
  for (const core::Doubt& doubt : judged(*session).doubts) ids.push_back(doubt.id);
  const auto has = [&](const std::string& start) {
    return std::any_of(ids.begin(), ids.end(), [&](const std::string& id) { return id.starts_with(start); });
  };
  EXPECT_TRUE(has("typed/"));
  EXPECT_TRUE(has("typed_ranges"));
}

TEST_F(Outside, LogsBecomePassesWithTheirOtherColumnsAsSamples) {
  core::Study study = support::studyOf({"w", "{log}"}, 2);
  study.plan.warm_ups = 1;
  const auto session = sessionFor(study);
  folder_.write("log.csv", "t_ms,power\n0,190\n10,191\n20,192\n30,193\n40,195\n");
  const auto reading = session::readLog(folder_ / "log.csv", session->benches(), "bench");
  ASSERT_TRUE(reading.ok()) << reading.error().sentence();
  const std::size_t slot = session->open().ledger().pendingOf(0, ConfigurationId::Changed).front();
  ASSERT_TRUE(session->outside().importFrames(slot, session::framesOf(*reading, 0)).ok());
  const core::Pass& pass = session->recorded().passes.back();
  EXPECT_DOUBLE_EQ(*pass.value, 100);
  EXPECT_EQ(pass.frames->frames, 4U);
  EXPECT_EQ(pass.origin, "log.csv, run 1, read as time stamps in ms in 't_ms'");
  EXPECT_EQ(session->open().file().samples(pass.id)->channels.at(0).name, "power");
  // Whoever ran it warmed it up as they saw fit: that visit's warm-up is not asked for any more.
  for (std::size_t i = 0; i < session->open().schedule().size(); ++i)
    if (session->open().schedule()[i].is_warm_up &&
        session->open().schedule()[i].visit == session->open().schedule()[slot].visit) {
      EXPECT_NE(session->nextSlot(), i);
    }
  EXPECT_EQ(session->outside().importFrames(slot, {{}, {}, "", 0}).error().kind, ErrorKind::TooFew);
}

TEST_F(Outside, TheSameLogCountsOnce) {
  const auto session = sessionFor(support::studyOf({"w", "{log}"}, 2));
  folder_.write("log.csv", "frame_ms\n16.5\n17.1\n16.2\n");
  folder_.write("copy.csv", "frame_ms\n16.5\n17.1\n16.2\n");
  const auto open = session->open().ledger().pendingOf(0, ConfigurationId::Changed);
  const auto file = [&](const char* log, std::size_t slot) {
    return session->outside().importFrames(
        slot, session::framesOf(*session::readLog(folder_ / log, session->benches(), "b"), 0));
  };
  ASSERT_TRUE(file("log.csv", open[0]).ok());
  const core::Status again = file("copy.csv", open[1]);
  EXPECT_EQ(again.error().kind, ErrorKind::NotAllowed);
  EXPECT_NE(again.error().sentence().find("pass 1"), std::string::npos);
  ASSERT_TRUE(session->decisions().exclude(1, core::kExclusionCauses[0]).ok());  // it belonged elsewhere
  EXPECT_TRUE(file("copy.csv", open[1]).ok());
}

TEST_F(Outside, AUnitThatNobodyWroteDownIsAsked) {
  const auto session = sessionFor(support::studyOf({"w", "{log}"}, 1));
  folder_.write("log.csv", "16.5\n17.1\n16.9\n16.2\n");
  const auto reading = session::readLog(folder_ / "log.csv", session->benches(), "bench");
  EXPECT_EQ(reading.error().kind, ErrorKind::Ambiguous);
  EXPECT_NE(reading.error().remedy.find("--unit ms"), std::string::npos);
  const auto told = session::readLog(folder_ / "log.csv", session->benches(), "bench", *session::unitNamed("us"));
  EXPECT_DOUBLE_EQ(told->runs[0].frame_ms[0], 0.0165);
  // What was confirmed for such a log is not taken for one whose numbers are of another size.
  store::BenchRegister benches = session->benches();
  ASSERT_TRUE(benches.setLogRecipe("bench", session::recogniseLog(folder_ / "log.csv", benches, "bench")->shape).ok());
  EXPECT_TRUE(session::readLog(folder_ / "log.csv", benches, "bench").ok());
  folder_.write("us.csv", "16500\n17100\n16900\n16200\n");
  EXPECT_EQ(session::readLog(folder_ / "us.csv", benches, "bench").error().kind, ErrorKind::Ambiguous);
  EXPECT_EQ(session::unitNamed("min").error().kind, ErrorKind::OutOfRange);
}

TEST_F(Outside, HowALogWasReadIsRememberedForTheBench) {
  const auto session = sessionFor(support::studyOf({"w", "{log}"}, 1));
  folder_.write("log.csv", "a_ms,b_ms\n16.5,20\n17.1,21.5\n16.2,20.4\n");
  auto reading = session::readLog(folder_ / "log.csv", session->benches(), "bench");
  ASSERT_TRUE(reading.ok());
  EXPECT_FALSE(reading->is_remembered);
  store::LogShape shape = reading->shape;
  shape.time.column = 1;
  store::BenchRegister benches = session->benches();
  ASSERT_TRUE(benches.setLogRecipe("bench", shape).ok());
  reading = session::readLog(folder_ / "log.csv", benches, "bench");
  EXPECT_TRUE(reading->is_remembered);
  EXPECT_DOUBLE_EQ(reading->runs[0].frame_ms[0], 20);
  EXPECT_FALSE(session::readLog(folder_ / "log.csv", benches, "another bench")->is_remembered);
}

}  // namespace
