#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace core {

// The one reader of numbers (rows of frame logs have a faster one of the same library); fmt writes them. Neither
// follows the language of the process, so a study reads the same everywhere.

/// A text that is a finite number as a whole: "2.5", "-4", "+1e-3"; blanks around it do not matter. Nothing for
/// anything else, a decimal comma among it.
[[nodiscard]] std::optional<double> numberOf(std::string_view text);

/// The finite number that a text begins with, as in "16.0 GT/s"; nothing where it begins with none.
[[nodiscard]] std::optional<double> leadingNumber(std::string_view text);

/// A number as a person writes it into a field of its own: a comma parts the decimals as a point does, and nothing
/// parts thousands.
[[nodiscard]] std::optional<double> numberTyped(std::string text);

/// Sets the process to plain numbers and letters: "2.5" is read alike by every library, and a Turkish I has its usual
/// small letter. To be called again when the application object exists, which takes the person's language on.
void keepPlainLocale();

}  // namespace core
