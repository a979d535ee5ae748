#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/findings/shape_findings.h"

namespace core {

/// One contrast of a study's shape, ready to be printed and drawn: window, page and command line show the same.
struct ContrastRow {
  std::size_t asked = 0;
  std::string title;    ///< "Gen 1 to Gen 2", "Gen 3 to Gen 4, at on"
  std::string remark;   ///< "×1.97, 21 % of it (20 to 22)", "57 % of it (55 to 59)"; may be empty
  std::string change;   ///< "+14.6 % (13.7 to 15.4)"
  std::string verdict;  ///< in words with its marks; or why there is none
  std::optional<double> percent;
  std::optional<PercentInterval> interval;
  bool is_counted = false;  ///< carries no mark
};

/// The contrasts of one kind under their heading.
struct ContrastSection {
  ContrastKind kind = ContrastKind::AgainstBaseline;
  std::string heading;  ///< "Step by step", "What the feature does at each level of the graphics link"
  std::vector<ContrastRow> rows;
};

/// What one case, or the suite (nothing), says of every contrast that the study asks; a ladder's steps before what
/// stands against the baseline. Empty for a pair: its one contrast is the lever chart's row.
[[nodiscard]] std::vector<ContrastSection> contrastSections(const Study& study, const ShapeFindings& findings,
                                                            std::optional<std::size_t> case_index);

/// A step's share of a chain's whole, with its interval where it has one: "57 % of it (55 to 59)".
[[nodiscard]] std::string shareText(const LossStep& step);

/// Whether an effect depends on the other variable's level, by its size and with both effects: "the loss is larger at
/// the second host: −9.0 % there, −3.1 % at the first", "the gain is the same at Gen 4, as far as it matters".
/// `asked`: the place of the interaction among the contrasts asked
[[nodiscard]] std::string interactionText(const ShapeFindings& findings, std::size_t asked,
                                          std::optional<std::size_t> case_index);

/// What a ladder says in a sentence of how much is enough, with what stands above, and how many cases of a suite still
/// gain there. Empty for another shape.
[[nodiscard]] std::string enoughText(const Study& study, const ShapeFindings& findings,
                                     std::optional<std::size_t> case_index);
/// The same in a few words: "Gen 3 is enough", "no level below Gen 4 is enough", "not settled which level is enough".
[[nodiscard]] std::string enoughInShort(const Study& study, const ShapeFindings& findings, const LadderFinding& ladder);

/// "Expected by the model, not measured: 91.2 FPS at Gen 3 (90.1 to 92.3)".
[[nodiscard]] std::string foretoldText(const Study& study, const LadderFinding& ladder, const Foretold& one);
/// "With an unlimited link the transfer model expects 125 FPS (124 to 127)"; empty without a transfer model that has a
/// ceiling.
[[nodiscard]] std::string ceilingText(const Study& study, const LadderFinding& ladder);

}  // namespace core
