#include "store/logs/log_reader.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <condition_variable>
#include <cstring>
#include <map>
#include <mutex>
#include <numeric>
#include <optional>
#include <shared_mutex>
#include <thread>

#include <fmt/format.h>

#include "store/logs/log_rows.h"
#include "store/logs/row_parser.h"

namespace store {
namespace {

using core::Error;
using core::ErrorKind;
using core::Status;

constexpr std::size_t kMostThreads = 4;

// The rows of all blocks, put together in the log's order by several threads: each takes a block, parses it, waits for
// the blocks before it to have told their rows, and copies its own to where they belong.
class Gathering {
 public:
  Gathering(const LogBlocks& log, const LogShape& shape, const std::string& log_name)
      : log_(log), shape_(shape), log_name_(log_name), parser_(shape), columns_(parser_.numberColumns()) {}

  Status gather() {
    const std::size_t cores = std::max(1U, std::thread::hardware_concurrency());
    std::vector<std::thread> others(std::min({cores, kMostThreads, log_.count()}) - (log_.count() > 0 ? 1 : 0));
    for (std::thread& other : others) other = std::thread([this] { work(); });
    work();
    for (std::thread& other : others) other.join();
    if (error_) return *error_;
    for (Numbers& column : columns_) column.resize(rows_);
    return core::Done{};
  }

  core::Result<std::vector<ImportedRun>> runs() {
    if (auto ended = checkEnd(); !ended) return ended.error();
    if (auto found = findRuns(); !found) return found.error();
    std::vector<ImportedRun> runs;
    for (const Stretches& stretches : stretchesByName()) {
      ImportedRun run = runOf(stretches);
      if (shape_.time.meaning == TimeMeaning::TimeStamp) {
        if (auto turned = stampsToFrames(run, stretches); !turned) return turned.error();
      } else if (auto checked = checkClosingRow(run.frame_ms, stretches); !checked) {
        return checked.error();
      }
      if (!run.frame_ms.empty()) runs.push_back(std::move(run));
    }
    if (runs.empty()) return Error{ErrorKind::TooFew, "the log holds no frame", log_name_, "Choose a longer log"};
    return runs;
  }

 private:
  void work() {
    try {
      RowBlock block;
      std::vector<char> buffer;
      for (std::size_t number = next_++; number < log_.count(); number = next_++) {
        const auto lines = log_.lines(number, buffer);
        if (!lines) return fail(lines.error());
        parser_.parse(*lines, number == 0 ? shape_.lines_before + (shape_.has_header ? 1 : 0) : 0, block);
        const auto row = takeTurn(number, block, lines->size());
        if (!row) return;
        const std::shared_lock shared(room_);
        for (std::size_t c = 0; c < columns_.size(); ++c)
          std::copy_n(block.columns[c].data(), block.rows, columns_[c].data() + *row);
      }
    } catch (const std::bad_alloc&) {
      fail({ErrorKind::Io, "the log needs more memory than there is", log_name_, "Cut it into several logs"});
    }
  }

  // The row from which a block's rows count, once all blocks before it are known; nothing if the reading has failed.
  std::optional<std::size_t> takeTurn(std::size_t number, RowBlock& block, std::size_t bytes) {
    std::unique_lock lock(turns_);
    turn_came_.wait(lock, [&] { return turn_ == number || error_; });
    if (error_) return std::nullopt;
    if (block.flaw)
      error_ = problem(lines_ + block.flaw->line, block.flaw->column, block.flaw->what);
    else
      append(block, bytes);
    ++turn_;
    turn_came_.notify_all();
    if (error_) return std::nullopt;
    return rows_ - block.rows;
  }

  void append(RowBlock& block, std::size_t bytes) {
    for (const std::size_t row : block.skipped) {
      if (skipped_.empty() || skipped_.back().before_row != rows_ + row) skipped_.push_back({rows_ + row, 0});
      ++skipped_.back().lines;
    }
    for (RowBlock::RunBegin& begin : block.begins)  // a block does not know how the one before it ended
      if (begins_.empty() || begins_.back().name != begin.name)
        begins_.push_back({rows_ + begin.row, std::move(begin.name)});
    lines_ += block.lines;
    rows_ += block.rows;
    if (rows_ <= columns_.front().size()) return;
    // The block tells how long a row is; a little more than that is room enough for all.
    const double rows_a_byte = static_cast<double>(block.rows) / static_cast<double>(bytes);
    const auto expected = static_cast<std::size_t>(1.02 * rows_a_byte * static_cast<double>(log_.bytes()));
    const std::unique_lock alone(room_);
    for (Numbers& column : columns_) column.resize(std::max({rows_, expected, column.size() + column.size() / 2}));
  }

