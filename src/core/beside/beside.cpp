#include "core/beside/beside.h"

#include <algorithm>

#include <fmt/format.h>

#include "core/beside/level_means.h"
#include "core/estimate/wording.h"
#include "core/findings/headline.h"
#include "core/findings/thresholds.h"
#include "core/values/shown_text.h"

namespace core {
namespace {

bool isNamed(const std::vector<std::string>& patterns, const std::string& fact) {
  return std::any_of(patterns.begin(), patterns.end(),
                     [&](const std::string& pattern) { return matchesPattern(pattern, fact); });
}

DiffersAside differsAs(FactAside fact, const BesideOrder& order) {
  DiffersAside one{std::move(fact), WhyAside::CameAlong, {}};
  const bool is_axis =
      order.kind == BesideKind::Table && (one.fact.fact == order.rows || one.fact.fact == order.columns);
  if (is_axis || isNamed(order.meant, one.fact.fact)) {
    one.why = WhyAside::Meant;
    return one;
  }
  for (const auto& [pattern, reason] : order.accepted)
    if (matchesPattern(pattern, one.fact.fact)) {
      one.why = WhyAside::Accepted;
      one.reason = reason;
      return one;
    }
  const auto& values = one.fact.values;
  if (std::any_of(values.begin(), values.end(), [](const std::string& value) { return value.empty(); }))
    one.why = WhyAside::NotTold;
  return one;
}

std::string aboutRow(const RowAside& row) { return row.title == kAllCases ? "over all cases" : "on " + row.title; }

std::string differenceSentence(const RowAside& row, std::span<const StudyAside> studies) {
  if (!row.difference) return fmt::format("no difference is told, since {}", row.why_no_difference);
  return fmt::format("{} over {} is {}: {}", studies.back().name, studies.front().name,
                     changeText(row.difference->percent), verdictAside(row, studies));
}

std::string sameQuestionClaim(const Beside& beside, std::span<const StudyAside> studies) {
  const Study& first = *studies.front().study;
  const PairOf pair = headlinePair(first);
  const RowAside& row = beside.rows.front();
  std::string each;
  for (const EffectAside& effect : row.effects)
    each += fmt::format("{}{} in {}", each.empty() ? "" : ", ",
                        effect.improvement ? changeText(*effect.improvement) : "no result", studies[effect.study].name);
  return fmt::format("Of the {}, {} over {} {}: {}; {}", first.variable().name, first.nameOf(pair.to),
                     first.nameOf(pair.from), aboutRow(row), each, differenceSentence(row, studies));
}

std::string tableClaim(const TableAside& table, const BesideOrder& order) {
  const CellAside* best = nullptr;
  for (const CellAside& cell : table.cells)
    if (cell.mean && cell.refused.empty() && (!best || cell.mean->difference > best->mean->difference)) best = &cell;
  if (!best) return fmt::format("Of {}, no cell has a result", table.title);
  const CellAside& first = table.cells.front();
  const char* with = order.columns == BesideOrder::kLevel ? "at" : "with";
  const auto place = [&](const CellAside& cell) { return fmt::format("{} {} {}", cell.row, with, cell.column); };
  std::string sentence =
      fmt::format("Of {}{}, the best mean is {}, of {}", table.title,
                  order.columns == BesideOrder::kLevel || order.level.empty() ? "" : " at " + order.level,
                  valueText(*best->value, table.unit), place(*best));
  if (best != &first && best->relative)
    sentence += fmt::format(": {} over {}", changeText(*best->relative), place(first));
  return sentence;
}

std::string claimOf(const Beside& beside, std::span<const StudyAside> studies, const BesideOrder& order) {
  std::string claim;
  if (order.kind == BesideKind::Table)
    claim = tableClaim(*beside.table, order);
  else if (beside.rows.empty())
    claim = "The studies have no case in common";
  else if (order.kind == BesideKind::LevelsBetweenBenches)
    claim = fmt::format("At {}, {}, between studies: {}", order.level, aboutRow(beside.rows.front()),
                        differenceSentence(beside.rows.front(), studies));
  else
    claim = sameQuestionClaim(beside, studies);
  if (beside.is_bench_unknown) claim += "; what differs between their benches is not known: one has no capture";
  if (beside.isOtherwise()) claim += "; not yet the same bench: look at what came along";
  return claim;
}

}  // namespace

std::string_view besideKindName(BesideKind kind) {
  switch (kind) {
    case BesideKind::SameQuestion: return "same_question";
    case BesideKind::LevelsBetweenBenches: return "levels_between_benches";
    case BesideKind::Table: return "table";
  }
  return "";
}

std::string_view whyAsideName(WhyAside why) {
  switch (why) {
    case WhyAside::Meant: return "meant";
    case WhyAside::CameAlong: return "came_along";
    case WhyAside::Accepted: return "accepted";
    case WhyAside::NotTold: return "not_told";
  }
  return "";
}

bool Beside::isOtherwise() const {
  return std::any_of(differs.begin(), differs.end(),
                     [](const DiffersAside& one) { return one.why == WhyAside::CameAlong; });
}

std::vector<std::string> Beside::refusedFor() const {
  std::vector<std::string> conditions;
  if (!table) return conditions;
  for (const CellAside& cell : table->cells)
    if (!cell.refused_for.empty() &&
        std::find(conditions.begin(), conditions.end(), cell.refused_for) == conditions.end())
      conditions.push_back(cell.refused_for);
  return conditions;
}

// One that the studies do not have in common, or in another unit, is left out.
static std::vector<TableAside> furtherTables(std::span<const StudyAside> studies, BesideOrder order,
                                             const std::string& shown) {
  std::vector<TableAside> tables;
  for (const Case& one : studies.front().study->cases) {
    order.title = one.title();
    if (order.title == shown) continue;
    if (auto table = tableOf(studies, order)) tables.push_back(*std::move(table));
  }
  return tables;
}

Result<Beside> layBeside(std::span<const StudyAside> studies, const BesideOrder& order) {
  if (auto fine = checkAside(studies); !fine) return fine.error();
  Beside beside;
  beside.is_bench_unknown =
      std::any_of(studies.begin(), studies.end(), [](const StudyAside& one) { return captureOf(one) == nullptr; });
  for (FactAside& fact : differencesBetween(studies)) beside.differs.push_back(differsAs(std::move(fact), order));
  for (const StudyAside& one : studies)
    if (one.judgement->claim.is_stopped)
      beside.stopped.push_back(
          fmt::format("{} has a stop that nobody has accepted: {}", one.name, one.judgement->doubts.front().sentence));
  if (order.kind == BesideKind::Table) {
    auto table = tableOf(studies, order);
    if (!table) return table.error();
    const Study& first = *studies.front().study;
    beside.effects = tableEffects(*table, first.confidence, first.notice_threshold_percent);
    beside.table = *std::move(table);
    beside.further_tables = furtherTables(studies, order, beside.table->title);
  } else if (order.kind == BesideKind::LevelsBetweenBenches) {
    auto rows = levelsBetween(studies, order.level, order.matched);
    if (!rows) return rows.error();
    beside.rows = *std::move(rows);
  } else {
    beside.rows = sameQuestion(studies, order.matched);
  }
  beside.claim = claimOf(beside, studies, order) + ".";
  return beside;
}

std::vector<std::string> noticesAside(const Beside& beside, std::span<const StudyAside> studies) {
  std::vector<std::string> sentences = beside.stopped;
  for (const StudyAside& one : studies)
    for (const std::string& sentence : sinceLaid(one)) sentences.push_back(sentence);
  return sentences;
}

std::string rowTitle(const RowAside& row) { return row.title == kAllCases ? "all cases together" : row.title; }

std::string verdictAside(const RowAside& row, std::span<const StudyAside> studies) {
  if (!row.difference) return "not told: " + row.why_no_difference;
  const NoticeThreshold threshold = noticeThreshold(studies.front().study->notice_threshold_percent);
  return verdictText(row.difference->verdict, threshold, row.difference->marks);
}

std::string valuesText(const FactAside& fact) {
  std::string text;
  for (const std::string& value : fact.values)
    text += (text.empty() ? "" : ", ") + (value.empty() ? std::string("not read") : shownLine(value));
  return text;
}

std::optional<bool> isInside(const Reference& reference, const std::vector<RowAside>& rows) {
  if (reference.unit != "%" || rows.empty() || rows.front().effects.empty()) return std::nullopt;
  const auto& own = rows.front().effects.back().improvement;
  if (!own || !own->interval) return std::nullopt;
  return reference.value >= own->interval->lo && reference.value <= own->interval->hi;
}

std::string referenceText(const Reference& reference, const std::vector<RowAside>& rows) {
  const auto inside = isInside(reference, rows);
  return fmt::format("{}, {}{}: {:g} {}{}. It was not measured here.", shownLine(reference.name),
                     shownLine(reference.source), reference.at.empty() ? "" : ", " + shownLine(reference.at),
                     reference.value, reference.unit,
                     !inside   ? ""
                     : *inside ? ", inside our interval"
                               : ", not inside our interval");
}

}  // namespace core
