#pragma once

#include <QString>
#include <optional>
#include <utility>
#include <vector>

#include "core/study/study.h"

namespace app {

/// A command as a person types it: words parted by blanks, "..." around a word with blanks, """ for a quote itself.
/// Only the words are taken: nothing is ever expanded, piped or handed to a shell.
[[nodiscard]] core::Command wordsOf(const QString& text);
[[nodiscard]] QString textOf(const core::Command& command);

/// Variables as NAME=value words. A word without = is kept as a name with an empty value.
[[nodiscard]] std::vector<std::pair<std::string, std::string>> environmentOf(const QString& text);
[[nodiscard]] QString textOf(const std::vector<std::pair<std::string, std::string>>& environment);

/// Settings as PATH=VALUE words; a word without = keeps an empty value.
[[nodiscard]] std::vector<core::SettingWrite> writesOf(const QString& text);
[[nodiscard]] QString textOf(const std::vector<core::SettingWrite>& writes);

/// A price as an amount and a currency: "120 EUR". An amount that cannot be read is -1, which is no price.
[[nodiscard]] std::optional<core::Price> priceFrom(const QString& text);
[[nodiscard]] QString textOf(const std::optional<core::Price>& price);

}  // namespace app