  void fail(Error error) {
    const std::lock_guard lock(turns_);
    if (!error_) error_ = std::move(error);
    turn_came_.notify_all();
  }

  [[nodiscard]] Error problem(std::size_t line, const std::string& column, const std::string& what) const {
    const std::string place = column.empty() ? "" : fmt::format(", column '{}'", column);
    return {ErrorKind::Malformed, what, fmt::format("{}, line {}{}", log_name_, line, place),
            "Correct the log, or how it is read; nothing of it is counted"};
  }

  [[nodiscard]] Error badTime(std::size_t row, const std::string& what) const {
    std::size_t line = row + 1;
    for (const Skipped& skipped : skipped_)
      if (skipped.before_row <= row) line += skipped.lines;
    return problem(line, shape_.columns[shape_.time.column], what);
  }

  // Without a column that says so, a new run begins where the clock starts anew; less than that is a broken clock.
  Status findRuns() {
    if (shape_.run_column) return core::Done{};
    begins_.assign(1, {0, "run 1"});
    if (shape_.time.meaning == TimeMeaning::Duration) return core::Done{};
    const Numbers& times = columns_.front();
    for (std::size_t row = 1; row < times.size(); ++row) {
      if (times[row] >= times[row - 1]) continue;
      const double first = times[begins_.back().row];
      if (times[row - 1] - times[row] < 0.5 * (times[row - 1] - first)) return badTime(row, "the clock jumps back");
      begins_.push_back({row, "run " + std::to_string(begins_.size() + 1)});
    }
    return core::Done{};
  }

  /// The rows of one run: one stretch, or several where programs take turns.
  struct Stretch {
    std::size_t from = 0;
    std::size_t to = 0;
  };
  struct Stretches {
    std::string name;
    std::vector<Stretch> parts;

    /// The log's row of one of the run's.
    [[nodiscard]] std::size_t row(std::size_t index) const {
      for (const Stretch& part : parts) {
        if (index < part.to - part.from) return part.from + index;
        index -= part.to - part.from;
      }
      return parts.back().to;
    }
  };

  [[nodiscard]] std::vector<Stretches> stretchesByName() const {
    std::vector<Stretches> all;
    std::map<std::string, std::size_t> known;
    for (std::size_t i = 0; i < begins_.size() && rows_ > 0; ++i) {
      const auto [found, is_new] = known.emplace(begins_[i].name, all.size());
      if (is_new)
        all.push_back({begins_[i].name.empty() ? "run " + std::to_string(all.size() + 1) : begins_[i].name, {}});
      all[found->second].parts.push_back({begins_[i].row, i + 1 < begins_.size() ? begins_[i + 1].row : rows_});
    }
    return all;
  }

  ImportedRun runOf(const Stretches& stretches) {
    ImportedRun run{stretches.name, {}, {}};
    for (std::size_t c = 0; c < columns_.size(); ++c) {
      Numbers& into = c == 0 ? run.frame_ms : run.others.emplace_back();
      if (begins_.size() == 1)
        into = std::move(columns_[c]);
      else
        for (const Stretch& part : stretches.parts)
          into.insert(into.end(), columns_[c].data() + part.from, columns_[c].data() + part.to);
    }
    return run;
  }

  // Each moment becomes the time until the next; the last one ends the run.
  Status stampsToFrames(ImportedRun& run, const Stretches& stretches) const {
    Numbers& times = run.frame_ms;
    for (std::size_t i = 0; i + 1 < times.size(); ++i) {
      const double duration = times[i + 1] - times[i];
      const double frame_ms = duration * shape_.time.ms_per_unit;
      if (!(frame_ms > 0 && frame_ms <= kLongestFrameMs))
        return badTime(stretches.row(i + 1), duration == 0 ? "two frames begin at the same moment"
                                             : duration < 0
                                                 ? "the clock jumps back"
                                                 : fmt::format("the clock jumps forward by {:g} s", frame_ms / 1000));
      times[i] = frame_ms;
    }
    times.pop_back();
    for (Numbers& other : run.others) other.pop_back();
    return core::Done{};
  }

