#include "store/log_rows.h"

#include <algorithm>

#include <nlohmann/json.hpp>

#include "core/number_text.h"

namespace store {
namespace {

// One field from `at` on; leaves `at` behind its delimiter.
std::string takeField(std::string_view line, char delimiter, std::size_t& at) {
  std::string field;
  bool is_quoted = false;
  for (; at < line.size(); ++at) {
    const char c = line[at];
    if (c == '"' && is_quoted && at + 1 < line.size() && line[at + 1] == '"')
      field += line[++at];
    else if (c == '"')
      is_quoted = !is_quoted;
    else if (c == delimiter && !is_quoted)
      break;
    else
      field += c;
  }
  ++at;
  return std::string(trimmed(field));
}

std::vector<std::string> wordsOf(std::string_view line) {
  std::vector<std::string> words;
  for (std::string_view rest = trimmed(line); !rest.empty();) {
    const auto end = std::min(rest.find_first_of(" \t"), rest.size());
    words.emplace_back(rest.substr(0, end));
    rest = trimmed(rest.substr(end));
  }
  return words;
}

}  // namespace

std::vector<LogLine> dataLines(std::string_view text, std::size_t most) {
  if (text.starts_with("\xEF\xBB\xBF")) text.remove_prefix(3);
  std::vector<LogLine> lines;
  for (std::size_t number = 1; !text.empty() && lines.size() < most; ++number) {
    const auto end = std::min(text.find('\n'), text.size());
    const std::string_view line = trimmed(text.substr(0, end));
    if (!line.empty() && !isComment(line)) lines.push_back({line, number});
    text.remove_prefix(std::min(end + 1, text.size()));
  }
  return lines;
}

std::vector<std::string> fieldsOf(std::string_view line, char delimiter) {
  if (delimiter == ' ') return wordsOf(line);
  if (delimiter == 0) return {std::string(trimmed(line))};
  std::vector<std::string> fields;
  for (std::size_t at = 0; at <= line.size();) fields.push_back(takeField(line, delimiter, at));
  return fields;
}

std::optional<std::vector<std::string>> fieldsOfObject(std::string_view line, const std::vector<std::string>& columns) {
  const auto object = nlohmann::ordered_json::parse(line, nullptr, false);
  if (!object.is_object()) return std::nullopt;
  std::vector<std::string> fields;
  for (const std::string& column : columns) {
    const auto value = object.find(column);
    fields.push_back(value == object.end() ? "" : value->is_string() ? value->get<std::string>() : value->dump());
  }
  return fields;
}

std::optional<double> numberIn(std::string_view field, bool has_decimal_comma) {
  std::string text(trimmed(field));
  if (has_decimal_comma) {
    if (text.find('.') != std::string::npos) return std::nullopt;
    std::replace(text.begin(), text.end(), ',', '.');
  }
  return core::numberOf(text);
}

}  // namespace store
