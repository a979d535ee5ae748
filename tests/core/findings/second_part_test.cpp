// Cases that were added when a plan was complete: a second part, which leaves the first as it was.
#include <gtest/gtest.h>

#include "core/beside/level_means.h"
#include "core/planning/extension.h"
#include "core/study/schedule.h"
#include "support/recorded_study.h"

namespace {

class SecondPart : public testing::Test {
 protected:
  /// A study of two cases, its plan complete.
  void complete(core::Study study) {
    all_.study = std::move(study);
    core::Case other = all_.study.cases.front();
    other.preset = "2K dome";
    all_.study.cases.push_back(other);
    recordAll();
    first_ = all_.judged();
    first_passes_ = all_.passes.size();
  }
  void recordAll() {
    all_.recordRates(std::vector<double>{100, 104, 106, 107}, 0.01);
    const auto schedule = core::scheduleOf(all_.study);
    for (core::Pass& pass : all_.passes)  // what is added later loses at every level but the first
      if (const core::Slot& slot = schedule[pass.slot];
          slot.case_index == 2 && slot.configuration != core::ConfigurationId::Baseline)
        pass.value = *pass.value * 0.8;
    std::int64_t n = 0;
    for (core::Pass& pass : all_.passes) pass.started_ms = 60'000 * n++;
  }
  void add(int rounds = 4) {
    core::Case later = all_.study.cases.front();
    later.preset = "8K dome";
    all_.study = core::withSecondPart(all_.study, {later}, rounds);
  }
  /// The first so many passes of the second part are in.
  void recordSecond(std::size_t passes) {
    recordAll();
    all_.passes.resize(first_passes_ + passes);
    std::erase_if(all_.visits, [&](const core::Visit& visit) {
      return std::none_of(all_.passes.begin(), all_.passes.end(),
                          [&](const core::Pass& pass) { return pass.visit_id == visit.id; });
    });
  }
  void expectFirstPartAsItWas(const core::Judgement& now) const {
    EXPECT_EQ(now.claim.sentence(), first_.claim.sentence());
    EXPECT_EQ(now.claim.safety, first_.claim.safety) << "nor is it safe, or not, by what was added";
    EXPECT_TRUE(now.claim.has_result);
    ASSERT_EQ(now.findings.suite.has_value(), first_.findings.suite.has_value());
    EXPECT_EQ(now.findings.suite->improvement.value, first_.findings.suite->improvement.value);
    EXPECT_EQ(now.findings.suite->improvement.interval->lo, first_.findings.suite->improvement.interval->lo);
    for (std::size_t i = 0; i < 2; ++i) {
      const core::CaseFinding& was = first_.findings.cases[i];
      const core::CaseFinding& is = now.findings.cases[i];
      EXPECT_EQ(is.improvement.value, was.improvement.value);
      EXPECT_EQ(is.improvement.interval->hi, was.improvement.interval->hi);
      EXPECT_EQ(is.verdict, was.verdict);
      EXPECT_EQ(is.p_holm->zero, was.p_holm->zero);
      EXPECT_EQ(is.marks.is_so_far, was.marks.is_so_far);
      EXPECT_EQ(is.counted, was.counted);
      if (was.drift) {
        EXPECT_EQ(is.drift->p_holm, was.drift->p_holm);
      }
    }
  }
  static bool hasDoubt(const core::Judgement& judged, const std::string& id) {
    return std::any_of(judged.doubts.begin(), judged.doubts.end(),
                       [&](const core::Doubt& one) { return one.id.starts_with(id); });
  }

