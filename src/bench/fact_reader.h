#pragma once

#include <functional>
#include <optional>
#include <string>

#include "bench/bench_connection.h"
#include "core/machine/fact.h"

namespace bench {

/// Reads files of a bench into facts of a capture: what could not be read becomes a fact that says why.
class FactReader {
 public:
  FactReader(const BenchConnection& bench, core::Capture& capture) : bench_(bench), capture_(capture) {}

  /// What a text becomes: the value with, where it is one, its number. Nothing: the text is not what it should be.
  struct Reading {
    std::string value;
    std::optional<double> number;
  };
  using Parse = std::function<std::optional<Reading>(const std::string& text)>;

  /// How a fact is to be kept.
  struct Keep {
    core::FactKind kind = core::FactKind::Configuration;
    std::string unit = {};
    std::string group = {};  ///< for volatile facts
  };

  /// What this machine does not offer leaves no fact: the comparison sees that one side has it and the other has not.
  void read(const std::string& name, const std::string& path, const Parse& parse, const Keep& keep);
  /// The text itself, without blanks around it.
  void text(const std::string& name, const std::string& path, const Keep& keep);
  void text(const std::string& name, const std::string& path) { text(name, path, Keep{}); }
  /// A whole number, divided by `divisor` to come to the unit.
  void number(const std::string& name, const std::string& path, const Keep& keep, double divisor = 1);

  /// A fact worked out from others.
  void derived(const std::string& name, std::string value, std::optional<double> number, const std::string& unit,
               const std::string& source, core::FactKind kind = core::FactKind::Configuration);
  /// A fact that could not be read.
  void missing(const std::string& name, const core::Error& error, core::FactKind kind = core::FactKind::Configuration);

  [[nodiscard]] std::vector<std::string> list(const std::string& path) const;
  /// The last part of where a link leads; empty where there is none.
  [[nodiscard]] std::string linkName(const std::string& path) const;
  /// The text of a file, empty where it cannot be read.
  [[nodiscard]] std::string raw(const std::string& path) const;
  [[nodiscard]] const BenchConnection& bench() const { return bench_; }
  [[nodiscard]] core::Capture& capture() const { return capture_; }

 private:
  const BenchConnection& bench_;
  core::Capture& capture_;
};

[[nodiscard]] core::FactStatus statusOf(const core::Error& error);

}  // namespace bench
