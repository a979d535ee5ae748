#pragma once

#include <limits>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace store {

/// Is a line, blanks taken off, a remark?
[[nodiscard]] inline bool isComment(std::string_view line) {
  return line.starts_with('#') || line.starts_with(';') || line.starts_with("//");
}

[[nodiscard]] inline bool isBlank(char c) { return c == ' ' || c == '\t' || c == '\r'; }

/// Without the blanks at both ends.
[[nodiscard]] inline std::string_view trimmed(std::string_view text) {
  while (!text.empty() && isBlank(text.front())) text.remove_prefix(1);
  while (!text.empty() && isBlank(text.back())) text.remove_suffix(1);
  return text;
}

/// A line of a log that holds data, with its number.
struct LogLine {
  std::string_view text;
  std::size_t number = 0;  ///< from 1, counting every line
};

/// The first so many, without a byte order mark, line ends, empty lines and comments (#, ; or //).
[[nodiscard]] std::vector<LogLine> dataLines(std::string_view text,
                                             std::size_t most = std::numeric_limits<std::size_t>::max());

/// The fields of a line. Quotes keep a delimiter together, doubled quotes stand for one; a delimiter of ' ' takes any
/// run of blanks, 0 takes the whole line.
[[nodiscard]] std::vector<std::string> fieldsOf(std::string_view line, char delimiter);

/// The values of a JSON object in the order of `columns`, empty where it has none; nothing where the line is no object.
[[nodiscard]] std::optional<std::vector<std::string>> fieldsOfObject(std::string_view line,
                                                                     const std::vector<std::string>& columns);

/// The objects of a JSON array, or of its first part, one a line; nothing where the text is no array of objects.
/// `is_whole` says whether the array must end.
[[nodiscard]] std::optional<std::string> objectsAsLines(std::string_view text, bool is_whole);

/// With small letters; others than A to Z stay.
[[nodiscard]] std::string lower(std::string text);

/// Is a field empty, or one of the usual words for a value that could not be had?
[[nodiscard]] bool isGap(std::string_view field);

/// A finite number with a decimal point or, where so asked, a decimal comma and points between thousands; nothing for
/// any other text.
[[nodiscard]] std::optional<double> numberIn(std::string_view field, bool has_decimal_comma);

}  // namespace store
