#include <algorithm>

#include <fmt/format.h>

#include "core/study/study.h"
#include "core/values/shown_text.h"

namespace core {
namespace {

// A setup's prefix and variables hold for whatever runs at it.
ExactCommand atSetup(const Setup& setup, const Command& command) {
  ExactCommand exact{setup.environment, setup.prefix, {}};
  exact.command.insert(exact.command.end(), command.begin(), command.end());
  return exact;
}

}  // namespace

std::string withoutText(const Without& without) {
  std::vector<std::string> names;
  if (without.new_privileges || without.isConfined()) names.emplace_back("new privileges");
  if (without.network) names.emplace_back("network");
  if (without.shared_temporary_folder) names.emplace_back("the shared temporary folder");
  return names.empty() ? "" : fmt::format("without {}", fmt::join(names, ", "));
}

ExactCommand passCommand(const Setup& setup, const Case& a_case) {
  ExactCommand exact = atSetup(setup, a_case.command);
  exact.without = a_case.without;
  return exact;
}

ExactCommand companionCommand(const Setup& setup, const Case& a_case) {
  if (!a_case.companion.isAsked()) return {};
  ExactCommand exact = atSetup(setup, a_case.companion.command);
  exact.without = a_case.without;
  return exact;
}

// What is measured or tested here says nothing of a machine that is elsewhere.
ExactCommand measureCommand(const Study& study, ConfigurationId configuration) {
  if (study.measure_command.empty() || !isBenchHere(study)) return {};
  return atSetup(setupOf(study, configuration), study.measure_command);
}

ExactCommand stabilityCommand(const Study& study, ConfigurationId configuration) {
  if (study.stability_command.empty() || !isBenchHere(study)) return {};
  return atSetup(setupOf(study, configuration), study.stability_command);
}

std::vector<ExactCommand> commandsOf(const Study& study) {
  std::vector<ExactCommand> commands;
  const auto add = [&](ExactCommand exact) {
    if (!exact.command.empty() && std::find(commands.begin(), commands.end(), exact) == commands.end())
      commands.push_back(std::move(exact));
  };
  for (const ConfigurationId configuration : configurationsOf(study)) {
    const Setup setup = setupOf(study, configuration);
    for (const ExactCommand& command : setup.set_commands) add(command);
    add(stabilityCommand(study, configuration));
    add(measureCommand(study, configuration));
    for (const Case& a_case : study.cases) {
      if (a_case.source == ResultSource::ByHand) continue;
      add(passCommand(setup, a_case));
      add(companionCommand(setup, a_case));
    }
  }
  return commands;
}

std::vector<ExactCommand> actsOf(const Study& study) {
  std::vector<ExactCommand> acts = commandsOf(study);
  for (const Variable& variable : study.variables)
    for (const Level& level : variable.levels)
      for (const SettingWrite& write : level.writes) acts.push_back({{}, {}, write});
  return acts;
}

bool isSettingPath(const std::string& path) {
  return (path.starts_with("/sys/") || path.starts_with("/proc/sys/")) && path.find("/../") == std::string::npos &&
         path.find('\0') == std::string::npos && !path.ends_with("/..") && !path.ends_with('/');
}

std::string displayText(const ExactCommand& command) {
  if (command.write)
    return fmt::format("write {} to {}", shownWord(command.write->value), shownWord(command.write->path));
  std::string text;
  for (const auto& [name, value] : command.environment) text += shownWord(name) + "=" + shownWord(value) + " ";
  for (const std::string& part : command.command) text += shownWord(part) + " ";
  if (!text.empty()) text.pop_back();
  if (command.without.any()) text += " (" + withoutText(command.without) + ")";
  return text;
}

}  // namespace core
