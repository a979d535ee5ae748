#include "store/json/taken_level_json.h"

#include "store/json/field_table.h"

namespace store {
namespace {

constexpr auto kSharedFields = [](auto& table, auto& shared) {
  table.required("level", shared.level);
  table.required("case", shared.case_title);
  table.required("visit_means", shared.visit_means);
};
constexpr auto kTakenFields = [](auto& table, auto& taken) {
  table.required("study", taken.study);
  table.required("identity", taken.identity);
  table.required("level", taken.level);
  table.required("visits", taken.visits);
  table.list("shared", kSharedFields, taken.shared, "List what both studies measured");
};

}  // namespace

std::string takenLevelToJson(const core::TakenLevel& taken) { return jsonText(writeFields(kTakenFields, taken)); }

std::optional<core::TakenLevel> takenLevelFromJson(const std::string& text) {
  return objectFrom<core::TakenLevel>(text, kTakenFields);
}

}  // namespace store
