#include "store/log_shape.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <map>
#include <set>

#include <nlohmann/json.hpp>

#include "core/median.h"
#include "store/log_rows.h"

namespace store {
namespace {

using core::Error;
using core::ErrorKind;
using nlohmann::ordered_json;

// So many rows tell the shape; the rest is only read.
constexpr std::size_t kLooked = 400;
// What a column of durations is called.
constexpr std::array kDurationWords{"frame", "delta", "duration", "interval"};

std::string lower(std::string text) {
  std::transform(text.begin(), text.end(), text.begin(),
                 [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
  return text;
}

bool isNumeric(const std::vector<std::string>& fields, bool has_decimal_comma) {
  return std::all_of(fields.begin(), fields.end(),
                     [&](const std::string& field) { return numberIn(field, has_decimal_comma).has_value(); });
}

/// The rows of a log as texts, each with its line.
struct Rows {
  std::vector<std::vector<std::string>> fields;
  std::vector<std::size_t> numbers;
};

// How many fields the lines have with a delimiter: nothing where they disagree.
std::optional<std::size_t> fieldCount(const std::vector<LogLine>& lines, char delimiter) {
  const std::size_t looked = std::min(lines.size(), kLooked);
  std::map<std::size_t, std::size_t> counts;
  for (std::size_t i = 0; i < looked; ++i) ++counts[fieldsOf(lines[i].text, delimiter).size()];
  const auto most =
      std::max_element(counts.begin(), counts.end(), [](const auto& a, const auto& b) { return a.second < b.second; });
  return 10 * most->second >= 9 * looked ? std::optional(most->first) : std::nullopt;
}

// A decimal comma and a comma between fields look alike. It is a decimal comma where every line is one such number, or
// where fields that another delimiter parts hold one.
bool hasDecimalComma(const std::vector<LogLine>& lines, char delimiter, bool has_header) {
  bool has_seen = false;
  for (std::size_t i = has_header ? 1 : 0; i < std::min(lines.size(), kLooked); ++i)
    for (const std::string& field : fieldsOf(lines[i].text, delimiter)) {
      if (field.find(',') == std::string::npos) continue;
      if (!numberIn(field, true)) return false;
      has_seen = true;
    }
  return has_seen;
}

// One number a line with a decimal comma has one comma in each row and none in its header.
bool isSingleWithComma(const std::vector<LogLine>& lines) {
  const bool has_header = !numberIn(lines.front().text, true);
  if (has_header && lines.front().text.find(',') != std::string_view::npos) return false;
  if (!has_header && lines.front().text.find(',') == std::string_view::npos) return false;
  return lines.size() > 1 && hasDecimalComma(lines, 0, has_header);
}

char delimiterOf(const std::vector<LogLine>& lines) {
  if (isSingleWithComma(lines)) return 0;
  for (const char delimiter : {';', '\t', '|', ',', ' '})
    if (const auto count = fieldCount(lines, delimiter); count && *count > 1) return delimiter;
  return 0;
}

// "frame time (ms)", "t_us", "Sekunden"-like names are left to the size of the numbers.
std::optional<double> unitInName(const std::string& name) {
  static const std::array<std::pair<const char*, double>, 4> units{{{"ms", 1}, {"us", 1e-3}, {"ns", 1e-6}, {"s", 1e3}}};
  std::string word;
  std::vector<std::string> words;
  for (const char c : lower(name) + " ") {
    if (std::isalpha(static_cast<unsigned char>(c)) != 0) {
      word += c;
    } else if (!word.empty()) {
      words.push_back(std::exchange(word, {}));
    }
  }
  for (const auto& [unit, ms] : units)
    if (std::find(words.begin(), words.end(), unit) != words.end()) return ms;
  return std::nullopt;
}

// A frame lasts between half a millisecond and a few seconds.
double unitBySize(double typical) {
  if (typical < 0.3) return 1e3;
  if (typical < 300) return 1;
  return typical < 3e5 ? 1e-3 : 1e-6;
}

struct Column {
  std::vector<double> values;
  bool is_numeric = true;

  [[nodiscard]] bool isSteadyPositive() const {
    return is_numeric && std::all_of(values.begin(), values.end(), [](double v) { return v > 0; });
  }
  /// Mostly rising: it may fall back where another run begins.
  [[nodiscard]] bool isIncreasing() const {
    if (!is_numeric || values.size() < 3) return false;
    std::size_t rises = 0;
    for (std::size_t i = 1; i < values.size(); ++i) rises += values[i] > values[i - 1] || isReset(i);
    return 10 * rises >= 9 * (values.size() - 1);
  }
  /// Where another run begins, the clock that rose until then starts anew.
  [[nodiscard]] bool isReset(std::size_t i) const {
    return i >= 2 && values[i - 1] > values[i - 2] && values[i] <= values.front();
  }
  [[nodiscard]] std::size_t resets() const {
    std::size_t count = 0;
    for (std::size_t i = 1; i < values.size(); ++i) count += isReset(i);
    return count;
  }
  [[nodiscard]] double typicalStep() const {
    std::vector<double> steps;
    for (std::size_t i = 1; i < values.size(); ++i)
      if (values[i] > values[i - 1]) steps.push_back(values[i] - values[i - 1]);
    return steps.empty() ? 0 : core::medianOf(steps);
  }
  [[nodiscard]] bool isCounter() const {
    return isIncreasing() && std::all_of(values.begin(), values.end(), [](double v) { return v == std::floor(v); }) &&
           typicalStep() == 1;
  }
};

std::vector<Column> columnsOf(const Rows& rows, std::size_t count, bool has_decimal_comma) {
  std::vector<Column> columns(count);
  for (std::size_t i = 0; i < std::min(rows.fields.size(), kLooked); ++i)
    for (std::size_t c = 0; c < count; ++c) {
      const auto number = c < rows.fields[i].size() ? numberIn(rows.fields[i][c], has_decimal_comma) : std::nullopt;
      columns[c].is_numeric = columns[c].is_numeric && number.has_value();
      if (number) columns[c].values.push_back(*number);
    }
  return columns;
}

bool saysDuration(const std::string& name) {
  const std::string text = lower(name);
  return std::any_of(kDurationWords.begin(), kDurationWords.end(),
                     [&](const char* word) { return text.find(word) != std::string::npos; });
}

// A few frames may grow longer one after the other by chance, or again and again; many in one row do not.
bool isStamp(const std::string& name, const Column& column) {
  constexpr std::size_t kNoChance = 8;
  const bool is_one_run = column.values.size() >= kNoChance && column.resets() == 0;
  return column.isIncreasing() && (is_one_run || !saysDuration(name));
}

// How well a column would do as the time of the frames; 0: not at all.
int fitness(const std::string& name, const Column& column) {
  const std::string text = lower(name);
  const auto says = [&](const char* word) { return text.find(word) != std::string::npos; };
  if (column.isCounter() || !column.is_numeric) return 0;
  const bool is_stamp = isStamp(name, column);
  if (!is_stamp && !column.isSteadyPositive()) return 0;
  int points = is_stamp ? 2 : 3;
  if (saysDuration(name)) points += 3;
  if (says("time") || unitInName(name)) points += 2;
  if (says("fps") || says("rate") || says("temp") || says("power") || says("clock") || says("load") || says("gpu") ||
      says("cpu") || says("mhz") || says("%"))
    points -= 4;
  return std::max(points, 1);
}

TimeReading readingOf(std::size_t column, const std::string& name, const Column& numbers) {
  const bool is_stamp = isStamp(name, numbers);
  const double typical = is_stamp ? numbers.typicalStep() : numbers.values.empty() ? 1 : core::medianOf(numbers.values);
  return {column, is_stamp ? TimeMeaning::TimeStamp : TimeMeaning::Duration,
          unitInName(name).value_or(unitBySize(typical))};
}

bool chooseTime(LogShape& shape, const std::vector<Column>& columns) {
  int best = 0;
  for (std::size_t c = 0; c < columns.size(); ++c) {
    const int points = fitness(shape.columns[c], columns[c]);
    if (points <= best) continue;
    best = points;
    shape.time = readingOf(c, shape.columns[c], columns[c]);
  }
  return best > 0;
}

// A column of a name that says so, with few values that each stay for a stretch.
void chooseRuns(LogShape& shape, const Rows& rows) {
  for (std::size_t c = 0; c < shape.columns.size(); ++c) {
    const std::string name = lower(shape.columns[c]);
    const bool is_named = name == "run" || name == "pass" || name == "lap" || name == "iteration" || name == "session";
    if (is_named && c != shape.time.column) {
      std::set<std::string> values;
      for (const auto& fields : rows.fields)
        if (c < fields.size()) values.insert(fields[c]);
      // One run may well be longer than what is looked at; a name for each frame tells no runs apart.
      if (values.size() < rows.fields.size()) shape.run_column = c;
    }
  }
}

Error noObject(const LogLine& line, const std::string& log_name) {
  return {ErrorKind::Malformed, "this line is no JSON object", log_name + ", line " + std::to_string(line.number),
          "Look whether it is cut off; nothing was imported"};
}

core::Result<Rows> rowsOf(const std::vector<LogLine>& lines, const LogShape& shape, const std::string& log_name) {
  Rows rows;
  for (std::size_t i = shape.has_header ? 1 : 0; i < lines.size(); ++i) {
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

bool isBinary(std::string_view text) { return text.substr(0, 4096).find('\0') != std::string_view::npos; }

core::Result<LogShape> layoutOf(const std::vector<LogLine>& lines, const std::string& log_name) {
  LogShape shape;
  shape.is_json_lines = lines.front().text.starts_with('{');
  if (shape.is_json_lines) {
    const auto first = ordered_json::parse(lines.front().text, nullptr, false);
    if (!first.is_object()) return noObject(lines.front(), log_name);
    for (const auto& [key, value] : first.items()) shape.columns.push_back(key);
    return shape;
  }
  shape.delimiter = delimiterOf(lines);
  const bool first_with_comma =
      shape.delimiter != ',' && isNumeric(fieldsOf(lines.front().text, shape.delimiter), true);
  shape.has_header = !isNumeric(fieldsOf(lines.front().text, shape.delimiter), false) && !first_with_comma;
  shape.has_decimal_comma = shape.delimiter != ',' && hasDecimalComma(lines, shape.delimiter, shape.has_header);
  shape.columns = fieldsOf(lines.front().text, shape.delimiter);
  if (!shape.has_header)
    for (std::size_t c = 0; c < shape.columns.size(); ++c) shape.columns[c] = "column " + std::to_string(c + 1);
  return shape;
}

// Why no column can be the time: the first field that is no number in the column that is one nearly everywhere.
Error noTime(const LogShape& shape, const Rows& rows, const std::string& log_name) {
  for (std::size_t c = 0; c < shape.columns.size(); ++c) {
    std::size_t numbers = 0;
    std::size_t first_flaw = rows.fields.size();
    for (std::size_t i = 0; i < rows.fields.size(); ++i) {
      const bool is_number = c < rows.fields[i].size() && numberIn(rows.fields[i][c], shape.has_decimal_comma);
      numbers += is_number;
      if (!is_number) first_flaw = std::min(first_flaw, i);
    }
    if (first_flaw == rows.fields.size() || 2 * numbers < rows.fields.size()) continue;
    const auto& fields = rows.fields[first_flaw];
    return {ErrorKind::Malformed, "'" + (c < fields.size() ? fields[c].substr(0, 40) : "") + "' is no number",
            log_name + ", line " + std::to_string(rows.numbers[first_flaw]) + ", column '" + shape.columns[c] + "'",
            "Correct the log or its shape; nothing was imported"};
  }
  return {ErrorKind::Malformed, "no column can be the time of the frames",
          log_name + ", line " + std::to_string(rows.numbers.front()),
          "A duration is a number above 0 in every row, a time stamp a number that rises: look at the first rows"};
}

}  // namespace

TimeReading timeReadingOf(std::string_view text, const LogShape& shape, std::size_t column) {
  const auto rows = rowsOf(dataLines(text, kLooked + 1), shape, "");
  if (!rows || column >= shape.columns.size()) return {column, shape.time.meaning, shape.time.ms_per_unit};
  const auto columns = columnsOf(*rows, shape.columns.size(), shape.has_decimal_comma);
  return readingOf(column, shape.columns[column], columns[column]);
}

core::Result<LogShape> detectShape(std::string_view text, const std::string& log_name) {
  if (isBinary(text))
    return Error{ErrorKind::Malformed, "this is binary data, no text", log_name, "Export it as delimited text"};
  const std::vector<LogLine> lines = dataLines(text, kLooked + 1);
  if (lines.empty()) return Error{ErrorKind::TooFew, "the log is empty", log_name, "Choose a log that holds frames"};
  auto shape = layoutOf(lines, log_name);
  if (!shape) return shape;
  const auto rows = rowsOf(lines, *shape, log_name);
  if (!rows) return rows.error();
  if (rows->fields.empty())
    return Error{ErrorKind::TooFew, "the log has a header and no rows", log_name, "Choose a log that holds frames"};
  const auto columns = columnsOf(*rows, shape->columns.size(), shape->has_decimal_comma);
  if (!chooseTime(*shape, columns)) return noTime(*shape, *rows, log_name);
  chooseRuns(*shape, *rows);
  return shape;
}

}  // namespace store
