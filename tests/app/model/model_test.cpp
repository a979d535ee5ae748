// What the screens show and do, without a screen.
#include <gtest/gtest.h>

#include <fstream>
#include <set>
#include <stdexcept>

#include "app/model/command_text.h"
#include "app/model/evidence.h"
#include "app/model/frames_view_model.h"
#include "app/model/live_trace.h"
#include "app/model/next_action.h"
#include "app/model/pass_table_model.h"
#include "app/model/run_sheet_view_model.h"
#include "bench/local_bench.h"
#include "support/run_session.h"
#include "support/studies.h"
#include "support/test_folder.h"

namespace {

TEST(CommandText, ComesBackAsItWasTyped) {
  for (const core::Command& command :
       {core::Command{"iron-lever-probe", "scene", "--out", "{log}"}, core::Command{"run", "with blanks", ""},
        core::Command{"say", "\"quoted\""}, core::Command{"a;b", "$HOME", "`ls`", "|", "*"},
        core::Command{"\"a b", "c\" d", "\"", " "}})
    EXPECT_EQ(app::wordsOf(app::textOf(command)), command);
}

TEST(CommandText, ReadsVariablesByTheirFirstEquals) {
  const auto environment = app::environmentOf(QStringLiteral("MODE=fast \"WORDS=a b\" OPTION=x=1 BARE"));
  const std::vector<std::pair<std::string, std::string>> wanted{
      {"MODE", "fast"}, {"WORDS", "a b"}, {"OPTION", "x=1"}, {"BARE", ""}};
  EXPECT_EQ(environment, wanted);
}

class LiveTraces : public testing::Test {
 protected:
  void append(const std::string& text) { std::ofstream(path_, std::ios::app | std::ios::binary) << text; }
  bool follow() { return trace_.follow(path_, "frame_ms"); }
  support::TestFolder folder_;
  std::string path_ = folder_ / "frames.csv";
  app::LiveTrace trace_;
};

TEST_F(LiveTraces, TakeWholeLinesOnly) {
  EXPECT_FALSE(follow());
  append("frame_ms\n16.6\n17.");
  EXPECT_TRUE(follow());
  EXPECT_EQ(trace_.frameMs(), std::vector<double>{16.6});
  append("5\n18\n");
  EXPECT_TRUE(follow());
  EXPECT_EQ(trace_.frameMs(), (std::vector<double>{16.6, 17.5, 18}));
}

TEST_F(LiveTraces, BeginAnewWithTheNextPass) {
  append("frame_ms\n16.6\n17.5\n");
  EXPECT_TRUE(follow());
  std::filesystem::remove(path_);
  EXPECT_TRUE(follow());  // what was drawn is gone
  append("frame_ms\n20\n");
  EXPECT_TRUE(follow());
  EXPECT_EQ(trace_.frameMs(), std::vector<double>{20});
}

/// A study model over a file in a folder of its own.
class Models : public testing::Test {
 protected:
  void open(const core::Study& study, const char* name = "study.ironlever") {
    const std::string path = folder_ / name;
    ASSERT_TRUE(store::StudyFile::create(path, study).ok());
    model_.openStudy(QString::fromStdString(path));
    ASSERT_TRUE(model_.hasStudy());
  }
  void runToEnd() {
    model_.act([](session::Session& s) { return s.approve(); });
    model_.act(&session::Session::start);
    ASSERT_TRUE(support::waitUntil([this] { return !model_.session().isRunning(); }));
  }
  [[nodiscard]] app::NextIntent intentAt(core::Place place) const { return app::nextActionOf(model_, place).intent; }

