#include "store/logs/log_shape.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <functional>
#include <set>

#include "core/values/median.h"
#include "core/values/shown_text.h"
#include "store/logs/log_layout.h"
#include "store/logs/log_rows.h"

namespace store {
namespace {

using core::Error;
using core::ErrorKind;

// So many rows tell the shape; the rest is only read.
constexpr std::size_t kLooked = 400;
// What a column of durations is called.
constexpr std::array kDurationWords{"frame", "delta", "duration", "interval"};

// The words of a name; both micro signs are a u.
std::vector<std::string> wordsOf(std::string name) {
  for (const std::string_view micro : {"\xC2\xB5", "\xCE\xBC", "\xB5"})
    for (std::size_t at = name.find(micro); at != std::string::npos; at = name.find(micro))
      name.replace(at, micro.size(), "u");
  std::vector<std::string> words(1);
  for (const char c : lower(std::move(name)))
    if (std::isalpha(static_cast<unsigned char>(c)) != 0)
      words.back() += c;
    else if (!words.back().empty())
      words.emplace_back();
  return words;
}

template <std::size_t N>
bool hasWord(const std::string& name, const std::array<const char*, N>& wanted) {
  const auto words = wordsOf(name);
  return std::find_first_of(words.begin(), words.end(), wanted.begin(), wanted.end()) != words.end();
}

// "frame time (ms)", "t_us"; any other name leaves the unit to the size of the numbers.
std::optional<double> unitInName(const std::string& name) {
  if (hasWord(name, std::array{"ms", "msec", "millisecond", "milliseconds"})) return 1;
  if (hasWord(name, std::array{"us", "usec", "microsecond", "microseconds"})) return 1e-3;
  if (hasWord(name, std::array{"ns", "nsec", "nanosecond", "nanoseconds"})) return 1e-6;
  if (hasWord(name, std::array{"s", "sec", "second", "seconds"})) return 1e3;
  return std::nullopt;
}

// A rate is no time, however steady it is.
bool saysRate(const std::string& name) {
  return hasWord(name, std::array{"fps", "rate", "framerate", "hz"}) ||
         lower(name).find("frames per") != std::string::npos;
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
    return 10 * rises >= 9 * (values.size() - 1) && 4 * resets() < values.size();  // two values in turn are no clock
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
  /// A clock that runs down, or frames in the wrong order: many values, each below the one before.
  [[nodiscard]] bool isFalling() const {
    constexpr std::size_t kNoChance = 8;
    return is_numeric && values.size() >= kNoChance &&
           std::adjacent_find(values.begin(), values.end(), std::less_equal<>()) == values.end();
  }
  [[nodiscard]] bool isCounter() const {
    return isIncreasing() && std::all_of(values.begin(), values.end(), [](double v) { return v == std::floor(v); }) &&
           typicalStep() == 1;
  }
};

std::vector<Column> columnsOf(const LogRows& rows, std::size_t count, bool has_decimal_comma) {
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
  if (column.isCounter() || column.isFalling() || !column.is_numeric || saysRate(name)) return 0;
  const bool is_stamp = isStamp(name, column);
  if (!is_stamp && !column.isSteadyPositive()) return 0;
  int points = is_stamp ? 2 : 3;
  if (saysDuration(name)) points += 3;
  if (says("time") || unitInName(name)) points += 2;
  if (says("temp") || says("power") || says("clock") || says("load") || says("gpu") || says("cpu") || says("mhz") ||
      says("%"))
    points -= 4;
  return std::max(points, 1);
}

double typicalOf(const Column& numbers, TimeMeaning meaning) {
  if (meaning == TimeMeaning::TimeStamp) return numbers.typicalStep();
  return numbers.values.empty() ? 1 : core::medianOf(numbers.values);
}

TimeReading readingOf(std::size_t column, const std::string& name, const Column& numbers) {
  const auto meaning = isStamp(name, numbers) ? TimeMeaning::TimeStamp : TimeMeaning::Duration;
  return {column, meaning, unitInName(name).value_or(unitBySize(typicalOf(numbers, meaning)))};
}

// A unit that gives strange frames is most likely a slip.
bool areLikelyFrames(const TimeReading& time, const Column& numbers) {
  constexpr double kShortMs = 0.5;
  constexpr double kLongMs = 200;
  const double typical_ms = typicalOf(numbers, time.meaning) * time.ms_per_unit;
  return typical_ms >= kShortMs && typical_ms <= kLongMs;
}

bool chooseTime(LogShape& shape, const std::vector<Column>& columns) {
  int best = 0;
  for (std::size_t c = 0; c < columns.size(); ++c) {
    const int points = fitness(shape.columns[c], columns[c]);
    if (points <= best) continue;
    best = points;
    shape.time = readingOf(c, shape.columns[c], columns[c]);
    // One that nobody wrote down is a guess, and a name says one only where it is among ours.
    shape.is_unit_sure = (shape.has_header || shape.is_json_lines) && unitInName(shape.columns[c]) &&
                         areLikelyFrames(shape.time, columns[c]);
  }
  return best > 0;
}

// A column of a name that says so, with few values: of a run, or of the program that showed the frame.
core::Status chooseRuns(LogShape& shape, const LogRows& rows, const std::string& log_name) {
  constexpr std::array kRunWords{"run",     "pass",        "lap", "iteration", "session",   "program",
                                 "process", "application", "app", "pid",       "executable"};
  bool tells_apart = false;
  for (std::size_t c = 0; c < shape.columns.size(); ++c) {
    if (!hasWord(shape.columns[c], kRunWords) || saysDuration(shape.columns[c]) || c == shape.time.column) continue;
    std::set<std::string> values;
    for (const auto& fields : rows.fields)
      if (c < fields.size()) values.insert(fields[c]);
    // One run may well be longer than what is looked at; a name for each frame tells no runs apart.
    if (values.size() > 1 && values.size() >= rows.fields.size()) continue;
    if (tells_apart && values.size() > 1)
      return Error{ErrorKind::Ambiguous,
                   "both '" + shape.columns[*shape.run_column] + "' and '" + shape.columns[c] + "' part the rows",
                   log_name, "Part the log into one for each program and run"};
    if (!shape.run_column || values.size() > 1) shape.run_column = c;
    tells_apart = tells_apart || values.size() > 1;
  }
  return core::Done{};
}

// Why no column can be the time: the first field that is no number in the column that is one nearly everywhere.
Error noTime(const LogShape& shape, const LogRows& rows, const std::string& log_name) {
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
    return {ErrorKind::Malformed,
            "'" + std::string(c < fields.size() ? core::cutText(fields[c], 40) : "") + "' is not a number",
            log_name + ", line " + std::to_string(rows.numbers[first_flaw]) + ", column '" + shape.columns[c] + "'",
            "Correct the log or its shape; nothing was imported"};
  }
  const auto rate = std::find_if(shape.columns.begin(), shape.columns.end(), saysRate);
  if (rate != shape.columns.end())
    return {ErrorKind::Malformed, "the log tells rates ('" + *rate + "') and no time of any frame", log_name,
            "Export how long each frame took, or when it began; a rate a row says nothing of the slow frames"};
  return {ErrorKind::Malformed, "no column can be the time of the frames",
          log_name + ", line " + std::to_string(rows.numbers.front()),
          "A duration is a number above 0 in every row, a time stamp a number that rises: look at the first rows"};
}

bool isBinary(std::string_view text) { return text.substr(0, 4096).find('\0') != std::string_view::npos; }

// The layout of a text, and its first rows.
struct FirstRows {
  LogShape shape;
  LogRows rows;
  std::vector<Column> columns;
};

core::Result<FirstRows> firstRowsOf(std::string_view text, const std::string& log_name,
                                    std::string_view known_column = {}) {
  if (isBinary(text))
    return Error{ErrorKind::Malformed, "this is binary data, no text", log_name, "Export it as delimited text"};
  std::optional<std::string> of_array;
  std::vector<LogLine> lines = dataLines(text, kLooked + 1);
  if (lines.empty()) return Error{ErrorKind::TooFew, "the log is empty", log_name, "Choose a log that holds frames"};
  if (lines.front().text.starts_with('[')) {  // its objects are read as if each had a line
    of_array = objectsAsLines(text, false);
    if (!of_array)
      return Error{ErrorKind::Malformed, "this is not a JSON array of objects, one for each frame", log_name,
                   "Export an object for each frame, or delimited text"};
    lines = dataLines(*of_array, kLooked + 1);
  }
  auto shape = layoutOf(lines, log_name, known_column);
  if (!shape) return shape.error();
  shape->is_json_array = of_array.has_value();
  auto rows = rowsOf(lines, *shape, log_name);
  if (!rows) return rows.error();
  if (rows->fields.empty())
    return Error{ErrorKind::TooFew, "the log has a header and no rows", log_name, "Choose a log that holds frames"};
  auto columns = columnsOf(*rows, shape->columns.size(), shape->has_decimal_comma);
  return FirstRows{*std::move(shape), *std::move(rows), std::move(columns)};
}

}  // namespace

