// What a design is refused for: each rule at its edge, on both sides of it, with the place that it names.
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <functional>
#include <limits>

#include "core/study/study.h"
#include "support/studies.h"

namespace {

using core::Study;

constexpr const char* kFirstCase = "case 1 (Ring pass, 4K dome)";

Study pair() { return support::studyOf({"workload", "{log}"}, 5); }

Study rounds() { return support::roundsOf(6, 2); }

std::vector<std::string> placesOf(const Study& study) {
  std::vector<std::string> places;
  for (const core::Error& one : core::problemsOf(study)) {
    EXPECT_FALSE(one.what.empty() || one.remedy.empty()) << one.where;
    places.push_back(one.where);
  }
  return places;
}

/// A number of a design, the range that it may lie in, and a step that leaves the range.
struct Range {
  std::string name;
  std::string place;
  std::function<void(Study&, double)> set;
  double lowest;
  double highest;
  double step;
};

std::vector<Range> rangesOfAnyPlan() {
  const auto plan = [](const char* name, auto member, double lowest, double highest, double step = 1) {
    return Range{name,
                 "plan",
                 [member](Study& study, double value) {
                   auto& number = study.plan.*member;
                   number = static_cast<std::remove_reference_t<decltype(number)>>(value);
                 },
                 lowest,
                 highest,
                 step};
  };
  using core::Plan;
  return {plan("passes at a level", &Plan::passes_per_level, 1, 1000),
          plan("warm-ups", &Plan::warm_ups, 0, 100),
          plan("settling", &Plan::settle_s, 0, 86400, 0.1),
          plan("settling to a temperature", &Plan::settle_to_c, 15, 110, 0.1),
          plan("longest settling", &Plan::most_settle_s, 0, 86400, 0.1),
          plan("waiting for quiet", &Plan::quiet_wait_s, 0, 86400, 0.1),
          plan("retries", &Plan::retries, 0, 10),
          plan("failures in a row", &Plan::most_failures_in_a_row, 1, 1000),
          plan("time limit", &Plan::time_limit_s, 0.001, 1e7, 0.001),
          {"threshold", "threshold", [](Study& study, double value) { study.notice_threshold_percent = value; }, 0,
           1000, 0.001},
          {"threshold in time", "threshold", [](Study& study, double value) { study.notice_threshold_ms = value; },
           0.001, 1000, 0.001},
          {"confidence", "confidence", [](Study& study, double value) { study.confidence = value; }, 0.5, 0.999, 0.001},
          {"band", "yardstick", [](Study& study, double value) { study.band_percent = value; }, 0.001, 99.999, 0.001},
          {"target", "target", [](Study& study, double value) { study.target_fps = value; }, 0.001,
           std::numeric_limits<double>::max(), std::numeric_limits<double>::infinity()},
          {"flip", "memory speed", [](Study& study, double value) { study.variable().flip_minutes = value; }, 0, 1440,
           0.001},
          {"resource", "6000 MT/s", [](Study& study, double value) { study.variable().levels[1].resource = value; },
           0.001, std::numeric_limits<double>::max(), std::numeric_limits<double>::infinity()}};
}

void expectRange(const Study& fine, const Range& range) {
  const auto at = [&](double value) {
    Study study = fine;
    range.set(study, value);
    return placesOf(study);
  };
  EXPECT_EQ(at(range.lowest), std::vector<std::string>{}) << range.name << " at " << range.lowest;
  EXPECT_EQ(at(range.highest), std::vector<std::string>{}) << range.name << " at " << range.highest;
  EXPECT_EQ(at(std::max(range.lowest - range.step, -1e6)), std::vector{range.place}) << range.name << " below";
  EXPECT_EQ(at(range.highest + range.step), std::vector{range.place}) << range.name << " above";
}

TEST(DesignNumbers, AreTakenUpToTheirEdgesAndNoFurther) {
  for (const Range& range : rangesOfAnyPlan()) expectRange(pair(), range);
  expectRange(rounds(),
              {"passes in a visit", "plan",
               [](Study& study, double value) { study.plan.passes_per_visit = static_cast<int>(value); }, 1, 100, 1});
  expectRange(rounds(), {"rounds", "plan",
                         [](Study& study, double value) {
                           study.plan.rounds = static_cast<int>(value);
                           study.plan.drawn = core::drawRounds(2, study.plan.rounds, 1);
                         },
                         3, 500, 1});
  Study there_and_back = pair();
  there_and_back.plan.order = core::Order::ThereAndBack;
  expectRange(there_and_back,
              {"passes there and back", "plan",
               [](Study& study, double value) { study.plan.passes_per_level = static_cast<int>(value); }, 2, 1000, 1});
  Study played = pair();
  played.cases[0].is_played = true;
  played.cases[0].route = "once around the ring";
  expectRange(played, {"a played stretch", kFirstCase,
                       [](Study& study, double value) { study.cases[0].played_s = value; }, 1, 7200, 0.001});
  Study by_time = pair();
  by_time.plan.settle_to_c = 0;  // which stands for no temperature at all
  EXPECT_TRUE(placesOf(by_time).empty());
}

TEST(DesignNumbers, ThatAreNoNumbersAreRefused) {
  for (const Range& range : rangesOfAnyPlan()) {
    if (range.step == 1) continue;  // a count is a whole number by its type
    Study study = pair();
    range.set(study, std::nan(""));
    EXPECT_EQ(placesOf(study), std::vector{range.place}) << range.name;
  }
}

TEST(DesignNumbers, BoundThePassesOfAPlanAsAWhole) {
  Study study = pair();
  study.plan.warm_ups = 0;
  study.plan.passes_per_level = 1000;
  study.cases.clear();
  for (int i = 0; i < 100; ++i) {
    core::Case one = pair().cases[0];
    one.preset = std::to_string(i);
    study.cases.push_back(one);
  }
  EXPECT_TRUE(placesOf(study).empty()) << "200000 passes";
  study.plan.warm_ups = 1;
  EXPECT_EQ(placesOf(study), std::vector<std::string>{"plan"}) << "and a warm-up of each case at each level";
  EXPECT_EQ(core::numbersOutOfRange(study).size(), 1U) << "nor is it judged where a file holds it";
}

/// A change of a design that is fine, and the one place that is named for it; none where it is fine as well.
struct Change {
  const char* what;
  std::function<void(Study&)> make;
  const char* place;
};

void expectPlaces(const Study& fine, const std::vector<Change>& changes) {
  ASSERT_TRUE(placesOf(fine).empty());
  for (const Change& change : changes) {
    Study study = fine;
    change.make(study);
    const std::vector<std::string> expected =
        *change.place ? std::vector<std::string>{change.place} : std::vector<std::string>{};
    EXPECT_EQ(placesOf(study), expected) << change.what;
  }
}

TEST(DesignCases, SayWhatTheyLack) {
  expectPlaces(
      pair(),
      {{"no bench", [](Study& s) { s.bench = "\t "; }, "bench"},
       {"no case", [](Study& s) { s.cases.clear(); }, "cases"},
       {"no name", [](Study& s) { s.cases[0].workload = " "; }, "case 1"},
       {"no command",
        [](Study& s) {
          s.cases[0].command = {" "};
          s.cases[0].source = core::ResultSource::JsonField;
        },
        kFirstCase},
       {"an imported log needs none",
        [](Study& s) {
          s.cases[0].is_played = false;
          s.cases[0].command = {"x{log}y"};
        },
        ""},
       {"no column", [](Study& s) { s.cases[0].field = "\n"; }, kFirstCase},
       {"a recorded one has no column",
        [](Study& s) {
          s.cases[0].field.clear();
          s.cases[0].source = core::ResultSource::Recorded;
        },
        ""},
       {"a command that writes no log", [](Study& s) { s.cases[0].command = {"iron-lever-probe"}; }, kFirstCase},
       {"the same case twice", [](Study& s) { s.cases.push_back(s.cases[0]); }, "case 2"},
       {"frames in seconds",
        [](Study& s) {
          s.cases[0].metric = {"frame time", "s", core::Direction::LowerIsBetter};
        },
        kFirstCase},
       {"frames of which fewer are better",
        [](Study& s) { s.cases[0].metric.direction = core::Direction::LowerIsBetter; }, kFirstCase},
       {"frame times of which longer are better",
        [](Study& s) {
          s.cases[0].metric = {"mean frame time", "ms", core::Direction::HigherIsBetter};
        },
        kFirstCase},
       {"frame times",
        [](Study& s) {
          s.cases[0].metric = {"mean frame time", "ms", core::Direction::LowerIsBetter};
        },
        ""},
       {"no unit",
        [](Study& s) {
          s.cases[0].source = core::ResultSource::JsonField;
          s.cases[0].metric.unit.clear();
        },
        kFirstCase},
       {"no metric", [](Study& s) { s.cases[0].metric.name.clear(); }, kFirstCase},
       {"decibels of a log", [](Study& s) { s.cases[0].metric.scale = core::Scale::Difference; }, kFirstCase},
       {"decibels",
        [](Study& s) {
          s.cases[0].metric = {"noise", "dB", core::Direction::LowerIsBetter};
          s.cases[0].metric.scale = core::Scale::Difference;
          s.cases[0].source = core::ResultSource::JsonField;
        },
        ""},
       {"a threshold below 0",
        [](Study& s) {
          s.cases[0].metric = {"noise", "dB", core::Direction::LowerIsBetter};
          s.cases[0].metric.scale = core::Scale::Difference;
          s.cases[0].metric.threshold = -0.1;
          s.cases[0].source = core::ResultSource::JsonField;
        },
        kFirstCase},
       {"a scene without a route",
        [](Study& s) {
          s.cases[0].is_played = true;
          s.cases[0].played_s = 60;
        },
        kFirstCase},
       {"a scene",
        [](Study& s) {
          s.cases[0].is_played = true;
          s.cases[0].played_s = 60;
          s.cases[0].route = "once around the ring";
        },
        ""},
       {"the start of a log", [](Study& s) { s.cases[0].trim_first_s = -0.001; }, kFirstCase},
       {"a start that is no number", [](Study& s) { s.cases[0].trim_first_s = std::nan(""); }, kFirstCase},
       {"a log of any length", [](Study& s) { s.cases[0].trim_first_s = 1e6; }, ""},
       {"the end of a log", [](Study& s) { s.cases[0].trim_last_s = -1; }, kFirstCase}});
}

TEST(DesignLevels, SayWhatTheyLack) {
  expectPlaces(pair(),
               {{"no name", [](Study& s) { s.variable().levels[1].name = " "; }, "levels"},
                {"names alike", [](Study& s) { s.variable().levels[1].name = s.variable().levels[0].name; }, "levels"},
                {"no variable", [](Study& s) { s.variable().name = " "; }, "variable"},
                {"a kind that nobody knows", [](Study& s) { s.variable().kind = "warp_drive"; }, "variable"},
                {"a kind of one's own without its facts", [](Study& s) { s.variable().kind = "other"; }, "variable"},
                {"a fact without a value",
                 [](Study& s) {
                   s.variable().levels[1].reads = {"cpu/cores", " "};
                 },
                 "6000 MT/s"},
                {"a value without a fact",
                 [](Study& s) {
                   s.variable().levels[1].reads = {"", "8"};
                 },
                 "6000 MT/s"},
                {"a fact",
                 [](Study& s) {
                   s.variable().levels[1].reads = {"cpu/cores", "8"};
                 },
                 ""},
                {"a file that is no setting",
                 [](Study& s) {
                   s.variable().levels[0].writes = {{"/etc/passwd", "x"}};
                 },
                 "4800 MT/s"},
                {"a way out of the settings",
                 [](Study& s) {
                   s.variable().levels[0].writes = {{"/sys/../etc/passwd", "x"}};
                 },
                 "4800 MT/s"},
                {"nothing to write",
                 [](Study& s) {
                   s.variable().levels[0].writes = {{"/proc/sys/vm/swappiness", ""}};
                 },
                 "4800 MT/s"},
                {"a setting",
                 [](Study& s) {
                   s.variable().levels[0].writes = {{"/proc/sys/vm/swappiness", "10"}};
                 },
                 ""},
                {"a fact of a kind that is not listed",
                 [](Study& s) {
                   s.variable().kind = "other";
                   s.variable().fields = {"kernel/swappiness"};
                 },
                 ""},
                {"what is not held",
                 [](Study& s) {
                   s.released = {{"cpu/cores", "of no account"}};
                 },
                 "released"},
                {"no reason",
                 [](Study& s) {
                   s.held = {"cpu/cores"};
                   s.released = {{"cpu/cores", " "}};
                 },
                 "released"},
                {"a reason",
                 [](Study& s) {
                   s.held = {"cpu/cores"};
                   s.released = {{"cpu/cores", "of no account"}};
                 },
                 ""}});
}

TEST(DesignOrders, FitTheirRounds) {
  expectPlaces(
      rounds(),
      {{"one round too few", [](Study& s) { s.plan.drawn.pop_back(); }, "plan"},
       {"a level twice in a round", [](Study& s) { s.plan.drawn[2][1] = s.plan.drawn[2][0]; }, "plan"},
       {"all rounds alike",
        [](Study& s) {
          s.plan.drawn =
              std::vector(6, core::RoundOrder{core::ConfigurationId::Baseline, core::ConfigurationId::Changed});
        },
        "plan"},
       {"looks before the third round",
        [](Study& s) {
          s.plan.looks = {2, 6};
        },
        "plan"},
       {"looks",
        [](Study& s) {
          s.plan.looks = {3, 6};
        },
        ""},
       {"no look at the end",
        [](Study& s) {
          s.plan.looks = {3, 5};
        },
        "plan"},
       {"four looks",
        [](Study& s) {
          s.plan.looks = {3, 4, 5, 6};
        },
        "plan"},
       {"looks that go back",
        [](Study& s) {
          s.plan.looks = {5, 4, 6};
        },
        "plan"},
       {"a swap for good", [](Study& s) { s.plan.is_one_way = true; }, "plan"},
       {"a swap for good, one visit each",
        [](Study& s) {
          s.plan.is_one_way = true;
          s.plan.order = core::Order::Blocked;
        },
        ""},
       {"grouped though nothing is crossed", [](Study& s) { s.plan.grouped_by = "memory speed"; }, "plan.grouped_by"}});
  // Of an extension the first levels may be two apart: it is a balanced shuffle of its own.
  Study study = rounds();
  study.plan.rounds = 4;
  study.plan.drawn = core::pairRounds({core::ConfigurationId::Baseline, core::ConfigurationId::Baseline,
                                       core::ConfigurationId::Baseline, core::ConfigurationId::Changed});
  EXPECT_EQ(placesOf(study), std::vector<std::string>{"plan"});
  study.plan.extension_rounds = 1;
  EXPECT_TRUE(placesOf(study).empty());
}

/// How many problems there are with what everything else takes for granted.
std::size_t broken(Study study, const std::function<void(Study&)>& change) {
  change(study);
  const auto problems = core::shapeProblems(study);
  for (const core::Error& one : problems) EXPECT_EQ(one.where, "shape");
  EXPECT_EQ(core::problemsOf(study).size(), problems.empty() ? core::problemsOf(study).size() : problems.size())
      << "nothing else is looked at before";
  return problems.size();
}

core::Variable levels(std::size_t count) {
  std::vector<std::pair<std::string, double>> named;
  for (std::size_t i = 0; i < count; ++i)
    named.emplace_back("Gen " + std::to_string(i + 1), 4.0 * static_cast<double>(i + 1));
  return support::linkOf(named);
}

TEST(DesignShapes, HaveTheirNumberOfVariablesLevelsAndConfigurations) {
  const auto nothing = [](Study&) {};
  for (const Study& fine : {pair(), support::ladderOf(), support::crossedOf(), support::chainOf()})
    EXPECT_EQ(broken(fine, nothing), 0U);
  EXPECT_EQ(broken(pair(), [](Study& s) { s.variables.clear(); }), 1U);
  EXPECT_EQ(broken(pair(), [](Study& s) { s.variables.push_back(s.variables[0]); }), 1U);
  EXPECT_EQ(broken(pair(), [](Study& s) { s.variable().levels.pop_back(); }), 1U);
  EXPECT_EQ(broken(pair(), [](Study& s) { s.variable().baseline = 1; }), 1U);
  EXPECT_EQ(broken(pair(), [](Study& s) { s.configurations = {{"", {0}}, {"", {1}}}; }), 1U);
  EXPECT_EQ(broken(support::ladderOf(), [](Study& s) { s.variables = {levels(12)}; }), 0U);
  EXPECT_EQ(broken(support::ladderOf(), [](Study& s) { s.variables = {levels(13)}; }), 1U);
  EXPECT_EQ(broken(support::ladderOf(), [](Study& s) { s.variable().baseline = 3; }), 0U);
  EXPECT_EQ(broken(support::ladderOf(), [](Study& s) { s.variable().baseline = 4; }), 1U);
  EXPECT_EQ(broken(support::crossedOf(), [](Study& s) { s.variables.pop_back(); }), 1U);
  EXPECT_EQ(broken(support::crossedOf(), [](Study& s) { s.variables[0] = levels(6); }), 0U) << "12 cells";
  EXPECT_EQ(broken(support::crossedOf(), [](Study& s) { s.variables[0] = levels(7); }), 1U) << "14 cells";
  EXPECT_EQ(broken(support::crossedOf(), [](Study& s) { s.variables[0].is_group = true; }), 0U);
  EXPECT_EQ(broken(support::crossedOf(),
                   [](Study& s) {
                     for (core::Variable& one : s.variables) one.is_group = true;
                   }),
            1U);
  EXPECT_EQ(broken(support::ladderOf(), [](Study& s) { s.variables[0].is_group = true; }), 1U);
  EXPECT_EQ(broken(support::chainOf(), [](Study& s) { s.configurations.clear(); }), 1U);
  EXPECT_EQ(broken(support::chainOf(), [](Study& s) { s.configurations.resize(1); }), 1U);
  EXPECT_EQ(broken(support::chainOf(), [](Study& s) { s.configurations[3].levels = {1, 3}; }), 1U);
  EXPECT_EQ(broken(support::chainOf(), [](Study& s) { s.configurations[3].levels = {1}; }), 1U);
  EXPECT_EQ(broken(support::chainOf(), [](Study& s) { s.configurations[3].levels = {0, 0}; }), 1U) << "listed twice";
}

TEST(DesignNames, TellVariablesAndConfigurationsApart) {
  expectPlaces(support::chainOf(),
               {{"two alike", [](Study& s) { s.configurations[2].name = "full-width slot"; }, "configurations"},
                {"variables alike", [](Study& s) { s.variables[1].name = "slot"; }, "variables"}});
}

TEST(Problems, ANullStudyVisitsOneLevel) {
  Study study = rounds();
  study.is_null = true;
  EXPECT_TRUE(placesOf(study).empty()) << "names may differ";
  study.variable().levels[1].environment = {{"N", "2"}};
  EXPECT_EQ(placesOf(study), std::vector<std::string>{"levels"});
  study.is_null = false;
  EXPECT_TRUE(placesOf(study).empty());
}

}  // namespace
