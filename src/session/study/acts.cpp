#include "session/study/acts.h"

#include <sys/stat.h>

#include <QCoreApplication>
#include <QCryptographicHash>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <algorithm>
#include <array>
#include <filesystem>
#include <map>
#include <set>
#include <tuple>

#include <fmt/format.h>

#include "core/values/shown_text.h"
#include "store/json/json_text.h"

namespace session {
namespace {

constexpr std::array kSystemFolders{"/usr/", "/bin/", "/sbin/", "/lib/", "/lib64/"};
constexpr std::array kScriptEnds{".sh", ".py", ".pl", ".rb", ".lua", ".js", ".tcl", ".awk"};

std::string realPath(const std::string& path) {
  std::error_code code;
  const auto real = std::filesystem::weakly_canonical(path, code);
  return code ? path : real.string();
}

// Only root changes these, and ours are changed with us.
bool isTrusted(const std::string& path) {
  static const std::string own = realPath(QCoreApplication::applicationDirPath().toStdString()) + "/";
  if (path.starts_with(own)) return true;
  struct stat status {};
  const bool is_roots = ::stat(path.c_str(), &status) == 0 && status.st_uid == 0;
  return is_roots && std::any_of(kSystemFolders.begin(), kSystemFolders.end(),
                                 [&](const char* folder) { return path.starts_with(folder); });
}

std::string contentDigest(const std::string& path) {
  struct stat status {};
  if (::stat(path.c_str(), &status) != 0) return "unreadable";
  // Asked at every look at the sheet: read again only after a change.
  using Version = std::tuple<dev_t, ino_t, off_t, std::int64_t, std::int64_t>;
  static std::map<std::string, std::pair<Version, std::string>> known;
  const Version version{status.st_dev, status.st_ino, status.st_size, status.st_mtim.tv_sec, status.st_mtim.tv_nsec};
  auto& [seen, digest] = known[path];
  if (!digest.empty() && seen == version) return digest;
  QFile file(QString::fromStdString(path));
  QCryptographicHash hash(QCryptographicHash::Sha256);
  if (!file.open(QIODevice::ReadOnly) || !hash.addData(&file)) return "unreadable";
  seen = version;
  return digest = hash.result().toHex().toStdString();
}

ActProgram programAt(const std::string& path) {
  const std::string real = realPath(path);
  return {real, isTrusted(real) ? "" : contentDigest(real)};
}

// A word that names a script: what it holds decides what happens as much as the program that reads it.
std::optional<std::string> scriptIn(const std::string& word, const std::string& folder) {
  const std::string name = word.substr(word.starts_with('-') ? std::min(word.find('=') + 1, word.size()) : 0);
  const QFileInfo file(QDir(QString::fromStdString(folder)), QString::fromStdString(name));
  if (name.empty() || !file.isFile()) return std::nullopt;
  const bool ends_so =
      std::any_of(kScriptEnds.begin(), kScriptEnds.end(), [&](const char* end) { return name.ends_with(end); });
  return ends_so || file.isExecutable() ? std::optional(file.absoluteFilePath().toStdString()) : std::nullopt;
}

// `starts`: where a program's own words begin, the first and each behind a level's prefix.
std::vector<ActProgram> programsOf(const core::Command& command, const std::set<std::size_t>& starts,
                                   const std::string& folder, const bench::BenchConnection& bench) {
  std::vector<ActProgram> programs;
  for (std::size_t i = 0; i < command.size(); ++i) {
    if (starts.contains(i)) {
      const auto found = bench.findProgram(command[i], folder);
      programs.push_back(found ? programAt(*found) : ActProgram{});
    } else if (const auto script = scriptIn(command[i], folder)) {
      programs.push_back(programAt(*script));
    }
  }
  return programs;
}

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
  return text;
}

std::string Act::key() const {
  nlohmann::ordered_json key{{"folder", folder}, {"machine", machine}};
  if (!reads.empty()) key["read"] = reads;
  if (exact.write) key["write"] = {exact.write->path, exact.write->value};
  if (!exact.command.empty()) {
    key["environment"] = exact.environment;
    key["command"] = exact.command;
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

std::vector<Act> actsOf(const core::Study& study, const std::string& folder, const bench::BenchConnection& bench) {
  std::vector<Act> acts;
  const auto add = [&](Act act) {
    const auto known = std::find_if(acts.begin(), acts.end(), [&](const Act& one) { return one.key() == act.key(); });
    if (known == acts.end()) acts.push_back(std::move(act));
  };
  const std::string place = realPath(folder);
  const std::string machine = study.machine.empty() ? "" : studyPath(study.machine, folder).full;
  for (const core::ExactCommand& exact : core::actsOf(study)) {
    add({exact, "", place, machine, programsOf(exact.command, startsOf(exact.command, study), folder, bench)});
  }
  std::vector<std::string> paths;
  if (!study.machine.empty()) paths.push_back(study.machine);
  for (const core::Case& a_case : study.cases)
    if (!a_case.settings_file.empty()) paths.push_back(a_case.settings_file);
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
