// The question, asked step by step.
#include <QClipboard>
#include <QRegularExpression>
#include <QTableWidget>
#include <QTest>

#include "app/model/planning_model.h"
#include "app/question/case_dialog.h"
#include "app/question/editors.h"
#include "app/question/step_card.h"
#include "app/shell/claim_line.h"
#include "support/machine_watch.h"
#include "support/studies.h"
#include "support/window.h"

namespace {

class Questions : public support::WindowTest {
 protected:
  [[nodiscard]] bool isOpen(int step) const {
    return find<app::StepCard>(("step" + std::to_string(step) + "Card").c_str())->isOpen();
  }
  [[nodiscard]] QString answer(int step) const {
    return find<QLabel>(("step" + std::to_string(step) + "Answer").c_str())->text();
  }
  /// Waits until the bench has been read.
  void waitForBench() {
    ASSERT_TRUE(support::waitUntil([this] { return find<QLabel>("benchNowLabel")->isHidden(); }));
  }
  [[nodiscard]] QTreeWidgetItem* kindRow(const QString& id) const {
    for (QTreeWidgetItemIterator it(find<QTreeWidget>("kindList")); *it; ++it)
      if ((*it)->parent() && (*it)->data(0, Qt::UserRole).toString() == id) return *it;
    return nullptr;
  }
};

TEST_F(Questions, OpenOneStepAtATimeAndSayWhatWasChosenInTheOthers) {
  open();
  press("welcomeNewButton");
  EXPECT_TRUE(isOpen(1));
  EXPECT_EQ(answer(3), QStringLiteral("Nothing yet"));
  for (int step = 5; step >= 1; --step) {
    if (!isOpen(step))
      QTest::mouseClick(find<QWidget>(("step" + std::to_string(step) + "Card").c_str()), Qt::LeftButton);
    for (int other = 1; other <= 5; ++other) EXPECT_EQ(isOpen(other), other == step) << step << other;
  }
  chooseKind(QStringLiteral("swappiness"));
  EXPECT_EQ(study_->study().variable().name, "swappiness");
  Q_EMIT find<app::ClaimLine>("claimLine")->partClicked(QStringLiteral("baseline"));
  EXPECT_TRUE(isOpen(2));
  EXPECT_TRUE(answer(1).startsWith(QStringLiteral("Swappiness: ")));
}

// On a machine that shows everything: a folder that stands for it.
TEST_F(Questions, ProposeTheLevelsThatTheBenchOffers) {
  core::Study study;
  study.bench = "Dome node 3";
  study.machine = "machine";
  std::filesystem::create_directory_symlink(std::string(IRON_LEVER_FIXTURES) + "/dome-node/gen3", folder_ / "machine");
  study.plan.order = core::Order::BalancedShuffle;
  openStudy(study);
  EXPECT_TRUE(textOf("benchNowLabel").contains(QStringLiteral("nobody has approved yet")));
  ASSERT_TRUE(study_->act([](session::Session& s) { return s.approve(); }));
  waitForBench();
  EXPECT_EQ(kindRow(QStringLiteral("memory_speed"))->text(1), QStringLiteral("4800 MT/s"));
  EXPECT_EQ(kindRow(QStringLiteral("pcie_generation"))->text(2), QStringLiteral("a restart"));
  EXPECT_EQ(kindRow(QStringLiteral("smt"))->text(2), QStringLiteral("the program"));
  chooseKind(QStringLiteral("pcie_generation"));
  const auto names = [this] {
    std::string all;
    for (const core::Level& level : study_->study().variable().levels) all += level.name + ";";
    return all;
  };
  EXPECT_EQ(names(), "Gen 3;Gen 4;");  // as it is now, and the next
  press("offer1Button");
  press("offer2Button");
  EXPECT_EQ(names(), "Gen 1;Gen 2;");  // the two that were pressed last
  choose("shapeBox", static_cast<int>(core::Shape::Ladder));
  press("offer3Button");
  EXPECT_EQ(names(), "Gen 1;Gen 2;Gen 3;");
  press("offer2Button");
  EXPECT_EQ(names(), "Gen 1;Gen 3;");
  press("offer1Button");
  EXPECT_EQ(names(), "Gen 1;Gen 3;");  // fewer than two are no question
  EXPECT_TRUE(find<QPushButton>("offer1Button")->isChecked());
}

// What was read of one bench is never shown as another's.
TEST_F(Questions, ForgetTheBenchBeforeWithItsStudy) {
  open();
  press("welcomeNewButton");
  waitForBench();
  EXPECT_FALSE(kindRow(QStringLiteral("swappiness"))->text(1).isEmpty());
  core::Study elsewhere = support::timedStudyOf({"true"}, 5);
  elsewhere.is_this_machine = false;
  ASSERT_TRUE(store::StudyFile::create(folder_ / "elsewhere.ironlever", elsewhere).ok());
  prompts_.path = QString::fromStdString(folder_ / "elsewhere.ironlever");
  trigger("openStudyAction");
  EXPECT_TRUE(kindRow(QStringLiteral("swappiness"))->text(1).isEmpty());
  EXPECT_TRUE(textOf("benchNowLabel").contains(QStringLiteral("on another machine")));
}

TEST_F(Questions, EndATrialWhenPassesBegin) {
  core::Study study = support::timedStudyOf({"sleep", "300"}, 1);
  openStudy(study);
  auto* shelf = find<QTreeWidget>("shelfList");
  shelf->setCurrentItem(shelf->findItems(QStringLiteral("Dome scene, 1k"), Qt::MatchExactly).value(0));
  press("shelfTryButton");
  EXPECT_TRUE(textOf("trialLabel").contains(QStringLiteral("runs …")));
  ASSERT_TRUE(study_->act([](session::Session& s) { return s.approve(); }));
  study_->act(&session::Session::start);
  ASSERT_TRUE(
      support::waitUntil([this] { return textOf("trialLabel").contains(QStringLiteral("stopped by a person")); }));
  study_->stopNow();
  ASSERT_TRUE(support::waitUntil([this] { return !study_->session().isRunning(); }));
}

TEST_F(Questions, KeepLevelsThatAPersonWrote) {
  open();
  press("welcomeNewButton");
  waitForBench();
  type("baselineNameEdit", QStringLiteral("mine"));
  chooseKind(QStringLiteral("swappiness"));
  EXPECT_EQ(study_->study().variable().levels[0].name, "mine");
}

TEST_F(Questions, TakeWorkloadsFromTheShelfAndTryThem) {
  open();
  press("welcomeNewButton");
  auto* shelf = find<QTreeWidget>("shelfList");
  const auto rows = shelf->findItems(QStringLiteral("Fixed work"), Qt::MatchExactly);
  ASSERT_EQ(rows.size(), 1);
  shelf->setCurrentItem(rows[0]);
  press("shelfPutButton");
  ASSERT_EQ(study_->study().cases.size(), 1U);
  EXPECT_EQ(rows[0]->text(3), QStringLiteral("yes"));
  EXPECT_TRUE(study_->study().cases[0].is_synthetic);
  press("shelfPutButton");  // out again
  EXPECT_TRUE(study_->study().cases.empty());
  press("shelfControlButton");
  EXPECT_TRUE(study_->study().cases[0].is_control);
  press("shelfTryButton");
  ASSERT_TRUE(
      support::waitUntil([this] { return textOf("trialLabel").contains(QStringLiteral("Nothing of it was filed")); }));
  EXPECT_TRUE(textOf("trialLabel").startsWith(QStringLiteral("Fixed work: "))) << textOf("trialLabel").toStdString();
  EXPECT_TRUE(study_->session().recorded().passes.empty());
}

TEST_F(Questions, FindThePlanForTheTimeThereIs) {
  openStudy(support::timedStudyOf({"true"}, 5));
  press("budget60Button");
  EXPECT_EQ(study_->study().plan.order, core::Order::BalancedShuffle);
  EXPECT_LE(app::planningView(*study_).current.minutes, 60);
  core::Study long_one = study_->study();  // of weeks: a weekday alone would name the wrong one
  long_one.plan.guess.visit_pass_minutes = 10000;
  study_->replaceStudy(long_one);
  static const QRegularExpression kDateAndTime(QStringLiteral("^\\d{4}-\\d\\d-\\d\\d \\d\\d:\\d\\d$"));
  EXPECT_TRUE(kDateAndTime.match(app::planningView(*study_).current_end).hasMatch());
  study_->undo();
  auto* minutes = find<QDoubleSpinBox>("budgetSpin");
  minutes->setValue(1);  // a flip alone takes five
  Q_EMIT minutes->editingFinished();
  ASSERT_FALSE(prompts_.told.isEmpty());
  EXPECT_TRUE(prompts_.told.last().contains(QStringLiteral("no plan with an interval is so short")));
  EXPECT_GT(minutes->value(), 1);
}

TEST_F(Questions, AreKeptWithoutAskingForAFileAndElsewhereOnWish) {
  open();
  press("welcomeNewButton");
  const std::string made = study_->session().open().path();
  EXPECT_TRUE(made.starts_with(folder_ / "user/studies/question 1 of ")) << made;
  type("benchEdit", QStringLiteral("Dome node 3"));
  prompts_.path = QString::fromStdString(folder_ / "elsewhere.ironlever");
  trigger("keepElsewhereAction");
  EXPECT_EQ(study_->session().open().path(), folder_ / "elsewhere.ironlever");
  EXPECT_EQ(study_->study().bench, "Dome node 3");
  EXPECT_FALSE(std::filesystem::exists(made));
  // Its copies go on.
  ASSERT_TRUE(study_->session().secondCopy().setFolder(folder_ / "user").ok());
  prompts_.path = QString::fromStdString(folder_ / "further.ironlever");
  trigger("keepElsewhereAction");
  EXPECT_EQ(study_->session().secondCopy().folder(), folder_ / "user");
  prompts_.path = QString::fromStdString(folder_ / "elsewhere.ironlever");
  trigger("keepElsewhereAction");
  trigger("newStudyAction");
  trigger("keepElsewhereAction");  // onto the other one: never
  EXPECT_TRUE(prompts_.told.last().contains(QStringLiteral("could not be moved and stays where it was")));
  EXPECT_EQ(study_->session().open().path(), made);
  EXPECT_EQ(store::StudyFile::open(folder_ / "elsewhere.ironlever")->study().bench, "Dome node 3");
}

// Once the question is complete, where nobody gave the file a name; what was changed can still be taken back.
TEST_F(Questions, AreNamedByWhatTheyAsk) {
  open();
  press("welcomeNewButton");
  const auto name = [&] { return std::filesystem::path(study_->session().open().path()).filename().string(); };
  trigger("benchAction");
  EXPECT_TRUE(name().starts_with("question 1 of ")) << "it is not complete yet";
  trigger("questionAction");
  core::Study asked = support::timedStudyOf({"true"}, 5);
  asked.bench = "Dome node 3";
  asked.variable().name = "memory speed";
  study_->replaceStudy(asked);
  trigger("benchAction");
  EXPECT_TRUE(name().starts_with("Dome node 3, memory speed, ")) << name();
  trigger("questionAction");
  type("benchEdit", QStringLiteral("Dome node 4"));
  trigger("benchAction");
  EXPECT_TRUE(name().starts_with("Dome node 4, memory speed, ")) << name();
  EXPECT_EQ(window_->windowTitle(),
            QString::fromStdString(name()).remove(QStringLiteral(".ironlever")) + QStringLiteral(" — Iron Lever"));
  trigger("undoAction");
  EXPECT_EQ(study_->study().bench, "Dome node 3");
  prompts_.path = QString::fromStdString(folder_ / "mine.ironlever");
  trigger("keepElsewhereAction");
  trigger("questionAction");
  type("benchEdit", QStringLiteral("Dome node 5"));
  trigger("benchAction");
  EXPECT_EQ(name(), "mine.ironlever") << "a person named it";
}

/// Clicks and keys as a person makes them, counted.
class FirstMinutes : public Questions {
 protected:
  void click(const char* name) {
    auto* widget = find<QWidget>(name);
    ASSERT_TRUE(widget->isVisible() && widget->isEnabled()) << name;
    QTest::mouseClick(widget, Qt::LeftButton);
    ++inputs_;
  }
  void clickRow(QTreeWidget* list, QTreeWidgetItem* row) {
    ASSERT_TRUE(row && list->isVisible());
    list->scrollToItem(row);
    QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(row).center());
    ++inputs_;
  }
  void clickRow(const char* list, const QString& text) {
    auto* tree = find<QTreeWidget>(list);
    const auto rows = tree->findItems(text, Qt::MatchExactly | Qt::MatchRecursive);
    ASSERT_EQ(rows.size(), 1) << text.toStdString();
    clickRow(tree, rows[0]);
  }
  void key(QWidget* widget, const QString& text) {
    QTest::mouseClick(widget, Qt::LeftButton);
    QTest::keyClick(widget, Qt::Key_A, Qt::ControlModifier);
    QTest::keyClicks(widget, text);
    QTest::keyClick(widget, Qt::Key_Tab);
    ++inputs_;
  }
  /// Whatever the program asks for next, until nothing more is to be started.
  void goOnUntilItRuns() {
    for (int i = 0; i < 4 && !study_->session().isRunning(); ++i) click("nextActionButton");
    ASSERT_TRUE(study_->session().isRunning()) << nextText().toStdString();
  }
  /// The window of a machine that stands for this one.
  void openOn(bench::BenchConnection& machine) {
    study_ = std::make_unique<app::StudyModel>(machine, session::UserFiles::in(folder_ / "user"));
    window_ = std::make_unique<app::MainWindow>(*study_, prompts_, QString::fromStdString(folder_ / "demo"));
    window_->show();
  }
  int inputs_ = 0;
};

