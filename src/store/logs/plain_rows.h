#pragma once

#include <cstddef>
#include <span>
#include <string_view>

namespace store {

/// Rows of plain decimals: the bulk of every large log. A plain decimal is 1 to 16 characters long: digits, with at
/// most one decimal mark before the last of them. Up to 15 digits and a power of ten are exact, so that one division
/// rounds right (Clinger 1990).
struct PlainLayout {
  char delimiter = ',';
  char decimal = '.';
};

/// How far it came.
struct PlainRows {
  std::size_t rows = 0;
  std::size_t bytes = 0;  ///< of whole lines
};

/// `text` may be read from so many bytes before its begin.
constexpr std::size_t kReadableBefore = 16;

/// Reads rows as long as each field is plain and every column is there; the first row that is not so, and the last
/// ones of the text, are left to whoever knows more. Reads nothing on processors without AVX2.
/// Shapes  columns: where each field's number goes; each has room for as many numbers as the text has lines
[[nodiscard]] PlainRows readPlainRows(std::string_view text, PlainLayout layout, std::span<double* const> columns);

}  // namespace store
