// What a person does beside the passes, in the real window: points ticked, a picture kept, cases added later, the
// search.
#include <QCheckBox>
#include <QTableWidget>
#include <filesystem>

#include "app/question/second_part_dialog.h"
#include "support/studies.h"
#include "support/window.h"

namespace {

using support::waitUntil;

class VisitWork : public support::WindowTest {
 protected:
  /// A person flips, a person types.
  void openByHand() {
    core::Study study = support::timedStudyOf({}, 2);
    study.cases[0].source = core::ResultSource::ByHand;
    study.variable().kind = "memory_speed";
    study.variable().levels[0].checklist = {"screwdriver 2", "photograph the seat & the screws"};
    openStudy(study);
    trigger("runSheetAction");
  }
  [[nodiscard]] core::Record record() const { return store::recordOf(study_->session().recorded()); }
  void runToEnd() {
    for (int press = 0; press < 3 && !study_->session().isRunning(); ++press) trigger("nextAction");
    ASSERT_TRUE(waitUntil([this] { return study_->session().state() == session::State::Finished; }));
  }
};

TEST_F(VisitWork, TicksPointsThatAreOnRecordAtOnce) {
  openByHand();
  auto* second = find<QCheckBox>("checklistPoint2");
  ASSERT_TRUE(waitUntil([&] { return second->isVisible(); }));
  EXPECT_EQ(second->text(), QStringLiteral("photograph the seat && the screws"));
  second->click();
  EXPECT_EQ(record().ticked[1], (std::set<std::string>{"photograph the seat & the screws"}));
  // Whoever opens the study again, after a kill too, finds it half ticked.
  trigger("openStudyAction");
  trigger("runSheetAction");
  EXPECT_TRUE(find<QCheckBox>("checklistPoint2")->isChecked());
  EXPECT_FALSE(find<QCheckBox>("checklistPoint1")->isChecked());
  find<QCheckBox>("checklistPoint2")->click();
  EXPECT_TRUE(record().ticked[1].empty());
}

TEST_F(VisitWork, KeepsAPictureOfTheVisitInHand) {
  openByHand();
  EXPECT_FALSE(find<QPushButton>("keepPictureButton")->isVisible()) << "no visit has begun";
  core::TypedValue typed;
  typed.text = "100";
  typed.value = 100;
  ASSERT_TRUE(study_->act([&](session::Session& s) { return s.outside().type(0, typed); }));
  prompts_.picture =
      QString::fromStdString(folder_.write("menu.png", std::string("\x89PNG\r\n\x1a\n", 8) + "a small picture"));
  press("keepPictureButton");
  EXPECT_EQ(prompts_.told, QStringList());
  const auto kept = study_->session().open().file().visitPictures();
  ASSERT_TRUE(kept.ok());
  ASSERT_EQ(kept->size(), 1U);
  EXPECT_EQ(kept->front().name, "menu.png");
  prompts_.picture = QString::fromStdString(folder_.write("notes.txt", "no picture"));
  press("keepPictureButton");
  ASSERT_EQ(prompts_.told.size(), 1);
  EXPECT_TRUE(prompts_.told[0].contains(QStringLiteral("PNG or JPEG")));
}

TEST_F(VisitWork, WritesTheSheetForABenchWithoutAScreen) {
  openByHand();
  prompts_.save_path = QString::fromStdString(folder_ / "sheet.html");
  trigger("printSheetAction");
  EXPECT_NE(support::contents(folder_ / "sheet.html").find("photograph the seat &amp; the screws"), std::string::npos);
}

TEST_F(VisitWork, AddsCasesOnceThePlanIsComplete) {
  core::Study study = support::roundsOf(3);
  study.cases[0] = support::timedStudyOf({"sh", "-c", "echo '{\"seconds\": 1}'"}).cases[0];
  openStudy(study);
  trigger("secondPartAction");
  ASSERT_EQ(prompts_.told.size(), 1);
  EXPECT_TRUE(prompts_.told[0].contains(QStringLiteral("once the plan is complete"))) << prompts_.told[0].toStdString();
  runToEnd();
  app::SecondPartDialog dialog(study_->study());
  dialog.show();
  const auto button = [&](const char* name) { return dialog.findChild<QPushButton*>(QString::fromUtf8(name)); };
  const auto canAccept = [&] {
    for (auto* one : dialog.findChildren<QPushButton*>())
      if (one->text().contains(QStringLiteral("Add them"))) return one->isEnabled();
    return false;
  };
  EXPECT_FALSE(canAccept());
  dialog.findChild<QLineEdit*>(QStringLiteral("casePresetEdit"))->setText(QStringLiteral("8K dome"));
  button("takeCaseButton")->click();
  EXPECT_FALSE(canAccept()) << "without a reason";
  dialog.findChild<QLineEdit*>(QStringLiteral("secondReasonEdit"))->setText(QStringLiteral("somebody asked"));
  EXPECT_TRUE(canAccept());
  ASSERT_EQ(dialog.cases().size(), 1U);
  EXPECT_EQ(dialog.cases()[0].title(), "Ring pass, 8K dome");
  prompts_.second_part_answer = app::Prompts::SecondPart{dialog.cases(), dialog.rounds(), dialog.reason()};
  trigger("secondPartAction");
  EXPECT_EQ(study_->study().cases.size(), 2U);
  EXPECT_TRUE(study_->session().nextSlot());
  runToEnd();
  EXPECT_EQ(study_->judgement().findings.cases.size(), 2U);
  EXPECT_EQ(study_->session().recorded().passes.size(), 12U);
}

TEST_F(VisitWork, SearchesForTheHighestStableStep) {
  core::Study study = support::timedStudyOf({"sh", "-c", "echo '{\"seconds\": 1}'"}, 1);
  for (std::size_t i = 0; i < 2; ++i) study.variable().levels[i].environment = {{"STEP", std::to_string(i)}};
  study.stability_command = {"sh", "-c", "[ $STEP -le 0 ]"};
  openStudy(study);
  trigger("searchAction");
  auto* dialog = window_->findChild<QDialog*>(QStringLiteral("searchDialog"));
  ASSERT_NE(dialog, nullptr);
  EXPECT_FALSE(find<QPushButton>("searchBeginButton")->isEnabled()) << "nothing is approved yet";
  ASSERT_TRUE(study_->act(&session::Session::approve));
  ASSERT_TRUE(find<QPushButton>("searchBeginButton")->isEnabled());
  find<QPushButton>("searchBeginButton")->click();
  ASSERT_TRUE(waitUntil([this] { return !study_->session().search().isRunning(); }));
  EXPECT_EQ(textOf("searchNext"), QStringLiteral("The highest stable step is 4800 MT/s."));
  auto* table = find<QTableWidget>("searchTable");
  EXPECT_EQ(table->item(0, 1)->text(), QStringLiteral("fails"));
  EXPECT_EQ(table->item(1, 1)->text(), QStringLiteral("holds"));
  EXPECT_TRUE(record().stable.contains(core::ConfigurationId::Baseline));
  ASSERT_EQ(record().unreachable.size(), 1U);
  EXPECT_FALSE(find<QPushButton>("searchBeginButton")->isEnabled()) << "it is over";
}

TEST_F(VisitWork, TakesALevelFromAnEarlierStudy) {
  core::Study study = support::timedStudyOf({"sh", "-c", "echo '{\"seconds\": 1}'"});
  const std::string earlier = folder_ / "earlier.ironlever";
  const QString now = *prompts_.path;
  prompts_.path = QString::fromStdString(earlier);
  openStudy(study);
  runToEnd();
  prompts_.path = now;
  ASSERT_TRUE(store::StudyFile::create(now.toStdString(), study).ok());
  trigger("openStudyAction");
  trigger("takeLevelAction");
  auto* dialog = window_->findChild<QDialog*>(QStringLiteral("takeLevelDialog"));
  ASSERT_TRUE(dialog);
  auto* take = dialog->findChild<QPushButton*>(QStringLiteral("takeLevelButton"));
  EXPECT_FALSE(take->isEnabled()) << "the cabinet knows no study of this bench";
  prompts_.path = QString::fromStdString(earlier);
  dialog->findChild<QPushButton*>(QStringLiteral("takeBrowseButton"))->click();
  ASSERT_TRUE(support::waitUntil([&] { return take->isEnabled(); }));
  take->click();
  EXPECT_FALSE(dialog->isVisible()) << dialog->findChild<QLabel*>(QStringLiteral("takeProblem"))->text().toStdString();
  EXPECT_FALSE(study_->session().recorded().passes.empty());
  ASSERT_FALSE(study_->judgement().doubts.empty());
  const auto& doubts = study_->judgement().doubts;
  EXPECT_TRUE(std::any_of(doubts.begin(), doubts.end(), [](const core::Doubt& one) {
    return one.kind == &core::doubt::kTakenLevel;
  })) << "it stands there at once";
}

}  // namespace