  // A last row without a label may still be the sum or the mean of all: to the last digit, no frame is that by chance.
  Status checkClosingRow(const Numbers& frame_ms, const Stretches& stretches) const {
    constexpr std::size_t kFewest = 4;
    constexpr double kEqual = 1e-6;
    if (frame_ms.size() < kFewest) return core::Done{};
    const double last = frame_ms.back();
    const double total = std::accumulate(frame_ms.begin(), frame_ms.end() - 1, 0.0);
    const double mean = total / static_cast<double>(frame_ms.size() - 1);
    const bool is_sum = std::abs(last - total) <= kEqual * total;
    const bool is_mean = std::abs(last - mean) <= kEqual * mean &&
                         std::find(frame_ms.begin(), frame_ms.end() - 1, last) == frame_ms.end() - 1;
    if (!is_sum && !is_mean) return core::Done{};
    return badTime(stretches.row(frame_ms.size() - 1),
                   fmt::format("the last row is the {} of all before it, and no frame", is_sum ? "sum" : "mean"));
  }

  // A last line without an end may be cut off in its last number. It is whole where something follows the time, and
  // where all rows have as many decimals.
  Status checkEnd() const {
    const auto unended = log_.unendedLine();
    if (!unended) return unended.error();
    const std::string_view line = trimmed(*unended);
    const bool is_time_last = shape_.time.column + 1 == shape_.columns.size();
    if (line.empty() || isComment(line) || shape_.is_json_lines || !is_time_last) return core::Done{};
    std::vector<char> buffer;
    const auto first = log_.lines(0, buffer);
    if (!first) return first.error();
    constexpr std::size_t kCompared = 50;
    const auto rows = dataLines(*first, kCompared);
    const std::size_t wanted = decimalsOf(line);
    const std::size_t skipped = shape_.lines_before + (shape_.has_header ? 1 : 0);
    const bool is_whole = wanted > 0 && rows.size() > skipped + 1 &&
                          std::all_of(rows.begin() + static_cast<std::ptrdiff_t>(skipped), rows.end(),
                                      [&](const LogLine& row) { return decimalsOf(row.text) == wanted; });
    if (is_whole) return core::Done{};
    return Error{ErrorKind::Malformed, "the last line has no end: its number may be cut off",
                 fmt::format("{}, line {}", log_name_, lines_),
                 "See whether the log is whole; if so, end its last line with a line break"};
  }

  /// Digits behind the last number's sign for decimals.
  [[nodiscard]] std::size_t decimalsOf(std::string_view line) const {
    const std::size_t sign = line.rfind(shape_.has_decimal_comma ? ',' : '.');
    const std::string_view decimals = sign == std::string_view::npos ? std::string_view() : line.substr(sign + 1);
    return decimals.find_first_not_of("0123456789") == std::string_view::npos ? decimals.size() : 0;
  }

  struct Skipped {
    std::size_t before_row = 0;
    std::size_t lines = 0;  ///< without data
  };

  const LogBlocks& log_;
  const LogShape& shape_;
  const std::string& log_name_;
  const RowParser parser_;

  std::atomic<std::size_t> next_ = 0;
  std::mutex turns_;  ///< guards what follows, up to the columns
  std::condition_variable turn_came_;
  std::size_t turn_ = 0;
  std::size_t rows_ = 0;
  std::size_t lines_ = 0;
  std::vector<Skipped> skipped_;
  std::vector<RowBlock::RunBegin> begins_;
  std::optional<Error> error_;
  std::shared_mutex room_;  ///< shared by who writes rows, held alone by who moves the columns
  std::vector<Numbers> columns_;
};

}  // namespace

core::Result<std::vector<ImportedRun>> readRuns(const LogBlocks& log, const LogShape& shape,
                                                const std::string& log_name) {
  if (shape.time.column >= shape.columns.size() || (shape.run_column && *shape.run_column >= shape.columns.size()))
    return Error{ErrorKind::OutOfRange, "the shape names a column that is not there", log_name,
                 "Choose another column"};
  Gathering gathering(log, shape, log_name);
  if (auto gathered = gathering.gather(); !gathered) return gathered.error();
  return gathering.runs();
}

}  // namespace store
