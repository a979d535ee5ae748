#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace core {

/// A text that nobody reads by accident: not encrypted, for whoever has the program has the key, but in no word of it
/// recognisable in an editor, a search or a listing. Digits and small letters.
[[nodiscard]] std::string sealedText(std::string_view text);

/// The inverse; nothing where it is no such text.
[[nodiscard]] std::optional<std::string> unsealedText(std::string_view sealed);

}  // namespace core
