#include "store/json/null_record_json.h"

#include "store/json/field_table.h"

namespace store {

using json = DesignJson;

namespace {

constexpr auto kNullCaseFields = [](auto& table, auto& of_case) {
  table.required("case", of_case.title);
  table.required("visits", of_case.visits);
};
constexpr auto kRecordFields = [](auto& table, auto& record) {
  table.required("date", record.date);
  table.list("cases", kNullCaseFields, record.cases, "List the cases");
};

}  // namespace

std::string nullRecordToJson(const core::NullRecord& record) { return jsonText(writeFields(kRecordFields, record)); }

std::optional<core::NullRecord> nullRecordFromJson(const std::string& text) {
  return objectFrom<core::NullRecord>(text, kRecordFields);
}

std::string visitsToJson(const std::vector<std::vector<double>>& visits) { return jsonText(json(visits)); }

std::vector<std::vector<double>> visitsFromJson(const std::string& text) {
  try {
    return parseJson(text).get<std::vector<std::vector<double>>>();
  } catch (const json::exception&) {
    return {};
  }
}

}  // namespace store
