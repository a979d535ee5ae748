#include "session/study/act_programs.h"

#include <sys/stat.h>
#include <unistd.h>

#include <QCoreApplication>
#include <QCryptographicHash>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <algorithm>
#include <array>
#include <filesystem>
#include <map>
#include <optional>
#include <string_view>
#include <tuple>

namespace session {
namespace {

constexpr std::array kSystemFolders{"/usr/", "/bin/", "/sbin/", "/lib/", "/lib64/"};
constexpr std::array kScriptEnds{".sh",  ".bash", ".zsh", ".py",  ".pl",  ".rb",
                                 ".lua", ".js",   ".mjs", ".tcl", ".awk", ".php"};
// Programs that do what the file says which they are handed, whatever it is called.
constexpr std::array<std::string_view, 16> kInterpreters{"sh",     "bash",  "dash", "zsh",    "ksh",  "fish",
                                                         "python", "pypy",  "perl", "ruby",   "node", "lua",
                                                         "php",    "tclsh", "awk",  "Rscript"};
// Variables of the environment by which other code is run: files, or folders, parted by colons or spaces.
constexpr std::array<std::string_view, 24> kLoading{
    "LD_PRELOAD",    "LD_LIBRARY_PATH",   "LD_AUDIT",          "BASH_ENV", "ENV",       "ZDOTDIR",  "PYTHONPATH",
    "PYTHONHOME",    "PYTHONSTARTUP",     "PERL5LIB",          "PERL5OPT", "PERLLIB",   "RUBYLIB",  "RUBYOPT",
    "NODE_PATH",     "NODE_OPTIONS",      "LUA_PATH",          "LUA_INIT", "CLASSPATH", "GTK_PATH", "QT_PLUGIN_PATH",
    "VK_LAYER_PATH", "VK_ADD_LAYER_PATH", "LIBGL_DRIVERS_PATH"};

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
  if (::stat(path.c_str(), &status) != 0 || !S_ISREG(status.st_mode)) return "unreadable";
  // Asked at every look at the sheet, and before each start: read again only after a change, which a file's owner can
  // hide from the time of its content, but not from that of its node.
  using Version = std::tuple<dev_t, ino_t, off_t, std::int64_t, std::int64_t>;
  static std::map<std::string, std::pair<Version, std::string>> known;
  const Version version{status.st_dev, status.st_ino, status.st_size, status.st_ctim.tv_sec, status.st_ctim.tv_nsec};
  auto& [seen, digest] = known[path];
  if (!digest.empty() && seen == version) return digest;
  QFile file(QString::fromStdString(path));
  QCryptographicHash hash(QCryptographicHash::Sha256);
  if (!file.open(QIODevice::ReadOnly) || !hash.addData(&file)) return "unreadable";
  seen = version;
  return digest = hash.result().toHex().toStdString();
}

bool isInterpreter(const std::string& path) {
  const std::string name = std::filesystem::path(path).filename().string();
  return std::any_of(kInterpreters.begin(), kInterpreters.end(), [&](std::string_view one) {
    // "python3.11" is one, "shuf" is none.
    return name.starts_with(one) && name.find_first_not_of("0123456789.", one.size()) == std::string::npos;
  });
}

// "/usr/bin/env python3" of a file that begins with "#!"; empty of any other.
std::vector<std::string> firstLineOf(const std::string& path) {
  QFile file(QString::fromStdString(path));
  if (!QFileInfo(file).isFile() || !file.open(QIODevice::ReadOnly)) return {};
  constexpr qint64 kMostLine = 4096;
  const QByteArray line = file.readLine(kMostLine);
  if (!line.startsWith("#!")) return {};
  std::vector<std::string> words;
  for (const QByteArray& word : line.mid(2).simplified().split(' '))
    if (!word.isEmpty()) words.push_back(word.toStdString());
  return words;
}

}  // namespace

ActProgram programAt(const std::string& path) {
  const std::string real = realPath(path);
  return {real, isTrusted(real) ? "" : contentDigest(real)};
}

namespace {

/// Finds what decides what one command does.
class Finder {
 public:
  Finder(const core::ExactCommand& exact, const std::string& folder, const bench::BenchConnection& bench,
         ProgramsByWord& known)
      : exact_(exact), folder_(folder), bench_(bench), known_(known) {
    for (const auto& [name, value] : exact.environment)
      if (name == "PATH") path_ = value;
  }

  void addStart(const std::string& word) {
    const auto found = bench_.findProgram(word, folder_);
    found_.push_back(found ? programAt(*found) : ActProgram{});
    if (found) addFirstLine(*found, 0);
    awaits_script_ = found && isInterpreter(*found);
  }

