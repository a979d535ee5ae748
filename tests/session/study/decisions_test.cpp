// What a person decides about a study: each decision has its conditions, is on record once, and where it can be taken
// back it comes back as it was. Nothing that is refused leaves a trace.
#include <gtest/gtest.h>

#include "bench/local_bench.h"
#include "core/judgement/judgement.h"
#include "core/study/exclusion.h"
#include "session/sheet/session.h"
#include "support/studies.h"
#include "support/test_folder.h"

namespace {

using core::ConfigurationId;
using core::ErrorKind;
using session::Decisions;
using session::Session;

/// Three rounds whose results a person types: a session that needs no bench.
class DecisionsOf : public testing::Test {
 protected:
  DecisionsOf() {
    core::Study study = support::roundsOf(3);
    study.cases[0].source = core::ResultSource::ByHand;
    study.cases[0].command.clear();
    study.plan.drawn =
        core::pairRounds({ConfigurationId::Baseline, ConfigurationId::Changed, ConfigurationId::Baseline});
    study.plan.is_sealed = true;
    EXPECT_TRUE(store::StudyFile::create(path_, study).ok());
    session_ = open();
  }
  std::unique_ptr<Session> open() {
    return std::make_unique<Session>(*store::StudyFile::open(path_), bench_, session::UserFiles::in(folder_ / "user"),
                                     "T. Varga");
  }
  Decisions& decide() { return session_->decisions(); }
  void type(std::size_t passes) {
    for (std::size_t i = 0; i < passes; ++i)
      ASSERT_TRUE(session_->outside().type(*session_->nextSlot(), *core::parseTyped("50.1")).ok());
  }
  void typeAll() { type(6 - session_->recorded().passes.size()); }
  [[nodiscard]] std::size_t events() const { return session_->recorded().events.size(); }
  [[nodiscard]] core::Record record() const { return store::recordOf(session_->recorded()); }

  /// Refused, and not a word of it on record.
  void expectRefused(const core::Status& status, ErrorKind kind, std::size_t events_before, const char* what) {
    ASSERT_FALSE(status.ok()) << what;
    EXPECT_EQ(status.error().kind, kind) << what;
    EXPECT_FALSE(status.error().remedy.empty()) << what;
    EXPECT_EQ(events(), events_before) << what;
  }
  /// On record once, in the file too.
  template <class Act>
  void expectOnRecord(const core::Status& status, std::size_t events_before) {
    ASSERT_TRUE(status.ok()) << status.error().sentence();
    ASSERT_EQ(events(), events_before + 1);
    EXPECT_TRUE(std::holds_alternative<Act>(session_->recorded().events.back().act));
    EXPECT_EQ(session_->recorded().events.back().person, "T. Varga");
    auto file = store::StudyFile::open(path_);
    ASSERT_TRUE(file.ok());
    EXPECT_EQ(file->recorded()->events.size(), events_before + 1);
  }

