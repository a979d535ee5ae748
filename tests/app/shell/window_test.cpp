// The real window with real processes behind it.
#include "support/window.h"

#include <QBuffer>
#include <QPdfWriter>
#include <QPlainTextEdit>
#include <QTest>
#include <filesystem>
#include <fstream>

#include <qcustomplot.h>

#include "app/model/planning_model.h"
#include "app/question/held_dialog.h"
#include "app/question/number_field.h"
#include "app/shell/logbook_window.h"
#include "session/sheet/setting_journal.h"
#include "session/user/second_folders.h"
#include "support/machine_watch.h"
#include "support/studies.h"

namespace {

using support::waitUntil;

class Window : public support::WindowTest {
 protected:
  /// Fills in "one core against two" with a short scene, as a new user would.
  void askOneCoreAgainstTwo() {
    open();
    press("welcomeNewButton");
    type("benchEdit", QStringLiteral("Dome node 3"));
    type("variableEdit", QStringLiteral("core count"));
    type("baselineNameEdit", QStringLiteral("one core"));
    type("baselinePrefixEdit", QStringLiteral("taskset -c 0"));
    type("changedNameEdit", QStringLiteral("two cores"));
    type("changedPrefixEdit", QStringLiteral("taskset -c 0,1"));
    press("addCaseButton");
    type("caseWorkloadEdit", QStringLiteral("Star field"));
    type("caseCommandEdit", QStringLiteral("iron-lever-probe scene --threads 2 --size 1k --frames 16 --out {log}"));
    choose("orderBox", static_cast<int>(core::Order::ThereAndBack));
    find<QSpinBox>("passesSpin")->setValue(5);
    find<QSpinBox>("warmUpsSpin")->setValue(0);
  }
  void runToEnd() {
    trigger("nextAction");  // shows the commands
    trigger("nextAction");  // approves them
    trigger("nextAction");  // starts
    ASSERT_TRUE(study_->session().isRunning());
    ASSERT_TRUE(waitUntil([this] { return !study_->session().isRunning(); }));
  }
};

TEST_F(Window, LeadsANewUserInEarnestFromTheQuestionToThePercentage) {
  const support::MachineWatch watch;
  askOneCoreAgainstTwo();
  EXPECT_EQ(nextText(), QStringLiteral("Read 2 commands to approve"));
  runToEnd();
  EXPECT_EQ(study_->judgement().findings.recorded_passes, 10);
  EXPECT_EQ(nextText(), QStringLiteral("Read the findings"));
  trigger("nextAction");
  EXPECT_EQ(window_->place(), core::Place::Findings);
  EXPECT_TRUE(find<QListView>("leverList")->isVisible());
  const core::CaseFinding& finding = study_->judgement().findings.cases.at(0);
  ASSERT_TRUE(finding.change.interval);
  EXPECT_TRUE(textOf("claimSentence").contains(QStringLiteral("two cores")));
  SKIP_IF_DISTURBED(watch);
  // Roughly a doubling, on any machine with two cores; of two visits a level the interval may be as wide as the host is
  // restless.
  EXPECT_GT(finding.change.value, 50);
  EXPECT_LT(finding.change.value, 150);
}

TEST_F(Window, NamesWhatTheQuestionLacks) {
  open();
  press("welcomeNewButton");
  EXPECT_EQ(nextText(), QStringLiteral("Complete the question"));
  type("benchEdit", QString());
  EXPECT_TRUE(textOf("questionProblemLabel").contains(QStringLiteral("the bench has no name")));
  type("benchEdit", QStringLiteral("Dome node 3"));
  EXPECT_TRUE(textOf("questionProblemLabel").contains(QStringLiteral("the variable has no name")));
}

TEST_F(Window, TakesTheKindOfVariableItsDeviceAndItsFields) {
  open();
  press("welcomeNewButton");
  EXPECT_FALSE(find<QLineEdit>("fieldsEdit")->isVisible());
  chooseKind(QStringLiteral("pcie_generation"));
  type("deviceEdit", QStringLiteral("0000:03:00.0"));
  EXPECT_EQ(study_->study().variable().kind, "pcie_generation");
  EXPECT_EQ(study_->study().variable().device, "0000:03:00.0");
  chooseKind(QStringLiteral("other"));
  EXPECT_FALSE(study_->problems().empty());
  type("fieldsEdit", QStringLiteral("kernel/swappiness cpu/epp"));
  EXPECT_EQ(study_->study().variable().fields, (std::vector<std::string>{"kernel/swappiness", "cpu/epp"}));
  chooseKind({});
  EXPECT_TRUE(study_->study().variable().kind.empty());
}

TEST_F(Window, KeepsEverySettingOfTheQuestion) {
  open();
  press("welcomeNewButton");
  find<QDoubleSpinBox>("thresholdSpin")->setValue(3.125);
  find<QDoubleSpinBox>("thresholdMsSpin")->setValue(1.28);
  find<QDoubleSpinBox>("confidenceSpin")->setValue(90);
  find<QDoubleSpinBox>("targetSpin")->setValue(72);
  find<QSpinBox>("passesSpin")->setValue(7);
  find<QSpinBox>("warmUpsSpin")->setValue(2);
  find<QDoubleSpinBox>("timeLimitSpin")->setValue(45);
  find<QSpinBox>("roundsSpin")->setValue(9);  // a new study begins with rounds
  find<QSpinBox>("passesPerVisitSpin")->setValue(3);
  find<QDoubleSpinBox>("settleSpin")->setValue(30);
  find<QDoubleSpinBox>("settleToSpin")->setValue(45);
  find<QDoubleSpinBox>("quietSpin")->setValue(20);
  find<QSpinBox>("retriesSpin")->setValue(2);
  find<QCheckBox>("sealedCheck")->click();
  find<QDoubleSpinBox>("passSpreadSpin")->setValue(0.8);
  find<QDoubleSpinBox>("flipSpreadSpin")->setValue(0.3);
  find<QDoubleSpinBox>("flipMinutesSpin")->setValue(12);
  find<QDoubleSpinBox>("passMinutesSpin")->setValue(4);
  choose("orderBox", static_cast<int>(core::Order::Blocked));
  chooseKind(QStringLiteral("governor"));
  EXPECT_EQ(study_->study().measure_command.front(), "iron-lever-probe");  // the kind brings what measures it
  type("measureEdit", QStringLiteral("own-tool --json"));
  type("stabilityEdit", QStringLiteral("own-test --hours 1"));
  choose("schoolBox", 1);
  type("changedWritesEdit", QStringLiteral("/sys/devices/system/cpu/cpufreq/boost=0 /proc/sys/vm/swappiness=10"));
  type("changedMenuPathEdit", QStringLiteral("Advanced > Processor"));
  press("addCaseButton");
  type("caseWorkloadEdit", QStringLiteral("Horizon bake"));
  choose("caseSourceBox", 2);  // a number in the output
  type("caseFieldEdit", QStringLiteral("result.seconds"));
  type("caseMetricEdit", QStringLiteral("render time"));
  type("caseUnitEdit", QStringLiteral("s"));
  choose("caseDirectionBox", 1);
  prompts_.nature = [](core::Case a_case) {
    a_case.is_synthetic = true;
    a_case.declared = {{"frame_cap", "60 FPS"}};
    return a_case;
  };
  press("natureButton");
  prompts_.expected = 4.5;
  press("predictButton");
  EXPECT_TRUE(textOf("predictionsLabel").contains(QStringLiteral("+4.5 %")));
  EXPECT_TRUE(find<QListWidget>("casesList")->item(0)->text().contains(QStringLiteral("synthetic · by command")));
  const auto file = store::StudyFile::open(study_->session().open().path());  // what the disk says, not the screen
  ASSERT_TRUE(file.ok());
  const core::Study& kept = file->study();
  EXPECT_EQ(kept.notice_threshold_percent, 3.125);
  EXPECT_EQ(kept.notice_threshold_ms, 1.28);
  EXPECT_DOUBLE_EQ(kept.confidence, 0.9);
  EXPECT_EQ(kept.target_fps, 72);
  EXPECT_EQ(kept.measure_command, (core::Command{"own-tool", "--json"}));
  EXPECT_EQ(kept.variable().levels[1].writes,
            (std::vector<core::SettingWrite>{{"/sys/devices/system/cpu/cpufreq/boost", "0"},
                                             {"/proc/sys/vm/swappiness", "10"}}));
  EXPECT_EQ(kept.variable().levels[1].menu_path, "Advanced > Processor");
  EXPECT_EQ(kept.plan.passes_per_level, 7);
  EXPECT_EQ(kept.plan.warm_ups, 2);
  EXPECT_EQ(kept.plan.order, core::Order::Blocked);
  EXPECT_EQ(kept.plan.time_limit_s, 45);
  EXPECT_EQ(kept.plan.rounds, 9);
  EXPECT_EQ(kept.plan.settle_s, 30);
  EXPECT_EQ(kept.plan.retries, 2);
  EXPECT_EQ(kept.plan.settle_to_c, 45);
  EXPECT_EQ(kept.plan.quiet_wait_s, 20);
  EXPECT_EQ(kept.stability_command, (core::Command{"own-test", "--hours", "1"}));
  EXPECT_EQ(kept.school, core::School::WithHeadroom);
  EXPECT_FALSE(kept.plan.is_sealed);
  EXPECT_EQ(kept.plan.passes_per_visit, 3);
  EXPECT_EQ(kept.plan.guess, (core::PlanningGuess{0.8, 0.3, 12, 4}));
  ASSERT_EQ(kept.cases.size(), 1U);
  EXPECT_TRUE(kept.cases[0].is_synthetic);
  EXPECT_EQ(kept.cases[0].declaredFact("frame_cap"), "60 FPS");
  EXPECT_EQ(kept.cases[0].source, core::ResultSource::JsonField);
  EXPECT_EQ(kept.cases[0].field, "result.seconds");
  EXPECT_EQ(kept.cases[0].metric, (core::Metric{"render time", "s", core::Direction::LowerIsBetter}));
  press("removeCaseButton");
  EXPECT_TRUE(study_->study().cases.empty());
}

TEST_F(Window, StartsNothingBeforeItsCommandsWereOnTheScreen) {
  openStudy(support::timedStudyOf({"touch", "ran"}));
  trigger("nextAction");
  EXPECT_EQ(window_->place(), core::Place::RunSheet);
  EXPECT_TRUE(textOf("handCommands").contains(QStringLiteral("touch ran")));
  EXPECT_EQ(nextText(), QStringLiteral("Approve 1 command"));
  EXPECT_FALSE(std::filesystem::exists(folder_ / "ran"));
}

TEST_F(Window, LocksTheQuestionFromTheFirstPassOn) {
  openStudy(support::timedStudyOf({"sh", "-c", "echo '{\"seconds\": 1}'"}));
  runToEnd();
  trigger("questionAction");
  EXPECT_FALSE(find<QLineEdit>("benchEdit")->isEnabled());
  EXPECT_TRUE(textOf("questionLockedLabel").contains(QStringLiteral("Locked since the first pass")));
}

TEST_F(Window, StopsThePassInHandAtOnceAndGoesOnLater) {
  openStudy(support::timedStudyOf({"sh", "-c", "test -e quick || sleep 30; echo '{\"seconds\": 1}'"}));
  trigger("nextAction");
  trigger("nextAction");
  trigger("nextAction");
  ASSERT_TRUE(waitUntil([this] { return study_->session().pass().secondsInPass() > 0.05; }));
  press("stopNowButton");
  ASSERT_TRUE(waitUntil([this] { return !study_->session().isRunning(); }, 5000));
  EXPECT_EQ(study_->judgement().findings.recorded_passes, 0);
  folder_.write("quick", "");
  trigger("nextAction");
  ASSERT_TRUE(waitUntil([this] { return !study_->session().isRunning(); }));
  EXPECT_EQ(study_->judgement().findings.recorded_passes, 4);
}

// A name that looks like markup is a name; no picture is loaded because a study says so.
TEST_F(Window, ShowsNamesAsTheyAre) {
  core::Study study = support::timedStudyOf({"sh", "-c", "echo \"it's <b>\""}, 1);
  study.bench = "<img src='x.png'>\xE2\x80\xAE bench";
  study.variable().name = "<a href='file:///etc/passwd'>v</a>";
  openStudy(study);
  for (const core::Place place : {core::Place::Question, core::Place::Bench, core::Place::RunSheet, core::Place::Passes,
                                  core::Place::Findings, core::Place::Report}) {
    window_->goTo(place);
    QCoreApplication::processEvents();
  }
  QLabel late(QStringLiteral("<h1>late</h1>"));
  late.show();
  int labels = 0;
  for (const QWidget* widget : QApplication::allWidgets())
    if (const auto* label = qobject_cast<const QLabel*>(widget);
        label && label->testAttribute(Qt::WA_WState_Polished)) {
      ++labels;
      EXPECT_NE(label->textFormat(), Qt::AutoText) << label->text().toStdString();
      EXPECT_FALSE(label->text().contains(QChar(0x202E)));
      if (label->textFormat() == Qt::RichText) {
        EXPECT_FALSE(label->text().contains(QStringLiteral("<img"))) << label->text().toStdString();
      }
    }
  EXPECT_GT(labels, 20);
}

TEST_F(Window, ShowsAFailedPassAndRepeatsIt) {
  openStudy(support::timedStudyOf({"sh", "-c", "test -e mended || exit 3; echo '{\"seconds\": 1}'"}));
  runToEnd();
  const auto* table = find<QTableView>("passesTable");
  EXPECT_TRUE(table->model()
                  ->index(0, app::PassTableModel::ResultColumn)
                  .data()
                  .toString()
                  .contains(QStringLiteral("ended with code 3")));
  EXPECT_TRUE(textOf("doubtHeadline").contains(QStringLiteral("2 attempts failed; 2 places have no result")));
  folder_.write("mended", "");
  trigger("nextAction");
  EXPECT_EQ(nextText(), QStringLiteral("Repeat 4 failed passes"));
  trigger("nextAction");
  trigger("nextAction");
  ASSERT_TRUE(waitUntil([this] { return !study_->session().isRunning(); }));
  EXPECT_EQ(study_->judgement().findings.failed_passes, 0);
}

TEST_F(Window, TellsWhyAFileCannotBeOpened) {
  folder_.write("study.ironlever", "frame_ms\n16.6\n");
  open();
  trigger("openStudyAction");
  ASSERT_EQ(prompts_.told.size(), 1);
  EXPECT_TRUE(prompts_.told[0].contains(QStringLiteral("this is not a study file")));
  EXPECT_FALSE(study_->hasStudy());
}

TEST_F(Window, AcceptsADoubtWithAReason) {
  openDemo();
  trigger("doubtsAction");
  const int open_before = static_cast<int>(study_->judgement().doubts.size());
  ASSERT_GT(open_before, 0);
  const QString doubt = find<QLabel>("doubtHeadline")->toolTip();
  prompts_.answer = QStringLiteral("the lamp was off");
  press("acceptDoubtButton");
  ASSERT_EQ(prompts_.asked.size(), 1);
  EXPECT_EQ(prompts_.asked[0], doubt);
  EXPECT_NE(find<QLabel>("doubtHeadline")->toolTip(), doubt);
  EXPECT_EQ(study_->judgement().doubts.back().accepted_because, "the lamp was off");
}

TEST_F(Window, ShowsAnAccidentOnTheBenchAndLogsItsAcceptance) {
  openDemo();
  EXPECT_TRUE(textOf("claimSentence").contains(QStringLiteral("not yet a single-variable comparison")));
  EXPECT_EQ(nextText(), QStringLiteral("See what stands in the way"));
  trigger("nextAction");  // one restart left the graphics link at half width
  EXPECT_EQ(window_->place(), core::Place::Bench);
  EXPECT_EQ(find<QComboBox>("rightVisitBox")->currentText(), QStringLiteral("visit 3 · 6000 MT/s"));
  EXPECT_TRUE(textOf("differencesLabel").contains(QStringLiteral("dropped from 16 to 8 lanes at both ends")));
  prompts_.answer = QStringLiteral("no case here waits for the link");
  EXPECT_EQ(nextText(), QStringLiteral("Accept it with a reason"));
  trigger("nextAction");
  EXPECT_FALSE(textOf("claimSentence").contains(QStringLiteral("not yet a single-variable comparison")));
  EXPECT_EQ(study_->judgement().findings.retired_passes, 0);
  trigger("noteAction");
  trigger("logbookAction");
  const auto* logbook = find<QTableView>("logbookTable")->model();
  QStringList rows;
  for (int i = 0; i < logbook->rowCount(); ++i)
    rows << logbook->index(i, app::LogbookModel::WhatColumn).data().toString();
  EXPECT_TRUE(rows.filter(QStringLiteral("accepted a doubt"))
                  .value(0)
                  .contains(QStringLiteral("no case here waits for the link")));
  EXPECT_FALSE(rows.filter(QStringLiteral("note: ")).isEmpty());
  // Each of four visits, before and after its passes, and under load where a pass was long enough.
  const auto captures = static_cast<int>(study_->session().recorded().captures.size());
  EXPECT_GE(captures, 8);
  EXPECT_EQ(rows.filter(QStringLiteral("captured the bench")).size(), captures);
  auto* const logbook_window = window_->findChild<app::LogbookWindow*>();
  logbook_window->activateWindow();
  ASSERT_TRUE(QTest::qWaitForWindowActive(logbook_window));
  press("addObservationButton");
  EXPECT_EQ(find<QDialog>("observationDialog")->parentWidget(), logbook_window)
      << "else the keys stay with the logbook";
  EXPECT_FALSE(find<QPushButton>("keepObservationButton")->isEnabled()) << "nothing is written yet";
  find<QPlainTextEdit>("observationEdit")->setPlainText(QStringLiteral("the front port does not charge"));
  prompts_.picture = QString::fromStdString(folder_ / "absent.png");
  press("observationPictureButton");
  EXPECT_EQ(find<QPlainTextEdit>("observationEdit")->toPlainText(), QStringLiteral("the front port does not charge"));
  press("keepObservationButton");
  rows.clear();
  for (int i = 0; i < logbook->rowCount(); ++i)
    rows << logbook->index(i, app::LogbookModel::WhatColumn).data().toString();
  EXPECT_TRUE(rows.contains(QStringLiteral("noticed: the front port does not charge")))
      << "a picture that is none was not taken";
  // Found by words, by kind and by person; what is shown goes onto paper.
  find<QLineEdit>("logbookFind")->setText(QStringLiteral("captured VISIT"));
  EXPECT_EQ(logbook->rowCount(), captures);
  EXPECT_TRUE(textOf("logbookCount").startsWith(QStringLiteral("%1 of ").arg(captures)));
  find<QComboBox>("logbookKinds")->setCurrentIndex(static_cast<int>(app::LogbookModel::Kind::Decisions) + 1);
  EXPECT_EQ(logbook->rowCount(), 0);
  find<QLineEdit>("logbookFind")->clear();
  ASSERT_GE(logbook->rowCount(), 1);
  EXPECT_TRUE(logbook->index(0, app::LogbookModel::WhatColumn).data().toString().contains(QStringLiteral("accepted")));
  auto* people = find<QComboBox>("logbookPeople");
  people->setCurrentIndex(people->findText(QStringLiteral("the program")));
  EXPECT_EQ(logbook->rowCount(), 0) << "who decides is a person";
  study_->act([](session::Session& s) { return s.decisions().addNote("it went on meanwhile"); });
  EXPECT_EQ(people->currentText(), QStringLiteral("the program")) << "whoever was chosen stays chosen";
  find<QComboBox>("logbookKinds")->setCurrentIndex(0);
  QBuffer paper;
  ASSERT_TRUE(paper.open(QIODevice::ReadWrite));
  {
    QPdfWriter writer(&paper);
    window_->findChild<app::LogbookWindow*>()->print(writer);
  }
  EXPECT_TRUE(paper.data().startsWith("%PDF-"));
}

TEST_F(Window, MakesAnOpenQuestionTheNextStudy) {
  openDemo();
  window_->goTo(core::Place::Findings);
  ASSERT_TRUE(find<QPushButton>("askNextButton")->isVisible());
  EXPECT_EQ(find<QPushButton>("askNextButton")->text(), QStringLiteral("What would 4400 MT/s say? …"));
  press("askNextButton");
  ASSERT_TRUE(waitUntil([this] { return study_->study().variable().levels[1].name == "4400 MT/s"; }));
  EXPECT_EQ(study_->study().variable().levels[0].name, "4800 MT/s");
  EXPECT_TRUE(study_->session().recorded().passes.empty());
  EXPECT_FALSE(find<QPushButton>("askNextButton")->isVisible()) << "nothing is measured there yet";
}

TEST_F(Window, ComparesAnyTwoVisits) {
  openDemo();
  trigger("benchAction");
  EXPECT_EQ(find<QComboBox>("rightVisitBox")->currentIndex(), 2);  // the visit that stands in the way
  choose("leftVisitBox", 0);
  choose("rightVisitBox", 1);
  EXPECT_TRUE(
      textOf("benchSummary")
          .contains(QStringLiteral("moved as declared; what came along is listed below, nothing else changed")));
  const QString proof = textOf("proofLabel");
  EXPECT_TRUE(proof.contains(QStringLiteral("of the usable 96.0 GB/s, peak"))) << proof.toStdString();
  EXPECT_TRUE(proof.contains(QStringLiteral("where ×1.25 is expected: agrees with what was read")));
  choose("rightVisitBox", 3);  // both at the baseline
  EXPECT_EQ(textOf("benchSummary"), QStringLiteral("Two visits at the same level; nothing differs."));
  EXPECT_TRUE(find<QWidget>("pathDrawing")->accessibleDescription().contains(QStringLiteral("Gen 4 x16")));
}

TEST_F(Window, TakesWhatACaptureMustReadAndWhatIsHeldEqual) {
  core::Study asked = support::studyOf({"true", "{log}"});
  asked.variable().kind = "memory_speed";
  openStudy(asked);
  window_->goTo(core::Place::Question);
  auto* reads = find<QLineEdit>("changedReadsEdit");
  EXPECT_EQ(reads->placeholderText(), QStringLiteral("6000 MT/s, by its name"));
  reads->setText(QStringLiteral("dmi/memory/*/configured_speed = 5600"));
  Q_EMIT reads->editingFinished();
  ASSERT_TRUE(study_->study().variable().levels[1].reads);
  EXPECT_EQ(study_->study().variable().levels[1].reads->value, "5600");
  prompts_.held = {"dmi/memory/*/configured_voltage"};
  find<QPushButton>("heldButton")->click();
  EXPECT_EQ(study_->study().held, prompts_.held);
}

TEST_F(Window, OffersEachConditionOfAWholeToBeReleasedWithAReason) {
  core::Study asked = support::studyOf({"true", "{log}"});
  asked.variable().kind = "board";
  app::HeldDialog dialog(asked);
  auto* reason = dialog.findChild<QLineEdit*>(QStringLiteral("reasonEdit/memory/configured_speed"));
  ASSERT_NE(reason, nullptr);
  reason->setText(QStringLiteral("the board offers no more"));
  EXPECT_EQ(dialog.chosen().released.at("memory/configured_speed"), "the board offers no more");
}

TEST_F(Window, KeepsWhatOnlyAPersonKnowsAboutTheBench) {
  openStudy(support::timedStudyOf({"true"}));
  prompts_.facts = std::map<QString, QString>{{QStringLiteral("cooler"), QStringLiteral(" tower ")},
                                              {QStringLiteral("cable"), QString()}};
  trigger("statedAction");
  ASSERT_EQ(study_->session().recorded().events.size(), 1U);  // what stayed empty is not recorded
  prompts_.facts = std::map<QString, QString>{{QStringLiteral("room_temperature"), QStringLiteral("warm")}};
  trigger("statedAction");
  EXPECT_EQ(prompts_.known_facts.at(QStringLiteral("cooler")), QStringLiteral("tower"));
  EXPECT_TRUE(prompts_.told.value(0).contains(QStringLiteral("'warm' is not a number")));
}

TEST_F(Window, OffersTheNextLowerLevelWhereOneCannotBeReached) {
  core::Study study = support::timedStudyOf({"true"});
  study.variable().kind = "memory_speed";
  study.variable().levels[1].set_command = {"set-profile", "1"};
  openStudy(study);
  prompts_.answer = QStringLiteral("three restarts came up at 4800 MT/s");
  study_->act([&](session::Session& s) {
    return s.decisions().declareUnreachable(core::ConfigurationId::Changed, prompts_.answer->toStdString());
  });
  EXPECT_TRUE(textOf("claimSentence").contains(QStringLiteral("6000 MT/s is not reachable here")));
  EXPECT_EQ(nextText(), QStringLiteral("Ask it with 5600 MT/s instead"));
  prompts_.path = QString::fromStdString(folder_ / "lower.ironlever");
  trigger("nextAction");
  EXPECT_EQ(study_->study().variable().levels[1].name, "5600 MT/s");
  EXPECT_TRUE(
      study_->study().variable().levels[1].set_command.empty());  // it would set the level that cannot be reached
  trigger("unreachableAction");                                   // and by the menu, for the level that is next
  EXPECT_EQ(prompts_.asked.back(), QStringLiteral("4800 MT/s"));
  EXPECT_EQ(study_->judgement().unreachable.back().configuration, core::ConfigurationId::Baseline);
}

TEST_F(Window, ShowsEveryBenchOverTime) {
  open();
  trigger("benchesAction");
  EXPECT_TRUE(textOf("benchHistoryLabel").contains(QStringLiteral("No bench is known yet")));
  trigger("demoAccidentAction");
  ASSERT_TRUE(waitUntil([this] { return study_->hasStudy() && !study_->session().isRunning(); }));
  trigger("benchesAction");
  EXPECT_EQ(find<QListWidget>("benchesList")->item(0)->text(), QStringLiteral("Dome node 3 (stand-in)"));
  const QString history = textOf("benchHistoryLabel");
  EXPECT_TRUE(history.contains(QStringLiteral("memory configured speed rose from 4800 to 6000 MT/s on both modules")));
  EXPECT_TRUE(history.contains(QStringLiteral("link width of 0000:00:01.0 dropped from 16 to 8 lanes")));
}

TEST_F(Window, SealsTheResultsUntilThePlanIsComplete) {
  core::Study study = support::timedStudyOf({"sh", "-c", "sleep 0.2; echo '{\"seconds\": 1.25}'"}, 3);
  study.plan.is_sealed = true;
  openStudy(study);
  trigger("nextAction");
  trigger("nextAction");
  trigger("nextAction");
  ASSERT_TRUE(waitUntil([this] { return study_->judgement().findings.recorded_passes >= 1; }));
  study_->stopNow();
  ASSERT_TRUE(waitUntil([this] { return !study_->session().isRunning(); }));
  EXPECT_TRUE(textOf("claimSentence").contains(QStringLiteral("sealed until all 6 passes are done")));
  const auto* table = find<QTableView>("passesTable")->model();
  EXPECT_EQ(table->index(0, app::PassTableModel::ResultColumn).data().toString(), QStringLiteral("filed"));
  trigger("findingsAction");
  EXPECT_FALSE(find<QListView>("leverList")->isVisible());
  prompts_.answer = QStringLiteral("the bench is needed tonight");
  press("openEarlyButton");
  EXPECT_TRUE(find<QListView>("leverList")->isVisible());
  EXPECT_TRUE(std::any_of(study_->judgement().doubts.begin(), study_->judgement().doubts.end(),
                          [](const core::Doubt& doubt) { return doubt.id == "opened_early"; }));
  EXPECT_EQ(table->index(0, app::PassTableModel::ResultColumn).data().toString(), QStringLiteral("1.250 s"));
}

TEST_F(Window, LeadsAPlayerThroughAPass) {
  core::Study study = support::studyOf({"iron-lever-probe", "scene", "--seconds", "60", "--out", "{log}"}, 1);
  study.cases[0].is_played = true;
  study.cases[0].route = "once around the rings";
  study.cases[0].played_s = 2;  // some frames even of a scene that sanitizers and other tests hold back
  openStudy(study);
  trigger("nextAction");  // read the commands
  trigger("nextAction");  // approve them
  trigger("nextAction");  // start the sheet
  ASSERT_TRUE(waitUntil([this] { return study_->session().state() == session::State::AwaitingPlayer; }));
  EXPECT_EQ(prompts_.called.size(), 1);  // somebody is needed at the bench
  EXPECT_TRUE(textOf("handSteps").contains(QStringLiteral("once around the rings")));
  EXPECT_EQ(nextText(), QStringLiteral("Start the workload"));
  trigger("nextAction");
  ASSERT_TRUE(waitUntil([this] { return nextText() == QStringLiteral("Count from here"); }));
  trigger("nextAction");
  ASSERT_TRUE(waitUntil([this] { return textOf("handTitle").startsWith(QStringLiteral("Counting begins in")); }));
  ASSERT_TRUE(waitUntil([this] { return !study_->session().recorded().passes.empty(); }));
  ASSERT_EQ(study_->session().recorded().passes[0].status, core::PassStatus::Finished)
      << study_->session().recorded().passes[0].failure;
  const auto* table = find<QTableView>("passesTable")->model();
  const auto result = table->index(0, app::PassTableModel::ResultColumn);
  EXPECT_EQ(result.data().toString(), QStringLiteral("shown once you say how it felt"));
  press("hitchesButton");
  EXPECT_TRUE(result.data().toString().endsWith(QStringLiteral("FPS")));
  EXPECT_FALSE(find<QWidget>("feelRow")->isVisible());
  study_->stopNow();
}

TEST_F(Window, ExtendsAPlanThatDidNotSettleIt) {
  core::Study study = support::timedStudyOf({"sh", "-c",
                                             "n=$(cat n 2>/dev/null || echo 0); echo $((n+1)) > n; set -- 100 101 99.5 "
                                             "100.4 99.2 101.3 100 100.6; shift $((n%8)); echo "
                                             "\"{\\\"seconds\\\": $1}\""});
  study.plan.order = core::Order::BalancedShuffle;
  study.plan.rounds = 3;
  study.plan.passes_per_visit = 1;
  study.plan.drawn = core::drawRounds(2, 3, 7);
  openStudy(study);
  study_->act([](session::Session& s) { return s.approve(); });
  study_->act(&session::Session::start);
  ASSERT_TRUE(waitUntil([this] { return study_->session().state() == session::State::Finished; }));
  trigger("findingsAction");
  ASSERT_TRUE(nextText().startsWith(QStringLiteral("Extend once by"))) << nextText().toStdString();
  trigger("nextAction");
  EXPECT_GT(study_->study().plan.extension_rounds, 0);
  EXPECT_TRUE(nextText().startsWith(QStringLiteral("Go on: visit 7"))) << nextText().toStdString();
}

TEST_F(Window, KeepsLooksThatADesignPutWhereItLikes) {
  core::Study study = support::timedStudyOf({"true"}, 1);
  study.plan.order = core::Order::BalancedShuffle;
  study.plan.rounds = 8;
  study.plan.drawn = core::drawRounds(2, 8, 1);
  study.plan.looks = {3, 8};
  openStudy(study);
  find<QSpinBox>("retriesSpin")->setValue(2);
  EXPECT_EQ(study_->study().plan.looks, (std::vector{3, 8}));
  choose("looksBox", 2);
  EXPECT_EQ(study_->study().plan.looks, (std::vector{3, 5, 8}));
}

TEST_F(Window, ShowsWhatWasExpectedBesideTheResult) {
  core::Study study = support::timedStudyOf({"sh", "-c", "echo '{\"seconds\": 1}'"}, 1);
  openStudy(study);
  prompts_.expected = -2.5;
  press("predictButton");
  runToEnd();
  trigger("findingsAction");
  EXPECT_TRUE(textOf("evidenceLabel").contains(QStringLiteral("expected −2.5 %")))
      << textOf("evidenceLabel").toStdString();
}

TEST_F(Window, LeavesAPassOutOnlyWhileItsLevelIsHidden) {
  openDemo();
  trigger("passesAction");
  auto* table = find<QTableWidget>("passList");
  ASSERT_EQ(table->rowCount(), 20);  // of the first case
  EXPECT_EQ(table->item(1, 2)->text(), QStringLiteral("hidden"));
  table->selectRow(1);
  find<QCheckBox>("showLevelsCheck")->setChecked(true);
  EXPECT_TRUE(table->item(1, 2)->text().contains(QStringLiteral("MT/s")));
  EXPECT_FALSE(find<QPushButton>("excludeButton")->isEnabled());
  press("printedButton");
  ASSERT_FALSE(prompts_.told.isEmpty());
  EXPECT_TRUE(prompts_.told.last().startsWith(QStringLiteral("Output: loaded in ")))
      << prompts_.told.last().toStdString();
  find<QCheckBox>("showLevelsCheck")->setChecked(false);
  EXPECT_FALSE(find<QPushButton>("printedButton")->isEnabled()) << "it tells the result, and with it the level";
  prompts_.answer = QStringLiteral("1");  // the second cause
  const auto counted = [this] {
    const core::CaseFinding& finding = study_->judgement().findings.cases[0];
    return finding.counted_baseline + finding.counted_changed;
  };
  const int before = counted();
  press("excludeButton");
  EXPECT_FALSE(prompts_.asked.last().contains(QStringLiteral("MT/s")));
  EXPECT_EQ(counted(), before - 1);
  EXPECT_TRUE(table->item(1, 4)->text().contains(QStringLiteral("left out: the workload did not do")));
  press("excludeButton");  // puts it back in
  EXPECT_EQ(counted(), before);
  // A remark changes nothing of what is drawn, and leaves a zoomed chart as it is.
  auto* plot = find<QCustomPlot>("runOrderPlot");
  plot->xAxis->scaleRange(0.5);
  const QCPRange zoomed = plot->xAxis->range();
  study_->act([](session::Session& s) { return s.decisions().addNote("the window was open"); });
  EXPECT_EQ(plot->xAxis->range(), zoomed);
}

TEST_F(Window, ConfirmsASurpriseInAStudyOfItsOwn) {
  core::Study study = support::timedStudyOf({"sh", "-c", "echo \"{\\\"seconds\\\": $T}\""}, 2);
  study.variable().levels[0].environment = {{"T", "10"}};
  study.variable().levels[1].environment = {{"T", "8"}};
  core::Case calm = study.cases[0];
  calm.workload = "Comet close-up";
  calm.command = {"sh", "-c", "echo '{\"seconds\": 5}'"};
  study.cases.push_back(calm);
  study.cases.push_back(calm);
  study.cases[2].preset = "8K dome";
  openStudy(study);
  runToEnd();
  trigger("findingsAction");
  prompts_.path = QString::fromStdString(folder_ / "again.ironlever");
  trigger("confirmAction");
  EXPECT_EQ(prompts_.told.size(), 1);  // no case is chosen yet
  const auto* list = find<QListView>("leverList");
  find<QListView>("leverList")->setCurrentIndex(list->model()->index(1, 0));
  trigger("confirmAction");
  ASSERT_EQ(study_->study().cases.size(), 2U);
  EXPECT_EQ(study_->study().cases[1].workload, "Comet close-up");
  EXPECT_EQ(study_->study().plan.order, core::Order::BalancedShuffle);
  EXPECT_TRUE(study_->session().recorded().passes.empty());
}

TEST_F(Window, CarriesOutWhatAPersonChangesOfTheSheet) {
  openStudy(support::timedStudyOf({"sh", "-c", "echo '{\"seconds\": 1}'"}, 1));
  prompts_.answer = QStringLiteral("the save is broken");
  trigger("skipAction");
  EXPECT_EQ(study_->session().nextSlot(), 1U);
  trigger("testedAction");
  EXPECT_TRUE(std::holds_alternative<core::LevelStable>(study_->session().recorded().events.back().act));
  prompts_.path = QString::fromStdString(folder_.path());
  trigger("secondFolderAction");
  EXPECT_TRUE(std::filesystem::exists(session::copyPath(folder_ / "study.ironlever", folder_.path())));
  trigger("addRoundAction");
  EXPECT_TRUE(prompts_.told.last().contains(QStringLiteral("this plan has no rounds")));
}

TEST_F(Window, PlansByWhatEachHourBuys) {
  openStudy(support::timedStudyOf({"true"}, 5));
  EXPECT_TRUE(textOf("planLabel").contains(QStringLiteral("flips are not seen")));
  const QString proposed = textOf("proposedPlanLabel");
  EXPECT_TRUE(proposed.contains(QStringLiteral("rounds of"))) << proposed.toStdString();
  press("takeProposedButton");
  EXPECT_EQ(study_->study().plan.order, core::Order::BalancedShuffle);
  EXPECT_EQ(static_cast<int>(study_->study().plan.drawn.size()), study_->study().plan.rounds);
  EXPECT_TRUE(study_->problems().empty());
  // A click on the blocked curve, where it begins: two passes at each level.
  auto* chart = find<QCustomPlot>("planningChart");
  const core::CandidatePlan least = app::planningView(*study_).curves[0].plans.front();
  const QPointF place(chart->xAxis->coordToPixel(least.minutes / 60),
                      chart->yAxis->coordToPixel(least.smallest_detectable));
  QMouseEvent click(QEvent::MouseButtonPress, place, chart->mapToGlobal(place), Qt::LeftButton, Qt::LeftButton, {});
  QCoreApplication::sendEvent(chart, &click);
  EXPECT_EQ(study_->study().plan.order, core::Order::Blocked);
  EXPECT_EQ(study_->study().plan.passes_per_level, least.size);
}

TEST_F(Window, MeasuresTheNoiseFloorOfABenchForLaterPlans) {
  core::Study study = support::timedStudyOf({"sh", "-c", "echo \"{\\\"seconds\\\": 1.$(date +%N)}\""}, 2);
  openStudy(study);
  prompts_.path = QString::fromStdString(folder_ / "null.ironlever");
  trigger("newNullAction");
  EXPECT_TRUE(study_->study().is_null);
  EXPECT_EQ(study_->study().variable().levels[1].name, "4800 MT/s, again");
  runToEnd();
  const auto noise = study_->benches().noise("Dome node 3");
  ASSERT_EQ(noise->size(), 1U);
  EXPECT_EQ(noise->at(0).measured.noise.visits, 8);
  prompts_.path = QString::fromStdString(folder_ / "study.ironlever");
  trigger("openStudyAction");
  trigger("questionAction");
  EXPECT_TRUE(textOf("noiseLabel").startsWith(QStringLiteral("Spreads from the null study of 20")));
  EXPECT_FALSE(find<QDoubleSpinBox>("passSpreadSpin")->isVisible());  // nothing is left to guess
}

TEST_F(Window, RecallsWhereALevelWasFoundOnThisBench) {
  open();
  store::BenchRegister benches(session::UserFiles::in(folder_ / "user").benches);
  ASSERT_TRUE(benches.setMenuPath("Dome node 3", "smt", "off", "Advanced > Processor").ok());
  press("welcomeNewButton");
  type("benchEdit", QStringLiteral("Dome node 3"));
  chooseKind(QStringLiteral("smt"));
  type("changedNameEdit", QStringLiteral("off"));
  EXPECT_EQ(find<QLineEdit>("changedMenuPathEdit")->text(), QStringLiteral("Advanced > Processor"));
}

TEST_F(Window, TellsWhatItPutBackAfterADeath) {
  open();
  const std::string machine = folder_ / "machine";
  std::filesystem::create_directories(machine + "/sys/x");
  std::ofstream(machine + "/sys/x/governor") << "powersave\n";
  bench::LocalBench stand_in(machine);
  session::SettingJournal journal(session::UserFiles::in(folder_ / "user").settings);
  ASSERT_TRUE(journal.apply({{"/sys/x/governor", "performance"}}, stand_in, machine, folder_ / "gone.ironlever").ok());
  study_->putBackLeftOvers();
  ASSERT_EQ(prompts_.informed.size(), 1);
  EXPECT_TRUE(prompts_.informed[0].startsWith(QStringLiteral("/sys/x/governor is powersave again")));
  EXPECT_EQ(*stand_in.readFile("/sys/x/governor"), "powersave");
}

TEST_F(Window, SaysWhatTheBenchPageIsForBeforeAnyCapture) {
  open();
  press("welcomeNewButton");
  trigger("benchAction");
  EXPECT_TRUE(find<QLabel>("benchEmptyLabel")->isVisible());
}

TEST_F(Window, ShowsTheCaseThatADoubtIsAbout) {
  openDemo();
  trigger("questionAction");
  const auto& doubts = study_->judgement().doubts;
  const auto about = std::find_if(doubts.begin(), doubts.end(),
                                  [](const auto& doubt) { return doubt.id == "lows_disagree/Aurora field, 2K dome"; });
  ASSERT_NE(about, doubts.end());
  trigger("doubtsAction");
  auto* list = find<QListView>("doubtsList");
  list->setCurrentIndex(list->model()->index(static_cast<int>(about - doubts.begin()), 0));
  press("showDoubtButton");
  EXPECT_EQ(window_->place(), core::Place::Findings);
  EXPECT_TRUE(textOf("evidenceLabel").contains(QStringLiteral("Aurora field, 2K dome")));
}

TEST_F(Window, KeepsTheChosenCaseWhileNumbersChange) {
  openDemo();
  trigger("findingsAction");
  auto* list = find<QListView>("leverList");
  list->setCurrentIndex(list->model()->index(2, 0));
  const QString before = textOf("evidenceLabel");
  study_->act([&](session::Session& s) {
    return s.decisions().acceptDoubt(study_->judgement().doubts.back().id, "known");
  });  // a note: it touches no number
  EXPECT_EQ(textOf("evidenceLabel"), before);
  EXPECT_EQ(list->currentIndex().row(), 2);
}

TEST_F(Window, UnfoldsTheEvidencePartByPart) {
  openDemo();
  trigger("findingsAction");
  auto* list = find<QListView>("leverList");
  auto* evidence = find<QLabel>("evidenceLabel");
  EXPECT_TRUE(evidence->text().contains(QStringLiteral("arithmetic mean")));
  list->setCurrentIndex(list->model()->index(2, 0));
  const auto shows = [&](const char* words) { return asRead(evidence->text()).contains(QLatin1String(words)); };
  EXPECT_TRUE(shows("ms per frame"));
  EXPECT_FALSE(shows("0.1 % low (mean of slowest)"));
  Q_EMIT evidence->linkActivated(QStringLiteral("lows"));
  EXPECT_TRUE(shows("0.1 % low (mean of slowest)"));
  Q_EMIT evidence->linkActivated(QStringLiteral("passes"));
  EXPECT_TRUE(shows("Not counted, warm-up"));
  auto* plot = find<QCustomPlot>("evidenceDistribution");
  EXPECT_FALSE(plot->isVisible());
  Q_EMIT evidence->linkActivated(QStringLiteral("frames"));
  EXPECT_TRUE(plot->isVisible());
  EXPECT_EQ(plot->graphCount(), 2);
  double shares = 0;
  for (const auto& point : *plot->graph(0)->data()) shares += point.value;
  EXPECT_NEAR(shares, 100, 0.1);  // every frame of the level
  list->setCurrentIndex(list->model()->index(3, 0));
  EXPECT_TRUE(shows("0.1 % low (mean of slowest)"));  // what was unfolded stays so
  Q_EMIT evidence->linkActivated(QStringLiteral("lows"));
  EXPECT_FALSE(shows("0.1 % low (mean of slowest)"));
}

TEST_F(Window, TakesACommaAndAPointInANumber) {
  open();
  press("welcomeNewButton");
  const auto typed = [](QDoubleSpinBox* box, const char* text) {
    box->setValue(7);
    box->selectAll();
    QTest::keyClicks(box, QLatin1String(text));
    QTest::keyClick(box, Qt::Key_Return);
    return box->value();
  };
  const std::unique_ptr<QDoubleSpinBox> wide(
      app::numberField<app::DecimalBox>(nullptr, "wide", 0.0, 86400.0, QStringLiteral(" s, then a pass has failed")));
  for (const char* text : {"2,5", "2.5"}) {
    EXPECT_EQ(typed(find<QDoubleSpinBox>("thresholdSpin"), text), 2.5);
    EXPECT_EQ(typed(wide.get(), text), 2.5) << wide->text().toStdString();
  }
}

TEST_F(Window, JudgesAFinishedStudyOtherwiseOnlyWithAReason) {
  openDemo();
  trigger("questionAction");
  auto* threshold = find<QDoubleSpinBox>("thresholdSpin");
  ASSERT_TRUE(threshold->isEnabled());
  EXPECT_FALSE(find<QDoubleSpinBox>("confidenceSpin")->isEnabled());
  const auto set = [&](double percent) {
    threshold->setValue(percent);
    Q_EMIT threshold->editingFinished();
  };
  prompts_.answer.reset();
  set(25);
  EXPECT_EQ(threshold->value(), 2);  // nobody gave a reason
  EXPECT_EQ(study_->study().notice_threshold_percent, 2);
  prompts_.answer = QStringLiteral("the dome hides less");
  set(25);
  EXPECT_EQ(study_->study().notice_threshold_percent, 25);
  EXPECT_TRUE(prompts_.asked.last().contains(QStringLiteral("threshold 2 % became 25 %")));
  EXPECT_EQ(study_->judgement().findings.cases[0].verdict, core::Verdict::RealButNegligible);
  EXPECT_TRUE(std::any_of(study_->judgement().doubts.begin(), study_->judgement().doubts.end(),
                          [](const core::Doubt& doubt) { return doubt.id == "judged_after"; }));
  auto* time = find<QDoubleSpinBox>("thresholdMsSpin");
  time->setValue(1.5);
  Q_EMIT time->editingFinished();
  EXPECT_TRUE(prompts_.asked.last().contains(QStringLiteral("threshold in time none became 1.5 ms per frame")));
  EXPECT_EQ(study_->study().notice_threshold_ms, 1.5);
  choose("yardstickBox", 1);
  EXPECT_EQ(study_->study().yardstick, core::Yardstick::FixedBand);
  EXPECT_TRUE(QString::fromStdString(study_->judgement().claim.verdict).contains(QStringLiteral("fixed band of 3 %")));
}

}  // namespace