// The machine at hand, a setting that the program switches, a workload from the shelf.
TEST_F(FirstMinutes, LeadInEarnestFromNothingToAFindingOnThisMachine) {
  support::MachineWatch watch;
  if (::access("/proc/sys/vm/swappiness", W_OK) != 0) GTEST_SKIP() << "settings of this machine cannot be written here";
  open();
  click("welcomeNewButton");
  waitForBench();
  clickRow("kindList", QStringLiteral("swappiness"));
  click("step3Button");
  clickRow("shelfList", QStringLiteral("Fixed work"));
  click("shelfPutButton");
  click("step5Button");
  key(find<QDoubleSpinBox>("budgetSpin"), QStringLiteral("2"));
  goOnUntilItRuns();
  ASSERT_TRUE(support::waitUntil([this] { return !study_->session().isRunning(); }, 540'000));
  click("nextActionButton");
  EXPECT_LE(inputs_, 15);
  EXPECT_EQ(window_->place(), core::Place::Findings);
  EXPECT_TRUE(study_->judgement().findings.cases.at(0).change.interval);
}

// A link whose generation only a person can set, on a machine that a folder stands for.
TEST_F(FirstMinutes, LeadToWhatALinkGenerationChangesWhereAPersonSetsIt) {
  const std::string trees = std::string(IRON_LEVER_FIXTURES) + "/dome-node/";
  const auto flip_to = [&](const std::string& tree) {
    std::filesystem::remove(folder_ / "machine");
    std::filesystem::create_directory_symlink(trees + tree, folder_ / "machine");
  };
  flip_to("gen3");
  bench::LocalBench faked(folder_ / "machine");
  openOn(faked);
  click("welcomeNewButton");
  waitForBench();
  clickRow("kindList", QStringLiteral("PCIe generation"));
  click("step3Button");
  clickRow("shelfList", QStringLiteral("Fixed work"));
  click("shelfPutButton");
  core::Study shorter = study_->study();  // a person has the time, a test has not
  shorter.cases[0].command.back() = "4";
  study_->replaceStudy(shorter);
  click("step5Button");
  key(find<QDoubleSpinBox>("budgetSpin"), QStringLiteral("33"));
  click("nextActionButton");  // reads what is to be approved
  click("nextActionButton");  // approves it
  EXPECT_LE(inputs_, 15);
  while (study_->session().nextSlot()) {
    ASSERT_TRUE(nextText().contains(QStringLiteral("visit"))) << nextText().toStdString();
    flip_to(nextText().contains(QStringLiteral("Gen 3")) ? "gen3" : "gen4");
    click("nextActionButton");
    ASSERT_TRUE(support::waitUntil([this] { return !study_->session().isRunning(); }));
  }
  EXPECT_EQ(study_->judgement().proof.levels->moved, core::Moved::Yes);
  EXPECT_TRUE(study_->judgement().findings.cases.at(0).change.interval);
}

// Another machine's numbers, read off its screen.
TEST_F(FirstMinutes, LeadToAFindingFromNumbersThatAPersonReadsOff) {
  open();
  click("welcomeNewButton");
  waitForBench();
  clickRow("kindList", QStringLiteral("memory speed or profile"));
  click("step2Button");
  key(find<QLineEdit>("baselineNameEdit"), QStringLiteral("4800 MT/s"));
  key(find<QLineEdit>("changedNameEdit"), QStringLiteral("6000 MT/s"));
  click("step3Button");
  click("addTypedButton");
  key(find<QLineEdit>("caseWorkloadEdit"), QStringLiteral("Ring pass"));
  click("step5Button");
  key(find<QDoubleSpinBox>("budgetSpin"), QStringLiteral("60"));
  trigger("passesAction");
  ++inputs_;
  click("typingButton");
  EXPECT_LE(inputs_, 15);
  ASSERT_TRUE(study_->problems().empty()) << study_->problems().front().sentence();
  auto* table = find<QTableView>("typedResults");
  ASSERT_TRUE(table->isVisible());
  QStringList results;
  for (const core::Slot& slot : study_->session().open().schedule())
    results << QString::number((slot.configuration == core::ConfigurationId::Baseline ? 100 : 110) +
                               results.size() % 3);
  QGuiApplication::clipboard()->setText(results.join(QLatin1Char('\n')));
  QTest::keySequence(table, QKeySequence::Paste);
  ASSERT_FALSE(study_->session().nextSlot());
  const core::PercentChange& change = study_->judgement().findings.cases.at(0).change;
  ASSERT_TRUE(change.interval);
  EXPECT_NEAR(change.value, 9.9, 1.5);
}

// What the window does not show of a case it must not take away either.
TEST_F(Questions, KeepWhereAResultStandsAndTakeFurtherOnes) {
  core::Study study = support::timedStudyOf({"echo", "loaded in 4 s"});
  core::Case& a_case = study.cases[0];
  a_case.source = core::ResultSource::File;
  a_case.path = "result.json";
  a_case.pattern = "total ([0-9]+)";
  a_case.field = core::CaseResult().field;
  a_case.divide_by = 8;
  a_case.name = a_case.metric.name;
  core::CaseResult further = a_case.headline();
  further.name = further.metric.name = "load time";
  further.source = core::ResultSource::Pattern;
  further.path.clear();
  a_case.further = {further};
  a_case.possible = {{3, 7}, "not enough memory", {{"warned", "LOW"}}};
  app::CaseEditor editor;
  editor.load(a_case);
  EXPECT_EQ(editor.edited(), a_case);
  app::CaseDialog dialog(a_case);
  EXPECT_EQ(dialog.edited(), a_case);
  dialog.show();
  dialog.findChild<QPushButton*>(QStringLiteral("addResultButton"))->click();
  auto* table = dialog.findChild<QTableWidget*>(QStringLiteral("resultsTable"));
  ASSERT_EQ(table->rowCount(), 2);
  EXPECT_EQ(dialog.edited().further.size(), 1U) << "one without a name is none";
  table->item(1, 0)->setText(QStringLiteral("sky"));
  table->item(1, 2)->setText(QStringLiteral("scores.sky"));
  ASSERT_EQ(dialog.edited().further.size(), 2U);
  EXPECT_EQ(dialog.edited().further[1].source, core::ResultSource::JsonField);
  EXPECT_EQ(dialog.edited().further[1].field, "scores.sky");
  EXPECT_TRUE(app::natureText(dialog.edited()).contains(QStringLiteral("2 results beside the headline")));
  table->setCurrentCell(0, 0);
  dialog.findChild<QPushButton*>(QStringLiteral("takeOutResultButton"))->click();
  ASSERT_EQ(dialog.edited().further.size(), 1U);
  EXPECT_EQ(dialog.edited().further[0].name, "sky");
  editor.setNature(dialog.edited());
  EXPECT_EQ(editor.edited().further, dialog.edited().further);
}

TEST_F(Questions, TakeACompanionAndAnAudienceOfACase) {
  core::Study study = support::timedStudyOf({"echo"});
  app::CaseEditor editor;
  editor.load(study.cases[0]);
  app::CaseDialog dialog(study.cases[0]);
  const auto field = [&](const char* name) { return dialog.findChild<QLineEdit*>(QString::fromUtf8(name)); };
  field("companionEdit")->setText(QStringLiteral("recorder --quality \"very high\""));
  field("companionNameEdit")->setText(QStringLiteral("a recording"));
  dialog.findChild<QDoubleSpinBox*>(QStringLiteral("headStartSpin"))->setValue(2.5);
  field("audienceEdit")->setText(QStringLiteral(" shows "));
  const core::Case taken = dialog.edited();
  EXPECT_EQ(taken.companion, (core::Companion{{"recorder", "--quality", "very high"}, "a recording", 2.5}));
  EXPECT_EQ(taken.audience, "shows");
  EXPECT_TRUE(app::natureText(taken).contains(QStringLiteral("by command · for shows")));
  editor.setNature(taken);
  EXPECT_EQ(editor.edited(), taken);
  app::CaseDialog again(taken);
  EXPECT_EQ(again.edited(), taken);
  again.findChild<QLineEdit*>(QStringLiteral("companionEdit"))->clear();
  EXPECT_EQ(again.edited().companion, core::Companion()) << "nothing is left of one that is taken out";
}

}  // namespace
