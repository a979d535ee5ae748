// Several benches at once, in the real window: stand-ins beside each other, and one over a real ssh.
#include <gmock/gmock.h>

#include <QFile>
#include <filesystem>
#include <fstream>

#include "app/at_work/at_work_window.h"
#include "support/sshd.h"
#include "support/studies.h"
#include "support/window.h"

namespace {

using app::AtWorkModel;
using support::Sshd;
using support::waitUntil;
using ::testing::HasSubstr;

constexpr const char* kGovernorPath = "/sys/devices/system/cpu/cpufreq/policy0/scaling_governor";

class BenchesAtWork : public support::WindowTest {
 protected:
  void put(const std::string& path, const std::string& text) const {
    std::filesystem::create_directories(std::filesystem::path(path).parent_path());
    std::ofstream(path) << text;
  }
  /// A bench of its own for each, at which a person sets the governor by hand.
  QString bench(const std::string& name, const char* seconds = "0.05") {
    const std::string root = folder_ / name;
    put(root + kGovernorPath, "powersave\n");
    put(root + "/proc/sys/kernel/random/boot_id", "boot-1\n");
    core::Study study =
        support::timedStudyOf({"sh", "-c", std::string("sleep ") + seconds + "; echo '{\"seconds\": 1}'"}, 2);
    study.bench = name;
    study.machine = name;
    study.variable().name = "memory speed";
    study.variable().kind = "other";
    study.variable().fields = {"cpu/governor"};
    study.variable().levels[0] = {};
    study.variable().levels[1] = {};
    study.variable().levels[0].name = "powersave";
    study.variable().levels[1].name = "performance";
    for (core::Level& level : study.variable().levels) level.reads = core::ExpectedReading{"cpu/governor", level.name};
    const std::string path = folder_ / (name + ".ironlever");
    EXPECT_TRUE(store::StudyFile::create(path, study).ok());
    return QString::fromStdString(path);
  }
  void openWindow() {
    open();
    trigger("atWorkAction");
    table_ = find<QTableView>("atWorkTable");
    model_ = static_cast<AtWorkModel*>(table_->model());
  }
  void add(const QString& path) {
    prompts_.path = path;
    press("atWorkAddButton");
  }
  void choose(int row) const { table_->setCurrentIndex(model_->index(row, 0)); }
  [[nodiscard]] QString cell(int row, AtWorkModel::Column column) const {
    return model_->index(row, column).data().toString();
  }
  void approve() const {
    press("atWorkApproveButton");
    for (auto* accept : window_->findChildren<QPushButton*>(QStringLiteral("acceptTextButton")))
      if (accept->isVisible()) return accept->click();
    ADD_FAILURE() << "nothing is there to be read";
  }
  [[nodiscard]] std::string way() const { return textOf("wayRoundLabel").toStdString(); }

