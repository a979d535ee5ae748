#include "store/log_reader.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <future>
#include <limits>
#include <thread>

#include <fast_float/fast_float.h>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "store/log_rows.h"

namespace store {
namespace {

using core::Error;
using core::ErrorKind;
using core::Status;

constexpr double kGap = std::numeric_limits<double>::quiet_NaN();
// Smaller blocks are not worth a second thread.
constexpr std::size_t kWorthSharing = 1U << 20;

bool isBlank(char c) { return c == ' ' || c == '\t' || c == '\r'; }

// Calls `visit(begin, end)` with each line, blanks at both ends taken off.
template <class Visit>
void forEachLine(std::string_view text, Visit&& visit) {
  const char* at = text.data();
  const char* const end = at + text.size();
  while (at < end) {
    const void* found = std::memchr(at, '\n', static_cast<std::size_t>(end - at));
    const char* line_end = found != nullptr ? static_cast<const char*>(found) : end;
    const char* next = line_end + 1;
    while (at < line_end && isBlank(*at)) ++at;
    while (at < line_end && isBlank(line_end[-1])) --line_end;
    if (!visit(at, line_end)) return;
    at = next;
  }
}

bool holdsData(const char* begin, const char* end) {
  return begin < end && !isComment({begin, static_cast<std::size_t>(end - begin)});
}

// Plain decimals of up to 15 digits: their digits and a power of ten are exact, so one division rounds right (Clinger
// 1990). Nothing for all others; `at` then stays where it was.
std::optional<double> plainDecimal(const char*& at, const char* end, char decimal) {
  static constexpr double kPowers[] = {1e0, 1e1, 1e2,  1e3,  1e4,  1e5,  1e6,  1e7,
                                       1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15};
  constexpr std::ptrdiff_t kExact = 15;
  const char* p = at;
  const bool is_negative = p < end && *p == '-';
  p += is_negative;
  std::uint64_t digits = 0;
  const char* const first = p;
  for (; p < end && static_cast<unsigned char>(*p - '0') < 10; ++p)
    digits = 10 * digits + static_cast<std::uint64_t>(*p - '0');
  std::ptrdiff_t count = p - first;
  std::ptrdiff_t decimals = 0;
  if (p < end && *p == decimal) {
    const char* const point = ++p;
    for (; p < end && static_cast<unsigned char>(*p - '0') < 10; ++p)
      digits = 10 * digits + static_cast<std::uint64_t>(*p - '0');
    decimals = p - point;
    count += decimals;
  }
  if (count == 0 || count > kExact || (p < end && (*p == 'e' || *p == 'E'))) return std::nullopt;
  at = p;
  const double value = static_cast<double>(digits) / kPowers[decimals];
  return is_negative ? -value : value;
}

struct Flaw {
  std::string column;
  std::string what;
};

}  // namespace

// A stretch of whole lines that one thread parses into rows whose number is known before.
struct LogReader::Part {
  std::string_view text;
  std::size_t first_row = 0;
  std::size_t rows = 0;
  std::size_t lines = 0;
  bool skips_header = false;
  std::vector<std::size_t> skipped;  ///< the row before which a line without data stands
  std::vector<RunBegin> begins;
  std::optional<Flaw> flaw;
  std::size_t flawed_line = 0;  ///< from 1, within the part