  support::TestFolder folder_;
  bench::LocalBench bench_;
  app::StudyModel model_{bench_, session::UserFiles::in(folder_ / "user")};
  app::RunSheetViewModel sheet_{model_};
};

core::Study timed(int passes = 2) {
  return support::timedStudyOf({"sh", "-c", "echo \"{\\\"seconds\\\": $SECONDS_AT_LEVEL}\""}, passes);
}

TEST_F(Models, NextActionLeadsThroughTheWork) {
  EXPECT_EQ(intentAt(core::Place::Question), app::NextIntent::OpenDemo);
  open(timed());
  EXPECT_EQ(intentAt(core::Place::Question), app::NextIntent::ShowCommands);
  EXPECT_EQ(intentAt(core::Place::RunSheet), app::NextIntent::ApproveCommands);
  model_.act([](session::Session& s) { return s.approve(); });
  EXPECT_EQ(intentAt(core::Place::RunSheet), app::NextIntent::Start);
  model_.act(&session::Session::start);
  EXPECT_EQ(intentAt(core::Place::RunSheet), app::NextIntent::StopAfterPass);
  model_.session().stop(session::Stop::AfterPass);
  EXPECT_FALSE(app::nextActionOf(model_, core::Place::RunSheet).is_enabled);
  ASSERT_TRUE(support::waitUntil([this] { return !model_.session().isRunning(); }));
  EXPECT_TRUE(app::nextActionOf(model_, core::Place::RunSheet).text.contains(QStringLiteral("visit 1, 4800 MT/s")));
}

TEST_F(Models, NextActionSaysWhatBlocks) {
  core::Study study = timed();
  study.bench.clear();
  open(study);
  const app::NextAction action = app::nextActionOf(model_, core::Place::Question);
  EXPECT_EQ(action.intent, app::NextIntent::CompleteQuestion);
  EXPECT_TRUE(action.hint.contains(QStringLiteral("the bench has no name")));
}

TEST_F(Models, ATimeIsShownWithTheRateThatItStandsFor) {
  core::Study study = timed(3);
  study.variable().levels[0].environment = {{"SECONDS_AT_LEVEL", "20"}};
  study.variable().levels[1].environment = {{"SECONDS_AT_LEVEL", "16"}};
  open(study);
  runToEnd();
  const app::Evidence evidence = app::evidenceOf(model_.study(), model_.judgement(), 0);
  EXPECT_EQ(evidence.title, QStringLiteral("Ring pass, 4K dome"));
  EXPECT_EQ(evidence.table.rows.at(0).at(3), QStringLiteral("−20.0 %"));  // of the time
  const auto has_rate = [](const QString& remark) {
    return remark.contains(QStringLiteral("is a rate that changes by +25.0 %"));
  };
  EXPECT_TRUE(std::any_of(evidence.remarks.begin(), evidence.remarks.end(), has_rate));
}

TEST_F(Models, TheSheetSaysWhereItStands) {
  core::Study study = timed(2);
  study.plan.warm_ups = 1;
  study.variable().levels[0].environment = {{"SECONDS_AT_LEVEL", "1"}};
  open(study);
  EXPECT_EQ(sheet_.hand().title, QStringLiteral("Read what will be started"));
  EXPECT_EQ(sheet_.hand().commands.size(), 2);
  ASSERT_EQ(sheet_.visits().size(), 2U);
  EXPECT_EQ(sheet_.visits()[0].words, QStringLiteral("0 of 3 passes"));
  EXPECT_EQ(sheet_.visits()[0].state, app::VisitCard::State::InHand);
  runToEnd();
  EXPECT_EQ(sheet_.visits()[1].state, app::VisitCard::State::Done);
  EXPECT_EQ(sheet_.hand().title, QStringLiteral("The sheet is done"));
  EXPECT_TRUE(sheet_.hand().line.contains(QStringLiteral("3 of them failed")));  // the changed level printed no number
}

// What was skipped is no pass that is in.
TEST_F(Models, TheSheetCountsWhatIsInNotWhatWasPlanned) {
  core::Study study = timed(2);
  for (core::Level& level : study.variable().levels) level.environment = {{"SECONDS_AT_LEVEL", "1"}};
  open(study);
  model_.act([](session::Session& s) { return s.decisions().skipNext("the save is broken"); });
  runToEnd();
  EXPECT_EQ(sheet_.hand().title, QStringLiteral("The sheet is done"));
  EXPECT_EQ(sheet_.hand().line, QStringLiteral("3 of 4 planned passes are in."));
}

// Every file counts its passes from 1, and the table lives as long as the window.
TEST_F(Models, TheTableShowsThePassesOfTheStudyThatIsOpen) {
  const app::PassTableModel table(model_);
  const auto values = [&table] {
    std::set<QString> all;
    for (int row = 0; row < table.rowCount({}); ++row)
      all.insert(table.index(row, app::PassTableModel::ResultColumn).data().toString());
    return all;
  };
  for (const auto& [name, seconds] : {std::pair("first.ironlever", "11"), {"repetition.ironlever", "22"}}) {
    core::Study study = timed(2);
    for (core::Level& level : study.variable().levels) level.environment = {{"SECONDS_AT_LEVEL", seconds}};
    open(study, name);
    runToEnd();
  }
  const QString second = QStringLiteral("22.00 s");
  EXPECT_EQ(values(), std::set{second});
  model_.openStudy(QString::fromStdString(folder_ / "first.ironlever"));
  EXPECT_EQ(values(), std::set{QStringLiteral("11.00 s")});
  model_.openStudy(QString::fromStdString(folder_ / "repetition.ironlever"));
  EXPECT_EQ(values(), std::set{second});
}

// A sealed plan shows nobody a number before its end, frame by frame neither.
TEST_F(Models, TheFramesOfASealedPlanAreNotShown) {
  core::Study study = support::studyOf({"sh", "-c", "printf 'frame_ms\n10\n11\n12\n' > \"$0\"", "{log}"});
  study.plan.is_sealed = true;
  study.further_targets_fps = {30};
  open(study);
  const app::FramesViewModel frames(model_);
  model_.act([](session::Session& s) { return s.approve(); });
  model_.act(&session::Session::start);
  ASSERT_TRUE(support::waitUntil([this] { return !model_.session().recorded().passes.empty(); }));
  model_.session().stop(session::Stop::AfterPass);
  ASSERT_TRUE(support::waitUntil([this] { return !model_.session().isRunning(); }));
  ASSERT_TRUE(model_.session().nextSlot());
  EXPECT_TRUE(frames.choices(0).empty());
  model_.act(&session::Session::start);
  ASSERT_TRUE(support::waitUntil([this] { return !model_.session().isRunning(); }));
  const auto choices = frames.choices(0);
  ASSERT_EQ(choices.size(), 6U) << "four passes, two levels";
  // Each rate that is to be held has a number of its own.
  const app::FramesTrace trace = frames.trace(choices[0], 0, core::TraceAxis::Seconds);
  qsizetype columns = 0;
  for (const auto& [name, several] : frames.metricsHead()) columns += std::max<qsizetype>(1, several.size());
  EXPECT_EQ(frames.metrics(trace, 0, 1).cells.size(), columns);
  EXPECT_EQ(frames.metricsHead()[5].second, (QStringList{QStringLiteral("60 FPS"), QStringLiteral("30 FPS")}));
}

TEST_F(Models, AHeldSheetNamesPlaceAndRemedy) {
  core::Study study = timed();
  study.variable().levels[0].set_command = {"sh", "-c", "echo no such profile >&2; exit 4"};
  open(study);
  runToEnd();
  EXPECT_TRUE(sheet_.hand().is_problem);
  EXPECT_TRUE(sheet_.hand().line.contains(QStringLiteral("no such profile")));
  EXPECT_TRUE(app::nextActionOf(model_, core::Place::RunSheet).text.startsWith(QStringLiteral("Try again")));
}

TEST_F(Models, CloseAStudyThatMakesSomethingThrow) {
  ASSERT_TRUE(store::StudyFile::create(folder_ / "thrown.ironlever", support::timedStudyOf({"true"})).ok());
  QStringList said;
  QObject::connect(&model_, &app::StudyModel::failed, &model_, [&](const QString& sentence) { said << sentence; });
  const auto thrower = QObject::connect(&model_, &app::StudyModel::studyTaken, &model_,
                                        [] { throw std::runtime_error("a library gave up"); });
  model_.openStudy(QString::fromStdString(folder_ / "thrown.ironlever"));
  EXPECT_FALSE(model_.hasStudy()) << "half of a study is none";
  ASSERT_EQ(said.size(), 1);
  EXPECT_TRUE(said[0].contains(QStringLiteral("thrown.ironlever"))) << said[0].toStdString();
  QObject::disconnect(thrower);
  model_.openStudy(QString::fromStdString(folder_ / "thrown.ironlever"));
  EXPECT_TRUE(model_.hasStudy()) << "the file is as it was";
}

}  // namespace
