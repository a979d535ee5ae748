#include "store/logs/log_layout.h"

#include <algorithm>
#include <array>
#include <map>
#include <span>

#include "store/json/json_text.h"

namespace store {
namespace {

using core::Error;
using core::ErrorKind;

using Lines = std::span<const LogLine>;

// The header stands among so many first lines.
constexpr std::size_t kMostLinesBefore = 20;

bool isNumeric(const std::vector<std::string>& fields, bool has_decimal_comma) {
  return std::all_of(fields.begin(), fields.end(),
                     [&](const std::string& field) { return numberIn(field, has_decimal_comma).has_value(); });
}

// Many programs end each row with a delimiter.
std::vector<std::string> withoutEmptyEnd(std::vector<std::string> fields) {
  while (fields.size() > 1 && fields.back().empty()) fields.pop_back();
  return fields;
}

// How many fields nine lines of ten have; nothing where they disagree.
std::optional<std::size_t> agreedCount(Lines lines, char delimiter, bool counts_empty_end) {
  std::map<std::size_t, std::size_t> counts;
  for (const LogLine& line : lines) {
    auto fields = fieldsOf(line.text, delimiter);
    ++counts[counts_empty_end ? fields.size() : withoutEmptyEnd(std::move(fields)).size()];
  }
  const auto most =
      std::max_element(counts.begin(), counts.end(), [](const auto& a, const auto& b) { return a.second < b.second; });
  return 10 * most->second >= 9 * lines.size() ? std::optional(most->first) : std::nullopt;
}

// A row may end with a delimiter, or its last value may be missing.
bool partsFields(Lines lines, char delimiter) {
  return agreedCount(lines, delimiter, false).value_or(1) > 1 || agreedCount(lines, delimiter, true).value_or(1) > 1;
}

// A decimal comma and a comma between fields look alike. It is a decimal comma where every line is one such number, or
// where fields that another delimiter parts hold one.
bool hasDecimalComma(Lines lines, char delimiter, bool has_header) {
  bool has_seen = false;
  for (const LogLine& line : lines.subspan(has_header ? 1 : 0))
    for (const std::string& field : fieldsOf(line.text, delimiter)) {
      if (field.find(',') == std::string::npos) continue;
      if (!numberIn(field, true)) return false;
      has_seen = true;
    }
  return has_seen;
}

// One number a line with a decimal comma has one comma in each row and none in its header.
bool isSingleWithComma(Lines lines) {
  const bool has_header = !numberIn(lines.front().text, true);
  if (has_header && lines.front().text.find(',') != std::string_view::npos) return false;
  if (!has_header && lines.front().text.find(',') == std::string_view::npos) return false;
  return lines.size() > 1 && hasDecimalComma(lines, 0, has_header);
}

constexpr std::array kDelimiters{';', '\t', '|', ',', ' '};

char delimiterOf(Lines lines, std::string_view known_column) {
  // A column that is named in the first line tells, however the rows are damaged.
  for (const char delimiter : kDelimiters) {
    const auto names = fieldsOf(lines.front().text, delimiter);
    if (names.size() > 1 && std::find(names.begin(), names.end(), known_column) != names.end()) return delimiter;
  }
  if (isSingleWithComma(lines)) return 0;
  const auto parting = std::find_if(kDelimiters.begin(), kDelimiters.end(),
                                    [&](char delimiter) { return partsFields(lines, delimiter); });
  return parting == kDelimiters.end() ? '\0' : *parting;
}

std::vector<std::string> piecesOf(std::string_view line) {
  std::vector<std::string> words(1);
  for (const char c : line)
    if (std::string_view(",;|\t \"").find(c) == std::string_view::npos)
      words.back() += c;
    else if (!words.back().empty())
      words.emplace_back();
  if (words.back().empty()) words.pop_back();
  return words;
}

// Which words of a line are numbers: lines of one kind agree.
std::vector<bool> kindOf(std::string_view line) {
  std::vector<bool> kind;
  for (const std::string& word : piecesOf(line)) kind.push_back(numberIn(word, false) || numberIn(word, true));
  return kind;
}

bool hasNumber(const std::vector<bool>& kind) { return std::find(kind.begin(), kind.end(), true) != kind.end(); }

// Lines with facts of the system stand before the header of some logs. The header is the last line without a number
// before the rows; a line before it that looks as the rows do is a row, and nothing is left out.
std::size_t linesBefore(Lines lines) {
  std::size_t header = 0;
  for (std::size_t i = 1; i + 1 < std::min(lines.size(), kMostLinesBefore + 2); ++i)
    if (!hasNumber(kindOf(lines[i].text)) && hasNumber(kindOf(lines[i + 1].text))) header = i;
  const auto row = kindOf(lines[std::min(header + 1, lines.size() - 1)].text);
  for (std::size_t i = 0; i < header; ++i)
    if (const auto kind = kindOf(lines[i].text); kind == row) return 0;
  return header;
}

// Whole numbers between commas without a header: "16,7,17,2" is two frames with their decimals, or four numbers; and
// where the first counts the rows, "1,16" is a row's number and its frame, or one number.
bool isAmbiguous(Lines lines, const LogShape& shape) {
  if (shape.has_header || (shape.delimiter != ',' && shape.delimiter != 0)) return false;
  std::optional<double> before;
  bool is_counting = true;
  for (const LogLine& line : lines) {
    const auto fields = withoutEmptyEnd(fieldsOf(line.text, ','));
    if (fields.size() % 2 != 0) return false;
    for (const std::string& field : fields)
      if (field.find_first_not_of("0123456789") != std::string::npos) return false;
    const auto number = numberIn(fields.front(), false);
    is_counting = is_counting && number && (!before || *number == *before + 1);
    before = number;
  }
  return shape.delimiter == ',' || (is_counting && lines.size() > 2);
}

Error noObject(const LogLine& line, const std::string& log_name) {
  return {ErrorKind::Malformed, "this line is not a JSON object", log_name + ", line " + std::to_string(line.number),
          "Look whether it is cut off; nothing was imported"};
}

core::Result<LogShape> layoutOfObjects(const LogLine& first, const std::string& log_name) {
  LogShape shape;
  shape.is_json_lines = true;
  const auto object = parseJson(first.text);
  if (!object.is_object()) return noObject(first, log_name);
  for (const auto& [key, value] : object.items()) shape.columns.push_back(key);
  return shape;
}

// Where many rows hold something in a column that is no number, the column holds texts. The last row alone may be one
// with a label, the sum of all.
std::vector<bool> textColumns(const LogShape& shape, const LogRows& rows) {
  std::vector<bool> is_text;
  for (std::size_t c = 0; c < shape.columns.size(); ++c) {
    std::size_t numbers = 0;
    std::size_t texts = 0;
    for (const auto& fields : rows.fields) {
      if (c >= fields.size() || isGap(fields[c])) continue;
      if (numberIn(fields[c], shape.has_decimal_comma))
        ++numbers;
      else if (&fields != &rows.fields.back() || rows.fields.size() == 1)
        ++texts;
    }
    is_text.push_back(texts > 0 && 10 * texts >= numbers);
  }
  return is_text;
}

}  // namespace

core::Result<LogRows> rowsOf(const std::vector<LogLine>& lines, const LogShape& shape, const std::string& log_name) {
  LogRows rows;
  for (std::size_t i = shape.lines_before + (shape.has_header ? 1 : 0); i < lines.size(); ++i) {
    rows.numbers.push_back(lines[i].number);
    if (!shape.is_json_lines) {
      rows.fields.push_back(fieldsOf(lines[i].text, shape.delimiter));
      continue;
    }
    auto fields = fieldsOfObject(lines[i].text, shape.columns);
    if (!fields) return noObject(lines[i], log_name);
    rows.fields.push_back(*std::move(fields));
  }
  return rows;
}

core::Result<LogShape> layoutOf(const std::vector<LogLine>& all, const std::string& log_name,
                                std::string_view known_column) {
  core::Result<LogShape> shape = LogShape{};
  if (all.front().text.starts_with('{')) {
    shape = layoutOfObjects(all.front(), log_name);
  } else {
    shape->lines_before = linesBefore(all);
    const Lines lines = Lines(all).subspan(shape->lines_before);
    shape->delimiter = delimiterOf(lines, known_column);
    shape->columns = withoutEmptyEnd(fieldsOf(lines.front().text, shape->delimiter));
    const bool first_with_comma = shape->delimiter != ',' && isNumeric(shape->columns, true);
    shape->has_header = !isNumeric(shape->columns, false) && !first_with_comma;
    shape->has_decimal_comma = shape->delimiter != ',' && hasDecimalComma(lines, shape->delimiter, shape->has_header);
    if (isAmbiguous(lines, *shape))
      return Error{ErrorKind::Ambiguous, "commas may part fields here, or decimals",
                   log_name + ", line " + std::to_string(lines.front().number),
                   "Give the columns their names in a first line, or part them with semicolons"};
    if (!shape->has_header)
      for (std::size_t c = 0; c < shape->columns.size(); ++c) shape->columns[c] = "column " + std::to_string(c + 1);
  }
  if (!shape) return shape;
  const auto rows = rowsOf(all, *shape, log_name);
  if (!rows) return rows.error();
  shape->is_text = textColumns(*shape, *rows);
  return shape;
}

}  // namespace store
