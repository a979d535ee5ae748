#pragma once

#include <string>
#include <vector>

namespace app {

/// Follows a frame log while it is being written. Reads only what was added since the last look, and only whole lines.
class LiveTrace {
 public:
  /// Looks again. Returns true when frames were added or the log began anew.
  bool follow(const std::string& path, const std::string& column);
  [[nodiscard]] const std::vector<double>& frameMs() const { return frame_ms_; }
  void clear();

 private:
  std::string rest_;      ///< an unfinished last line
  std::size_t read_ = 0;  ///< bytes taken so far
  std::string header_;    ///< the log's first line, which names the columns; empty before it is there
  std::vector<double> frame_ms_;
};

}  // namespace app
