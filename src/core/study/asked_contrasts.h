#pragma once

#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "core/study/study.h"

namespace core {

/// What a contrast compares. `Total`: the last of a chain with its first.
enum class ContrastKind { AgainstBaseline, Neighbour, Simple, Main, Interaction, Step, Total };
/// "against_baseline", … Scripts may rely on it.
[[nodiscard]] const char* contrastKindName(ContrastKind kind);

/// Two configurations of a study: changed against baseline where it is a pair.
struct PairOf {
  ConfigurationId from = ConfigurationId::Baseline;
  ConfigurationId to = ConfigurationId::Changed;
  bool operator==(const PairOf&) const = default;
};

/// A weighted sum of configurations that a study asks about.
struct AskedContrast {
  ContrastKind kind = ContrastKind::AgainstBaseline;
  std::string variable;  ///< what moves
  std::string from;      ///< names of levels; of a chain names of configurations
  std::string to;
  std::string at;               ///< the other variable's level, where that matters
  std::string against;          ///< of an interaction: the other variable's level that `at` is compared with
  std::vector<double> weights;  ///< one a configuration; they sum to 0
  std::optional<PairOf> pair;   ///< where it is the difference of two configurations
};

/// Every contrast that the study's shape asks, in the order in which a person reads them. A group is never contrasted
/// itself. One that needs a cell which the study does not list is left out.
/// Source  contrasts of cell means: simple and main effects, interactions as differences of differences
[[nodiscard]] std::vector<AskedContrast> contrastsOf(const Study& study);

/// What a chain adds up to between two of its configurations.
[[nodiscard]] AskedContrast totalOf(const Study& study, PairOf pair);

/// The two configurations that the study is about in one line: of a ladder the baseline and the top, of a chain both
/// ends, of a crossing the first simple effect.
[[nodiscard]] PairOf headlinePair(const Study& study);

/// Those that a proof has to show: neighbours on the ladder, steps of the chain, simple effects; each once.
[[nodiscard]] std::vector<PairOf> stepsOf(const Study& study);

/// Two configurations as a study of two levels, named as the whole study names them: all that speaks of a pair can
/// speak of them. Its plan is the whole study's. Of a pair the study itself. Where several variables move at once they
/// are one of no kind.
[[nodiscard]] Study pairStudyOf(const Study& study, PairOf pair);
/// The same about one of the variables that move between the two. `moved`: its place among the study's variables.
[[nodiscard]] Study pairStudyOf(const Study& study, PairOf pair, std::size_t moved);

/// "Gen 3 to Gen 4", or "Gen 3 to Gen 4, at on"; of an interaction "Gen 3 to Gen 4, on against off".
[[nodiscard]] std::string contrastName(const AskedContrast& asked);

}  // namespace core
