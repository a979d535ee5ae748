#pragma once

#include <array>
#include <optional>
#include <string>
#include <string_view>

#include "core/machine/fact.h"

namespace core {

struct Study;

/// What a capture must read at a level, so that the level is what it is called.
struct ExpectedReading {
  std::string fact;  ///< a pattern, with {device} and {slot} in their places, of which every fact that fits must agree;
                     ///< or what is worked out of the way to the device, see path_readings.h
  std::string value;  ///< "6000 MT/s", "16 GiB", "off"; "> 256 MiB" and "< 4" are bounds

  bool operator==(const ExpectedReading&) const = default;
};

/// What a level's name lets expect, where it holds a number or a word that fits the kind: "Gen 4", "x8", "6000 MT/s",
/// "3000 MHz" (a clock: 6000 MT/s), "8 cores", "16 GiB", "off". Nothing where the name says nothing that a capture
/// could show.
[[nodiscard]] std::optional<ExpectedReading> proposedReading(std::string_view kind_id, std::string_view level_name);

/// What each level of a study is held to: what its design says, else what its name lets expect.
[[nodiscard]] std::array<std::optional<ExpectedReading>, 2> expectedReadings(const Study& study);

/// Does a fact agree? Numbers are compared in their unit: MHz of a memory clock are half its MT/s, GB of memory are
/// GiB; texts without regard to capitals.
[[nodiscard]] bool agrees(const ExpectedReading& expected, const Fact& fact);

/// What a capture says about an expected reading.
struct ReadAtLevel {
  enum class Answer { Agrees, Disagrees, NotRead };
  Answer answer = Answer::NotRead;
  std::string shown;  ///< "4800 MT/s"; empty where nothing was read
};
[[nodiscard]] ReadAtLevel readAtLevel(const ExpectedReading& expected, const Capture& capture,
                                      const std::string& device);

/// Do the names of two levels stand for one another by what was read: does each level's reading hold the other one's
/// name? For kinds whose levels are named after parts and versions.
[[nodiscard]] bool areNamesSwapped(const Study& study, const Capture& baseline, const Capture& changed,
                                   const std::string& device);

}  // namespace core
