#include "session/user/installed_programs.h"

#include <QDir>
#include <QStandardPaths>
#include <algorithm>
#include <fstream>
#include <map>
#include <optional>
#include <set>

namespace session {
namespace {

// A file longer than this is no entry of a program.
constexpr std::size_t kMostLines = 10'000;

using Keys = std::map<std::string, std::string>;

// The keys of its main group, without those in other languages.
Keys keysOf(const std::string& path) {
  Keys keys;
  std::ifstream file(path);
  std::string line;
  bool is_main = false;
  for (std::size_t lines = 0; lines < kMostLines && std::getline(file, line); ++lines) {
    if (line.starts_with("[")) is_main = line.starts_with("[Desktop Entry]");
    const auto equals = line.find('=');
    if (is_main && equals != std::string::npos && line[0] != '#')
      keys.emplace(line.substr(0, equals), line.substr(equals + 1));
  }
  return keys;
}

bool isTrue(const Keys& keys, const char* key) {
  const auto found = keys.find(key);
  return found != keys.end() && found->second == "true";
}

std::string textOf(const Keys& keys, const char* key) {
  const auto found = keys.find(key);
  return found == keys.end() ? std::string() : found->second;
}

std::optional<core::ShelfItem> itemOf(const Keys& keys) {
  if (textOf(keys, "Type") != "Application" || isTrue(keys, "NoDisplay") || isTrue(keys, "Hidden") ||
      isTrue(keys, "Terminal"))
    return std::nullopt;
  core::ShelfItem item;
  item.a_case.workload = textOf(keys, "Name");
  item.a_case.command = wordsOfExec(textOf(keys, "Exec"));
  if (item.a_case.workload.empty() || item.a_case.command.empty()) return std::nullopt;
  item.a_case.source = core::ResultSource::Recorded;
  item.a_case.is_played = true;  // most do not end by themselves
  item.about = textOf(keys, "Comment");
  return item;
}

bool drawsMuch(const Keys& keys) {
  const std::string categories = ";" + textOf(keys, "Categories");
  for (const char* one : {";Game;", ";3DGraphics;", ";Science;"})
    if (categories.find(one) != std::string::npos) return true;
  return false;
}

}  // namespace

core::Command wordsOfExec(const std::string& exec) {
  core::Command words;
  std::string word;
  bool is_quoted = false;
  bool has_word = false;
  for (std::size_t i = 0; i < exec.size(); ++i) {
    const char c = exec[i];
    if (c == '"') {
      is_quoted = !is_quoted;
      has_word = true;
    } else if (c == '\\' && i + 1 < exec.size()) {
      word += exec[++i];
    } else if (c == '%' && i + 1 < exec.size()) {
      if (exec[++i] == '%') word += '%';  // the others stand for files, names and pictures that there are none of
    } else if (c == ' ' && !is_quoted) {
      if (has_word || !word.empty()) words.push_back(std::exchange(word, {}));
      has_word = false;
    } else {
      word += c;
    }
  }
  if (is_quoted) return {};
  if (has_word || !word.empty()) words.push_back(word);
  return words;
}

std::vector<std::string> applicationFolders() {
  std::vector<std::string> folders;
  for (const QString& folder : QStandardPaths::standardLocations(QStandardPaths::ApplicationsLocation))
    folders.push_back(folder.toStdString());
  return folders;
}

std::vector<core::ShelfItem> installedPrograms(const std::vector<std::string>& folders) {
  std::vector<std::pair<bool, core::ShelfItem>> found;
  std::set<QString> seen;
  for (const std::string& folder : folders) {
    const QDir place(QString::fromStdString(folder));
    for (const QString& name : place.entryList({QStringLiteral("*.desktop")}, QDir::Files, QDir::Name)) {
      if (!seen.insert(name).second) continue;
      const Keys keys = keysOf(place.filePath(name).toStdString());
      if (auto item = itemOf(keys)) found.emplace_back(!drawsMuch(keys), *std::move(item));
    }
  }
  std::stable_sort(found.begin(), found.end(), [](const auto& a, const auto& b) {
    return std::pair(a.first, a.second.a_case.workload) < std::pair(b.first, b.second.a_case.workload);
  });
  std::vector<core::ShelfItem> items;
  for (auto& [is_later, item] : found) items.push_back(std::move(item));
  return items;
}

}  // namespace session