  QTableView* table_ = nullptr;
  AtWorkModel* model_ = nullptr;
};

TEST_F(BenchesAtWork, RunSideBySideAndCallAPersonToEachInTurn) {
  const QString first = bench("Dome node 2");
  const QString second = bench("Dome node 4");
  openWindow();
  EXPECT_THAT(way(), HasSubstr("Add the studies"));
  add(first);
  add(second);
  ASSERT_EQ(model_->rowCount(), 2);
  EXPECT_THAT(way(), HasSubstr("1. Dome node 2: read what it starts, and approve it"));
  for (const int row : {0, 1}) {
    choose(row);
    approve();
  }
  // Both stand at the first level already, which the capture reads: both run at once.
  ASSERT_TRUE(waitUntil([&] { return model_->standingOf(0).isRunning() && model_->standingOf(1).isRunning(); }));
  EXPECT_FALSE(find<QPushButton>("atWorkStartButton")->isEnabled());
  ASSERT_TRUE(waitUntil([&] { return !model_->isAnyRunning(); }));
  EXPECT_THAT(way(), HasSubstr("1. Dome node 2: bring it to performance by hand"));
  EXPECT_THAT(way(), HasSubstr("2. Dome node 4: bring it to performance by hand"));
  EXPECT_EQ(cell(1, AtWorkModel::Passes), QStringLiteral("2 of 4"));
  EXPECT_GE(prompts_.called.size(), 2);
  // The way round goes as the benches stand.
  choose(1);
  press("atWorkEarlierButton");
  EXPECT_THAT(way(), HasSubstr("1. Dome node 4: bring it to performance by hand"));
  // One is flipped, the other is not, and says so.
  put((folder_ / "Dome node 4") + kGovernorPath, "performance\n");
  for (const int row : {0, 1}) {
    choose(row);
    press("atWorkStartButton");
  }
  ASSERT_TRUE(waitUntil([&] { return !model_->isAnyRunning(); }));
  EXPECT_EQ(cell(0, AtWorkModel::Passes), QStringLiteral("4 of 4"));
  EXPECT_EQ(cell(0, AtWorkModel::Person), QStringLiteral("nobody; it is done"));
  EXPECT_THAT(cell(1, AtWorkModel::Person).toStdString(), HasSubstr("performance was asked, powersave is read"));
  // Which they are is remembered.
  AtWorkModel again(bench_, session::UserFiles::in(folder_ / "user"));
  ASSERT_EQ(again.rowCount(), 2);
  EXPECT_EQ(again.pathOf(0), second);
  choose(0);
  press("atWorkRemoveButton");
  EXPECT_EQ(model_->rowCount(), 1);
}

TEST_F(BenchesAtWork, AreStoppedOneOrAll) {
  openWindow();
  for (const char* name : {"Dome node 2", "Dome node 4"}) {
    add(bench(name, "0.3"));
    approve();
  }
  ASSERT_TRUE(waitUntil([&] { return model_->standingOf(0).isRunning() && model_->standingOf(1).isRunning(); }));
  press("atWorkStopAllButton");
  ASSERT_TRUE(waitUntil([&] { return !model_->isAnyRunning(); }));
  EXPECT_LT(model_->standingOf(0).filed, 2);
  choose(1);
  press("atWorkStartButton");
  ASSERT_TRUE(waitUntil([&] { return model_->standingOf(1).isRunning(); }));
  EXPECT_FALSE(model_->standingOf(0).isRunning());
}

TEST_F(BenchesAtWork, SayWhatCannotBeFollowed) {
  openWindow();
  std::ofstream(folder_ / "notes.ironlever") << "no study";
  add(QString::fromStdString(folder_ / "notes.ironlever"));
  ASSERT_EQ(model_->rowCount(), 1);
  EXPECT_THAT(way(), HasSubstr("1. notes.ironlever: "));
  press("atWorkStartButton");
  EXPECT_EQ(prompts_.told.size(), 1);
}

// The question names the bench, the run sheet approves that it is reached, and its sheet runs there while the window
// shows what comes of it.
TEST_F(BenchesAtWork, RunASheetOverSshFromTheQuestionOn) {
  if (!QFile::exists(Sshd::program())) GTEST_SKIP() << "no sshd is installed";
  Sshd far(folder_ / "bench");
  far.start();
  core::Study study = support::timedStudyOf({"sh", "-c", "sleep 0.02; echo '{\"seconds\": 1}'"}, 2);
  for (core::Level& level : study.variable().levels) level.environment = {{"LEVEL", level.name}};
  study.ssh_config = far.config();
  openStudy(study);
  window_->goTo(core::Place::Question);
  window_->showStep(1);
  support::WindowTest::choose("reachBox", 1);
  type("reachEdit", QStringLiteral("-oProxyCommand=evil"));
  ASSERT_EQ(prompts_.told.size(), 1);
  EXPECT_THAT(prompts_.told.front().toStdString(), HasSubstr("this is not a name that ssh takes"));
  type("reachEdit", QString::fromLatin1(Sshd::kName));
  EXPECT_EQ(study_->study().ssh_name, Sshd::kName);
  EXPECT_THAT(textOf("benchNowLabel").toStdString(), HasSubstr("Nobody here has approved yet"));
  while (nextText().startsWith(QStringLiteral("Read")) || nextText().startsWith(QStringLiteral("Approve")))
    trigger("nextAction");
  window_->goTo(core::Place::Question);
  ASSERT_TRUE(waitUntil([&] { return textOf("benchNowLabel").contains(QStringLiteral("without a password")); }))
      << textOf("benchNowLabel").toStdString();
  EXPECT_EQ(nextText(), QStringLiteral("Start it at dome-node-3"));
  trigger("nextAction");
  table_ = find<QTableView>("atWorkTable");
  model_ = static_cast<AtWorkModel*>(table_->model());
  ASSERT_TRUE(waitUntil([&] { return model_->standingOf(0).phase == app::WorkStanding::Phase::AsksApproval; }))
      << model_->standingOf(0).words.toStdString();
  EXPECT_THAT(model_->toApprove(0).join(QLatin1Char('\n')).toStdString(), HasSubstr("At dome-node-3: "));
  EXPECT_TRUE(study_->session().recorded().passes.empty());
  approve();
  ASSERT_TRUE(waitUntil([&] { return model_->standingOf(0).phase == app::WorkStanding::Phase::Done; }))
      << model_->standingOf(0).words.toStdString();
  EXPECT_EQ(study_->session().recorded().passes.size(), 4U) << "the window shows what came";
  // The cable is pulled: it says so, and nothing is lost.
  EXPECT_EQ(cell(0, AtWorkModel::Passes), QStringLiteral("4 of 4"));
}

TEST_F(BenchesAtWork, AreLeftToThemselvesWhenTheWindowCloses) {
  if (!QFile::exists(Sshd::program())) GTEST_SKIP() << "no sshd is installed";
  Sshd far(folder_ / "bench");
  far.start();
  core::Study study = support::timedStudyOf({"sh", "-c", "sleep 0.3; echo '{\"seconds\": 1}'"}, 4);
  for (core::Level& level : study.variable().levels) level.environment = {{"LEVEL", level.name}};
  study.ssh_name = Sshd::kName;
  study.ssh_config = far.config();
  const QString path = QString::fromStdString(folder_ / "far.ironlever");
  ASSERT_TRUE(store::StudyFile::create(path.toStdString(), study).ok());
  const session::UserFiles files = session::UserFiles::in(folder_ / "user");
  const auto follow = [&](auto&& until) {
    AtWorkModel model(bench_, files);
    model.add(path);
    model.approve(0);
    ASSERT_TRUE(waitUntil([&] { return !model.toApprove(0).isEmpty() || until(model.standingOf(0)); }));
    if (!model.toApprove(0).isEmpty()) model.approve(0);
    ASSERT_TRUE(waitUntil([&] { return until(model.standingOf(0)); })) << model.standingOf(0).words.toStdString();
  };
  follow([](const app::WorkStanding& one) { return one.phase == app::WorkStanding::Phase::Running && one.filed > 0; });
  EXPECT_FALSE(far.processes("bench-run").empty()) << "it goes on there";
  follow([](const app::WorkStanding& one) { return one.phase == app::WorkStanding::Phase::Done; });
  auto file = store::StudyFile::open(path.toStdString());
  EXPECT_EQ(file->recorded()->passes.size(), 8U);
}

}  // namespace
