#include "store/logs/log_rows.h"

#include <algorithm>
#include <array>
#include <cctype>

#include "core/values/number_text.h"
#include "store/json/json_text.h"

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

std::vector<std::string> wordsBySpace(std::string_view line) {
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
  if (delimiter == ' ') return wordsBySpace(line);
  if (delimiter == 0) return {std::string(trimmed(line))};
  std::vector<std::string> fields;
  for (std::size_t at = 0; at <= line.size();) fields.push_back(takeField(line, delimiter, at));
  return fields;
}

std::optional<std::vector<std::string>> fieldsOfObject(std::string_view line, const std::vector<std::string>& columns) {
  const auto object = parseJson(line);
  if (!object.is_object()) return std::nullopt;
  std::vector<std::string> fields;
  for (const std::string& column : columns) {
    const auto value = object.find(column);
    fields.push_back(value == object.end() ? "" : value->is_string() ? value->get<std::string>() : value->dump());
  }
  return fields;
}

std::optional<std::string> objectsAsLines(std::string_view text, bool is_whole) {
  std::string lines;
  std::size_t depth = 0;
  bool is_in_text = false;
  bool has_ended = false;
  std::size_t begin = 0;
  for (std::size_t at = 0; at < text.size(); ++at) {
    const char c = text[at];
    if (is_in_text) {
      if (c == '\\') ++at;
      is_in_text = c != '"';
    } else if (c == '"') {
      is_in_text = true;
    } else if (c == '{' || c == '[') {
      if (depth == 1 && c == '{') begin = at;
      if (++depth > 1 && lines.empty() && begin == 0) return std::nullopt;  // its elements are no objects
    } else if (c == '}' || c == ']') {
      if (depth == 0) return std::nullopt;
      if (--depth == 1 && c == '}') {
        const std::size_t from = lines.size();
        lines.append(text.substr(begin, at + 1 - begin)) += '\n';
        std::replace(lines.begin() + static_cast<std::ptrdiff_t>(from), lines.end() - 1, '\n', ' ');
      }
      has_ended = depth == 0;
    } else if (depth == 0 && !isBlank(c) && c != '\n') {
      return std::nullopt;  // something stands outside the array
    }
  }
  return !lines.empty() && (has_ended || !is_whole) ? std::optional(std::move(lines)) : std::nullopt;
}

std::string lower(std::string text) {
  std::transform(text.begin(), text.end(), text.begin(),
                 [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
  return text;
}

bool isGap(std::string_view field) {
  constexpr std::array kWords{"", "-", "--", "na", "n/a", "nan", "null", "none"};
  return std::find(kWords.begin(), kWords.end(), lower(std::string(trimmed(field)))) != kWords.end();
}

std::optional<double> numberIn(std::string_view field, bool has_decimal_comma) {
  std::string text(trimmed(field));
  if (has_decimal_comma) {
    // Points part thousands here: three digits behind each, and none of them after the comma.
    const std::size_t whole = std::min(text.find(','), text.size());
    if (text.find('.', whole) != std::string::npos) return std::nullopt;
    for (std::size_t point = text.find('.'); point != std::string::npos; point = text.find('.', point + 1)) {
      const std::size_t next = std::min(text.find_first_of(".,", point + 1), text.size());
      if (next - point != 4 || point == 0 || std::isdigit(static_cast<unsigned char>(text[point - 1])) == 0)
        return std::nullopt;
    }
    text.erase(std::remove(text.begin(), text.end(), '.'), text.end());
    std::replace(text.begin(), text.end(), ',', '.');
  }
  return core::numberOf(text);
}

}  // namespace store