TimeReading timeReadingOf(std::string_view text, const LogShape& shape, std::size_t column) {
  const auto first = firstRowsOf(text, "");
  if (!first || column >= first->columns.size()) return {column, shape.time.meaning, shape.time.ms_per_unit};
  return readingOf(column, shape.columns[column], first->columns[column]);
}

bool isLikelyUnit(std::string_view text, const LogShape& shape) {
  const auto first = firstRowsOf(text, "");
  return first && shape.time.column < first->columns.size() &&
         areLikelyFrames(shape.time, first->columns[shape.time.column]);
}

core::Result<LogShape> detectShape(std::string_view text, const std::string& log_name) {
  auto first = firstRowsOf(text, log_name);
  if (!first) return first.error();
  if (!chooseTime(first->shape, first->columns)) return noTime(first->shape, first->rows, log_name);
  if (auto chosen = chooseRuns(first->shape, first->rows, log_name); !chosen) return chosen.error();
  return std::move(first->shape);
}

core::Result<LogShape> shapeOfColumn(std::string_view text, std::string_view column, const std::string& log_name) {
  auto first = firstRowsOf(text, log_name, column);
  if (!first) return first.error();
  LogShape& shape = first->shape;
  const auto found = std::find(shape.columns.begin(), shape.columns.end(), column);
  const bool is_named = shape.has_header || shape.is_json_lines;
  if (is_named ? found == shape.columns.end() : shape.columns.size() != 1)
    return Error{ErrorKind::Missing, "the log has no column '" + std::string(column) + "'", log_name + ", line 1",
                 "Enter the column's name in the case, as the log writes it"};
  shape.time = {is_named ? static_cast<std::size_t>(found - shape.columns.begin()) : 0, TimeMeaning::Duration, 1};
  shape.run_column.reset();
  return std::move(shape);
}

}  // namespace store
