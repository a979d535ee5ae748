#pragma once

#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "core/values/result.h"

namespace core {

/// A result that a person read off somewhere and typed.
struct TypedValue {
  std::string text;                                        ///< as it was typed
  double value = 0;                                        ///< the middle of a range
  double resolution = 0;                                   ///< the step of its last digit; of a range its width
  bool is_range = false;                                   ///< "about 50 to 60": a lower grade
  std::vector<std::pair<std::string, double>> parts = {};  ///< sub-scores by name
  std::string person = {};

  bool operator==(const TypedValue&) const = default;
};

/// Which sign parts the decimals of typed numbers, where somebody knows.
enum class DecimalSign { Unknown, Comma, Point };

/// Reads "57.3", "57,3", "1 234.5", "50 to 60", "about 50-60", with sub-scores after it: "57.3; sky 41.2; dome 88". Of
/// a point and a comma the last one is the decimal sign; several of one sign part thousands. Errors  Malformed,
/// OutOfRange{not finite, a range that does not rise}; Ambiguous for "4,780", which is 4780 or 4.780, where the decimal
/// sign is not known
[[nodiscard]] Result<TypedValue> parseTyped(std::string_view text, DecimalSign decimal = DecimalSign::Unknown);

/// The decimal sign of a whole column, told by whichever of its numbers can only be read in one way. Unknown where none
/// can, or where they contradict each other.
[[nodiscard]] DecimalSign decimalSignOf(const std::vector<std::string>& texts);

}  // namespace core
