// What is claimed of studies beside each other, and what is not.
#include <gtest/gtest.h>

#include "core/beside/beside.h"
#include "support/recorded_study.h"

namespace {

class BesideClaim : public testing::Test {
 protected:
  BesideClaim() {
    for (support::RecordedStudy* one : {&then_, &now_}) {
      one->recordRates({60, one == &then_ ? 63.0 : 66.0});
      for (core::Pass& pass : one->passes) pass.started_ms = one == &then_ ? pass.id : 1000 + pass.id;
    }
  }
  static void capture(support::RecordedStudy& study, std::vector<core::VisitCapture>& captures,
                      const std::string& kernel) {
    captures.clear();
    core::Capture capture;
    core::Fact fact;
    fact.name = "os/kernel";
    fact.value = kernel;
    capture.facts = {fact};
    for (const core::Visit& visit : study.visits) captures.push_back({visit.id, core::CaptureMoment::Start, capture});
    study.also.captures = captures;
  }
  [[nodiscard]] std::string claim() const {
    const core::Record records[] = {then_.recorded(), now_.recorded()};
    const core::Judgement judged[] = {core::judgementOf(then_.study, records[0]),
                                      core::judgementOf(now_.study, records[1])};
    const std::vector<core::StudyAside> studies{{"then", &then_.study, &records[0], &judged[0]},
                                                {"now", &now_.study, &records[1], &judged[1]}};
    const auto beside = core::layBeside(studies, {});
    return beside ? beside->claim : beside.error().sentence();
  }
  support::RecordedStudy then_{support::roundsOf(4, 2)};
  support::RecordedStudy now_{support::roundsOf(4, 2)};
  std::vector<core::VisitCapture> of_then_;
  std::vector<core::VisitCapture> of_now_;
};

// Planted: of benches that nobody captured nothing was known to differ, and the claim read as if they were one.
TEST_F(BesideClaim, SaysWhereNobodyKnowsWhatDiffers) {
  EXPECT_NE(claim().find("now over then is +4."), std::string::npos) << claim();
  EXPECT_NE(claim().find("what differs between their benches is not known: one has no capture"), std::string::npos)
      << claim();
  capture(then_, of_then_, "6.9");
  EXPECT_NE(claim().find("is not known"), std::string::npos) << claim();
  capture(now_, of_now_, "6.9");
  EXPECT_EQ(claim().find("is not known"), std::string::npos) << claim();
  EXPECT_EQ(claim().find("not yet the same bench"), std::string::npos) << claim();
  capture(now_, of_now_, "6.12");
  EXPECT_NE(claim().find("not yet the same bench"), std::string::npos) << claim();
}

}  // namespace
