#pragma once

#include <string>

#include "core/study/case.h"
#include "store/json/field_table.h"

namespace store {

inline constexpr Words<core::Scale, 2> kScales{
    {{"ratio", core::Scale::Ratio}, {"difference", core::Scale::Difference}}};
inline constexpr Words<core::Direction, 2> kDirections{
    {{"higher", core::Direction::HigherIsBetter}, {"lower", core::Direction::LowerIsBetter}}};
inline constexpr Words<core::FeatureActs, 3> kFeatureActs{
    {{"unknown", core::FeatureActs::Unknown}, {"yes", core::FeatureActs::Yes}, {"no", core::FeatureActs::No}}};
inline constexpr Words<core::ResultSource, 4> kSources{{{"frame_log", core::ResultSource::FrameLog},
                                                        {"json_field", core::ResultSource::JsonField},
                                                        {"recorded", core::ResultSource::Recorded},
                                                        {"by_hand", core::ResultSource::ByHand}}};

inline constexpr auto kMetricFields = [](auto& table, auto& metric) {
  table.required("name", metric.name);
  table.required("unit", metric.unit);
  table.word("direction", kDirections, metric.direction);
  table.unusualWord("scale", kScales, metric.scale);
  table.unusual("threshold", metric.threshold, core::Metric().threshold);
};

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

/// A case of a design.
inline constexpr auto kCaseFields = []<class Table>(Table& table, auto& a_case) {
  table.required("workload", a_case.workload);
  table.usual("preset", a_case.preset);
  table.usual("command", a_case.command);
  table.word("result", kSources, a_case.source);
  const bool is_field = a_case.source == core::ResultSource::JsonField;
  is_field ? table.required("field", a_case.field) : table.usual("field", a_case.field);
  table.part("metric", kMetricFields, a_case.metric);
  if constexpr (Table::kReads)
    if (!a_case.hasFrames() && table.fields().find("metric") == nullptr)
      table.fields().fail(core::ErrorKind::Missing, "the field 'metric' is missing", table.fields().path("metric"),
                          "Say what the number is: its name and its unit");
  table.usual("trim_first_s", a_case.trim_first_s);
  table.usual("trim_last_s", a_case.trim_last_s);
  table.unusual("is_synthetic", a_case.is_synthetic);
  table.unusual("is_control", a_case.is_control);
  table.unusualWord("feature_acts", kFeatureActs, a_case.feature);
  table.unusual("is_played", a_case.is_played);
  table.unusual("route", a_case.route);
  table.unusual("played_s", a_case.played_s, core::Case().played_s);
  table.unusual("settings_file", a_case.settings_file);
  table.unusual("recorded_program", a_case.recorded_program);
  table.unusualPart("declared", kDeclaredFields, a_case);
  table.unusualPart("without", kWithoutFields, a_case.without);
};

}  // namespace store