  support::RecordedStudy all_;
  core::Judgement first_;
  std::size_t first_passes_ = 0;
};

TEST_F(SecondPart, MeasuresTheAddedCasesAloneInRoundsOfTheirOwn) {
  complete(support::roundsOf(5, 2));
  const auto before = core::scheduleOf(all_.study);
  add(4);
  const auto after = core::scheduleOf(all_.study);
  ASSERT_EQ(core::problemsOf(all_.study).size(), 0U);
  ASSERT_EQ(after.size(), before.size() + 4 * 2 * 2);
  EXPECT_TRUE(std::equal(before.begin(), before.end(), after.begin())) << "what is planned keeps its place";
  for (std::size_t i = before.size(); i < after.size(); ++i) {
    EXPECT_EQ(after[i].case_index, 2U);
    EXPECT_GT(after[i].round, 5);
  }
}

TEST_F(SecondPart, LeavesWhatTheFirstSaidAsItWas) {
  complete(support::roundsOf(5, 2));
  add();
  recordSecond(0);
  expectFirstPartAsItWas(all_.judged());
  recordSecond(7);
  expectFirstPartAsItWas(all_.judged());
  recordAll();
  const core::Judgement all = all_.judged();
  expectFirstPartAsItWas(all);
  EXPECT_TRUE(hasDoubt(all, "second_part"));
  EXPECT_FALSE(all.extension);
  const core::CaseFinding& added = all.findings.cases[2];
  ASSERT_TRUE(added.effect && added.p_holm);
  EXPECT_EQ(added.effect->design.complete_rounds, 4);
  EXPECT_FALSE(added.marks.is_so_far);
  EXPECT_LT(added.improvement.value, -10);
  EXPECT_EQ(added.p_holm->zero, added.effect->contrast.inference->p) << "judged among the added cases alone";
}

TEST_F(SecondPart, TakesFirstAndOnlyCaseForTheHeadlineStill) {
  all_.study = support::roundsOf(5, 2);
  recordAll();
  const core::Judgement alone = all_.judged();
  add();
  recordAll();
  const core::Judgement now = all_.judged();
  EXPECT_EQ(now.claim.sentence(), alone.claim.sentence());
  EXPECT_FALSE(now.findings.suite);
}

TEST_F(SecondPart, IsSealedUntilItIsCompleteWhereThePlanIs) {
  core::Study study = support::roundsOf(5, 2);
  study.plan.is_sealed = true;
  complete(std::move(study));
  add();
  recordSecond(15);
  const core::Judgement now = all_.judged();
  expectFirstPartAsItWas(now);
  EXPECT_FALSE(now.is_sealed);
  EXPECT_TRUE(now.isSealed(all_.study.cases[2]));
  EXPECT_FALSE(now.isSealed(all_.study.cases[0]));
  EXPECT_FALSE(now.findings.cases[2].effect);
  EXPECT_TRUE(now.findings.cases[2].why_no_effect.starts_with("Sealed"));
  EXPECT_FALSE(hasDoubt(now, "so_far"));
  recordAll();
  EXPECT_FALSE(all_.judged().isSealed(all_.study.cases[2]));
  EXPECT_TRUE(all_.judged().findings.cases[2].effect);
}

TEST_F(SecondPart, TellsNothingBesideAnotherStudyWhileItIsSealed) {
  core::Study study = support::roundsOf(5, 2);
  study.plan.is_sealed = true;
  complete(std::move(study));
  add();
  const auto meanOfAdded = [&] {
    const core::Record record = all_.recorded();
    const core::Judgement judged = core::judgementOf(all_.study, record);
    return core::LevelMeans({"a", &all_.study, &record, &judged}).at(2, core::ConfigurationId::Baseline);
  };
  recordSecond(15);
  EXPECT_FALSE(meanOfAdded());
  recordAll();
  EXPECT_TRUE(meanOfAdded());
}

TEST_F(SecondPart, OfALadderIsSealedAndJudgedByItself) {
  core::Study study = support::ladderOf(5, 2);
  study.plan.is_sealed = true;
  complete(std::move(study));
  add();
  recordSecond(10);
  const core::Judgement part = all_.judged();
  EXPECT_EQ(part.claim.sentence(), first_.claim.sentence());
  for (const core::ContrastFinding& one : part.shape.contrasts)
    EXPECT_NE(one.case_index, std::optional<std::size_t>(2));
  EXPECT_FALSE(part.shape.valuesOf(2)->at[0].mean);
  recordAll();
  const core::Judgement all = all_.judged();
  for (const core::ContrastFinding& was : first_.shape.contrasts) {
    const core::ContrastFinding* is = all.shape.find(was.asked, was.case_index);
    ASSERT_NE(is, nullptr);
    EXPECT_EQ(is->contrast.difference, was.contrast.difference);
    if (was.p_holm) {
      EXPECT_EQ(is->p_holm->zero, was.p_holm->zero);
    }
  }
  EXPECT_NE(all.shape.find(0, 2), nullptr);
}

TEST_F(SecondPart, IsRefusedWhereItHasNoPlace) {
  complete(support::roundsOf(5, 2));
  add(2);
  EXPECT_FALSE(core::problemsOf(all_.study).empty()) << "two rounds give no interval";
  complete(support::roundsOf(6, 2));
  all_.study.plan.looks = {3, 6};
  add();
  EXPECT_FALSE(core::problemsOf(all_.study).empty()) << "looks";
  complete(support::roundsOf(5, 2));
  all_.study.cases.front().is_second_part = true;
  EXPECT_FALSE(core::problemsOf(all_.study).empty()) << "no first part";
}

}  // namespace
