// What is still to come: one rule for sheet, looks, seal, findings and report.
#include "core/record/sheet_ledger.h"

#include <gtest/gtest.h>

#include "core/judgement/judgement.h"
#include "support/recorded_study.h"

namespace {

class Ledgers : public testing::Test {
 protected:
  Ledgers() {
    recorded_.study = support::studyOf({"w", "{log}"}, 2);
    recorded_.study.plan.is_sealed = true;
    recorded_.record([](core::Pass& pass, const core::Slot&) { pass.value = 60; });
  }
  [[nodiscard]] core::SheetLedger ledger() const {
    return {recorded_.study, core::scheduleOf(recorded_.study), recorded_.recorded()};
  }
  void failLast() {
    recorded_.passes.back().status = core::PassStatus::Failed;
    recorded_.passes.back().value.reset();
  }
  support::RecordedStudy recorded_;
};

TEST_F(Ledgers, KeepASlotOpenWhileARetryIsDue) {
  recorded_.study.plan.retries = 1;
  failLast();
  EXPECT_EQ(ledger().next(), 3U);
  EXPECT_TRUE(recorded_.judged().is_sealed);  // the results stay closed while the retry runs
  EXPECT_FALSE(recorded_.judged().findings.done.is_first_done);
  core::Pass again = recorded_.passes.back();
  again.attempt = 2;
  recorded_.passes.push_back(again);
  EXPECT_TRUE(ledger().isComplete());
  EXPECT_FALSE(recorded_.judged().is_sealed);
}

TEST_F(Ledgers, SettleASlotByAResultAPersonOrTheLastAttempt) {
  failLast();
  EXPECT_TRUE(ledger().isComplete());  // no retries were planned
  recorded_.also.repeats = {3};
  EXPECT_EQ(ledger().next(), 3U);  // a person granted one more
  recorded_.also.skipped = {{3, "the save is broken"}};
  EXPECT_TRUE(ledger().isComplete());
}

TEST_F(Ledgers, HaveNothingToComeOnceAPersonStoppedAtALook) {
  recorded_.passes.pop_back();
  EXPECT_FALSE(ledger().isComplete());
  recorded_.also.is_stopped_at_look = true;
  EXPECT_TRUE(ledger().isComplete());
}

}  // namespace
