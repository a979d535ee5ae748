#pragma once

#include <string>
#include <string_view>

#include "core/values/result.h"

namespace core {

/// Can a pattern be used to look for a number? A regular expression as Perl has them, of at most 500 characters, with a
/// group in parentheses. Errors  Malformed, OutOfRange; the place is `where`
[[nodiscard]] Status checkPattern(const std::string& pattern, const std::string& where);

/// The same of one that is only to match: it needs no group.
[[nodiscard]] Status checkMatcher(const std::string& pattern, const std::string& where);

/// Finds a number in a text: that of the pattern's first group where it matches for the last time. `^` and `$` are the
/// ends of a line. `where`: what the text is, for the error.
/// Errors  those of checkPattern; Missing where nothing matches; OutOfRange where what matches is no number, or the
/// pattern takes too long
[[nodiscard]] Result<double> lastNumberIn(std::string_view text, const std::string& pattern, const std::string& where);

/// Does a pattern, with or without a group, match anywhere in a text? False for one that is none, or takes too long.
[[nodiscard]] bool doesMatch(std::string_view text, const std::string& pattern);

}  // namespace core
