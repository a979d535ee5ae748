#pragma once

#include <cstdint>
#include <string>
#include <vector>

namespace core {

/// How far a bench's clock is ahead of that of the computer that reads it, ms, and how sure that is.
struct ClockDifference {
  double ahead_ms = 0;
  double within_ms = 0;  ///< half of the fastest way there and back, and a step of the clocks

  /// "12 ms ahead of this computer's, within 3 ms".
  [[nodiscard]] std::string text() const;
  /// What to do about clocks that are so far apart that their times mislead; empty where they are not.
  [[nodiscard]] std::string remedy() const;
};

/// The clock of a bench elsewhere beside the desk's, by each time that the two were compared. What is dated there is
/// dated by the bench's clock, what somebody does at the desk by the desk's.
class BenchClock {
 public:
  /// `at_ms`: by the desk's clock. In the order in which they were compared.
  void add(std::int64_t at_ms, ClockDifference difference) { compared_.push_back({at_ms, difference}); }
  [[nodiscard]] bool isCompared() const { return !compared_.empty(); }
  /// That moment by the desk's clock, by the comparison that is nearest to it; the same where there was none.
  [[nodiscard]] std::int64_t atDesk(std::int64_t bench_ms) const;
  /// What a comparison says, by its place: how far the bench's clock is off, by how much it went off since the first
  /// one, and whether it was set or jumped since the one before.
  [[nodiscard]] std::string sentence(std::size_t place) const;

 private:
  struct Compared {
    std::int64_t at_ms;
    ClockDifference difference;
  };
  std::vector<Compared> compared_;
};

}  // namespace core
