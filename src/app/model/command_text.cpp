#include "app/model/command_text.h"

#include <QStringList>

#include <fmt/format.h>

#include "app/model/qt_text.h"
#include "core/values/number_text.h"

namespace app {
namespace {

QString quoted(QString word) {
  const bool needs_quotes = word.isEmpty() || word.contains(QLatin1Char(' ')) || word.contains(QLatin1Char('\t'));
  word.replace(QLatin1Char('"'), QStringLiteral("\"\"\""));
  return needs_quotes ? QLatin1Char('"') + word + QLatin1Char('"') : word;
}

// As Qt splits a command, but an empty word in quotes stays a word: a program may well be given one.
QStringList split(const QString& text) {
  QStringList words;
  QString word;
  bool is_in_word = false;
  bool is_quoted = false;
  for (qsizetype i = 0; i < text.size(); ++i) {
    if (QStringView(text).mid(i).startsWith(QLatin1String("\"\"\""))) {
      word += QLatin1Char('"');
      is_in_word = true;
      i += 2;
    } else if (text[i] == QLatin1Char('"')) {
      is_quoted = !is_quoted;
      is_in_word = true;
    } else if (text[i].isSpace() && !is_quoted) {
      if (is_in_word) words << std::exchange(word, QString());
      is_in_word = false;
    } else {
      word += text[i];
      is_in_word = true;
    }
  }
  if (is_in_word) words << word;
  return words;
}

}  // namespace

core::Command wordsOf(const QString& text) {
  core::Command words;
  for (const QString& word : split(text)) words.push_back(word.toStdString());
  return words;
}

QString textOf(const core::Command& command) {
  QStringList words;
  for (const std::string& word : command) words << quoted(QString::fromStdString(word));
  return words.join(QLatin1Char(' '));
}

std::vector<std::pair<std::string, std::string>> environmentOf(const QString& text) {
  std::vector<std::pair<std::string, std::string>> environment;
  for (const QString& word : split(text)) {
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

std::vector<core::SettingWrite> writesOf(const QString& text) {
  std::vector<core::SettingWrite> writes;
  for (auto& [path, value] : environmentOf(text)) writes.push_back({path, value});
  return writes;
}

QString textOf(const std::vector<core::SettingWrite>& writes) {
  core::Command words;
  for (const core::SettingWrite& write : writes) words.push_back(write.path + "=" + write.value);
  return textOf(words);
}

std::optional<core::Price> priceFrom(const QString& text) {
  const QString typed = text.trimmed();
  if (typed.isEmpty()) return std::nullopt;
  const auto blank = typed.lastIndexOf(QLatin1Char(' '));
  const auto amount = blank < 0 ? std::nullopt : core::numberTyped(typed.left(blank).trimmed().toStdString());
  return core::Price{amount.value_or(-1), typed.mid(blank + 1).toStdString()};
}

QString textOf(const std::optional<core::Price>& price) {
  return price ? toQt(fmt::format("{} {}", price->amount, price->currency)) : QString();
}

}  // namespace app
