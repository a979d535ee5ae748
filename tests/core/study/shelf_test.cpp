// Workloads that ship, and kinds by what they belong to.
#include "core/study/shelf.h"

#include <gtest/gtest.h>

#include <map>
#include <set>

#include "core/machine/kind_groups.h"
#include "core/machine/variable_kind.h"
#include "core/study/reshaped.h"

namespace {

using core::shippedWorkloads;

TEST(Shelf, HasWorkloadsThatAStudyCanRunAsTheyAre) {
  std::set<std::string> titles;
  for (const core::ShelfItem& item : shippedWorkloads()) {
    EXPECT_TRUE(titles.insert(item.a_case.title()).second) << item.a_case.title();
    EXPECT_GE(item.pass_seconds, 2) << "too short to say anything: " << item.a_case.title();
    core::Study study;
    study.bench = "this machine";
    study.variable().name = "swappiness";
    study.variable().levels = {{.name = "10"}, {.name = "60"}};
    study = core::redrawn(core::withWorkload(study, item, false));
    EXPECT_TRUE(core::problemsOf(study).empty())
        << item.a_case.title() << ": " << core::problemsOf(study).front().sentence();
  }
}

TEST(Shelf, PutsInOnceAndTakesOutAgain) {
  const core::ShelfItem& item = shippedWorkloads().front();
  core::Study study;
  study.cases.emplace_back();  // nobody has said anything about it yet
  study = core::withWorkload(study, item, true);
  ASSERT_EQ(study.cases.size(), 1U);
  EXPECT_TRUE(study.cases[0].is_control);
  EXPECT_DOUBLE_EQ(study.plan.guess.visit_pass_minutes, item.pass_seconds / 60);
  EXPECT_TRUE(core::withWorkload(study, item, false).cases.empty());
  EXPECT_FALSE(core::knownPassMinutes(core::Study()));
}

// One that the shelf does not know may take any time: then the guess stays.
TEST(Shelf, KnowsThePassesOnlyWhereItKnowsEveryCase) {
  const auto shelf = shippedWorkloads();
  core::Study study = core::withWorkload(core::withWorkload({}, shelf[0], false), shelf[3], false);
  EXPECT_DOUBLE_EQ(study.plan.guess.visit_pass_minutes, (shelf[0].pass_seconds + shelf[3].pass_seconds) / 60);
  study = core::withWorkload(study, shelf[0], false);  // out again
  EXPECT_DOUBLE_EQ(study.plan.guess.visit_pass_minutes, shelf[3].pass_seconds / 60);
  study.cases.emplace_back().workload = "Ring pass";
  EXPECT_FALSE(core::knownPassMinutes(study));
}

TEST(Kinds, StandEachInOneGroup) {
  std::map<std::string_view, int> seen;
  for (const core::KindGroup& group : core::kindGroups())
    for (const std::string_view id : group.kinds) {
      EXPECT_NE(core::findVariableKind(id), nullptr) << id;
      ++seen[id];
    }
  for (const core::VariableKind& kind : core::variableKinds()) EXPECT_EQ(seen[kind.id], 1) << kind.id;
}

}  // namespace
