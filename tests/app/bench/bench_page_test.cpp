// The bench page of a study of more than two configurations, in the real window.
#include <QComboBox>
#include <filesystem>
#include <fstream>

#include "support/studies.h"
#include "support/window.h"

namespace {

using support::waitUntil;

class ChainAtTheBench : public support::WindowTest {
 protected:
  void put(const std::string& path, const std::string& text) const {
    const std::filesystem::path full = (folder_ / "machine") + path;
    std::filesystem::create_directories(full.parent_path());
    std::ofstream(full) << text;
  }
};

TEST_F(ChainAtTheBench, ShowsWhatWasCapturedAtEachConfiguration) {
  put("/proc/sys/kernel/random/boot_id", "boot-1\n");
  put("/proc/sys/kernel/osrelease", "6.1.0\n");
  core::Study chain = support::chainOf(3);
  chain.cases = support::timedStudyOf({"sh", "-c", "echo '{\"seconds\": 1}'"}, 1).cases;
  chain.plan.passes_per_visit = 1;
  chain.machine = "machine";
  for (core::Variable& variable : chain.variables)
    for (core::Level& level : variable.levels) level.set_command = {"true"};
  openStudy(chain);
  trigger("benchAction");
  EXPECT_FALSE(find<QComboBox>("leftVisitBox")->isVisible()) << "nothing is captured yet";
  for (int press = 0; press < 3; ++press) trigger("nextAction");  // reads, approves, starts
  ASSERT_TRUE(waitUntil([this] { return study_->session().state() == session::State::Finished; }));
  trigger("benchAction");
  QStringList offered;
  for (const char* name : {"leftVisitBox", "rightVisitBox"}) {
    const auto* box = find<QComboBox>(name);
    EXPECT_TRUE(box->isVisible());
    for (int i = 0; i < box->count(); ++i) offered << box->itemText(i);
  }
  for (const core::Configuration& one : chain.configurations)
    EXPECT_FALSE(offered.filter(QString::fromStdString(one.name)).isEmpty()) << one.name;
}

}  // namespace
