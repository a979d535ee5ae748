// Practice in the real window: an exercise chosen, its bench set by hand, rightly and wrongly, its claim signed.
#include <gmock/gmock.h>

#include <QDoubleSpinBox>

#include "app/practice/practice_window.h"
#include "support/window.h"

namespace {

using support::waitUntil;
using ::testing::HasSubstr;

class PracticeInTheWindow : public support::WindowTest {
 protected:
  void begin(const char* title) {
    open();
    trigger("practiceAction");
    auto* list = find<QListWidget>("practiceList");
    const auto found = list->findItems(QString::fromLatin1(title), Qt::MatchExactly);
    ASSERT_EQ(found.size(), 1) << title;
    list->setCurrentItem(found.front());
    press("practiceBeginButton");
    ASSERT_TRUE(study_->hasStudy());
  }
  void approve() const {
    while (nextText().startsWith(QStringLiteral("Read")) || nextText().startsWith(QStringLiteral("Approve")))
      trigger("nextAction");
  }
  void start() const {
    study_->act(&session::Session::start);
    ASSERT_TRUE(waitUntil([this] { return !study_->session().isRunning(); }));
  }
  /// Whatever of the bench's dialog is open.
  template <class Widget>
  Widget* inDialog(const char* name) const {
    for (auto* widget : window_->findChildren<Widget*>(QLatin1String(name)))
      if (widget->isVisible()) return widget;
    ADD_FAILURE() << name;
    return nullptr;
  }
  [[nodiscard]] std::string levelDue() const {
    const session::Session& session = study_->session();
    return session.study().nameOf(session.open().schedule()[*session.nextSlot()].configuration);
  }
  void setByMenu(const std::string& level, bool saves = true) const {
    press("practiceBenchButton");
    auto* box = inDialog<QComboBox>("practiceSettingBox");
    EXPECT_EQ(box->window()->windowTitle(), QStringLiteral("Firmware setup of Dome node 4"));
    box->setCurrentIndex(box->findText(QString::fromStdString(level)));
    inDialog<QPushButton>(saves ? "practiceSaveButton" : "practiceLeaveButton")->click();
  }
  void sign(double percent, double lo, double hi, int recommend) const {
    find<QDoubleSpinBox>("practicePercentBox")->setValue(percent);
    find<QDoubleSpinBox>("practiceLoBox")->setValue(lo);
    find<QDoubleSpinBox>("practiceHiBox")->setValue(hi);
    find<QComboBox>("practiceRecommendBox")->setCurrentIndex(recommend);
    press("practiceSignButton");
  }
};

TEST_F(PracticeInTheWindow, GoesFromTheStoryToWhatWasTrue) {
  begin("A level that did not take");
  EXPECT_THAT(textOf("practiceStoryLabel").toStdString(), HasSubstr("At Dome node 4 the memory profile"));
  EXPECT_EQ(study_->session().recorded().passes.size(), 0U);
  core::Study shorter = study_->study();
  shorter.plan.rounds = 3;
  shorter.plan.passes_per_visit = 1;
  shorter.plan.drawn = core::drawRoundsOf(shorter, shorter.plan, 3, 1);
  study_->replaceStudy(shorter);
  approve();
  bool was_left = false;
  for (int flip = 0; flip < 30 && study_->session().nextSlot(); ++flip) {
    start();
    if (!study_->session().nextSlot()) break;
    const auto& visits = study_->session().recorded().visits;
    const bool is_flip = !visits.empty() && study_->study().nameOf(visits.back().configuration) != levelDue();
    if (is_flip &&
        !std::exchange(was_left, true)) {  // left without saving: the level is not there, and the sheet says so
      setByMenu(levelDue(), false);
      start();
      EXPECT_EQ(study_->session().state(), session::State::Held);
    }
    setByMenu(levelDue());
  }
  ASSERT_FALSE(study_->session().nextSlot());
  const auto& change = study_->judgement().findings.cases[0].improvement;
  ASSERT_TRUE(change.interval);
  EXPECT_FALSE(find<QWidget>("claimsPicture")->isVisible()) << "the truth is not shown before it is signed";
  sign(change.value, change.interval->lo, change.interval->hi, 0);
  EXPECT_TRUE(find<QWidget>("claimsPicture")->isVisible());
  EXPECT_TRUE(support::hasAccent(*find<QWidget>("claimsPicture")));
  const std::string outcome = textOf("practiceOutcomeLabel").toStdString();
  EXPECT_THAT(outcome, HasSubstr("Alone, 100 of 100"));
  EXPECT_THAT(outcome, HasSubstr("What the menu shows is a wish"));
  EXPECT_FALSE(find<QPushButton>("practiceSignButton")->isVisible()) << "once";
  press("practiceAnotherButton");
  EXPECT_THAT(textOf("practiceRecordLabel").toStdString(), HasSubstr("one claim"));
  press("practiceForgetButton");
  EXPECT_TRUE(find<QListWidget>("practiceList")->isVisible()) << "whoever looks at the list stays there";
  EXPECT_THAT(textOf("practiceRecordLabel").toStdString(), HasSubstr("Nothing was practised yet"));
}

TEST_F(PracticeInTheWindow, RefusesANumberOutsideItsInterval) {
  begin("A clean gain");
  sign(9, 1, 2, 0);
  ASSERT_EQ(prompts_.told.size(), 1);
  EXPECT_THAT(prompts_.told.front().toStdString(), HasSubstr("lies between the ends"));
  EXPECT_TRUE(find<QPushButton>("practiceSignButton")->isVisible());
  EXPECT_FALSE(find<QPushButton>("practiceBenchButton")->isVisible()) << "its program sets the levels";
}

TEST_F(PracticeInTheWindow, SwapsAPartForGood) {
  begin("A part swapped for good");
  press("practiceRestartsButton");
  EXPECT_TRUE(study_->study().is_null);
  press("practiceStudyButton");
  EXPECT_FALSE(study_->study().is_null);
  approve();
  start();
  start();
  press("practiceBenchButton");
  inDialog<QPushButton>("practiceSwapButton")->click();
  inDialog<QPushButton>("practiceSwitchOnButton")->click();
  start();
  start();
  EXPECT_FALSE(study_->session().nextSlot()) << "the new part is in, and was measured";
}

}  // namespace
