#pragma once

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace bench {

/// Readers of the kernel's attribute texts. Each takes any bytes and yields nothing where they are not what they should
/// be.

/// Without one trailing newline; some texts end in a blank that belongs to them.
[[nodiscard]] std::string withoutNewline(std::string text);
/// Without blanks at either end.
[[nodiscard]] std::string trimmed(std::string_view text);

/// A decimal whole number and nothing else, blanks around it allowed.
[[nodiscard]] std::optional<std::int64_t> wholeNumber(std::string_view text);
/// The same in hexadecimal, with or without 0x.
[[nodiscard]] std::optional<std::uint64_t> hexNumber(std::string_view text);

/// "0-3,8" as numbers; empty text is an empty list. Nothing for a malformed list or one of more than 65536 numbers.
[[nodiscard]] std::optional<std::vector<int>> numberList(std::string_view text);

/// The choice in brackets: "always [madvise] never" is "madvise"; the whole text where nothing is in brackets.
[[nodiscard]] std::string chosen(std::string_view text);

/// "16.0 GT/s" of "16.0 GT/s PCIe" or "16 GT/s"; nothing for "Unknown".
[[nodiscard]] std::optional<std::string> linkSpeed(std::string_view text);

/// One line of a PCI device's `resource`.
struct ResourceLine {
  std::uint64_t start = 0;
  std::uint64_t end = 0;  ///< included
  std::uint64_t flags = 0;
  [[nodiscard]] bool isUsed() const { return flags != 0 && end >= start && (flags & 0x20000000) == 0; }
  [[nodiscard]] bool isPrefetchableMemory() const { return (flags & 0x2200) == 0x2200; }
  [[nodiscard]] std::uint64_t size() const { return isUsed() ? end - start + 1 : 0; }
};
/// Nothing where a line does not hold three hexadecimal numbers.
[[nodiscard]] std::optional<std::vector<ResourceLine>> resourceLines(std::string_view text);

/// Counter lines "name count", split at the last blank, in their order; lines of another shape are left out.
[[nodiscard]] std::vector<std::pair<std::string, std::int64_t>> counterLines(std::string_view text);

/// A graphics driver's table of link levels, summed up: "3 levels, 16.0GT/s x16 active".
[[nodiscard]] std::string linkLevels(std::string_view text);

/// A value of /proc/meminfo in bytes: "MemTotal" of "MemTotal:  32812340 kB".
[[nodiscard]] std::optional<std::uint64_t> meminfoBytes(std::string_view text, std::string_view key);

/// "2026-03-18" of "03/18/2026"; the text itself where it is no such date.
[[nodiscard]] std::string isoDate(std::string_view text);

/// What a capture takes of the kernel's command line: the parameters that say how the machine runs, and the names of
/// the others, whose values may name a disk, a host or a person: "root=(not taken) ro pcie_aspm=off". Source  kernel
/// documentation, admin-guide/kernel-parameters
[[nodiscard]] std::string commandLineTaken(std::string_view text);

/// The value of a "key : value" line of /proc/cpuinfo, of its first processor; empty where there is none.
[[nodiscard]] std::string cpuinfoField(std::string_view text, std::string_view key);

}  // namespace bench
