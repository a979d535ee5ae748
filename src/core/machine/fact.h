#pragma once

#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace core {

/// What a fact is good for. Written into captures; never renamed.
enum class FactKind {
  Configuration,  ///< how the machine is set up: compared
  Evidence,       ///< a counter or a reading that says something about a stretch of time: shown, never a difference
  Volatile,       ///< in motion by nature: left out
  Identity        ///< by which parts are recognised
};
[[nodiscard]] const char* factKindName(FactKind kind);

/// How reading it went. "Absent" and "denied" are not "unchanged". Written into captures; never renamed.
enum class FactStatus {
  Read,
  Absent,     ///< this machine does not offer it
  Denied,     ///< it needs more rights
  Unreadable  ///< it is there but cannot be read now
};
[[nodiscard]] const char* factStatusName(FactStatus status);

/// One thing that the machine says about itself.
struct Fact {
  std::string name;  ///< path-like and stable from boot to boot: "pci/0000:00:01.0/current_link_speed"
  FactKind kind = FactKind::Configuration;
  FactStatus status = FactStatus::Read;
  std::string value;             ///< as text; empty unless read
  std::optional<double> number;  ///< where it is a number, in `unit`
  std::string unit;              ///< "MT/s", "bytes"; empty where the text says it all
  std::string source;            ///< the file it was read from
  std::string why;               ///< why it could not be read, and what would make it readable
  std::string group;             ///< for Volatile: what is in motion, e.g. "temperatures"

  [[nodiscard]] bool isRead() const { return status == FactStatus::Read; }
  /// "6000 MT/s", "16 GiB"; the text alone where it has no unit.
  [[nodiscard]] std::string shown() const;
};

/// Everything that was read of a machine at one moment.
struct Capture {
  std::int64_t taken_ms = 0;  ///< UTC, milliseconds since 1970
  std::string boot_id;
  bool is_privileged = false;  ///< root-only facts could be read
  bool is_virtual = false;     ///< a virtual machine: its firmware and links are not the hardware's
  std::vector<Fact> facts;     ///< in order of their names, each name once

  /// Nothing when the capture does not know the name at all.
  [[nodiscard]] const Fact* find(std::string_view name) const;
  /// The value where it was read, else empty.
  [[nodiscard]] std::string text(std::string_view name) const;
  [[nodiscard]] std::optional<double> number(std::string_view name) const;
  /// All facts whose name begins so, e.g. "dmi/memory/".
  [[nodiscard]] std::span<const Fact> below(std::string_view prefix) const;
  /// Adds a fact in its place; one of the same name is replaced.
  void put(Fact fact);
};

/// Does a name fit a pattern in which * stands for any text, slashes included?
[[nodiscard]] bool matchesPattern(std::string_view pattern, std::string_view name);

}  // namespace core
