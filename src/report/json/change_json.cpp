#include "report/json/change_json.h"

namespace report {

using nlohmann::ordered_json;

void addChange(ordered_json& out, const core::ToldChange& change) {
  const auto& [improvement, difference] = change;
  const auto* percent = improvement && improvement->interval ? &*improvement->interval : nullptr;
  const auto* unit = difference && difference->interval ? &*difference->interval : nullptr;
  out["improvement_percent"] = improvement ? ordered_json(improvement->value) : ordered_json();
  out["improvement_lo_percent"] = percent ? ordered_json(percent->lo) : ordered_json();
  out["improvement_hi_percent"] = percent ? ordered_json(percent->hi) : ordered_json();
  out["difference"] = difference ? ordered_json(difference->value) : ordered_json();
  out["difference_lo"] = unit ? ordered_json(unit->first) : ordered_json();
  out["difference_hi"] = unit ? ordered_json(unit->second) : ordered_json();
}

}  // namespace report
