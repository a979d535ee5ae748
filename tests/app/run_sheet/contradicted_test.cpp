// A level that is not there, in the real window: the sheet stops before its first pass, and says the three ways on.
#include <filesystem>
#include <fstream>

#include "support/studies.h"
#include "support/window.h"

namespace {

using support::waitUntil;

class ContradictedLevel : public support::WindowTest {
 protected:
  static constexpr const char* kGovernor = "/sys/devices/system/cpu/cpufreq/policy0/scaling_governor";

  void put(const std::string& path, const std::string& text) const {
    const std::filesystem::path full = (folder_ / "machine") + path;
    std::filesystem::create_directories(full.parent_path());
    std::ofstream(full) << text;
  }
  /// A governor that a command is to set, and does not.
  void openAtWork() {
    put(kGovernor, "powersave\n");
    put("/proc/sys/kernel/random/boot_id", "boot-1\n");
    core::Study study = support::timedStudyOf({"sh", "-c", "echo '{\"seconds\": 1}'"}, 1);
    study.machine = "machine";
    study.variable().name = "governor";
    study.variable().kind = "governor";
    study.variable().levels[0].name = "powersave";
    study.variable().levels[1].name = "performance";
    for (core::Level& level : study.variable().levels) {
      level.reads = core::ExpectedReading{"cpu/governor", level.name};
      level.set_command = {"true"};
    }
    openStudy(study);
    for (int press = 0; press < 3; ++press) trigger("nextAction");  // reads, approves, starts
    ASSERT_TRUE(waitUntil([this] { return !study_->session().isRunning(); }));
  }
};

TEST_F(ContradictedLevel, StopsTheSheetBeforeItsFirstPass) {
  openAtWork();
  EXPECT_EQ(study_->session().recorded().passes.size(), 1U);
  EXPECT_EQ(textOf("handTitle"), QStringLiteral("The bench is not at performance"));
  EXPECT_EQ(textOf("handLine"), QStringLiteral("performance was asked, powersave is read."));
  EXPECT_EQ(nextText(), QStringLiteral("Set it and look again"));
  EXPECT_TRUE(find<QPushButton>("measureAnywayButton")->isVisible());
  EXPECT_TRUE(find<QPushButton>("notReachableButton")->isVisible());
  // Somebody sets it, and it is looked at again.
  put(kGovernor, "performance\n");
  trigger("nextAction");
  ASSERT_TRUE(waitUntil([this] { return !study_->session().isRunning(); }));
  EXPECT_EQ(study_->session().state(), session::State::Finished);
  EXPECT_EQ(study_->session().recorded().passes.size(), 2U);
  EXPECT_FALSE(find<QWidget>("contradictedRow")->isVisible());
}

TEST_F(ContradictedLevel, IsMeasuredAllTheSameWithAReasonOnly) {
  openAtWork();
  press("measureAnywayButton");  // thinks better of it
  EXPECT_EQ(study_->session().recorded().passes.size(), 1U);
  prompts_.answer = QStringLiteral("the driver names it so");
  press("measureAnywayButton");
  ASSERT_TRUE(waitUntil([this] { return study_->session().state() == session::State::Finished; }));
  EXPECT_EQ(study_->session().recorded().passes.size(), 2U);
}

TEST_F(ContradictedLevel, IsAResultWhereItCannotBeReached) {
  openAtWork();
  prompts_.answer = QStringLiteral("the driver refuses it");
  press("notReachableButton");
  EXPECT_EQ(prompts_.asked.back(), QStringLiteral("performance"));
  EXPECT_FALSE(study_->session().nextSlot()) << "nothing is left to run";
  EXPECT_TRUE(textOf("claimSentence").contains(QStringLiteral("performance is not reachable here")));
}

}  // namespace
