#include "core/values/shown_text.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cstdint>
#include <optional>

#include <fmt/format.h>

namespace core {
namespace {

constexpr const char* kReplacement = "\xEF\xBF\xBD";

struct Character {
  std::uint32_t code = 0;
  std::size_t bytes = 1;
};

// The character at the begin of a text; nothing where its bytes are no UTF-8 (RFC 3629).
std::optional<Character> characterAt(std::string_view text) {
  const auto byte = [&](std::size_t i) { return static_cast<unsigned char>(text[i]); };
  const unsigned first = byte(0);
  if (first < 0x80) return Character{first, 1};
  const std::size_t bytes = first >= 0xF0 && first < 0xF5   ? 4
                            : first >= 0xE0 && first < 0xF0 ? 3
                            : first >= 0xC2 && first < 0xE0 ? 2
                                                            : 0;
  if (bytes == 0 || text.size() < bytes) return std::nullopt;
  std::uint32_t code = first & (0x7Fu >> bytes);
  for (std::size_t i = 1; i < bytes; ++i) {
    if ((byte(i) & 0xC0u) != 0x80u) return std::nullopt;
    code = (code << 6) | (byte(i) & 0x3Fu);
  }
  constexpr std::array<std::uint32_t, 5> kSmallest{0, 0, 0x80, 0x800, 0x10000};
  const bool is_half = code >= 0xD800 && code <= 0xDFFF;
  return code < kSmallest[bytes] || code > 0x10FFFF || is_half ? std::nullopt : std::optional(Character{code, bytes});
}

// Marks of direction and signs without width: they change how what stands beside them is read.
bool isHidden(std::uint32_t code) {
  return (code >= 0x80 && code < 0xA0) || code == 0xAD || code == 0x61C || (code >= 0x200B && code <= 0x200F) ||
         (code >= 0x2028 && code <= 0x202E) || (code >= 0x2060 && code <= 0x206F) || code == 0xFEFF ||
         (code >= 0xE0000 && code <= 0xE007F);
}

std::string shown(std::string_view text, bool keeps_breaks) {
  std::string out;
  out.reserve(text.size());
  while (!text.empty()) {
    const auto character = characterAt(text);
    const std::uint32_t code = character ? character->code : 0xFFFD;
    const std::size_t bytes = character ? character->bytes : 1;
    if (!character)
      out += kReplacement;
    else if (code < 0x20 && !(keeps_breaks && (code == '\n' || code == '\t')))
      out += fmt::format("\xE2\x90{}", static_cast<char>(0x80 + code));  // the pictures of control characters, U+2400
    else if (code == 0x7F)
      out += "\xE2\x90\xA1";
    else if (isHidden(code))
      out += fmt::format("\xE2\x9F\xA8U+{:04X}\xE2\x9F\xA9", code);
    else
      out += text.substr(0, bytes);
    text.remove_prefix(bytes);
  }
  return out;
}

}  // namespace

std::string shownText(std::string_view text) { return shown(text, true); }
std::string shownLine(std::string_view text) { return shown(text, false); }

std::string shownWord(std::string_view word) {
  constexpr std::string_view kPlain = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789_-+.,:/=@%{}";
  if (!word.empty() && word.find_first_not_of(kPlain) == std::string_view::npos) return std::string(word);
  std::string quoted = "\"";
  for (const char c : word) {
    if (c == '"' || c == '\\') quoted += '\\';
    quoted += c;
  }
  return shownLine(quoted + "\"");
}

std::string escapedHidden(std::string text) {
  const bool is_plain =
      std::all_of(text.begin(), text.end(), [](char c) { return (c >= ' ' && c != 0x7F) || c == '\n'; });
  if (is_plain) return text;
  std::string out;
  for (std::string_view rest = text; !rest.empty();) {
    const auto character = characterAt(rest);
    const std::size_t bytes = character ? character->bytes : 1;
    const std::uint32_t code = character ? character->code : 0;
    if (code == 0x7F || (isHidden(code) && code < 0x10000))
      out += fmt::format("\\u{:04x}", code);
    else if (isHidden(code))  // as two halves (RFC 8259)
      out += fmt::format("\\u{:04x}\\u{:04x}", 0xD800 + ((code - 0x10000) >> 10), 0xDC00 + ((code - 0x10000) & 0x3FF));
    else
      out += rest.substr(0, bytes);
    rest.remove_prefix(bytes);
  }
  return out;
}

std::string withBoundPercents(std::string text) {
  constexpr std::string_view kParted = " %";
  constexpr std::string_view kBound = "\xC2\xA0%";
  for (std::size_t at = 0; (at = text.find(kParted, at)) != std::string::npos; at += kBound.size())
    if (at > 0 && std::isdigit(static_cast<unsigned char>(text[at - 1])) != 0) text.replace(at, kParted.size(), kBound);
  return text;
}

std::string_view cutText(std::string_view text, std::size_t bytes) {
  if (text.size() <= bytes) return text;
  while (bytes > 0 && (static_cast<unsigned char>(text[bytes]) & 0xC0u) == 0x80u) --bytes;
  return text.substr(0, bytes);
}

}  // namespace core
