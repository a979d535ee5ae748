#include "report/json/beside_json.h"

#include "core/values/utc_text.h"
#include "report/json/claim_json.h"
#include "report/json/or_null.h"

namespace report {
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

ordered_json effectAsideJson(const core::EffectAside& effect, std::span<const core::StudyAside> studies) {
  ordered_json out{{"study", studies[effect.study].path}};
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

ordered_json studiesJson(std::span<const core::StudyAside> studies) {
  ordered_json all = ordered_json::array();
  for (const core::StudyAside& one : studies) {
    const std::int64_t at = one.lastPassAt();
    all.push_back({{"path", one.path},
                   {"sha256", one.sha256},
                   {"identity", one.identity},
                   {"bench", one.study->bench},
                   {"at", at > 0 ? ordered_json(core::utcText(at)) : ordered_json()}});
  }
  return all;
}

ordered_json rowsAsideJson(const std::vector<core::RowAside>& rows, std::span<const core::StudyAside> studies) {
  ordered_json all = ordered_json::array();
  for (const core::RowAside& row : rows) {
    ordered_json effects = ordered_json::array();
    for (const core::EffectAside& effect : row.effects) effects.push_back(effectAsideJson(effect, studies));
    all.push_back(
        {{"case", row.title},
         {"effects", effects},
         {"difference", row.difference ? differenceJson(*row.difference) : ordered_json()},
         {"why_no_difference", row.why_no_difference.empty() ? ordered_json() : ordered_json(row.why_no_difference)}});
  }
  return all;
}

ordered_json stepsJson(const std::vector<core::TableStep>& steps) {
  ordered_json all = ordered_json::array();
  for (const core::TableStep& step : steps) {
    ordered_json one{{"from", step.from}, {"to", step.to}};
    if (!step.at_from.empty()) one.update({{"at_from", step.at_from}, {"at_to", step.at_to}});
    addPercent(one, "percent", step.percent);
    one["p_holm"] = step.p_holm ? ordered_json(step.p_holm->zero) : ordered_json();
    one["verdict"] = core::verdictName(step.verdict);
    one["marks"] = step.marks.names();
    all.push_back(std::move(one));
  }
  return all;
}

ordered_json tableEffectsJson(const std::optional<core::TableEffects>& effects) {
  if (!effects) return nullptr;
  return {{"rows", stepsJson(effects->rows)},
          {"columns", stepsJson(effects->columns)},
          {"interactions", stepsJson(effects->interactions)},
          {"turned_ranks", effects->turned}};
}

ordered_json tableAsideJson(const core::TableAside& table, const std::optional<core::TableEffects>& effects) {
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
  return {{"case", table.title},
          {"rows", table.rows},
          {"columns", table.columns},
          {"cells", cells},
          {"effects", tableEffectsJson(effects)}};
}

ordered_json differsJson(const std::vector<core::DiffersAside>& differs) {
  ordered_json all = ordered_json::array();
  for (const core::DiffersAside& one : differs) {
    ordered_json values = ordered_json::array();
    for (const std::string& value : one.fact.values)
      values.push_back(value.empty() ? ordered_json() : ordered_json(value));
    all.push_back({{"fact", one.fact.fact},
                   {"values", values},
                   {"why", core::whyAsideName(one.why)},
                   {"reason", one.reason.empty() ? ordered_json() : ordered_json(one.reason)}});
  }
  return all;
}

ordered_json referencesJson(const std::vector<core::Reference>& references, const std::vector<core::RowAside>& rows) {
  ordered_json all = ordered_json::array();
  for (const core::Reference& one : references)
    all.push_back({{"name", one.name},
                   {"source", one.source},
                   {"value", one.value},
                   {"unit", one.unit},
                   {"at", one.at.empty() ? ordered_json() : ordered_json(one.at)},
                   {"inside", orNull(core::isInside(one, rows))}});
  return all;
}

}  // namespace

ordered_json besideJson(const core::Beside& beside, std::span<const core::StudyAside> studies,
                        const core::BesideOrder& order) {
  ordered_json changed = ordered_json::array();
  ordered_json moved = ordered_json::array();
  for (const core::StudyAside& one : studies) {
    if (one.has_changed) changed.push_back(one.path);
    if (!one.moved_from.empty()) moved.push_back({{"from", one.moved_from}, {"to", one.path}});
  }
  ordered_json further = ordered_json::array();
  for (const core::TableAside& one : beside.further_tables) further.push_back(tableAsideJson(one, {}));
  return {{"kind", core::besideKindName(order.kind)},
          {"claim", beside.claim},
          {"studies", studiesJson(studies)},
          {"differs_between_benches", differsJson(beside.differs)},
          {"rows", rowsAsideJson(beside.rows, studies)},
          {"table", beside.table ? tableAsideJson(*beside.table, beside.effects) : ordered_json()},
          {"further_tables", further},
          {"references", referencesJson(order.references, beside.rows)},
          {"stopped", beside.stopped},
          {"changed_since", changed},
          {"moved", moved}};
}

}  // namespace report
