#pragma once

#include <map>
#include <string>
#include <string_view>
#include <vector>

#include <nlohmann/json.hpp>

#include "core/values/result.h"

namespace session {

/// How a person of an exercise brings its bench to a level: the program does, a menu of the firmware, or a part.
enum class PracticeFlip { Program, Menu, Part };

/// A bench with a hidden truth that is drawn anew at each try, and a study that asks for it. Described in
/// docs/practice.md; those that ship with the program, and a trainer's own, are the same kind of file.
struct Exercise {
  std::string id;
  std::string title;
  std::string teaches;
  std::string story;      ///< two sentences
  std::string asks;       ///< what the claim is about
  std::string take_away;  ///< one sentence
  PracticeFlip flip = PracticeFlip::Program;
  std::string case_title;  ///< that the claim is about; empty: the only one, or the suite
  std::string from;        ///< levels that it compares; empty: those of the pair
  std::string to;
  /// Of a bench that a person sets: by a level's name, what the simulated bench is told, "memory_speed=6000".
  std::map<std::string, std::string> settings;
  int restarts_first = 0;  ///< visits of a null study that can be measured before the flip; 0: none is offered
  nlohmann::json draws;    ///< by name: from, to
  nlohmann::json percent;  ///< a name of them, a number, or what a suite's mean is made of
  nlohmann::json truth;    ///< of the bench, with places for what is drawn
  nlohmann::ordered_json design;

  [[nodiscard]] bool isFree() const { return id == "free"; }
};

/// The exercises that ship with the program, from easy to hard; free practice is not among them.
[[nodiscard]] std::vector<Exercise> exercises();

/// One of them, or free practice, by its id; or a file of somebody's, where `id` names one.
/// Errors  Missing with the known ids; those of exerciseFrom
[[nodiscard]] core::Result<Exercise> exerciseOf(const std::string& id);

/// The text of somebody's file. Errors  Missing; Malformed for what is not a regular file. One that is too large is
/// read as far as it takes to refuse it.
[[nodiscard]] core::Result<std::string> exerciseText(const std::string& path);

/// What a file says. Sealed ones are opened. Errors  Malformed, Missing, OutOfRange with the field
[[nodiscard]] core::Result<Exercise> exerciseFrom(std::string_view text, const std::string& source);

/// The same file with its truth, and all that tells of it, sealed. Errors as exerciseFrom
[[nodiscard]] core::Result<std::string> sealedExercise(std::string_view text, const std::string& source);

/// A truth drawn from an exercise.
struct DrawnTruth {
  nlohmann::json truth;                 ///< of the bench
  double percent = 0;                   ///< what is asked for
  std::map<std::string, double> drawn;  ///< by name
};

/// Draws it from a seed; `chosen`: in place of what would be drawn. Errors  Malformed for a place that names nothing
[[nodiscard]] core::Result<DrawnTruth> drawTruth(const Exercise& exercise, std::uint64_t seed,
                                                 const std::map<std::string, double>& chosen = {});

}  // namespace session
