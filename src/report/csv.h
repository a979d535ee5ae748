#pragma once

#include <optional>
#include <string>
#include <vector>

namespace report {

/// A table for other programs: RFC 4180 in UTF-8, points in numbers, no thousands signs, every digit that a
/// number has. Home folders are "~", as on a page.
class Csv {
 public:
  /// Its first row.
  explicit Csv(const std::vector<std::string>& names) { row(names); }
  void row(const std::vector<std::string>& cells);
  [[nodiscard]] const std::string& text() const { return text_; }

  /// A number as a cell: the shortest that reads back as the same.
  [[nodiscard]] static std::string number(double value);
  /// Empty where there is none.
  [[nodiscard]] static std::string number(const std::optional<double>& value) {
    return value ? number(*value) : std::string();
  }

 private:
  std::string text_;
};

}  // namespace report