  void count() {
    forEachLine(text, [&](const char* begin, const char* end) {
      ++lines;
      rows += holdsData(begin, end);
      return true;
    });
    rows -= skips_header;
  }
};

LogReader::LogReader(const LogShape& shape, std::string log_name) : shape_(shape), log_name_(std::move(log_name)) {
  for (std::size_t c = 0; c < shape_.columns.size(); ++c)
    if (c != shape_.time_column && shape_.run_column != c) other_columns_.push_back(c);
  others_.resize(other_columns_.size());
}

void LogReader::reserve(std::size_t rows) {
  times_.reserve(rows);
  for (auto& values : others_) values.reserve(rows);
}

Error LogReader::problem(std::size_t line, const std::string& column, const std::string& what) const {
  const std::string place = column.empty() ? "" : ", column '" + column + "'";
  return {ErrorKind::Malformed, what, log_name_ + ", line " + std::to_string(line) + place,
          "Correct the log or its shape; nothing was imported"};
}

std::size_t LogReader::lineOf(std::size_t row) const {
  std::size_t line = row + 1;
  for (const auto& [before, lines] : skipped_)
    if (before <= row) line += lines;
  return line;
}

Status LogReader::add(std::string_view lines) {
  if (lines_ == 0 && lines.starts_with("\xEF\xBB\xBF")) lines.remove_prefix(3);
  if (shape_.is_json_lines) return addJson(lines);
  std::vector<Part> parts(1);
  parts[0].text = lines;
  if (lines.size() > kWorthSharing && std::thread::hardware_concurrency() > 1) {
    const auto middle = lines.find('\n', lines.size() / 2);
    if (middle != std::string_view::npos) {
      parts.resize(2);
      parts[0].text = lines.substr(0, middle + 1);
      parts[1].text = lines.substr(middle + 1);
    }
  }
  parts[0].skips_header = shape_.has_header && lines_ == 0;
  const auto together = [&](auto&& work) {
    std::future<void> other;
    if (parts.size() > 1) other = std::async(std::launch::async, [&] { work(parts[1]); });
    work(parts[0]);
    if (other.valid()) other.get();
  };
  together([](Part& part) { part.count(); });
  std::size_t rows = times_.size();
  for (Part& part : parts) {
    part.first_row = rows;
    rows += part.rows;
  }
  times_.resize(rows);
  for (auto& values : others_) values.resize(rows);
  together([this](Part& part) { parse(part); });
  for (Part& part : parts) {
    if (part.flaw) return problem(lines_ + part.flawed_line, part.flaw->column, part.flaw->what);
    lines_ += part.lines;
    for (const std::size_t row : part.skipped) {
      if (skipped_.empty() || skipped_.back().first != row) skipped_.emplace_back(row, 0);
      ++skipped_.back().second;
    }
    for (RunBegin& begin : part.begins)  // a part does not know how the one before it ended
      if (begins_.empty() || begins_.back().name != begin.name) begins_.push_back(std::move(begin));
  }
  return core::Done{};
}

void LogReader::parse(Part& part) {
  bool skips_header = part.skips_header;
  std::size_t row = part.first_row;
  std::size_t line = 0;
  const fast_float::parse_options options{fast_float::chars_format::general, shape_.has_decimal_comma ? ',' : '.'};
  const char delimiter = shape_.delimiter == 0 ? '\n' : shape_.delimiter;  // 0: one number a line
  const std::size_t columns = shape_.columns.size();
  std::string_view run;
  const auto flawed = [&](const std::string& column, std::string what) {
    part.flaw = Flaw{column, std::move(what)};
    part.flawed_line = line;
    return false;
  };
  // The number in a field, and where the field ends.
  const auto number = [&](const char*& at, const char* end) {
    double value = kGap;
    const char* begin = at < end && *at == '+' ? at + 1 : at;
    const char* plain_end = begin;
    if (const auto plain = plainDecimal(plain_end, end, options.decimal_point);
        plain && (plain_end == end || *plain_end == delimiter)) {
      at = plain_end;
      return *plain;
    }
    const auto [stop, code] = fast_float::from_chars_advanced(begin, end, value, options);
    const char* after = stop;
    while (after < end && *after != delimiter && isBlank(*after)) ++after;
    if (code == std::errc() && std::isfinite(value) && (after == end || *after == delimiter)) {
      at = after;
      return value;
    }
    at = std::find(at, end, delimiter);
    return kGap;
  };
  forEachLine(part.text, [&](const char* begin, const char* end) {
    ++line;
    if (!holdsData(begin, end) || std::exchange(skips_header, false)) {
      part.skipped.push_back(row);
      return true;
    }
    std::vector<std::string> quoted;  // rare: their fields are put together first
    if (std::memchr(begin, '"', static_cast<std::size_t>(end - begin)) != nullptr)
      quoted = fieldsOf({begin, static_cast<std::size_t>(end - begin)}, shape_.delimiter);
    const char* at = begin;
    std::size_t other = 0;
    std::size_t c = 0;
    for (; c < columns; ++c) {
      if (!quoted.empty() && c >= quoted.size()) break;
      const char* field = quoted.empty() ? at : quoted[c].data();
      const char* const limit = quoted.empty() ? end : field + quoted[c].size();
      while (field < limit && *field != delimiter && isBlank(*field)) ++field;
      const char* const field_begin = field;
      if (shape_.run_column == c) {
        field = std::find(field, limit, delimiter);
        std::string_view name(field_begin, static_cast<std::size_t>(field - field_begin));
        while (!name.empty() && isBlank(name.back())) name.remove_suffix(1);
        if (part.begins.empty() || part.begins.back().name != name) part.begins.push_back({row, std::string(name)});
      } else {
        const double value = number(field, limit);
        if (c == shape_.time_column) {
          if (std::isnan(value))
            return flawed(
                shape_.columns[c],
                "'" +
                    std::string(field_begin, std::min<std::size_t>(40, static_cast<std::size_t>(field - field_begin))) +
                    "' is no number");
          times_[row] = value;
        } else {
          others_[other++][row] = value;
        }
      }
      if (!quoted.empty()) continue;
      at = field;
      if (delimiter == ' ')
        while (at < end && isBlank(*at)) ++at;
      else if (c + 1 < columns && at < end)
        ++at;  // the delimiter
      else if (c + 1 < columns)
        return flawed("", fmt::format("{} fields stand where {} are expected", c + 1, columns));
    }
    const bool has_all = quoted.empty() ? c == columns && at == end : quoted.size() == columns;
    if (!has_all)
      return flawed(
          "", fmt::format("{} fields stand where {} are expected",
                          fieldsOf({begin, static_cast<std::size_t>(end - begin)}, shape_.delimiter).size(), columns));
    ++row;
    return true;
  });
}

Status LogReader::addJson(std::string_view lines) {
  for (const LogLine& line : dataLines(lines)) {
    const auto object = nlohmann::ordered_json::parse(line.text, nullptr, false);
    if (!object.is_object())
      return Error{ErrorKind::Malformed, "this line is no JSON object",
                   log_name_ + ", line " + std::to_string(lines_ + line.number),
                   "Look whether it is cut off; nothing was imported"};
    std::vector<std::string> fields;
    for (const std::string& column : shape_.columns) {
      const auto value = object.find(column);
      fields.push_back(value == object.end() ? "" : value->is_string() ? value->get<std::string>() : value->dump());
    }
    if (auto added = addFields(fields, lines_ + line.number); !added) return added;
  }
  lines_ += static_cast<std::size_t>(std::count(lines.begin(), lines.end(), '\n'));
  return core::Done{};
}

Status LogReader::addFields(const std::vector<std::string>& fields, std::size_t line) {
  const std::size_t row = times_.size();
  const std::string& text = fields[shape_.time_column];
  const auto time = numberIn(text, shape_.has_decimal_comma);
  if (!time) return problem(line, shape_.columns[shape_.time_column], "'" + text.substr(0, 40) + "' is no number");
  if (lineOf(row) != line) skipped_.emplace_back(row, line - lineOf(row));
  times_.push_back(*time);
  for (std::size_t i = 0; i < other_columns_.size(); ++i)
    others_[i].push_back(numberIn(fields[other_columns_[i]], shape_.has_decimal_comma).value_or(kGap));
  if (shape_.run_column && (begins_.empty() || begins_.back().name != fields[*shape_.run_column]))
    begins_.push_back({row, fields[*shape_.run_column]});
  return core::Done{};
}

// Without a column that says so, a new run begins where the clock starts anew; less than that is a broken clock.
Status LogReader::findRuns() {
  if (shape_.run_column) return core::Done{};
  begins_.assign(1, {0, "run 1"});
  if (shape_.meaning == TimeMeaning::Duration) return core::Done{};
  for (std::size_t row = 1; row < times_.size(); ++row) {
    if (times_[row] >= times_[row - 1]) continue;
    const double first = times_[begins_.back().row];
    if (times_[row - 1] - times_[row] < 0.5 * (times_[row - 1] - first))
      return problem(lineOf(row), shape_.columns[shape_.time_column], "the clock jumps back");
    begins_.push_back({row, "run " + std::to_string(begins_.size() + 1)});
  }
  return core::Done{};
}

// Durations stay where they are; of moments each becomes the time until the next, and the last is none.
Status LogReader::toFrames(std::size_t from, std::size_t to) {
  const std::string& column = shape_.columns[shape_.time_column];
  const bool are_stamps = shape_.meaning == TimeMeaning::TimeStamp;
  for (std::size_t row = from; row + (are_stamps ? 1 : 0) < to; ++row) {
    const double duration = are_stamps ? times_[row + 1] - times_[row] : times_[row];
    const double frame_ms = duration * shape_.ms_per_unit;
    if (frame_ms > 0 && std::isfinite(frame_ms)) {
      times_[row] = frame_ms;
      continue;
    }
    if (!are_stamps)
      return problem(lineOf(row), column,
                     duration > 0 ? fmt::format("'{:g}' is out of all range", duration)
                                  : fmt::format("'{:g}' is no duration: it must be above 0", duration));
    return problem(lineOf(row + 1), column,
                   duration == 0  ? "two frames begin at the same moment"
                   : duration < 0 ? "the clock jumps back"
                                  : fmt::format("'{:g}' is out of all range", times_[row + 1]));
  }
  return core::Done{};
}

core::Result<std::vector<ImportedRun>> LogReader::finish() {
  if (auto found = findRuns(); !found) return found.error();
  std::vector<ImportedRun> runs;
  const std::size_t unfinished = shape_.meaning == TimeMeaning::TimeStamp ? 1 : 0;
  for (std::size_t i = 0; i < begins_.size() && !times_.empty(); ++i) {
    const std::size_t from = begins_[i].row;
    const std::size_t to = i + 1 < begins_.size() ? begins_[i + 1].row : times_.size();
    if (auto turned = toFrames(from, to); !turned) return turned.error();
    if (to - from <= unfinished) continue;
    const std::size_t frames = to - from - unfinished;
    ImportedRun run{begins_[i].name.empty() ? "run " + std::to_string(i + 1) : begins_[i].name, {}, {}};
    const auto take = [&](std::vector<double>& values) {
      if (begins_.size() > 1) {
        const auto begin = values.begin() + static_cast<std::ptrdiff_t>(from);
        return std::vector<double>(begin, begin + static_cast<std::ptrdiff_t>(frames));
      }
      values.resize(frames);
      return std::move(values);
    };
    run.frame_ms = take(times_);
    for (auto& values : others_) run.others.push_back(take(values));
    runs.push_back(std::move(run));
  }
  if (runs.empty()) return Error{ErrorKind::TooFew, "the log holds no frame", log_name_, "Choose a longer log"};
  return runs;
}

}  // namespace store
