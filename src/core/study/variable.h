#pragma once

#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "core/study/case.h"
#include "core/study/expected_reading.h"

namespace core {

/// A setting that a running Linux takes: a text written into a file of the kernel's.
struct SettingWrite {
  std::string path;  ///< below /sys/ or /proc/sys/; * stands for any text between two slashes
  std::string value;
  auto operator<=>(const SettingWrite&) const = default;
};

/// Variables of the environment, in the order in which they are set.
using Environment = std::vector<std::pair<std::string, std::string>>;

/// What something costs.
struct Price {
  double amount = 0;
  std::string currency;  ///< "EUR"; one in a study

  bool operator==(const Price&) const = default;
};

/// One setting of a variable: how a pass runs at it, and how the bench is brought to it.
struct Level {
  std::string name;
  std::optional<double> resource = {};    ///< what it offers, in the variable's unit; empty: as it is measured or read
  Command prefix = {};                    ///< put before every command of a pass, e.g. {"taskset", "-c", "0"}
  Environment environment = {};           ///< set for every pass
  Command set_command = {};               ///< run once at the start of each visit to bring the level about
  Without without = {};                   ///< rights that this command does without
  std::vector<SettingWrite> writes = {};  ///< done at the start of each visit and taken back after it
  std::string menu_path = {};             ///< where a person finds it: "Advanced > Memory > Profile 1"
  std::vector<std::string> checklist = {};    ///< of one's own, for bringing it about: tools, screws, cables; in order
  std::optional<Price> price = {};            ///< of the part, or of whatever the level takes
  std::optional<ExpectedReading> reads = {};  ///< what a capture must read at it; else its name lets expect something

  bool operator==(const Level&) const = default;
};

/// A platform setting with its levels, in the order in which they are listed: of a ladder from weak to strong.
struct Variable {
  std::string name;
  std::string kind;           ///< id of a core::VariableKind; empty: not declared, so nothing can prove that it moved
  std::string device;         ///< PCI address of the device under test; empty: the graphics device with the picture
  std::string resource_unit;  ///< of its levels' resources: "GB/s", "W"
  bool is_group = false;      ///< cards, hosts, players: never contrasted itself, the other variable is within each
  std::vector<std::string> fields;  ///< for the kind "other": the facts that must change, * stands for any text
  std::vector<Level> levels = std::vector<Level>(2);
  std::size_t baseline = 0;  ///< which of the levels the others are compared with
  std::optional<double> flip_minutes =
      {};  ///< what bringing it to another level takes; empty: as its kind usually does

  bool operator==(const Variable&) const = default;
};

/// One level of each variable, by their places.
struct Configuration {
  std::string name;
  std::vector<std::size_t> levels;

  bool operator==(const Configuration&) const = default;
};

/// What a study asks. `Pair`: two levels of one variable. `Ladder`: several levels of one. `Crossed`: two variables in
/// every combination, or in those that are listed. `Chain`: configurations in order, each a step from the one before.
enum class Shape { Pair, Ladder, Crossed, Chain };
[[nodiscard]] const char* shapeName(Shape shape);

/// One command exactly as it would be started, or one setting as it would be written: what a person approves.
struct ExactCommand {
  Environment environment;
  Command command;
  std::optional<SettingWrite> write = {};  ///< then there is no command
  Without without = {};                    ///< rights that it is started without
  auto operator<=>(const ExactCommand&) const = default;
};

/// How passes run at a configuration, and how the bench is brought to it: its levels' parts, in the order of the
/// variables.
struct Setup {
  std::string name;
  Command prefix;
  Environment environment;
  std::vector<ExactCommand> set_commands;
  std::vector<SettingWrite> writes;
  std::vector<std::string> menu_paths;
};

}  // namespace core
