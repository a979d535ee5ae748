#include "store/study/act_row.h"

#include <gtest/gtest.h>

#include <set>
#include <vector>

namespace {

using store::ActRow;

/// A row of each kind, as released versions write it.
const std::vector<ActRow>& rowsOfEachKind() {
  static const std::vector<ActRow> rows{
      {"accepted", "drift", "the room is cooled"},
      {"asked", "2", ""},
      {"excluded", "3", "the room was opened"},
      {"explained", "Ring pass, 4K dome", "ruled out: the link: half of it"},
      {"explained", "Ring pass, 4K dome", ""},
      {"felt", "3", "hitches"},
      {"flip", "2", "boot-1"},
      {"included", "3", ""},
      {"judging_changed", "seen", "threshold 2 % became 1 %: the house rule"},
      {"judging_changed", "", "threshold 2 % became 1 %: the house rule"},
      {"level_taken", "changed",
       R"({"study":"then.ironlever","identity":"9f","level":"Gen 4","visits":[1,2],"shared":[{"level":"Gen 3","case":"Ring pass","visit_means":[90.5,91.5]}]})"},
      {"limit", "", "90 °C"},
      {"measured_anyway", "3", "the tables are wrong"},
      {"not_reachable", "changed", "does not train"},
      {"not_reachable", "11", "does not train"},
      {"clocks", "", "-120.250: 1.500"},
      {"note", "3@1.5", "the gate opens"},
      {"null_study", "", R"({"date":"2026-11-25","cases":[{"case":"Ring pass","visits":[[90.1,90.4],[89.9]]}]})"},
      {"observed", "9f86d081884c7d659a2feaa0c55ad015", "a bent pin"},
      {"opened_early", "", "the bench is needed"},
      {"pinned", "Ring pass, 4K dome", "look here"},
      {"plan_changed", "", "one more round: the spread"},
      {"predicted", "", "-2.5"},
      {"predicted", "", ""},
      {"repeat", "4", "another attempt at a failed pass"},
      {"restored", "", "the governor is powersave again"},
      {"setting", "2", "memory speed"},
      {"skip", "4", "the save is broken"},
      {"stable", "baseline", "an hour"},
      {"stated", "cooler", "tower"},
      {"step_failed", "3", "3 errors"},
      {"step_held", "baseline", "no error in 60 s"},
      {"step_setting", "changed", "boot-1"},
      {"step_testing", "changed", "boot-1"},
      {"stopped_at_look", "4", ""},
      {"ticked", "2", "photograph the seat"},
      {"unticked", "2", "photograph the seat"},
      {"updating", "0", "apt"},
      {"visit_repeated", "3", "12: the module was not seated"},
      {"of a later version", "x", "y"},
  };
  return rows;
}

TEST(ActRows, SayWhatTheActSays) {
  std::set<std::size_t> kinds;
  for (const ActRow& row : rowsOfEachKind()) {
    const auto act = store::actOf(row);
    ASSERT_TRUE(act) << row.kind;
    EXPECT_EQ(store::rowOf(*act), row) << row.kind;
    kinds.insert(act->index());
  }
  EXPECT_EQ(kinds.size(), std::variant_size_v<core::Act>) << "there is a row of each kind above";
}

TEST(ActRows, ThatDoNotSayWhatTheirKindSaysAreNone) {
  for (const ActRow& row : {ActRow{"excluded", "x", ""},
                            {"excluded", "", ""},
                            {"felt", "-1", "smooth"},
                            {"skip", "1.5", ""},
                            {"flip", "1e300", ""},
                            {"stable", "other", ""},
                            {"stable", "1", ""},
                            {"not_reachable", "70000", ""},
                            {"explained", "x", "surely: the link"},
                            {"predicted", "", "much"},
                            {"visit_repeated", "3", "the module was not seated"},
                            {"clocks", "", "12"},
                            {"clocks", "", "12: -1"},
                            {"null_study", "", "[]"}})
    EXPECT_FALSE(store::actOf(row)) << row.kind << " " << row.subject << " " << row.text;
}

}  // namespace
