#pragma once

#include <algorithm>
#include <string>
#include <vector>

#include "core/study/case.h"
#include "store/json/field_table.h"

namespace store {

inline constexpr Words<core::Scale, 2> kScales{
    {{"ratio", core::Scale::Ratio}, {"difference", core::Scale::Difference}}};
inline constexpr Words<core::Direction, 2> kDirections{
    {{"higher", core::Direction::HigherIsBetter}, {"lower", core::Direction::LowerIsBetter}}};
inline constexpr Words<core::FeatureActs, 3> kFeatureActs{
    {{"unknown", core::FeatureActs::Unknown}, {"yes", core::FeatureActs::Yes}, {"no", core::FeatureActs::No}}};
inline constexpr Words<core::ResultSource, 6> kSources{{{"frame_log", core::ResultSource::FrameLog},
                                                        {"json_field", core::ResultSource::JsonField},
                                                        {"recorded", core::ResultSource::Recorded},
                                                        {"by_hand", core::ResultSource::ByHand},
                                                        {"pattern", core::ResultSource::Pattern},
                                                        {"file", core::ResultSource::File}}};

inline constexpr auto kMeasureFields = [](auto& table, auto& metric) {
  table.required("unit", metric.unit);
  table.word("direction", kDirections, metric.direction);
  table.unusualWord("scale", kScales, metric.scale);
  table.unusual("threshold", metric.threshold, core::Metric().threshold);
};
inline constexpr auto kMetricFields = [](auto& table, auto& metric) {
  table.required("name", metric.name);
  kMeasureFields(table, metric);
};

/// Whoever reads a number that is no frame's must know what it is.
template <class Table>
void needMetric(Table& table) {
  if (table.fields().find("metric") == nullptr)
    table.fields().fail(core::ErrorKind::Missing, "the field 'metric' is missing", table.fields().path("metric"),
                        "Say what the number is: its name and its unit");
}

/// What a person declares about how the case renders, by its keys.
inline constexpr auto kDeclaredFields = []<class Table>(Table& table, auto& a_case) {
  for (const core::DeclaredFact& fact : core::kDeclaredFacts) {
    std::string text = a_case.declaredFact(fact.key);
    table.unusual(fact.key.data(), text);
    if constexpr (Table::kReads)
      if (!text.empty()) a_case.declared.emplace_back(fact.key, text);
  }
};

/// What a command does without, of a case or of a level.
inline constexpr auto kWithoutFields = [](auto& table, auto& without) {
  table.unusual("new_privileges", without.new_privileges);
  table.unusual("network", without.network);
  table.unusual("shared_temporary_folder", without.shared_temporary_folder);
};

/// One of several results in a design's list.
struct ListedResult {
  core::CaseResult result;
  bool is_headline = false;
};

/// Its metric is called as it is called itself, unless it says otherwise.
inline constexpr auto kResultFields = []<class Table>(Table& table, auto& listed) {
  auto& result = listed.result;
  table.required("name", result.name);
  table.word("from", kSources, result.source);
  table.unusual("field", result.field, core::CaseResult().field);
  table.unusual("pattern", result.pattern);
  table.unusual("path", result.path);
  if constexpr (Table::kReads) {
    result.metric.name = result.name;
    const bool is_field = result.source == core::ResultSource::JsonField ||
                          (result.source == core::ResultSource::File && result.pattern.empty());
    if (is_field) table.required("field", result.field);
    const bool is_of_frames =
        result.source == core::ResultSource::FrameLog || result.source == core::ResultSource::Recorded;
    if (!is_of_frames) needMetric(table);
  }
  const std::string& usual_name = result.name;
  table.part(
      "metric",
      [&usual_name](auto& inner, auto& metric) {
        inner.unusual("name", metric.name, usual_name);
        kMeasureFields(inner, metric);
      },
      result.metric);
  table.unusual("divide_by", result.divide_by, 1.0);
  table.unusual("control", result.is_control);
  table.unusual("headline", listed.is_headline);
};

/// Do the fields of one result say all of it, as they did before there could be several?
inline bool hasShortForm(const core::Case& a_case) {
  const bool is_listed_alone = a_case.name.empty() && a_case.pattern.empty() && a_case.path.empty() &&
                               a_case.divide_by == core::CaseResult().divide_by;
  return a_case.further.empty() && is_listed_alone;
}

/// The results of a case, the headline first: of one the short form.
template <class Table>
void listResults(Table& table, std::vector<ListedResult>& listed) {
  table.list("results", kResultFields, listed, "List at least one result");
}

/// Takes a list of results into a case. Fails where it does not name one headline at most.
template <class Table>
void takeResults(Table& table, core::Case& a_case) {
  std::vector<ListedResult> listed;
  listResults(table, listed);
  for (const char* of_short_form : {"result", "field", "metric", "is_control"})  // of which nobody knew which one holds
    if (table.fields().find(of_short_form) != nullptr)
      table.fields().fail(core::ErrorKind::OutOfRange, "a list of results says all of it",
                          table.fields().path(of_short_form), "Take this field out, or the list");
  const auto is_headline = [](const ListedResult& one) { return one.is_headline; };
  if (listed.empty() || std::count_if(listed.begin(), listed.end(), is_headline) > 1)
    return table.fields().fail(core::ErrorKind::OutOfRange, "one result is the headline",
                               table.fields().path("results"), "Mark one of them; without a mark it is the first");
  auto headline = std::find_if(listed.begin(), listed.end(), is_headline);
  if (headline == listed.end()) headline = listed.begin();
  static_cast<core::CaseResult&>(a_case) = headline->result;
  listed.erase(headline);
  for (ListedResult& one : listed) a_case.further.push_back(std::move(one.result));
}

template <class Table, class AnyCase>
void resultsOf(Table& table, AnyCase& a_case) {
  table.alsoKnown({"results"});
  if constexpr (Table::kReads) {
    if (table.fields().find("results") != nullptr) return takeResults(table, a_case);
  } else if (!hasShortForm(a_case)) {
    std::vector<ListedResult> listed{{a_case.headline(), true}};
    for (const core::CaseResult& one : a_case.further) listed.push_back({one, false});
    return listResults(table, listed);
  }
  table.word("result", kSources, a_case.source);
  const bool is_field = a_case.source == core::ResultSource::JsonField;
  is_field ? table.required("field", a_case.field) : table.usual("field", a_case.field);
  table.part("metric", kMetricFields, a_case.metric);
  if constexpr (Table::kReads)
    if (!a_case.hasFrames()) needMetric(table);
}

inline constexpr auto kDoesNotRunFields = [](auto& table, auto& possible) {
  table.unusual("exit_codes", possible.exit_codes);
  table.unusual("pattern", possible.pattern);
};
inline constexpr auto kConditionFields = [](auto& table, auto& condition) {
  table.required("name", condition.name);
  table.required("pattern", condition.pattern);
};
/// By what a pass tells that its case does not run, or runs with a condition.
inline constexpr auto kPossibleFields = []<class Table>(Table& table, auto& possible) {
  table.unusualPart("does_not_run", kDoesNotRunFields, possible);
  if constexpr (Table::kReads) {
    if (table.fields().find("conditions") == nullptr) return;
  } else if (possible.conditions.empty()) {
    return table.alsoKnown({"conditions"});
  }
  table.list("conditions", kConditionFields, possible.conditions, "List them");
};

inline constexpr auto kCompanionFields = [](auto& table, auto& companion) {
  table.required("command", companion.command);
  table.unusual("name", companion.name);
  table.usual("starts_before_s", companion.starts_before_s);
};

/// A case of a design.
inline constexpr auto kCaseFields = []<class Table>(Table& table, auto& a_case) {
  table.required("workload", a_case.workload);
  table.usual("preset", a_case.preset);
  table.usual("command", a_case.command);
  resultsOf(table, a_case);
  table.usual("trim_first_s", a_case.trim_first_s);
  table.usual("trim_last_s", a_case.trim_last_s);
  table.unusual("is_synthetic", a_case.is_synthetic);
  if (hasShortForm(a_case)) table.unusual("is_control", a_case.is_control);
  table.unusualWord("feature_acts", kFeatureActs, a_case.feature);
  table.unusual("is_played", a_case.is_played);
  table.unusual("route", a_case.route);
  table.unusual("played_s", a_case.played_s, core::Case().played_s);
  table.unusual("settings_file", a_case.settings_file);
  table.unusual("recorded_program", a_case.recorded_program);
  table.unusualPart("declared", kDeclaredFields, a_case);
  table.unusualPart("possible", kPossibleFields, a_case.possible);
  table.unusualPart("companion", kCompanionFields, a_case.companion);
  table.unusual("audience", a_case.audience);
  table.unusual("second_part", a_case.is_second_part);
  table.unusualPart("without", kWithoutFields, a_case.without);
};

}  // namespace store
