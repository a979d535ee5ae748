// Ladders, crossings and chains in the real window, with real processes behind it.
#include <QScrollBar>
#include <QSignalSpy>
#include <QTableWidget>
#include <QTest>

#include "app/question/shape_editor.h"
#include "support/studies.h"
#include "support/window.h"

namespace {

using support::waitUntil;

class ShapeWindow : public support::WindowTest {
 protected:
  // A level's number of threads comes by the environment; more of them take less time, in two sizes of the work.
  static core::Study threads(std::initializer_list<int> counts = {1, 2, 4}) {
    core::Study study = support::timedStudyOf(
        {"sh", "-c", "n=${N:-1}; k=$1; echo \"{\\\"seconds\\\": $(( 1000000 * (n + k) / n + $$ % 97 ))}\"", "sh", "1"});
    study.cases.push_back(study.cases[0]);
    study.cases[1].preset = "8K dome";
    study.cases[1].command.back() = "3";
    study.shape = core::Shape::Ladder;
    study.variable().name = "threads";
    study.variable().resource_unit = "threads";
    study.variable().levels.clear();
    for (const int n : counts) {
      core::Level level;
      level.name = std::to_string(n) + " threads";
      level.resource = n;
      level.environment = {{"N", std::to_string(n)}};
      study.variable().levels.push_back(level);
    }
    study.plan.order = core::Order::BalancedShuffle;
    study.plan.rounds = 3;
    study.plan.passes_per_visit = 1;
    study.plan.drawn = core::drawRounds(counts.size(), 3, 1);
    return study;
  }
  void runToEnd() {
    study_->act([](session::Session& s) { return s.approve(); });
    study_->act(&session::Session::start);
    ASSERT_TRUE(waitUntil([this] { return study_->session().state() == session::State::Finished; }));
  }
  // Is there one? Its row has the lines that it takes.
  [[nodiscard]] bool hasLongVerdict() const {
    const auto* table = find<QTableWidget>("contrastTable");
    const int verdict = table->columnCount() - 1;
    bool has_one = false;
    for (int row = 0; row < table->rowCount(); ++row) {
      if (table->item(row, verdict) == nullptr) continue;
      const int width = table->fontMetrics().horizontalAdvance(table->item(row, verdict)->text());
      const int lines = 1 + width / table->columnWidth(verdict);
      EXPECT_GE(table->rowHeight(row), lines * table->fontMetrics().height());
      has_one = has_one || lines > 1;
    }
    return has_one;
  }
  // What the levers are about, as a person reads it.
  [[nodiscard]] QString compared() const {
    return QStringLiteral("%1 against %2, %3")
        .arg(find<QComboBox>("comparedToBox")->currentText(), find<QComboBox>("comparedFromBox")->currentText(),
             find<QLabel>("comparedLabel")->text());
  }
  [[nodiscard]] int rowOf(const QString& title) const {
    const auto* table = find<QTableWidget>("contrastTable");
    for (int row = 0; row < table->rowCount(); ++row)
      if (table->item(row, 0) && table->item(row, 0)->text() == title) return row;
    return -1;
  }
};

TEST_F(ShapeWindow, RunsARealLadderAndShowsHowFarEachStepCarries) {
  openStudy(threads());
  runToEnd();
  EXPECT_EQ(study_->judgement().findings.recorded_passes, 18);
  trigger("findingsAction");
  EXPECT_TRUE(find<QWidget>("shapePicture")->isVisible());
  EXPECT_TRUE(find<QLabel>("claimSentence")->text().contains(QStringLiteral("4&nbsp;threads&nbsp;is&nbsp;enough")));
  EXPECT_EQ(compared(), QStringLiteral("4 threads against 1 threads, case by case"));
  // A step that is chosen is what the levers, the evidence and the proof are about.
  const int row = rowOf(QStringLiteral("1 threads to 2 threads"));
  ASSERT_GE(row, 0);
  find<QTableWidget>("contrastTable")->selectRow(row);
  EXPECT_EQ(compared(), QStringLiteral("2 threads against 1 threads, case by case"));
  const double factor = study_->judgement().findings.cases[0].improvement.value;  // 2 in place of 1.5
  EXPECT_NEAR(factor, 100 * (2 / 1.5 - 1), 0.1);
  EXPECT_TRUE(rowOf(QStringLiteral("Step by step")) < rowOf(QStringLiteral("Against 1 threads")));
  EXPECT_TRUE(support::hasAccent(*find<QWidget>("shapePicture")));
  EXPECT_FALSE(find<QComboBox>("shapeBox")->isEnabled());  // measured is measured
  EXPECT_FALSE(find<QPushButton>("addLevelButton")->isEnabled());
  EXPECT_TRUE(find<QListWidget>("levelsList")->isEnabled());
  // The first steps are in sight, and a verdict that is too long for its column is read whole.
  EXPECT_EQ(find<QTableWidget>("contrastTable")->verticalScrollBar()->value(), 0);
  EXPECT_FALSE(hasLongVerdict());
  const core::Judging by{study_->judgement().findings.suite->improvement.value};
  study_->act([&](session::Session& s) { return s.decisions().changeJudging(by, "so that its size is not settled"); });
  QHeaderView* columns = find<QTableWidget>("contrastTable")->horizontalHeader();
  columns->setSectionResizeMode(columns->count() - 1, QHeaderView::Fixed);
  columns->resizeSection(columns->count() - 1, 60);
  EXPECT_TRUE(hasLongVerdict());
  // Every place can be opened: none takes the two levels of a pair for granted.
  for (const char* place : {"questionAction", "benchAction", "runSheetAction", "passesAction", "reportPlaceAction"})
    trigger(place);
  EXPECT_TRUE(window_->width() <= 1280 && window_->height() <= 800);
}

// Any two can be put against each other; those that nobody asked about are marked, and a pair has no such choice.
TEST_F(ShapeWindow, PutsAnyTwoConfigurationsAgainstEachOther) {
  openStudy(threads({1, 2, 4, 8}));
  runToEnd();
  trigger("findingsAction");
  EXPECT_TRUE(compared().endsWith(QStringLiteral(", case by case"))) << compared().toStdString();
  // Whatever else changes in the study, the list stays as it is under whoever is choosing.
  const QSignalSpy taken_away(find<QComboBox>("comparedToBox")->model(), &QAbstractItemModel::rowsRemoved);
  const QSignalSpy made_anew(find<QComboBox>("comparedToBox")->model(), &QAbstractItemModel::modelReset);
  study_->act([](session::Session& s) { return s.decisions().changeJudging({3}, "so that something changes"); });
  EXPECT_EQ(taken_away.count() + made_anew.count(), 0);
  choose("comparedToBox", 3);
  choose("comparedFromBox", 1);
  EXPECT_TRUE(compared().endsWith(QStringLiteral(", case by case · chosen afterwards"))) << compared().toStdString();
  EXPECT_EQ(study_->judgement().pair, (core::PairOf{core::configurationAt(1), core::configurationAt(3)}));
  // One against itself: the two change places.
  choose("comparedToBox", 1);
  EXPECT_EQ(study_->judgement().pair, (core::PairOf{core::configurationAt(3), core::configurationAt(1)}));
}

TEST_F(ShapeWindow, AsksInEveryShapeAndKeepsWhatWasSaid) {
  core::Study pair = support::timedStudyOf({"echo", "{\"seconds\": 1}"});
  openStudy(pair);
  trigger("questionAction");
  const auto now = [this]() -> const core::Study& { return study_->study(); };
  choose("shapeBox", static_cast<int>(core::Shape::Ladder));
  ASSERT_EQ(now().shape, core::Shape::Ladder);
  press("addLevelButton");
  find<QListWidget>("levelsList")->setCurrentRow(2);
  type("changedNameEdit", QStringLiteral("7200 MT/s"));
  type("resourceEdit", QStringLiteral("7200,5"));
  type("resourceUnitEdit", QStringLiteral("MT/s"));
  EXPECT_EQ(now().nameOf(core::configurationAt(2)), "7200 MT/s");
  EXPECT_EQ(now().variable().levels[2].resource, 7200.5);
  // What is no number cannot be typed, and digits that nobody touched stay all of them.
  type("resourceEdit", QStringLiteral("7200.123456789"));
  QTest::keyClicks(find<QLineEdit>("resourceEdit"), QStringLiteral("fast"));
  type("resourceUnitEdit", QStringLiteral("MT/s"));
  EXPECT_EQ(now().variable().levels[2].resource, 7200.123456789);
  type("resourceEdit", QStringLiteral("7200,"));  // on the way to a number
  EXPECT_EQ(now().variable().levels[2].resource, 7200);
  press("raiseLevelButton");
  EXPECT_EQ(now().nameOf(core::configurationAt(1)), "7200 MT/s");
  EXPECT_EQ(find<QListWidget>("levelsList")->currentRow(), 1);
  press("baselineLevelButton");
  EXPECT_EQ(now().variable().baseline, 1U);
  EXPECT_TRUE(core::problemsOf(now()).empty()) << core::problemsOf(now()).front().sentence();
  EXPECT_EQ(now().plan.drawn.empty(), now().plan.order != core::Order::BalancedShuffle);

  choose("shapeBox", static_cast<int>(core::Shape::Crossed));
  ASSERT_EQ(now().variables.size(), 2U);
  EXPECT_EQ(now().configurationCount(), 6U);
  choose("variableBox", 1);
  type("variableEdit", QStringLiteral("large aperture"));
  EXPECT_EQ(now().variables[1].name, "large aperture");
  EXPECT_EQ(now().variables[0].name, "memory speed");
  EXPECT_TRUE(core::problemsOf(now()).empty());

  choose("shapeBox", static_cast<int>(core::Shape::Chain));
  EXPECT_EQ(now().configurationCount(), 2U);
  press("addStepButton");
  ASSERT_EQ(now().configurationCount(), 3U);
  EXPECT_EQ(core::movedBetween(now(), core::configurationAt(1), core::configurationAt(2)).size(), 1U);
  find<QTableWidget>("stepsTable")->item(2, 0)->setText(QStringLiteral("the box"));
  EXPECT_EQ(now().nameOf(core::configurationAt(2)), "the box");
  EXPECT_TRUE(core::problemsOf(now()).empty());
  press("removeStepButton");
  EXPECT_EQ(now().configurationCount(), 2U);

  choose("shapeBox", static_cast<int>(core::Shape::Pair));
  EXPECT_EQ(now().variables.size(), 1U);
  EXPECT_EQ(now().nameOf(core::ConfigurationId::Baseline), "7200 MT/s");  // the one that was made the baseline
  EXPECT_TRUE(find<QLineEdit>("baselineNameEdit")->isVisible());
  EXPECT_TRUE(core::problemsOf(now()).empty());
}

TEST_F(ShapeWindow, RecordsALevelThatCannotBeReachedAndGoesOnWithoutIt) {
  core::Study study = threads();
  study.variable().levels[2].set_command = {"false"};
  openStudy(study);
  study_->act([](session::Session& s) { return s.approve(); });
  study_->act(&session::Session::start);
  ASSERT_TRUE(waitUntil([this] { return study_->session().state() == session::State::Held; }));
  prompts_.answer = QStringLiteral("it does not take four");
  trigger("unreachableAction");
  study_->act(&session::Session::start);
  ASSERT_TRUE(waitUntil([this] { return study_->session().state() == session::State::Finished; }));
  EXPECT_TRUE(study_->judgement().findings.done.is_first_done);
  ASSERT_FALSE(study_->judgement().shape.missing.empty());
  EXPECT_EQ(study_->judgement().shape.missing.back().name, "4 threads");
}

}  // namespace
