#include <algorithm>
#include <cmath>
#include <functional>
#include <set>

#include <fmt/format.h>

#include "core/machine/held_conditions.h"
#include "core/machine/variable_kind.h"
#include "core/study/case_results.h"
#include "core/study/companion.h"
#include "core/study/prices.h"
#include "core/study/problem_list.h"
#include "core/study/study.h"

namespace core {
namespace {

// Nearer to 1 no table of t holds, and nobody knows the tails of what a bench does so well.
constexpr double kMostConfidence = 0.9999;

void checkCase(Problems& problems, const Case& a_case, std::size_t number) {
  const std::string where =
      "case " + std::to_string(number) + (hasText(a_case.workload) ? " (" + a_case.title() + ")" : "");
  problems.unless(hasText(a_case.workload), ErrorKind::Missing, where, "the workload has no name", "Name it");
  const bool is_by_hand = a_case.source == ResultSource::ByHand;
  problems.unless(is_by_hand || (!a_case.command.empty() && hasText(a_case.command.front())), ErrorKind::Missing, where,
                  "there is no command to run", "Enter the program and its arguments");
  if (a_case.source == ResultSource::FrameLog)
    problems.unless(a_case.command.empty() || namesLog(a_case.command), ErrorKind::Missing, where,
                    "the command does not say where to write the frame log",
                    "Put {log} where the workload takes the path of its log");
  for (Error& error : resultProblems(a_case, where)) problems.add(std::move(error));
  for (Error& error : companionProblems(a_case, where)) problems.add(std::move(error));
  problems.unless(a_case.audience.size() <= 100, ErrorKind::OutOfRange, where,
                  "the audience is a name of at most 100 characters", "Name it in a word or two: \"shows\"");
  if (a_case.hasFrames()) {
    const bool is_rate = a_case.metric.unit == "FPS" && a_case.metric.direction == Direction::HigherIsBetter;
    const bool is_time = a_case.metric.unit == "ms" && a_case.metric.direction == Direction::LowerIsBetter;
    problems.unless(is_rate || is_time, ErrorKind::OutOfRange, where,
                    "a frame log yields a rate in FPS or a mean frame time in ms",
                    "Choose average FPS, higher is better, or mean frame time in ms, lower is better");
  }
  problems.unless(a_case.metric.scale == Scale::Ratio || !a_case.hasFrames(), ErrorKind::OutOfRange, where,
                  "a difference needs a number as its result",
                  "A frame log is compared in percent; take the number from elsewhere");
  problems.unless(!a_case.is_played || (a_case.played_s >= 1 && a_case.played_s <= 7200), ErrorKind::OutOfRange, where,
                  "the stretch that is played must last 1 to 7200 s", "A minute is usual");
  problems.unless(!a_case.is_played || hasText(a_case.route), ErrorKind::Missing, where,
                  "nobody knows what is to be played", "Write the route in words, the same for every pass");
  problems.unless(a_case.trim_first_s >= 0 && a_case.trim_last_s >= 0, ErrorKind::OutOfRange, where,
                  "seconds to trim must be 0 or more", "Enter 0 to keep all frames");
  problems.unless(!is_by_hand || !a_case.without.any(), ErrorKind::OutOfRange, where,
                  "a result that is typed has no command that could do without rights", "Leave 'without' out");
}

void checkLevel(Problems& problems, const Level& level) {
  problems.unless(hasText(level.name), ErrorKind::Missing, "levels", "a level has no name", "Name both levels");
  problems.unless(!level.reads || (hasText(level.reads->fact) && hasText(level.reads->value)), ErrorKind::Missing,
                  level.name, "what a capture must read at this level is incomplete",
                  "Name a fact and its value, for example cpu/cores = 8");
  constexpr std::size_t kMostPoints = 40;
  constexpr std::size_t kLongestPoint = 200;
  const std::set<std::string> different(level.checklist.begin(), level.checklist.end());
  const bool are_points = std::all_of(level.checklist.begin(), level.checklist.end(), [](const std::string& point) {
    return hasText(point) && point.size() <= kLongestPoint;
  });
  problems.unless(are_points && different.size() == level.checklist.size() && different.size() <= kMostPoints,
                  ErrorKind::OutOfRange, level.name,
                  "a checklist has at most 40 points, each once, each with a text of at most 200 bytes",
                  "Say each point in a few words: \"photograph the seat\"");
  for (const SettingWrite& write : level.writes) {
    problems.unless(isSettingPath(write.path), ErrorKind::OutOfRange, level.name,
                    "'" + write.path + "' is not a setting of the kernel's", "Use a path below /sys/ or /proc/sys/");
    problems.unless(hasText(write.value), ErrorKind::Missing, level.name, "nothing is to be written to " + write.path,
                    "Enter PATH=VALUE");
  }
}

// Nobody names anything at such length; a window would lay it out for minutes.
void checkNameLengths(Problems& problems, const Study& study) {
  constexpr std::size_t kLongest = 500;
  const auto check = [&](const std::string& name, const char* place) {
    problems.unless(name.size() <= kLongest, ErrorKind::OutOfRange, place,
                    fmt::format("a name of {} bytes is none", name.size()), "Give it a name of a few words");
  };
  // What is to be read before it is approved is shown whole.
  constexpr std::size_t kLongestCommand = 32'768;
  const auto checkCommand = [&](const Command& command, const char* place) {
    std::size_t bytes = 0;
    for (const std::string& word : command) bytes += word.size() + 1;
    problems.unless(bytes <= kLongestCommand, ErrorKind::OutOfRange, place,
                    fmt::format("nobody reads a command of {} bytes", bytes), "Put it into a script, and start that");
  };
  check(study.bench, "bench");
  checkCommand(study.measure_command, "measure_command");
  checkCommand(study.stability_command, "stability_command");
  for (const Case& one : study.cases) checkCommand(one.command, "cases");
  for (const Variable& variable : study.variables)
    for (const Level& level : variable.levels)
      for (const Command* command : {&level.prefix, &level.set_command}) checkCommand(*command, "level");
  for (const Variable& variable : study.variables) {
    check(variable.name, "variable");
    check(variable.resource_unit, "variable");
    for (const Level& level : variable.levels) check(level.name, "level");
  }
  for (const Configuration& one : study.configurations) check(one.name, "configurations");
  for (const Case& one : study.cases)
    for (const std::string* name : {&one.workload, &one.preset, &one.name, &one.metric.name, &one.metric.unit,
                                    &one.companion.name, &one.audience})
      check(*name, "case");
}

// Every number that a study is judged and planned by.
void checkNumbers(Problems& problems, const Study& study) {
  checkNameLengths(problems, study);
  checkPlan(problems, study);
  problems.unless(study.notice_threshold_percent >= 0 && study.notice_threshold_percent <= 1000, ErrorKind::OutOfRange,
                  "threshold", "the threshold must be 0 to 1000 %", "2 % is a usual choice");
  problems.unless(!study.notice_threshold_ms || (*study.notice_threshold_ms > 0 && *study.notice_threshold_ms <= 1000),
                  ErrorKind::OutOfRange, "threshold", "the threshold in ms per frame must be above 0 and at most 1000",
                  "Say what a person could notice, or leave it out");
  problems.unless(study.confidence >= 0.5 && study.confidence <= kMostConfidence, ErrorKind::OutOfRange, "confidence",
                  "the confidence must be 50 to 99.99 %", "95 % is usual");
  problems.unless(study.band_percent > 0 && study.band_percent < 100, ErrorKind::OutOfRange, "yardstick",
                  "the fixed band must lie between 0 and 100 %", "3 % is usual");
  problems.unless(study.target_fps > 0 && std::isfinite(study.target_fps), ErrorKind::OutOfRange, "target",
                  "the target rate must be above 0 FPS", "60 FPS is a usual choice");
  const auto all_targets = study.targets();
  const std::set<double> different(all_targets.begin(), all_targets.end());
  const bool are_fine = all_targets.size() <= 4 && different.size() == all_targets.size() &&
                        std::all_of(study.further_targets_fps.begin(), study.further_targets_fps.end(),
                                    [](double fps) { return fps > 0 && std::isfinite(fps); });
  problems.unless(are_fine, ErrorKind::OutOfRange, "further_targets_fps",
                  "beside the target at most three further rates are told, each above 0 FPS and named once",
                  "30 or 120 FPS are usual");
  constexpr double kMostPasses = 200'000;
  problems.unless(plannedPasses(study) <= kMostPasses, ErrorKind::OutOfRange, "plan",
                  "the plan has more than 200000 passes", "Plan fewer cases, rounds or passes");
}

void checkVariable(Problems& problems, const Variable& variable) {
  problems.unless(hasText(variable.name), ErrorKind::Missing, "variable", "the variable has no name",
                  "Say what is changed");
  problems.unless(variable.kind.empty() || findVariableKind(variable.kind), ErrorKind::OutOfRange, "variable",
                  "the kind '" + variable.kind + "' is not known here", "Choose one from the list");
  problems.unless(variable.kind != "other" || !variable.fields.empty(), ErrorKind::Missing, "variable",
                  "no fact is named that the setting changes",
                  "Name one as the capture calls it, for example kernel/swappiness");
  problems.unless(!variable.flip_minutes || (*variable.flip_minutes >= 0 && *variable.flip_minutes <= 1440),
                  ErrorKind::OutOfRange, variable.name, "a flip must take 0 to 1440 minutes",
                  "Leave it out: it is then what its kind usually takes");
  std::set<std::string> names;
  for (const Level& level : variable.levels) {
    checkLevel(problems, level);
    problems.unless(
        names.insert(level.name).second, ErrorKind::OutOfRange, "levels",
        variable.levels.size() == 2 ? "both levels have the same name" : "two levels are called '" + level.name + "'",
        "Give them different names");
    problems.unless(!level.resource || (*level.resource > 0 && std::isfinite(*level.resource)), ErrorKind::OutOfRange,
                    level.name, "what a level offers must be above 0",
                    "Enter it in the variable's unit, or leave it out");
  }
}

// Whoever reads a table or names a level tells configurations and variables apart by their names.
void checkNames(Problems& problems, const Study& study) {
  std::set<std::string> names;
  for (const ConfigurationId one : configurationsOf(study))
    problems.unless(names.insert(study.nameOf(one)).second || study.variables.size() == 1, ErrorKind::OutOfRange,
                    "configurations", "two configurations are called '" + study.nameOf(one) + "'",
                    "Give them different names");
  problems.unless(study.variables.size() == 1 || study.variables[0].name != study.variables[1].name,
                  ErrorKind::OutOfRange, "variables", "two variables have the same name", "Give them different names");
}

// What everything else takes for granted: how many of each there are, and that each place exists.
void checkShape(Problems& problems, const Study& study) {
  constexpr std::size_t kMost = 12;
  const auto wants = [&](bool is_fine, const char* what, const char* remedy) {
    problems.unless(is_fine, ErrorKind::OutOfRange, "shape", what, remedy);
  };
  const std::size_t variables = study.variables.size();
  bool has_levels = variables > 0;
  for (const Variable& one : study.variables)
    has_levels = has_levels && one.levels.size() >= 2 && one.levels.size() <= kMost && one.baseline < one.levels.size();
  wants(has_levels, "a variable has 2 to 12 levels, one of them its baseline", "List them");
  if (!has_levels) return;
  switch (study.shape) {
    case Shape::Pair:
      wants(variables == 1 && study.variable().levels.size() == 2 && study.variable().baseline == 0,
            "a pair is one variable with two levels, its baseline first", "Choose another shape for more");
      break;
    case Shape::Ladder: wants(variables == 1, "a ladder is one variable", "Cross two, or list a chain"); break;
    case Shape::Crossed: wants(variables == 2, "two variables are crossed", "List two"); break;
    case Shape::Chain: wants(variables <= 8, "a chain has at most 8 variables", "Leave out what stays"); break;
  }
  const bool is_listed = study.shape == Shape::Crossed || study.shape == Shape::Chain;
  wants(is_listed || study.configurations.empty(), "only a chain or a crossing lists its configurations",
        "Leave them out: each level is one");
  wants(study.shape != Shape::Chain || !study.configurations.empty(), "a chain lists its configurations, in order",
        "List at least two");
  std::set<std::vector<std::size_t>> seen;
  for (const Configuration& one : study.configurations) {
    bool is_placed = one.levels.size() == variables;
    for (std::size_t i = 0; is_placed && i < variables; ++i)
      is_placed = one.levels[i] < study.variables[i].levels.size();
    wants(is_placed, "a configuration names one level of each variable", "Name them");
    wants(seen.insert(one.levels).second, "a configuration is listed twice", "Leave one of them out");
  }
  const std::size_t groups = static_cast<std::size_t>(
      std::count_if(study.variables.begin(), study.variables.end(), [](const Variable& one) { return one.is_group; }));
  wants(groups == 0 || (study.shape == Shape::Crossed && groups == 1),
        "a group is crossed with the variable that is asked about", "Cross the two, and mark one of them only");
  std::size_t count = study.configurations.empty() ? 1 : study.configurations.size();
  for (const Variable& one : study.variables) count *= study.configurations.empty() ? one.levels.size() : 1;
  wants(count >= 2 && count <= kMost, "a study measures 2 to 12 configurations", "List those that matter most");
}

// A null study tells what flipping adds: its two levels are one, which only their names tell apart.
bool isOneLevelTwice(const Study& study) {
  const std::vector<Level>& levels = study.variable().levels;
  return std::all_of(levels.begin(), levels.end(), [&](const Level& one) {
    return one.prefix == levels[0].prefix && one.environment == levels[0].environment &&
           one.set_command == levels[0].set_command && one.writes == levels[0].writes && one.reads == levels[0].reads;
  });
}

}  // namespace

static std::string heldNames() {
  std::string names;
  for (const HeldCondition& one : heldConditions()) names += (names.empty() ? "" : ", ") + std::string(one.id);
  return names;
}

std::vector<Error> shapeProblems(const Study& study) {
  Problems problems;
  checkShape(problems, study);
  return problems.take();
}

std::vector<Error> problemsOf(const Study& study) {
  if (auto broken = shapeProblems(study); !broken.empty()) return broken;
  Problems problems;
  problems.unless(hasText(study.bench), ErrorKind::Missing, "bench", "the bench has no name",
                  "Name the machine under test");
  problems.unless(!study.is_null || isOneLevelTwice(study), ErrorKind::OutOfRange, "levels",
                  "a null study visits one level again and again, and these differ in what is run, set or read",
                  "Give both the same command, environment, settings and reading; or ask what the change does");
  for (const Variable& variable : study.variables) checkVariable(problems, variable);
  for (Error& error : priceProblems(study)) problems.add(std::move(error));
  for (const auto& [id, reason] : study.released) {
    problems.unless(findHeldCondition(id) || std::find(study.held.begin(), study.held.end(), id) != study.held.end(),
                    ErrorKind::OutOfRange, "released", "'" + id + "' is not kept equal, so it cannot be released",
                    "Use a fact that is listed under held, or one of " + heldNames());
    problems.unless(hasText(reason), ErrorKind::Missing, "released", "'" + id + "' is released without a reason",
                    "Say why it may differ");
  }
  checkNames(problems, study);
  checkOrder(problems, study);
  checkSecondPart(problems, study);
  problems.unless(!study.cases.empty(), ErrorKind::Missing, "cases", "there is nothing to run", "Add a case");
  std::set<std::string> titles;
  for (std::size_t i = 0; i < study.cases.size(); ++i) {
    checkCase(problems, study.cases[i], i + 1);
    problems.unless(titles.insert(study.cases[i].title()).second, ErrorKind::OutOfRange,
                    "case " + std::to_string(i + 1), "another case has the same workload and preset",
                    "Rename one of them, or what runs beside it");
  }
  checkNumbers(problems, study);
  return problems.take();
}

std::vector<Error> numbersOutOfRange(const Study& study) {
  if (auto broken = shapeProblems(study); !broken.empty()) return broken;
  Problems problems;
  checkNumbers(problems, study);
  return problems.take();
}

}  // namespace core
