#pragma once

#include <string>
#include <string_view>

namespace core {

/// A text as it may be shown on any screen or terminal: control characters and marks that turn the reading direction
/// become visible signs, and bytes that are no UTF-8 become replacement marks, so that what is read is what is there.
/// Line breaks and tabs stay.
[[nodiscard]] std::string shownText(std::string_view text);

/// The same for one line: breaks and tabs become visible signs too.
[[nodiscard]] std::string shownLine(std::string_view text);

/// A word of a command, so that its begin and end can be seen: in quotes where anything but plain signs is in it, with
/// a backslash before quotes and backslashes. For reading, not for a shell.
[[nodiscard]] std::string shownWord(std::string_view word);

/// A text whose hidden signs stand as \\u escapes, as JSON writes them; bytes that are no UTF-8 stay.
[[nodiscard]] std::string escapedHidden(std::string text);

/// The text with each percent sign bound to its number by a no-break space, so that no line ends between the two.
[[nodiscard]] std::string withBoundPercents(std::string text);

/// The first so many bytes of a text, or fewer: no character is cut.
[[nodiscard]] std::string_view cutText(std::string_view text, std::size_t bytes);

}  // namespace core
