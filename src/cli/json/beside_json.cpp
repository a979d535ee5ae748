#include "cli/json/beside_json.h"

#include "cli/json/claim_json.h"
#include "cli/json/or_null.h"

namespace cli {
namespace {

using nlohmann::ordered_json;

void addPercent(ordered_json& out, const std::string& name, const std::optional<core::PercentChange>& change) {
  const bool has_interval = change && change->interval;
  out[name] = change ? ordered_json(change->value) : ordered_json();
  const std::string stem = name == "percent" ? "percent_" : name.substr(0, name.rfind("percent"));
  const std::string end = name == "percent" ? "" : "_percent";
  out[stem + "lo" + end] = has_interval ? ordered_json(change->interval->lo) : ordered_json();
  out[stem + "hi" + end] = has_interval ? ordered_json(change->interval->hi) : ordered_json();
}

ordered_json effectJson(const core::EffectAside& effect, std::span<const core::StudyAside> studies) {
  ordered_json out{{"study", studies[effect.study].name}};
  addPercent(out, "improvement_percent", effect.improvement);
  const core::Contrast none;
  addContrast(out, effect.contrast ? *effect.contrast : none);
  out.erase("p");
  if (!effect.contrast) out["d"] = nullptr;
  return out;
}

ordered_json differenceJson(const core::DifferenceAside& difference) {
  ordered_json out;
  addPercent(out, "percent", difference.percent);
  const auto& inference = difference.contrast.inference;
  out["p"] = inference ? ordered_json(inference->p) : ordered_json();
  out["p_holm"] = difference.p_holm ? ordered_json(difference.p_holm->zero) : ordered_json();
  out["verdict"] = core::verdictName(difference.verdict);
  out["marks"] = difference.marks.names();
  return out;
}

}  // namespace

ordered_json rowsAsideJson(const std::vector<core::RowAside>& rows, std::span<const core::StudyAside> studies) {
  ordered_json all = ordered_json::array();
  for (const core::RowAside& row : rows) {
    ordered_json effects = ordered_json::array();
    for (const core::EffectAside& effect : row.effects) effects.push_back(effectJson(effect, studies));
    all.push_back(
        {{"case", row.title},
         {"effects", effects},
         {"difference", row.difference ? differenceJson(*row.difference) : ordered_json()},
         {"why_no_difference", row.why_no_difference.empty() ? ordered_json() : ordered_json(row.why_no_difference)}});
  }
  return all;
}

ordered_json tableAsideJson(const core::TableAside& table) {
  ordered_json cells = ordered_json::array();
  for (const core::CellAside& cell : table.cells)
    cells.push_back(
        {{"row", cell.row},
         {"column", cell.column},
         {"value", orNull(cell.value)},
         {"unit", table.unit},
         {"lo", orNull(cell.lo)},
         {"hi", orNull(cell.hi)},
         {"relative_percent", cell.relative ? ordered_json(cell.relative->value) : ordered_json()},
         {"relative_lo_percent",
          cell.relative && cell.relative->interval ? ordered_json(cell.relative->interval->lo) : ordered_json()},
         {"relative_hi_percent",
          cell.relative && cell.relative->interval ? ordered_json(cell.relative->interval->hi) : ordered_json()},
         {"refused", cell.refused.empty() ? ordered_json() : ordered_json(cell.refused)}});
  return {{"case", table.title}, {"rows", table.rows}, {"columns", table.columns}, {"cells", cells}};
}

ordered_json factsAsideJson(const std::vector<core::FactAside>& facts) {
  ordered_json all = ordered_json::array();
  for (const core::FactAside& one : facts) {
    ordered_json values = ordered_json::array();
    for (const std::string& value : one.values) values.push_back(value.empty() ? ordered_json() : ordered_json(value));
    all.push_back({{"fact", one.fact}, {"values", values}});
  }
  return all;
}

}  // namespace cli
