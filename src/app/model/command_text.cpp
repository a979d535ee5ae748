#include "app/model/command_text.h"

#include <QProcess>
#include <QStringList>

namespace app {
namespace {

QString quoted(QString word) {
  const bool needs_quotes = word.isEmpty() || word.contains(QLatin1Char(' ')) || word.contains(QLatin1Char('\t'));
  word.replace(QLatin1Char('"'), QStringLiteral("\"\"\""));
  return needs_quotes ? QLatin1Char('"') + word + QLatin1Char('"') : word;
}

}  // namespace

core::Command wordsOf(const QString& text) {
  core::Command words;
  for (const QString& word : QProcess::splitCommand(text)) words.push_back(word.toStdString());
  return words;
}

QString textOf(const core::Command& command) {
  QStringList words;
  for (const std::string& word : command) words << quoted(QString::fromStdString(word));
  return words.join(QLatin1Char(' '));
}

std::vector<std::pair<std::string, std::string>> environmentOf(const QString& text) {
  std::vector<std::pair<std::string, std::string>> environment;
  for (const QString& word : QProcess::splitCommand(text)) {
    const auto equals = word.indexOf(QLatin1Char('='));
    environment.emplace_back(word.left(equals).toStdString(), equals < 0 ? "" : word.mid(equals + 1).toStdString());
  }
  return environment;
}

QString textOf(const std::vector<std::pair<std::string, std::string>>& environment) {
  core::Command words;
  for (const auto& [name, value] : environment) words.push_back(name + "=" + value);
  return textOf(words);
}

}  // namespace app
