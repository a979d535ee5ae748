#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/beside/beside_order.h"
#include "core/beside/same_question.h"
#include "core/beside/study_aside.h"
#include "core/beside/table_aside.h"
#include "core/beside/table_effects.h"

namespace core {

/// Why a fact differs between the benches, as far as a person said so.
enum class WhyAside { Meant, CameAlong, Accepted, NotTold };
/// "meant", "came_along", "accepted", "not_told".
[[nodiscard]] std::string_view whyAsideName(WhyAside why);

/// A fact that differs, and whose doing that is.
struct DiffersAside {
  FactAside fact;
  WhyAside why = WhyAside::CameAlong;
  std::string reason;  ///< of an accepted one
};

/// Everything that is said of several studies.
struct Beside {
  std::string claim;  ///< one sentence
  std::vector<DiffersAside> differs;
  bool is_bench_unknown = false;    ///< a study has no capture: what differs nobody knows
  std::vector<RowAside> rows;       ///< of the same question, and of levels
  std::optional<TableAside> table;  ///< of a table
  std::optional<TableEffects> effects;
  std::vector<TableAside> further_tables;  ///< the same of each other case that all studies have
  std::vector<std::string> stopped;        ///< studies with a stop that nobody has accepted, each with its sentence

  /// Does something differ that nobody meant and nobody accepted?
  [[nodiscard]] bool isOtherwise() const;
  /// The held conditions for which cells of the table are refused, each once.
  [[nodiscard]] std::vector<std::string> refusedFor() const;
};

/// Lays studies beside each other as asked.
/// Shapes  `studies`: in the order of `order.studies`
/// Errors  those of checkAside, levelsBetween and tableOf
[[nodiscard]] Result<Beside> layBeside(std::span<const StudyAside> studies, const BesideOrder& order);

/// What is to be known before it is believed, a sentence each: stops that nobody accepted, studies that moved or are
/// not what they were.
[[nodiscard]] std::vector<std::string> noticesAside(const Beside& beside, std::span<const StudyAside> studies);

/// How a row is called: its case, or that it is of all of them.
[[nodiscard]] std::string rowTitle(const RowAside& row);
/// "gain, provisional"; where no difference is told "not told: " and why.
[[nodiscard]] std::string verdictAside(const RowAside& row, std::span<const StudyAside> studies);
/// The values of a fact, a study each: "6.9.12, not read".
[[nodiscard]] std::string valuesText(const FactAside& fact);

/// Is a number from elsewhere within what the last study says in the first row? Nothing where either is no percentage
/// with an interval. Nothing is judged by it.
[[nodiscard]] std::optional<bool> isInside(const Reference& reference, const std::vector<RowAside>& rows);
/// "published, house magazine, May 2026: 44 %, not inside our interval. It was not measured here."
[[nodiscard]] std::string referenceText(const Reference& reference, const std::vector<RowAside>& rows);

}  // namespace core
