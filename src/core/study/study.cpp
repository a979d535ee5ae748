#include "core/study/study.h"

#include "core/machine/held_conditions.h"
#include "core/machine/variable_kind.h"
#include "core/values/shown_text.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <random>
#include <set>

#include <fmt/format.h>
#include <boost/random/uniform_int_distribution.hpp>

namespace core {
namespace {

class Problems {
 public:
  void unless(bool is_fine, ErrorKind kind, std::string where, std::string what, std::string remedy) {
    if (!is_fine) list_.push_back({kind, std::move(what), std::move(where), std::move(remedy)});
  }
  std::vector<Error> take() { return std::move(list_); }

 private:
  std::vector<Error> list_;
};

bool hasText(const std::string& text) { return text.find_first_not_of(" \t\n") != std::string::npos; }

bool mentionsLog(const Case& a_case) {
  return std::any_of(a_case.command.begin(), a_case.command.end(),
                     [](const std::string& word) { return word.find("{log}") != std::string::npos; });
}

void checkCase(Problems& problems, const Case& a_case, std::size_t number) {
  const std::string where =
      "case " + std::to_string(number) + (hasText(a_case.workload) ? " (" + a_case.title() + ")" : "");
  problems.unless(hasText(a_case.workload), ErrorKind::Missing, where, "the workload has no name", "Name it");
  const bool is_by_hand = a_case.source == ResultSource::ByHand;
  problems.unless(is_by_hand || (!a_case.command.empty() && hasText(a_case.command.front())), ErrorKind::Missing, where,
                  "there is no command to run", "Enter the program and its arguments");
  if (a_case.source == ResultSource::FrameLog)
    problems.unless(a_case.command.empty() || mentionsLog(a_case), ErrorKind::Missing, where,
                    "the command does not say where to write the frame log",
                    "Put {log} where the workload takes the path of its log");
  problems.unless(hasText(a_case.field) || is_by_hand || a_case.source == ResultSource::Recorded, ErrorKind::Missing,
                  where, "the place of the result is empty",
                  "Name the log's column, or the JSON field such as result.seconds");
  problems.unless(hasText(a_case.metric.name) && hasText(a_case.metric.unit), ErrorKind::Missing, where,
                  "the metric needs a name and a unit", "Enter both, for example render time and s");
  if (a_case.hasFrames()) {
    const bool is_rate = a_case.metric.unit == "FPS" && a_case.metric.direction == Direction::HigherIsBetter;
    const bool is_time = a_case.metric.unit == "ms" && a_case.metric.direction == Direction::LowerIsBetter;
    problems.unless(is_rate || is_time, ErrorKind::OutOfRange, where,
                    "a frame log yields a rate in FPS or a mean frame time in ms",
                    "Choose average FPS, higher is better, or mean frame time in ms, lower is better");
  }
  problems.unless(
      a_case.metric.scale == Scale::Ratio || (!a_case.hasFrames() && a_case.metric.threshold >= 0),
      ErrorKind::OutOfRange, where, "a difference needs a number as its result, and a threshold of 0 or more",
      "Enter the smallest difference worth acting on, in the metric's unit; a frame log is compared in percent");
  problems.unless(!a_case.is_played || (a_case.played_s >= 1 && a_case.played_s <= 7200), ErrorKind::OutOfRange, where,
                  "the stretch that is played must last 1 to 7200 s", "A minute is usual");
  problems.unless(!a_case.is_played || hasText(a_case.route), ErrorKind::Missing, where,
                  "nobody knows what is to be played", "Write the route in words, the same for every pass");
  problems.unless(a_case.trim_first_s >= 0 && a_case.trim_last_s >= 0, ErrorKind::OutOfRange, where,
                  "seconds to leave out must be 0 or more", "Enter 0 to keep all frames");
}

void checkLevel(Problems& problems, const Level& level) {
  problems.unless(hasText(level.name), ErrorKind::Missing, "levels", "a level has no name", "Name both levels");
  problems.unless(!level.reads || (hasText(level.reads->fact) && hasText(level.reads->value)), ErrorKind::Missing,
                  level.name, "what a capture must read at this level is incomplete",
                  "Name a fact and its value, for example cpu/cores = 8");
  for (const SettingWrite& write : level.writes) {
    problems.unless(isSettingPath(write.path), ErrorKind::OutOfRange, level.name,
                    "'" + write.path + "' is no setting of the kernel's", "Use a path below /sys/ or /proc/sys/");
    problems.unless(hasText(write.value), ErrorKind::Missing, level.name, "nothing is to be written to " + write.path,
                    "Enter PATH=VALUE");
  }
}

void checkRounds(Problems& problems, const Plan& plan) {
  problems.unless(plan.rounds >= 3 && plan.rounds <= 500, ErrorKind::OutOfRange, "plan", "rounds must be 3 to 500",
                  "Three are the fewest for an interval over rounds");
  problems.unless(plan.passes_per_visit >= 1 && plan.passes_per_visit <= 100, ErrorKind::OutOfRange, "plan",
                  "passes in a visit must be 1 to 100", "One to four are usual; more rounds help more");
  const auto first = std::count(plan.drawn.begin(), plan.drawn.end(), Side::Baseline);
  const auto other = static_cast<std::ptrdiff_t>(plan.drawn.size()) - first;
  const bool are_looks_fine =
      plan.looks.empty() || (plan.looks.size() <= 3 && plan.looks.back() == plan.rounds && plan.looks.front() >= 3 &&
                             std::is_sorted(plan.looks.begin(), plan.looks.end()));
  problems.unless(are_looks_fine, ErrorKind::OutOfRange, "plan",
                  "looks are at most three, after the third round or later, the last at the end of the plan",
                  "List the rounds in order, for example 4 and 8 of 8");
  problems.unless(!plan.is_one_way || plan.order == Order::Blocked, ErrorKind::OutOfRange, "plan",
                  "a flip that nobody undoes allows one visit at each level",
                  "Choose all of the baseline first, then all of the changed level");
  const int most_uneven = plan.extension_rounds > 0 ? 2 : 1;  // an extension is a balanced shuffle of its own
  problems.unless(static_cast<int>(plan.drawn.size()) == plan.rounds && std::abs(first - other) <= most_uneven,
                  ErrorKind::OutOfRange, "plan",
                  "the order that was drawn does not fit: as many rounds begin with each level, give or take one",
                  "Leave it out, and it is drawn anew");
}

void checkPlan(Problems& problems, const Plan& plan) {
  if (plan.order == Order::BalancedShuffle) checkRounds(problems, plan);
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

// How many passes the plan has, as a number that no plan overflows.
double plannedPasses(const Study& study) {
  const Plan& plan = study.plan;
  const bool is_shuffle = plan.order == Order::BalancedShuffle;
  const double visits = is_shuffle ? 2.0 * plan.rounds : plan.order == Order::ThereAndBack ? 4 : 2;
  const double counted = is_shuffle ? visits * plan.passes_per_visit : 2.0 * plan.passes_per_level;
  return static_cast<double>(study.cases.size()) * (counted + visits * plan.warm_ups);
}

// Every number that a study is judged and planned by.
void checkNumbers(Problems& problems, const Study& study) {
  checkPlan(problems, study.plan);
  problems.unless(study.notice_threshold_percent >= 0 && study.notice_threshold_percent <= 1000, ErrorKind::OutOfRange,
                  "notice threshold", "the smallest change worth acting on must be 0 to 1000 %",
                  "2 % is a usual choice");
  problems.unless(study.confidence >= 0.5 && study.confidence < 1, ErrorKind::OutOfRange, "confidence",
                  "the confidence must be at least 50 % and below 100 %", "95 % is usual");
  problems.unless(study.band_percent > 0 && study.band_percent < 100, ErrorKind::OutOfRange, "yardstick",
                  "the fixed band must lie between 0 and 100 %", "3 % is usual");
  problems.unless(study.target_fps > 0 && std::isfinite(study.target_fps), ErrorKind::OutOfRange, "target",
                  "the rate to hold must be above 0 FPS", "60 FPS is a usual choice");
  constexpr double kMostPasses = 200'000;
  problems.unless(plannedPasses(study) <= kMostPasses, ErrorKind::OutOfRange, "plan",
                  "the plan has more than 200000 passes", "Plan fewer cases, rounds or passes");
}

}  // namespace

bool isSettingPath(const std::string& path) {
  return (path.starts_with("/sys/") || path.starts_with("/proc/sys/")) && path.find("/../") == std::string::npos &&
         path.find('\0') == std::string::npos && !path.ends_with("/..") && !path.ends_with('/');
}

const char* orderName(Order order) {
  switch (order) {
    case Order::Blocked: return "blocked";
    case Order::ThereAndBack: return "there and back";
    case Order::BalancedShuffle: return "balanced shuffle";
  }
  return "unknown";
}

const char* schoolName(School school) {
  switch (school) {
    case School::AsDelivered: return "as delivered";
    case School::WithHeadroom: return "with headroom";
  }
  return "unknown";
}

std::vector<std::string> schoolAsks(School school) {
  if (school == School::AsDelivered)
    return {"Leave the machine as its users have it: their limits, their cooling, their background programs.",
            "What comes along with the change is a part of the answer."};
  return {"Lift out of the way whatever but the variable could decide: a frame cap, a power limit, heat, a slow drive.",
          "Choose presets that wait for what the variable feeds.",
          "Hold what would come along with the change, so that only the variable differs."};
}

std::vector<Side> drawRounds(int rounds, int seed) {
  std::mt19937_64 engine(static_cast<std::uint64_t>(seed));
  // Boost's distribution: the standard library's differs from one implementation to the next.
  const auto below = [&](int n) { return boost::random::uniform_int_distribution<int>(0, n - 1)(engine); };
  std::vector<Side> order;
  for (int i = 0; i < rounds / 2; ++i) order.insert(order.end(), {Side::Baseline, Side::Changed});
  if (rounds % 2 == 1) order.push_back(below(2) == 0 ? Side::Baseline : Side::Changed);
  for (int i = static_cast<int>(order.size()) - 1; i > 0; --i)
    std::swap(order[static_cast<std::size_t>(i)], order[static_cast<std::size_t>(below(i + 1))]);
  return order;
}

std::vector<int> evenLooks(int looks, int rounds) {
  constexpr int kFirst = 3;
  std::vector<int> at;
  if (looks < 2) return at;
  for (int look = 1; look <= looks; ++look) {
    const int round = std::max(kFirst, rounds * look / looks);
    if (at.empty() || round > at.back()) at.push_back(round);
  }
  return at.size() < 2 || at.back() != rounds ? std::vector<int>{} : at;
}

bool isBenchHere(const Study& study) {
  if (!study.machine.empty() || study.is_this_machine.value_or(false)) return true;
  const bool is_all_typed =
      !study.cases.empty() && std::all_of(study.cases.begin(), study.cases.end(),
                                          [](const Case& a_case) { return a_case.source == ResultSource::ByHand; });
  return study.is_this_machine.value_or(!is_all_typed);
}

bool isSetByHand(const Study& study) {
  return !study.kind.empty() && std::all_of(study.levels.begin(), study.levels.end(), [](const Level& level) {
    return level.prefix.empty() && level.environment.empty() && level.set_command.empty() && level.writes.empty();
  });
}

bool raisesLimits(const Level& level) {
  constexpr std::array kLimits{"_power_limit_uw", "/power1_cap", "/pp_od_clk_voltage"};
  return std::any_of(level.writes.begin(), level.writes.end(), [&](const SettingWrite& write) {
    return std::any_of(kLimits.begin(), kLimits.end(), [&](const char* limit) { return write.path.ends_with(limit); });
  });
}

static std::string heldNames() {
  std::string names;
  for (const HeldCondition& one : heldConditions()) names += (names.empty() ? "" : ", ") + std::string(one.id);
  return names;
}

std::vector<Error> problemsOf(const Study& study) {
  Problems problems;
  problems.unless(hasText(study.bench), ErrorKind::Missing, "bench", "the bench has no name",
                  "Name the machine under test");
  problems.unless(hasText(study.variable), ErrorKind::Missing, "variable", "the variable has no name",
                  "Say what is changed");
  problems.unless(study.kind.empty() || findVariableKind(study.kind), ErrorKind::OutOfRange, "variable",
                  "the kind '" + study.kind + "' is not known here", "Choose one from the list");
  problems.unless(study.kind != "other" || !study.fields.empty(), ErrorKind::Missing, "variable",
                  "no fact is named that the setting changes",
                  "Name one as the capture calls it, for example kernel/swappiness");
  for (const auto& [id, reason] : study.released) {
    problems.unless(findHeldCondition(id) || std::find(study.held.begin(), study.held.end(), id) != study.held.end(),
                    ErrorKind::OutOfRange, "released", "'" + id + "' is not held, so it cannot be released",
                    "Use a fact that is listed under held, or one of " + heldNames());
    problems.unless(hasText(reason), ErrorKind::Missing, "released", "'" + id + "' is released without a reason",
                    "Say why it may differ");
  }
  for (const Level& level : study.levels) checkLevel(problems, level);
  problems.unless(study.levels[0].name != study.levels[1].name, ErrorKind::OutOfRange, "levels",
                  "both levels have the same name", "Give them different names");
  problems.unless(!study.cases.empty(), ErrorKind::Missing, "cases", "there is nothing to run", "Add a case");
  std::set<std::string> titles;
  for (std::size_t i = 0; i < study.cases.size(); ++i) {
    checkCase(problems, study.cases[i], i + 1);
    problems.unless(titles.insert(study.cases[i].title()).second, ErrorKind::OutOfRange,
                    "case " + std::to_string(i + 1), "another case has the same workload and preset",
                    "Rename one of them");
  }
  checkNumbers(problems, study);
  return problems.take();
}

std::vector<Error> numbersOutOfRange(const Study& study) {
  Problems problems;
  checkNumbers(problems, study);
  return problems.take();
}

// A level's prefix and variables hold for whatever runs at it.
static ExactCommand atLevel(const Level& level, const Command& command) {
  ExactCommand exact{level.environment, level.prefix, {}};
  exact.command.insert(exact.command.end(), command.begin(), command.end());
  return exact;
}

ExactCommand passCommand(const Level& level, const Case& a_case) { return atLevel(level, a_case.command); }

ExactCommand measureCommand(const Study& study, Side side) {
  return study.measure_command.empty() ? ExactCommand{} : atLevel(study.level(side), study.measure_command);
}

ExactCommand stabilityCommand(const Study& study, Side side) {
  return study.stability_command.empty() ? ExactCommand{} : atLevel(study.level(side), study.stability_command);
}

std::vector<ExactCommand> commandsOf(const Study& study) {
  std::vector<ExactCommand> commands;
  const auto add = [&](ExactCommand exact) {
    if (!exact.command.empty() && std::find(commands.begin(), commands.end(), exact) == commands.end())
      commands.push_back(std::move(exact));
  };
  for (const Level& level : study.levels) {
    add({{}, level.set_command, {}});
    const Side side = &level == &study.levels[0] ? Side::Baseline : Side::Changed;
    add(stabilityCommand(study, side));
    add(measureCommand(study, side));
    for (const Case& a_case : study.cases)
      if (a_case.source != ResultSource::ByHand) add(passCommand(level, a_case));
  }
  return commands;
}

std::vector<ExactCommand> actsOf(const Study& study) {
  std::vector<ExactCommand> acts = commandsOf(study);
  for (const Level& level : study.levels)
    for (const SettingWrite& write : level.writes) acts.push_back({{}, {}, write});
  return acts;
}

std::string displayText(const ExactCommand& command) {
  if (command.write)
    return fmt::format("write {} to {}", shownWord(command.write->value), shownWord(command.write->path));
  std::string text;
  for (const auto& [name, value] : command.environment) text += shownWord(name) + "=" + shownWord(value) + " ";
  for (const std::string& part : command.command) text += shownWord(part) + " ";
  if (!text.empty()) text.pop_back();
  return text;
}

}  // namespace core