  support::TestFolder folder_;
  std::string path_ = folder_ / "study.ironlever";
  bench::LocalBench bench_;
  std::unique_ptr<Session> session_;
};

TEST_F(DecisionsOf, OnAnUnfinishedStudyWantReasons) {
  type(2);
  const std::size_t before = events();
  for (const char* nothing : {"", " ", "\n\t"}) {
    expectRefused(decide().acceptDoubt("drift", nothing), ErrorKind::OutOfRange, before, "a doubt");
    expectRefused(decide().addNote(nothing), ErrorKind::OutOfRange, before, "a note");
    expectRefused(decide().openEarly(nothing), ErrorKind::OutOfRange, before, "opened early");
    expectRefused(decide().declareUnreachable(ConfigurationId::Changed, nothing), ErrorKind::OutOfRange, before,
                  "a level");
    expectRefused(decide().skipNext(nothing), ErrorKind::OutOfRange, before, "a pass");
    expectRefused(decide().addRound(nothing), ErrorKind::OutOfRange, before, "a round");
    expectRefused(decide().stateStable(ConfigurationId::Changed, nothing), ErrorKind::OutOfRange, before, "a test");
  }
  expectOnRecord<core::DoubtAccepted>(decide().acceptDoubt("drift", "the hall is warm in the afternoon"), before);
  expectOnRecord<core::NoteMade>(decide().addNote("the door was open", "1@3.250"), before + 1);
  expectOnRecord<core::LevelStable>(decide().stateStable(ConfigurationId::Changed, "four hours, no error"), before + 2);
  expectOnRecord<core::Skipped>(decide().skipNext("the scene does not load"), before + 3);
  expectOnRecord<core::OpenedEarly>(decide().openEarly("the show is tonight"), before + 4);
  expectRefused(decide().addRound("one more"), ErrorKind::NotAllowed, before + 5, "a round after it was opened");
}

TEST_F(DecisionsOf, OnAFinishedStudyAreNoLongerAboutItsPlan) {
  typeAll();
  const std::size_t before = events();
  expectRefused(decide().openEarly("now"), ErrorKind::NotAllowed, before, "nothing is sealed any more");
  expectRefused(decide().skipNext("why not"), ErrorKind::NotAllowed, before, "no pass is left");
  expectRefused(decide().addRound("one more"), ErrorKind::NotAllowed, before, "the results can be seen");
  expectRefused(decide().stopAtLook(), ErrorKind::NotAllowed, before, "there is no look");
  expectRefused(decide().extendPlan({0, 0, 0}), ErrorKind::NotAllowed, before, "an extension by nothing");
  expectRefused(decide().predict("M. Osei", 4), ErrorKind::NotAllowed, before, "known by now");
  expectRefused(decide().declareUnreachable(ConfigurationId::Changed, "it does not start"), ErrorKind::NotAllowed,
                before, "it was reached");
  EXPECT_TRUE(decide().repeatFailed().ok());
  EXPECT_EQ(events(), before) << "nothing failed";
}

// Some of a level's passes are in: it may still be given up for the rest.
TEST_F(DecisionsOf, MayGiveUpALevelThatWasReachedForTheRest) {
  type(3);  // the baseline once, the changed level twice
  const std::size_t before = events();
  expectOnRecord<core::Unreachable>(decide().declareUnreachable(ConfigurationId::Changed, "it no longer starts"),
                                    before);
  EXPECT_EQ(record().unreachable.size(), 1U);
  type(1);
  const std::size_t then = events();
  ASSERT_TRUE(session_->nextSlot());
  EXPECT_EQ(session_->open().schedule()[*session_->nextSlot()].configuration, ConfigurationId::Baseline);
  while (session_->nextSlot()) type(1);
  expectRefused(decide().declareUnreachable(ConfigurationId::Baseline, "gone"), ErrorKind::NotAllowed, then,
                "all of its passes are in");
}

TEST_F(DecisionsOf, OnAPassAreAboutOneThatIsThere) {
  type(2);
  const std::size_t before = events();
  const std::int64_t id = session_->recorded().passes[0].id;
  const char* cause = core::kExclusionCauses[0];
  expectRefused(decide().exclude(id, "it looks odd"), ErrorKind::OutOfRange, before, "no physical cause");
  expectRefused(decide().exclude(99, cause), ErrorKind::Missing, before, "no such pass");
  expectRefused(decide().include(id), ErrorKind::Missing, before, "it is not left out");
  expectRefused(decide().feel(id, "grand"), ErrorKind::OutOfRange, before, "no word for it");
  expectRefused(decide().feel(99, "smooth"), ErrorKind::Missing, before, "no such pass");
  expectOnRecord<core::PassFelt>(decide().feel(id, "smooth"), before);
  expectOnRecord<core::PassExcluded>(decide().exclude(id, cause), before + 1);
  expectOnRecord<core::PassIncluded>(decide().include(id), before + 2);
}

TEST_F(DecisionsOf, OnACaseAreAboutOneOfTheStudys) {
  const std::size_t before = events();
  const std::string title = session_->study().cases[0].title();
  expectRefused(decide().pin("Comet close-up", "look"), ErrorKind::Missing, before, "a pin");
  expectRefused(decide().explain("Comet close-up", core::Grade::Conjecture, "heat"), ErrorKind::Missing, before,
                "a cause");
  expectRefused(decide().state("no_such_fact", "7"), ErrorKind::OutOfRange, before, "a fact");
  expectRefused(decide().predict(" ", 4), ErrorKind::OutOfRange, before, "nobody's prediction");
  expectOnRecord<core::CasePinned>(decide().pin(title, "look"), before);
  expectOnRecord<core::CauseGiven>(decide().explain(title, core::Grade::Conjecture, "heat"), before + 1);
}

TEST_F(DecisionsOf, OnAPlanWithoutSealedRoundsAddNone) {
  core::Study study = session_->study();
  study.plan = {2, 0, core::Order::Blocked, 60};
  study.plan.is_sealed = true;
  const std::string path = folder_ / "blocked.ironlever";
  ASSERT_TRUE(store::StudyFile::create(path, study).ok());
  Session blocked(*store::StudyFile::open(path), bench_, session::UserFiles::in(folder_ / "user"), "T. Varga");
  EXPECT_EQ(blocked.decisions().addRound("one more").error().kind, ErrorKind::NotAllowed);
  study = session_->study();
  study.plan.is_sealed = false;
  const std::string unsealed = folder_ / "unsealed.ironlever";
  ASSERT_TRUE(store::StudyFile::create(unsealed, study).ok());
  Session seen(*store::StudyFile::open(unsealed), bench_, session::UserFiles::in(folder_ / "user"), "T. Varga");
  EXPECT_EQ(seen.decisions().addRound("one more").error().kind, ErrorKind::NotAllowed) << "its results can be seen";
  EXPECT_EQ(seen.decisions().openEarly("now").error().kind, ErrorKind::NotAllowed) << "they are open";
}

// Two of the same kind, and the last is taken back: the first stands again. Once more, and the last does.
TEST_F(DecisionsOf, ThatCanBeTakenBackComeBackAsTheyWere) {
  type(2);
  const std::string title = session_->study().cases[0].title();
  const auto remark = [&] {
    const auto pins = record().pins;
    return pins.contains(title) ? pins.at(title) : std::string("none");
  };
  ASSERT_TRUE(decide().pin(title, "first").ok());
  ASSERT_TRUE(decide().undo().ok());
  EXPECT_EQ(remark(), "none") << "there was none before";
  ASSERT_TRUE(decide().pin(title, "second").ok());
  ASSERT_TRUE(decide().pin(title, "third").ok());
  ASSERT_TRUE(decide().undo().ok());
  EXPECT_EQ(remark(), "second");
  ASSERT_TRUE(decide().undo().ok());
  EXPECT_EQ(remark(), "third");

  const auto cause = [&] {
    const auto causes = record().explanations;
    return causes.empty() ? std::string("none") : causes.back().text;
  };
  ASSERT_TRUE(decide().explain(title, core::Grade::Conjecture, "heat").ok());
  ASSERT_TRUE(decide().undo().ok());
  EXPECT_EQ(cause(), "none");
  ASSERT_TRUE(decide().undo().ok());
  EXPECT_EQ(cause(), "heat");

  const std::int64_t id = session_->recorded().passes[0].id;
  const auto isOut = [&] { return !session_->recorded().passes[0].excluded_because.empty(); };
  ASSERT_TRUE(decide().exclude(id, core::kExclusionCauses[1]).ok());
  ASSERT_TRUE(decide().undo().ok());
  EXPECT_FALSE(isOut());
  ASSERT_TRUE(decide().undo().ok());
  EXPECT_EQ(session_->recorded().passes[0].excluded_because, core::kExclusionCauses[1]);

  // A note is not taken back, and what was decided before it no longer is: the newest act is the one that is meant.
  ASSERT_TRUE(decide().addNote("the door was open").ok());
  const std::size_t before = events();
  expectRefused(decide().undo(), ErrorKind::NotAllowed, before, "a note");
}

TEST_F(DecisionsOf, OnAPredictionAreTakenBackForTheirPersonAlone) {
  ASSERT_TRUE(decide().predict("M. Osei", 4).ok());
  ASSERT_TRUE(decide().predict("T. Varga", 1).ok());
  ASSERT_TRUE(decide().predict("M. Osei", 6).ok());
  ASSERT_TRUE(decide().undo().ok());
  const auto predictions = core::judgementOf(session_->study(), record()).predictions;
  EXPECT_EQ(predictions, (std::vector<core::Prediction>{{"T. Varga", 1}, {"M. Osei", 4}}));
  type(1);
  EXPECT_EQ(decide().undo().error().kind, ErrorKind::NotAllowed) << "locked by the first counted pass";
}

TEST_F(DecisionsOf, AreToldToWhoeverShowsThem) {
  int changed = 0;
  int plan_changed = 0;
  QObject::connect(&decide(), &Decisions::changed, [&] { ++changed; });
  QObject::connect(&decide(), &Decisions::planChanged, [&] { ++plan_changed; });
  ASSERT_TRUE(decide().addNote("the door was open").ok());
  EXPECT_EQ(changed, 1);
  EXPECT_FALSE(decide().addNote("").ok());
  EXPECT_EQ(changed, 1);
  EXPECT_EQ(plan_changed, 0);
  ASSERT_TRUE(decide().addRound("the door was open").ok());
  ASSERT_TRUE(decide().skipNext("the scene does not load").ok());
  EXPECT_EQ(plan_changed, 2);
}

}  // namespace
