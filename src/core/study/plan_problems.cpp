// What keeps a plan from being run.
#include <algorithm>
#include <cmath>
#include <functional>

#include <fmt/format.h>

#include "core/study/problem_list.h"

namespace core {
namespace {

// Of a pair as many rounds begin with each level, give or take one; of more a round is a round of all.
bool areDrawnFairly(const Study& study) {
  const Plan& plan = study.plan;
  if (static_cast<int>(plan.drawn.size()) != plan.rounds) return false;
  const std::vector<ConfigurationId> all = configurationsOf(study);
  for (RoundOrder round : plan.drawn) {
    std::sort(round.begin(), round.end());
    if (round != all) return false;
  }
  if (all.size() != 2) return true;
  const auto first = std::count_if(plan.drawn.begin(), plan.drawn.end(),
                                   [&](const RoundOrder& round) { return round.front() == all.front(); });
  // An extension is a balanced shuffle of its own, and so is a second part.
  const int most_uneven = 1 + (plan.extension_rounds > 0 ? 1 : 0) + (plan.second_part_rounds > 0 ? 1 : 0);
  return std::abs(2 * first - plan.rounds) <= most_uneven;
}

void checkRounds(Problems& problems, const Study& study) {
  const Plan& plan = study.plan;
  problems.unless(plan.rounds >= 3 && plan.rounds <= 500, ErrorKind::OutOfRange, "plan", "rounds must be 3 to 500",
                  "Three are the fewest for an interval over rounds");
  problems.unless(plan.passes_per_visit >= 1 && plan.passes_per_visit <= 100, ErrorKind::OutOfRange, "plan",
                  "passes in a visit must be 1 to 100", "One to four are usual; more rounds help more");
  const std::size_t most_looks = plan.look_price == LookPrice::Spending ? 5 : 3;
  const bool are_looks_fine =
      plan.looks.empty() ||
      (plan.looks.size() <= most_looks && plan.looks.back() == plan.rounds && plan.looks.front() >= 3 &&
       std::adjacent_find(plan.looks.begin(), plan.looks.end(), std::greater_equal<>()) == plan.looks.end());
  problems.unless(are_looks_fine, ErrorKind::OutOfRange, "plan",
                  fmt::format("looks are at most {}, each once, after the third round or later, the last at the end of "
                              "the plan",
                              most_looks),
                  "List the rounds in order, for example 4 and 8 of 8");
  problems.unless(areDrawnFairly(study), ErrorKind::OutOfRange, "plan",
                  "the order that was drawn does not fit: as many rounds begin with each level, give or take one",
                  "Leave it out, and it is drawn anew");
}

// What the chart of plans reckons with before anything is measured.
void checkGuess(Problems& problems, const PlanningGuess& guess) {
  const auto wants = [&](double value, double most, const char* what, const char* remedy) {
    problems.unless(value >= 0 && value <= most, ErrorKind::OutOfRange, "plan.guess", what, remedy);
  };
  wants(guess.pass_spread_units, 1e6, "the spread of passes in their unit must be 0 or more", "0 where nobody knows");
  wants(guess.flip_spread_units, 1e6, "the spread of flips in their unit must be 0 or more", "0 where nobody knows");
  wants(guess.pass_spread_percent, 100, "the spread of passes must be 0 to 100 %", "1 % is usual");
  wants(guess.flip_spread_percent, 100, "what a flip adds must be 0 to 100 %", "Half a percent is usual");
  wants(guess.flip_minutes, 1440, "a flip must take 0 to 1440 minutes", "Five are usual");
  wants(guess.visit_pass_minutes, 1440, "a pass of every case must take 0 to 1440 minutes", "Two are usual");
}

}  // namespace

void checkSecondPart(Problems& problems, const Study& study) {
  const Plan& plan = study.plan;
  const auto first = static_cast<std::ptrdiff_t>(study.firstPartCases());
  const bool has_cases = first < std::ssize(study.cases);
  if (!has_cases && plan.second_part_rounds == 0) return;
  const bool are_last =
      std::all_of(study.cases.begin() + first, study.cases.end(), [](const Case& one) { return one.is_second_part; });
  problems.unless(has_cases && first > 0 && are_last, ErrorKind::OutOfRange, "cases",
                  "a second part needs cases of its own, behind those of the first", "List the added cases last");
  problems.unless(plan.order == Order::BalancedShuffle && plan.looks.empty(), ErrorKind::OutOfRange, "plan",
                  "only a plan of rounds without interim looks has a second part", "Make a study of its own for them");
  problems.unless(plan.second_part_rounds >= 3 && plan.firstPartRounds() >= 3, ErrorKind::OutOfRange,
                  "plan.second_part_rounds", "each part needs 3 rounds or more",
                  "Three are the fewest for an interval over rounds");
}

void checkOrder(Problems& problems, const Study& study) {
  const Plan& plan = study.plan;
  const bool has_rounds = plan.order == Order::BalancedShuffle;
  problems.unless(!plan.is_one_way || plan.order == Order::Blocked, ErrorKind::OutOfRange, "plan",
                  "a flip that nobody undoes allows one visit at each level",
                  "Choose all of the baseline first, then all of the changed level");
  problems.unless(has_rounds || plan.looks.empty(), ErrorKind::OutOfRange, "plan",
                  "only a plan of rounds has interim looks", "Plan rounds, or leave the looks out");
  problems.unless(plan.grouped_by.empty() || !blocksOf(study, plan.grouped_by).empty(), ErrorKind::OutOfRange,
                  "plan.grouped_by", "'" + plan.grouped_by + "' is not one of two crossed variables",
                  "Name the variable that is to be flipped rarely, or leave it out");
  problems.unless(plan.planned_for == PlannedFor::Difference || study.shape == Shape::Crossed, ErrorKind::OutOfRange,
                  "plan.planned_for", "only crossed variables have a main effect and an interaction",
                  "Plan for a difference");
}

void checkPlan(Problems& problems, const Study& study) {
  const Plan& plan = study.plan;
  checkGuess(problems, plan.guess);
  if (plan.order == Order::BalancedShuffle) checkRounds(problems, study);
  const int fewest = plan.order == Order::ThereAndBack ? 2 : 1;
  problems.unless(
      plan.order == Order::BalancedShuffle || (plan.passes_per_level >= fewest && plan.passes_per_level <= 1000),
      ErrorKind::OutOfRange, "plan",
      "passes at each level must be " + std::to_string(fewest) + " to 1000 in this order",
      "At least 2 are needed for an interval");
  problems.unless(plan.warm_ups >= 0 && plan.warm_ups <= 100, ErrorKind::OutOfRange, "plan",
                  "warm-ups must be 0 to 100", "One is usual");
  problems.unless(plan.settle_s >= 0 && plan.settle_s <= 86400, ErrorKind::OutOfRange, "plan",
                  "settling must take 0 to 86400 s", "A minute or two is usual after a restart");
  problems.unless(plan.settle_to_c == 0 || (plan.settle_to_c >= 15 && plan.settle_to_c <= 110), ErrorKind::OutOfRange,
                  "plan", "the temperature to settle to must be 15 to 110 °C", "Enter 0 to go by time alone");
  problems.unless(plan.most_settle_s >= 0 && plan.most_settle_s <= 86400, ErrorKind::OutOfRange, "plan",
                  "settling to a temperature must take 0 to 86400 s", "A quarter of an hour is usual");
  problems.unless(plan.quiet_wait_s >= 0 && plan.quiet_wait_s <= 86400, ErrorKind::OutOfRange, "plan",
                  "waiting for quiet must take 0 to 86400 s", "Enter 0 not to wait");
  problems.unless(plan.retries >= 0 && plan.retries <= 10, ErrorKind::OutOfRange, "plan", "retries must be 0 to 10",
                  "A pass that fails more often will not succeed by chance");
  problems.unless(plan.most_failures_in_a_row >= 1 && plan.most_failures_in_a_row <= 1000, ErrorKind::OutOfRange,
                  "plan", "failures in a row must be 1 to 1000", "Five are usual");
  problems.unless(plan.time_limit_s > 0 && plan.time_limit_s <= 1e7, ErrorKind::OutOfRange, "plan",
                  "the time limit of a pass must be above 0 s and below 116 days",
                  "Use a few times the usual length of a pass");
}

double plannedPasses(const Study& study) {
  const Plan& plan = study.plan;
  const bool is_shuffle = plan.order == Order::BalancedShuffle;
  const auto levels = static_cast<double>(study.configurationCount());
  const double visits = levels * (is_shuffle ? plan.rounds : plan.order == Order::ThereAndBack ? 2 : 1);
  const double counted = is_shuffle ? visits * plan.passes_per_visit : levels * plan.passes_per_level;
  return static_cast<double>(study.cases.size()) * (counted + visits * plan.warm_ups);
}

}  // namespace core
