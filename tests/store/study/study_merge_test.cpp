// What a copy of a study brings that went on elsewhere: each thing once, or nothing where both went on.
#include "store/study/study_merge.h"

#include <gtest/gtest.h>

#include <filesystem>

#include "core/study/schedule.h"
#include "support/studies.h"
#include "support/test_folder.h"

namespace {

using core::ErrorKind;
using store::StudyFile;

class Merges : public testing::Test {
 protected:
  Merges() {
    core::Study study = support::studyOf({"workload", "{log}"}, 3);
    study.plan.order = core::Order::ThereAndBack;  // four visits
    study.plan.passes_per_level = 4;
    auto made = StudyFile::create(here_, study);
    EXPECT_TRUE(made.ok());
    EXPECT_TRUE(made->addEvent({0, 1, "M. Osei", core::NoteMade{"", "before"}}).ok());
    copy();
  }
  void copy() const { std::filesystem::copy_file(here_, there_, std::filesystem::copy_options::overwrite_existing); }
  // A planned visit with its capture, and its first two passes of three frames.
  static void goOn(const std::string& path, int visit, const char* boot = "boot-a") {
    auto file = StudyFile::open(path);
    ASSERT_TRUE(file.ok());
    const auto schedule = core::scheduleOf(file->study());
    std::size_t slot = 0;
    while (slot < schedule.size() && schedule[slot].visit != visit) ++slot;
    ASSERT_LT(slot, schedule.size()) << "the plan has no such visit";
    const auto begun =
        file->addVisit({0, visit, schedule[slot].round, schedule[slot].configuration, boot, 1000 * visit});
    ASSERT_TRUE(begun.ok());
    core::VisitCapture capture;
    capture.visit_id = begun->id;
    ASSERT_TRUE(file->addCapture(capture).ok());
    for (int i = 0; i < 2; ++i) {
      core::Pass pass;
      pass.visit_id = begun->id;
      pass.slot = slot + static_cast<std::size_t>(i);
      pass.value = 60.5 + i;
      pass.output = "said";
      ASSERT_TRUE(file->addPass(pass, std::vector<double>{16, 17, 18}).ok());
    }
    ASSERT_TRUE(file->addEvent({0, 10 * visit, "the bench", core::NoteMade{"", "there"}}).ok());
  }
  [[nodiscard]] core::Result<store::Merged> taken() const {
    auto file = StudyFile::open(here_);
    EXPECT_TRUE(file.ok());
    return store::takeRecorded(*file, there_);
  }
  support::TestFolder folder_;
  std::string here_ = folder_ / "here.ironlever";
  std::string there_ = folder_ / "there.ironlever";
};

TEST_F(Merges, TakeEachThingOnceHoweverOftenTheyAreAsked) {
  goOn(there_, 1);
  goOn(there_, 2);
  {
    auto file = StudyFile::open(here_);
    ASSERT_TRUE(file->addEvent({0, 5, "M. Osei", core::NoteMade{"", "meanwhile"}}).ok());
  }
  const auto first = taken();
  ASSERT_TRUE(first.ok()) << first.error().sentence();
  EXPECT_EQ(first->visits, 2);
  EXPECT_EQ(first->passes, 4);
  EXPECT_EQ(first->events, 2);
  const auto again = taken();
  ASSERT_TRUE(again.ok());
  EXPECT_EQ(again->visits + again->passes + again->events, 0);
  auto file = StudyFile::open(here_);
  ASSERT_TRUE(file.ok());
  const auto all = file->recorded();
  ASSERT_TRUE(all.ok()) << all.error().sentence();
  EXPECT_EQ(all->passes.size(), 4U);
  EXPECT_EQ(all->captures.size(), 2U);
  EXPECT_EQ(all->events.size(), 4U) << "what was written down here stays";
  EXPECT_EQ(file->frames(all->passes[3].id)->size(), 3U);
  goOn(here_, 3);  // and it goes on as if nothing had been elsewhere
}

TEST_F(Merges, TakeNothingWhereBothWentOn) {
  goOn(there_, 1, "boot-b");
  goOn(here_, 1);
  const auto merged = taken();
  ASSERT_FALSE(merged.ok());
  EXPECT_EQ(merged.error().kind, ErrorKind::NotAllowed);
  auto file = StudyFile::open(here_);
  const auto all = file->recorded();
  EXPECT_EQ(all->passes.size(), 2U);
  EXPECT_EQ(all->events.size(), 2U);
}

TEST_F(Merges, TakeNothingOfAnotherStudy) {
  std::filesystem::remove(there_);
  ASSERT_TRUE(StudyFile::create(there_, support::studyOf({"workload", "{log}"}, 3)).ok());
  EXPECT_EQ(taken().error().kind, ErrorKind::NotAllowed);
}

TEST_F(Merges, LoseNothingOfWhatOnlyTheStudyItselfHas) {
  goOn(here_, 1);
  const auto merged = taken();  // the copy at the bench is older
  ASSERT_TRUE(merged.ok()) << merged.error().sentence();
  EXPECT_EQ(merged->passes, 0);
  EXPECT_EQ(StudyFile::open(here_)->recorded()->passes.size(), 2U);
}

}  // namespace