  // A word that names a program, or a script: what it holds decides what happens as much as the program that reads it.
  void addWord(const std::string& word) {
    const bool is_handed = awaits_script_ && !word.starts_with('-');
    if (const auto program = onPath(word)) {
      add(*program);
      awaits_script_ = awaits_script_ || isInterpreter(*program);  // `nice bash run-me`
    }
    const std::string name = word.substr(word.starts_with('-') ? std::min(word.find('=') + 1, word.size()) : 0);
    const QFileInfo file(QDir(QString::fromStdString(folder_)), QString::fromStdString(name));
    if (name.empty() || !file.isFile()) return;
    const std::string path = file.absoluteFilePath().toStdString();
    const bool ends_so =
        std::any_of(kScriptEnds.begin(), kScriptEnds.end(), [&](const char* end) { return name.ends_with(end); });
    if (is_handed) awaits_script_ = false;  // what follows are the script's own words
    if (isInterpreter(path)) awaits_script_ = true;
    if (is_handed || ends_so || file.isExecutable() || !firstLineOf(path).empty()) add(path);
  }

  void addEnvironment() {
    for (const auto& [name, value] : exact_.environment) {
      if (std::find(kLoading.begin(), kLoading.end(), name) == kLoading.end()) continue;
      QString parts = QString::fromStdString(value);
      parts.replace(QLatin1Char(' '), QLatin1Char(':')).replace(QLatin1Char(';'), QLatin1Char(':'));
      for (const QString& part : parts.split(QLatin1Char(':'), Qt::SkipEmptyParts)) {
        const QFileInfo file(QDir(QString::fromStdString(folder_)), part);
        const std::string path = file.absoluteFilePath().toStdString();
        if (file.isFile()) add(path);
        if (file.isDir() && !isTrusted(realPath(path))) found_.push_back({realPath(path), kNotLookedAt});
      }
    }
  }

  [[nodiscard]] std::vector<ActProgram> take() { return std::move(found_); }

 private:
  // Behind a program such as `nice` stands another one; the level's own PATH may lead to it.
  [[nodiscard]] std::optional<std::string> onPath(const std::string& word) const {
    if (word.empty() || word.find('/') != std::string::npos || word.starts_with('-')) return std::nullopt;
    const auto [known, is_new] = known_.try_emplace({path_, word});
    if (is_new) known->second = lookedUp(word);
    return known->second;
  }

  [[nodiscard]] std::optional<std::string> lookedUp(const std::string& word) const {
    for (const QString& at : QString::fromStdString(path_).split(QLatin1Char(':'), Qt::SkipEmptyParts)) {
      const QFileInfo file(QDir(QDir(QString::fromStdString(folder_)).absoluteFilePath(at)),
                           QString::fromStdString(word));
      if (file.isFile() && file.isExecutable()) return file.absoluteFilePath().toStdString();
    }
    const auto found = bench_.findProgram(word, folder_);
    return found ? std::optional(*found) : std::nullopt;
  }

  void add(const std::string& path, int depth = 0) {
    ActProgram program = programAt(path);
    if (program.digest.empty()) return;  // the system's own
    const auto known = [&](const ActProgram& one) { return one.path == program.path; };
    if (std::none_of(found_.begin(), found_.end(), known)) found_.push_back(std::move(program));
    addFirstLine(path, depth);
  }

  // A script is read by the program that its first line names, which may be a script again.
  void addFirstLine(const std::string& path, int depth) {
    constexpr int kDeepest = 4;
    if (depth >= kDeepest || isTrusted(realPath(path))) return;
    for (const std::string& word : firstLineOf(path)) {
      if (word.starts_with('/'))
        add(word, depth + 1);
      else if (const auto program = onPath(word))
        add(*program, depth + 1);
    }
  }

  const core::ExactCommand& exact_;
  const std::string& folder_;
  const bench::BenchConnection& bench_;
  ProgramsByWord& known_;
  std::string path_;  ///< the command's own PATH; empty: that of the machine
  std::vector<ActProgram> found_;
  bool awaits_script_ = false;
};

}  // namespace

std::string realPath(const std::string& path) {
  std::error_code code;
  const auto real = std::filesystem::weakly_canonical(path, code);
  return code ? path : real.string();
}

std::vector<ActProgram> programsOf(const core::ExactCommand& exact, const std::set<std::size_t>& starts,
                                   const std::string& folder, const bench::BenchConnection& bench,
                                   ProgramsByWord& known) {
  Finder finder(exact, folder, bench, known);
  for (std::size_t i = 0; i < exact.command.size(); ++i)
    if (starts.contains(i))
      finder.addStart(exact.command[i]);
    else
      finder.addWord(exact.command[i]);
  finder.addEnvironment();
  return finder.take();
}

}  // namespace session
