#include "session/study/acts.h"

#include <QCryptographicHash>
#include <algorithm>
#include <filesystem>
#include <set>

#include <fmt/format.h>

#include "core/values/shown_text.h"
#include "store/json/json_text.h"

namespace session {
namespace {

// Behind a level's prefix another program begins, be it the next variable's prefix or the command itself.
std::set<std::size_t> startsOf(const core::Command& command, const core::Study& study) {
  std::set<std::size_t> starts{0};
  for (const core::ConfigurationId configuration : core::configurationsOf(study)) {
    const core::Command whole = core::setupOf(study, configuration).prefix;
    if (command.size() <= whole.size() || !std::equal(whole.begin(), whole.end(), command.begin())) continue;
    const std::vector<std::size_t> levels = study.levelsAt(configuration);
    std::size_t at = 0;
    for (std::size_t i = 0; i < levels.size(); ++i)
      starts.insert(at += study.variables[i].levels[levels[i]].prefix.size());
  }
  return starts;
}

}  // namespace

std::string Act::sentence() const {
  if (!reads.empty()) return "read " + core::shownWord(reads) + ", which is outside the study's folder";
  std::string text = core::displayText(exact);
  if (exact.write && !machine.empty()) text += ", on the bench in " + core::shownWord(machine);
  if (exact.write && machine.empty()) text += ", on this machine";
  for (const ActProgram& one : programs)
    if (one.digest == kNotLookedAt) text += "; what it loads from " + core::shownWord(one.path) + " is not looked at";
  return text;
}

std::string Act::key() const {
  nlohmann::ordered_json key{{"folder", folder}, {"machine", machine}};
  if (!reads.empty()) key["read"] = reads;
  if (exact.write) key["write"] = {exact.write->path, exact.write->value};
  if (!exact.command.empty()) {
    key["environment"] = exact.environment;
    key["command"] = exact.command;
    if (exact.without.any())
      key["without"] = {exact.without.new_privileges, exact.without.network, exact.without.shared_temporary_folder};
    key["programs"] = nlohmann::ordered_json::array();
    for (const ActProgram& program : programs) key["programs"].push_back({program.path, program.digest});
  }
  return store::jsonText(key);
}

StudyPath studyPath(const std::string& path, const std::string& folder) {
  const std::string root = realPath(folder);
  StudyPath found{realPath((std::filesystem::path(root) / path).string()), false};
  found.is_below = found.full == root || found.full.starts_with(root == "/" ? root : root + "/");
  return found;
}

Act readingOf(const StudyPath& path, const std::string& folder) {
  Act act;
  act.reads = path.full;
  act.folder = realPath(folder);
  return act;
}

// Of a study whose bench is another computer: what it does is done there, and approved there. A configuration of ssh
// may start programs: it is approved by its content.
static Act reachingOf(const core::Study& study, const std::string& folder) {
  Act act;
  act.folder = realPath(folder);
  act.exact.command = {"ssh"};
  if (!study.ssh_config.empty()) {
    const std::string config = studyPath(study.ssh_config, folder).full;
    act.exact.command.insert(act.exact.command.end(), {"-F", config});
    act.programs.push_back(programAt(config));
  }
  act.exact.command.insert(act.exact.command.end(), {"--", study.ssh_name, "iron-lever-cli bench-end"});
  return act;
}

std::vector<Act> actsOf(const core::Study& study, const std::string& folder, const bench::BenchConnection& bench) {
  if (!study.ssh_name.empty()) return {reachingOf(study, folder)};
  std::vector<Act> acts;
  std::set<std::string> known;
  const auto add = [&](Act act) {
    if (known.insert(act.key()).second) acts.push_back(std::move(act));
  };
  const std::string place = realPath(folder);
  ProgramsByWord programs;
  const std::string machine = study.machine.empty() ? "" : studyPath(study.machine, folder).full;
  for (const core::ExactCommand& exact : core::actsOf(study)) {
    add({exact, "", place, machine, programsOf(exact, startsOf(exact.command, study), folder, bench, programs)});
  }
  std::vector<std::string> paths;
  if (!study.machine.empty()) paths.push_back(study.machine);
  for (const core::Case& a_case : study.cases) {
    if (!a_case.settings_file.empty()) paths.push_back(a_case.settings_file);
    if (a_case.source == core::ResultSource::File) paths.push_back(a_case.path);
    for (const core::CaseResult& one : a_case.further)
      if (one.source == core::ResultSource::File) paths.push_back(one.path);
  }
  for (const std::string& path : paths)
    if (const StudyPath found = studyPath(path, folder); !found.is_below) add(readingOf(found, folder));
  return acts;
}

std::string digestOf(const std::vector<Act>& acts) {
  QCryptographicHash hash(QCryptographicHash::Sha256);
  for (const Act& act : acts) hash.addData(QByteArray::fromStdString(act.key() + "\n"));
  return hash.result().toHex().left(16).toStdString();
}

}  // namespace session
