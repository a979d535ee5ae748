#include "store/logs/row_parser.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <limits>

#include <fast_float/fast_float.h>
#include <fmt/format.h>

#include "core/values/shown_text.h"
#include "store/logs/log_rows.h"

namespace store {
namespace {

constexpr double kGap = std::numeric_limits<double>::quiet_NaN();
// After lines that were not plain, so many are read one by one before it is tried again.
constexpr std::size_t kLinesBeforeTryingAgain = 64;

bool fail(RowBlock& block, const std::string& column, std::string what) {
  block.flaw = RowBlock::Flaw{block.lines, column, std::move(what)};
  return false;
}

std::string fieldsExpected(std::size_t stand, std::size_t expected) {
  return fmt::format("{} fields stand where {} are expected", stand, expected);
}

}  // namespace

RowParser::RowParser(const LogShape& shape) : shape_(shape), delimiter_(shape.delimiter == 0 ? '\n' : shape.delimiter) {
  std::size_t next = 1;
  for (std::size_t c = 0; c < shape.columns.size(); ++c)
    place_.push_back(c == shape.time.column || shape.run_column == c ? 0 : next++);
}

std::size_t RowParser::numberColumns() const {
  return shape_.keeps_others ? shape_.columns.size() - (shape_.run_column ? 1 : 0) : 1;
}

// Columns that nobody wants are read too: a row is whole, or none.
void RowParser::parse(std::string_view lines, std::size_t skipped_rows, RowBlock& block) const {
  block.columns.resize(shape_.columns.size() - (shape_.run_column ? 1 : 0));
  const std::size_t most_rows = lines.size() / (shape_.is_json_lines ? 2 : shape_.columns.size()) + 1;
  for (Numbers& column : block.columns)
    if (column.size() < most_rows) column.resize(most_rows);
  block.rows = block.lines = 0;
  block.skipped.clear();
  block.begins.clear();
  block.flaw.reset();
  const bool may_be_plain = !shape_.is_json_lines && !shape_.run_column && shape_.delimiter != ' ';
  std::size_t try_at = 0;
  while (!lines.empty()) {
    if (may_be_plain && skipped_rows == 0 && block.lines >= try_at) {
      lines.remove_prefix(parsePlain(lines, block));
      try_at = block.lines + kLinesBeforeTryingAgain;
      if (block.flaw) return;
      if (lines.empty()) return;
    }
    const std::size_t end = std::min(lines.find('\n'), lines.size());
    const std::string_view line = trimmed(lines.substr(0, end));
    lines.remove_prefix(std::min(end + 1, lines.size()));
    ++block.lines;
    const bool is_data = !line.empty() && !isComment(line);
    if (is_data && skipped_rows == 0) {
      if (!parseLine(line, block)) return;
      continue;
    }
    if (is_data) --skipped_rows;
    block.skipped.push_back(block.rows);
  }
}

std::size_t RowParser::parsePlain(std::string_view lines, RowBlock& block) const {
  std::vector<double*> columns;
  for (const std::size_t place : place_) columns.push_back(block.columns[place].data() + block.rows);
  const PlainRows read = readPlainRows(lines, {delimiter_, shape_.has_decimal_comma ? ',' : '.'}, columns);
  const std::size_t before = std::exchange(block.rows, block.rows + read.rows);
  block.lines += read.rows;
  checkDurations(before, block.rows, block);
  return read.bytes;
}

bool RowParser::parseLine(std::string_view line, RowBlock& block) const {
  const bool fits = shape_.is_json_lines                       ? parseObject(line, block)
                    : line.find('"') != std::string_view::npos ? parseQuoted(line, block)
                                                               : parseFields(line, block);
  if (!fits) return false;
  ++block.rows;
  return checkDurations(block.rows - 1, block.rows, block);
}

bool RowParser::parseFields(std::string_view line, RowBlock& block) const {
  const std::size_t columns = shape_.columns.size();
  const char* at = line.data();
  const char* const end = at + line.size();
  for (std::size_t c = 0; c < columns; ++c) {
    if (c > 0 && at == end && delimiter_ != ' ') return fail(block, "", fieldsExpected(c, columns));
    if (c > 0 && at < end) ++at;  // the delimiter
    while (at < end && isBlank(*at) && (*at != delimiter_ || delimiter_ == ' ')) ++at;
    const char* const begin = at;
    double number = kGap;
    if (shape_.run_column == c)
      at = std::find(at, end, delimiter_);
    else
      number = numberAt(at, end);
    if (!take(c, {begin, static_cast<std::size_t>(at - begin)}, number, block)) return false;
  }
  // Many programs end each row with a delimiter.
  if (std::all_of(at, end, [this](char c) { return c == delimiter_ || isBlank(c); })) return true;
  return fail(block, "", fieldsExpected(fieldsOf(line, shape_.delimiter).size(), columns));
}

// Rare: quotes may hold a delimiter, so that fields are put together first.
bool RowParser::parseQuoted(std::string_view line, RowBlock& block) const {
  std::vector<std::string> fields = fieldsOf(line, shape_.delimiter);
  while (fields.size() > shape_.columns.size() && fields.back().empty()) fields.pop_back();
  if (fields.size() != shape_.columns.size())
    return fail(block, "", fieldsExpected(fields.size(), shape_.columns.size()));
  return takeAll(fields, block);
}

bool RowParser::parseObject(std::string_view line, RowBlock& block) const {
  const auto fields = fieldsOfObject(line, shape_.columns);
  return fields ? takeAll(*fields, block) : fail(block, "", "this line is not a JSON object; it may be cut off");
}

bool RowParser::takeAll(const std::vector<std::string>& fields, RowBlock& block) const {
  for (std::size_t c = 0; c < fields.size(); ++c)
    if (!take(c, fields[c], numberIn(fields[c], shape_.has_decimal_comma).value_or(kGap), block)) return false;
  return true;
}

// A gap is allowed in every column but the time; a word among numbers labels a row that is none, the sum of all.
bool RowParser::take(std::size_t column, std::string_view field, double number, RowBlock& block) const {
  if (shape_.run_column == column) {
    beginRun(trimmed(field), block);
    return true;
  }
  const bool must_be_number = column == shape_.time.column || !(shape_.is_text.at(column) || isGap(field));
  if (std::isnan(number) && must_be_number)
    return fail(block, shape_.columns[column], fmt::format("'{}' is not a number", core::cutText(trimmed(field), 40)));
  block.columns[place_[column]][block.rows] = number;
  return true;
}

void RowParser::beginRun(std::string_view name, RowBlock& block) const {
  if (block.begins.empty() || block.begins.back().name != name) block.begins.push_back({block.rows, std::string(name)});
}

// The number in a field, a gap for any other text; `at` ends at the field's delimiter.
double RowParser::numberAt(const char*& at, const char* end) const {
  const fast_float::parse_options options{fast_float::chars_format::general, shape_.has_decimal_comma ? ',' : '.'};
  double value = kGap;
  const char* const begin = at < end && *at == '+' ? at + 1 : at;
  const auto [stop, code] = fast_float::from_chars_advanced(begin, end, value, options);
  const char* after = stop;
  while (after < end && *after != delimiter_ && isBlank(*after)) ++after;
  if (code == std::errc() && std::isfinite(value) && (after == end || *after == delimiter_)) {
    at = after;
    return value;
  }
  const char* const field = std::exchange(at, std::find(at, end, delimiter_));
  if (!shape_.has_decimal_comma) return kGap;
  return numberIn({field, static_cast<std::size_t>(at - field)}, true).value_or(kGap);  // with points between thousands
}

bool RowParser::checkDurations(std::size_t from, std::size_t to, RowBlock& block) const {
  if (shape_.time.meaning != TimeMeaning::Duration) return true;
  double* const times = block.columns[0].data();
  for (std::size_t row = from; row < to; ++row) {
    const double frame_ms = times[row] * shape_.time.ms_per_unit;
    if (!(frame_ms > 0 && frame_ms <= kLongestFrameMs)) {
      block.lines -= to - 1 - row;
      block.rows = row;
      return fail(block, shape_.columns[shape_.time.column],
                  times[row] > 0 ? fmt::format("a frame of {:g} s: none takes longer than a minute", frame_ms / 1000)
                                 : fmt::format("'{:g}' is not a duration: it must be above 0", times[row]));
    }
    times[row] = frame_ms;
  }
  return true;
}

}  // namespace store
