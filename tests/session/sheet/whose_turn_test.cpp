// Which visit goes on when a sheet is taken up again, whatever the clocks say.
#include "session/sheet/whose_turn.h"

#include <gtest/gtest.h>

#include "support/studies.h"
#include "support/test_folder.h"

namespace {

constexpr std::int64_t kHour_ms = 3'600'000;

class VisitInHand : public testing::Test {
 protected:
  VisitInHand() { EXPECT_TRUE(open_.read().ok()); }
  void begin(std::int64_t ahead_ms) {
    const auto begun = open_.addVisit(open_.schedule().front(), "boot", open_.now() + ahead_ms);
    ASSERT_TRUE(begun.ok()) << begun.error().sentence();
  }
  void file(std::int64_t id) {
    core::Pass pass;
    pass.visit_id = open_.visit()->id;
    pass.value = 60;
    pass.attempt = static_cast<int>(id);  // of the same slot
    const auto filed = open_.addPass(pass, {}, {});
    ASSERT_TRUE(filed.ok()) << filed.error().sentence();
    ASSERT_EQ(open_.recorded().passes.back().id, id);
  }
  void repeat(std::int64_t last_pass_id) {
    ASSERT_TRUE(open_.note(core::VisitRepeated{1, last_pass_id, "the firmware is back"}).ok());
  }
  [[nodiscard]] bool isInHand() const { return session::isVisitInHand(open_, open_.schedule().front(), "boot"); }

  support::TestFolder folder_;
  session::OpenStudy open_{*store::StudyFile::create(folder_ / "s.ironlever", support::studyOf({"w"}, 4)), "T. Varga"};
};

TEST_F(VisitInHand, IsNoneThatIsToBeRepeatedThoughTheBenchsClockRunsAhead) {
  begin(kHour_ms);
  file(1);
  EXPECT_TRUE(isInHand());
  repeat(1);
  EXPECT_FALSE(isInHand());
  begin(kHour_ms);
  file(2);
  EXPECT_TRUE(isInHand()) << "it is the repetition";
}

// Planted: one that was interrupted before its first pass went on as it was.
TEST_F(VisitInHand, IsNoneThatIsToBeRepeatedBeforeItHasAPass) {
  begin(0);
  EXPECT_TRUE(isInHand());
  repeat(0);
  EXPECT_FALSE(isInHand());
}

TEST_F(VisitInHand, IsNoneThatIsToBeRepeatedBeforeItHasAPassAtABenchWhoseClockRunsAhead) {
  ASSERT_TRUE(open_.note(core::ClocksCompared{{static_cast<double>(kHour_ms), 2}}).ok());
  begin(kHour_ms - 10);
  EXPECT_TRUE(isInHand());
  repeat(0);
  EXPECT_FALSE(isInHand());
}

}  // namespace
